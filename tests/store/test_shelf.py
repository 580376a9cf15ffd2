"""The shelf: rows at once from the cache, and as they stand from the journals."""

from __future__ import annotations

import json
import sqlite3
import zlib
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.core.errors import SheetError, StoreError
from auditra.core.model.profile import Profile
from auditra.store.demos import DEMOS
from auditra.store.files import load_claim_sheet, load_rig, read_shipped
from auditra.store.profiles import load_profile
from auditra.store.shelf_cache import FILE, read_rows, write_rows
from auditra.workflows.audits.shelf import ShelfRow


@pytest.fixture
def handle(tmp_path: Path) -> LibraryHandle:
    made = LibraryHandle(tmp_path)
    for name in ("OP-6", "BW-11"):
        made.shelve_if_demo(name)
    return made


def test_rows_are_kept_for_the_next_start(handle: LibraryHandle) -> None:
    handle.put_demos_on_shelf()
    assert len(handle.shelf.kept_rows()) == 0
    assert not handle.has_demos()
    rows = handle.shelf.rows()
    assert LibraryHandle(handle.folder).shelf.kept_rows()[:] == rows
    assert LibraryHandle(handle.folder).has_demos()
    assert (rows[0].device, rows[0].claims, rows[0].decided, rows[0].to_do) == ("Osierpell OP-6", 8, 0, 24)


def test_a_row_is_judged_anew_once_its_journal_has_grown(handle: LibraryHandle) -> None:
    before = handle.shelf.rows()[0]
    session = handle.session("OP-6")
    for _ in range(3):
        session.mark_absent(session.judged.judgement.to_do[0], SystemClock())
    after = handle.shelf.rows()[0]
    assert after.head != before.head
    assert after.to_do == before.to_do - 1


def test_demos_are_put_on_the_shelf_once(handle: LibraryHandle) -> None:
    handle.put_demos_on_shelf()
    handle.put_demos_on_shelf()
    handle.shelve_if_demo("H6")
    handle.shelve_if_demo("H6")
    handle.shelve_if_demo("no demo")
    assert handle.library.names() == tuple(demo.name for demo in DEMOS)


@given(st.binary(max_size=300))
def test_a_damaged_cache_is_only_a_slower_start(tmp_path_factory: pytest.TempPathFactory, data: bytes) -> None:
    folder = tmp_path_factory.mktemp("cache")
    (folder / FILE).write_bytes(data)
    assert read_rows(folder) == {}


WRONG_TYPES = [
    {"claims": "8"}, {"score": 93}, {"marks": [["A1", 1]]}, {"marks": "A1"}, {"marks": [[["A1"], "open"]]},
    {"lowest": None}, {"name": ["OP-6"]}, {"head": True}, {"trouble": 0},
]  # fmt: skip


@pytest.mark.parametrize("change", [*WRONG_TYPES, {"score": "99"}, {"decided": 8}])
def test_a_row_of_a_wrong_type_or_written_by_hand_is_judged_again(
    handle: LibraryHandle, change: dict[str, object]
) -> None:
    rows = handle.shelf.rows()
    cache = handle.folder / FILE
    head, first, *others = cache.read_text().splitlines()
    cache.write_text("\n".join([head, json.dumps(json.loads(first) | change), *others]))
    assert [*read_rows(handle.folder)] == ["BW-11"]
    assert LibraryHandle(handle.folder).shelf.rows() == rows


def test_a_row_that_was_forged_with_the_digest_of_the_file_is_not_shown(handle: LibraryHandle) -> None:
    rows = handle.shelf.rows()
    cache = handle.folder / FILE
    head, *lines = cache.read_bytes().splitlines(keepends=True)
    body = lines[0].replace(b'"claims": 8', b'"claims": "8"') + lines[1]
    cache.write_bytes(json.dumps(json.loads(head) | {"digest": zlib.crc32(body)}).encode() + b"\n" + body)
    kept = LibraryHandle(handle.folder).shelf.kept_rows()
    assert [row.trouble for row in kept] == ["not judged yet", ""]
    assert LibraryHandle(handle.folder).shelf.rows() == rows


def test_one_bad_audit_hides_no_other_and_says_why(handle: LibraryHandle) -> None:
    handle.shelf.rows()
    with sqlite3.connect(handle.folder / "library.sqlite") as db:
        db.execute("UPDATE entry SET body = replace(body, 'Osierpell', 'Osier') WHERE audit = 1 AND number = 2")
    (handle.folder / FILE).unlink()
    bad, good = LibraryHandle(handle.folder).shelf.rows()
    assert (bad.name, bad.trouble) == ("OP-6", "it was changed, or one before it removed")
    assert good.trouble == ""
    assert good.to_do == len(handle.session("BW-11").judged.judgement.to_do)


def test_rows_come_as_they_are_judged(handle: LibraryHandle) -> None:
    coming = handle.shelf.each_row()
    first, count = next(coming)
    assert (first.name, count) == ("OP-6", 2)
    assert [row.name for row, _ in coming] == ["BW-11"]


def test_an_emptied_library_is_not_taken_for_a_new_one(handle: LibraryHandle) -> None:
    handle.shelf.rows()
    handle.library.close()
    for left in handle.folder.glob("library.sqlite*"):
        left.unlink()
    (handle.folder / "library.sqlite").touch()
    with pytest.raises(StoreError, match=r"empty, though shelf\.jsonl and heads"):
        LibraryHandle(handle.folder).shelf.rows()


def test_a_cache_of_another_version_is_not_believed(handle: LibraryHandle) -> None:
    handle.shelf.rows()
    cache = handle.folder / FILE
    cache.write_text(cache.read_text().replace('"version": "', '"version": "9'))
    assert read_rows(handle.folder) == {}


def test_a_folder_that_refuses_costs_nothing_but_time(tmp_path: Path) -> None:
    row = ShelfRow("a", "h", "d", "k", "r", 1, 0, "", "0", "100", 1, (("A1", "open"),))
    write_rows(tmp_path / "no longer exists", (row,))
    write_rows(tmp_path, (row,))
    assert read_rows(tmp_path) == {"a": row}


def test_every_kind_of_promise_has_a_weight_and_an_unknown_one_the_other() -> None:
    profile: Profile = load_profile()
    assert profile.name == "balanced"
    assert all(profile.weight(words) > 0 for words in ("data", "no data", "gives", "charges host", "made up"))


def test_sheets_and_rigs_come_from_files_and_say_when_they_cannot(tmp_path: Path) -> None:
    sheet, rig, bad = tmp_path / "sheet.toml", tmp_path / "rig.toml", tmp_path / "bad.toml"
    sheet.write_text(read_shipped("demo/osierpell-op-6.toml"), encoding="utf-8")
    rig.write_text(read_shipped("demo/galley.toml"), encoding="utf-8")
    bad.write_bytes(b"[device]\nmaker = '\xff'\n")
    assert load_claim_sheet(sheet).device.model == "OP-6"
    assert load_rig(rig).name == "galley"
    with pytest.raises(SheetError, match="line 2: this file: this is not UTF-8"):
        load_claim_sheet(bad)
    with pytest.raises(SheetError, match="No such file"):
        load_rig(tmp_path / "missing.toml")
