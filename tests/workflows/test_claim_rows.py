"""Claims of a whole library: searched, counted, kept between searches, and written for other programs."""

from __future__ import annotations

import csv
import json
from dataclasses import asdict, replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pyarrow import parquet

from auditra.cli.choices import Group, VerdictWord
from auditra.core.errors import InputError
from auditra.core.model.verdict import Verdict
from auditra.publish.claim_files import COLUMNS, write_claims_table
from auditra.store.claim_cache import FILE, read_claims, write_claims
from auditra.workflows.audits.claim_rows import GROUPS, ClaimRow, Wanted, count_by
from auditra.workflows.audits.shelf import ShelfRow
from auditra.workflows.audits.shelf_search import ShelfSearch

HUB = ClaimRow(
    "OP-6", "Osierpell", "OP-6", "pocket hub", "A1", "A1 data 5 Gb/s", "holds", "", "457 MB/s", "", "2026-03-02T09:00"
)
SHORT = replace(HUB, port="A2", claim="A2 data 10 Gb/s", verdict="short", last="2025-12-31T23:59")
DOCK = replace(
    HUB, audit="BW-11", maker="Brackwater", model="BW-11", kind="dock", claim="H1 shows 3840x2160@60",
    verdict="holds if", condition="unless A1 is in use", last="2026-01-15T08:00",
)  # fmt: skip
ROWS = (HUB, SHORT, DOCK)


@pytest.mark.parametrize(
    ("wanted", "found"),
    [
        (Wanted(), ROWS), (Wanted("data"), (HUB, SHORT)), (Wanted("data 10 Gb/s"), (SHORT,)),
        (Wanted("DATA 5 gb/s"), (HUB,)), (Wanted("data 1"), ()), (Wanted("brackwater"), (DOCK,)),
        (Wanted(verdicts=("short", "holds if")), (SHORT, DOCK)), (Wanted(maker="osier"), (HUB, SHORT)),
        (Wanted(kind="dock"), (DOCK,)), (Wanted(since="2026"), (HUB, DOCK)), (Wanted(since="2026-02"), (HUB,)),
        (Wanted(until="2026-01"), (SHORT, DOCK)), (Wanted(until="2025"), (SHORT,)),
        (Wanted("data", ("holds",), since="2026-03-02"), (HUB,)),
    ],
)  # fmt: skip
def test_what_is_wanted_is_found(wanted: Wanted, found: tuple[ClaimRow, ...]) -> None:
    assert tuple(wanted.among(ROWS)) == found


def test_counts_are_by_group_the_largest_first() -> None:
    assert [(name, dict(counts)) for name, counts in count_by(ROWS, "maker")] == [
        ("Osierpell", {"holds": 1, "short": 1}), ("Brackwater", {"holds if": 1})
    ]  # fmt: skip
    assert tuple(Group) == GROUPS
    assert set(VerdictWord) == {each.word for each in Verdict}


def test_what_was_said_is_kept_and_damage_costs_only_time(tmp_path: Path) -> None:
    kept = {"OP-6": ("a" * 64, (HUB, SHORT)), "BW-11": ("b" * 64, (DOCK,)), "empty": ("c" * 64, ())}
    write_claims(tmp_path, kept)
    assert read_claims(tmp_path) == kept
    whole = (tmp_path / FILE).read_bytes()
    for damaged in (whole.replace(b"short", b"holds"), whole[:-9], b"", b"{}\n", whole.replace(b'"version"', b'"v"')):
        (tmp_path / FILE).write_bytes(damaged)
        assert read_claims(tmp_path) == {}
    assert read_claims(tmp_path / "nowhere") == {}


@given(st.binary(max_size=300))
def test_any_bytes_are_read_as_nothing(tmp_path_factory: pytest.TempPathFactory, data: bytes) -> None:
    folder = tmp_path_factory.mktemp("claims")
    (folder / FILE).write_bytes(data)
    assert read_claims(folder) == {}


def test_a_table_is_read_by_other_programs_in_three_formats(tmp_path: Path) -> None:
    risky = replace(HUB, maker="=1+1", model="@x", claim='A1 "data", 5 Gb/s')
    rows = (risky, DOCK)
    with write_claims_table(rows, tmp_path / "out" / "claims.csv").open(encoding="utf-8", newline="") as file:
        head, first, _ = csv.reader(file)
    assert tuple(head) == COLUMNS
    assert first[COLUMNS.index("maker")] == "'=1+1"
    assert first[COLUMNS.index("claim")] == 'A1 "data", 5 Gb/s'
    lines = write_claims_table(rows, tmp_path / "claims.jsonl").read_text(encoding="utf-8").splitlines()
    assert [json.loads(line) for line in lines] == [asdict(row) for row in rows]
    table = parquet.read_table(write_claims_table(rows, tmp_path / "claims.parquet"))
    assert table.to_pylist() == [asdict(row) for row in rows]
    assert parquet.read_table(write_claims_table((), tmp_path / "none.parquet")).column_names == list(COLUMNS)
    with pytest.raises(InputError, match=r"Known: .csv, .jsonl, .parquet"):
        write_claims_table(rows, tmp_path / "claims.xls")


def shelf_row(name: str, device: str) -> ShelfRow:
    return ShelfRow(name, "h", device, "dock", "galley", 1, 1, "80", "70", "90", 0, (("A1", "holds"),))


def test_the_shelf_is_searched_by_what_an_audit_is_and_by_what_its_claims_say() -> None:
    rows = shelf_row("OP-6", "Osierpell OP-6"), shelf_row("BW-11", "Brackwater BW-11")
    claims = {"OP-6": (HUB, SHORT), "BW-11": (DOCK,)}

    def found(words: str) -> list[str]:
        return [row.name for row in ShelfSearch(rows, claims).found(words)]

    assert found("") == found("dock") == ["OP-6", "BW-11"]
    assert found("data 10 short") == ["OP-6"]
    assert found("a1 data short") == []
    assert found("brack shows unless") == ["BW-11"]
    assert [row.name for row in ShelfSearch(rows).found("data")] == []
    search = ShelfSearch(rows, claims)
    assert search.claims_found("", ("OP-6", "BW-11")) == [HUB, SHORT, DOCK]
    assert search.claims_found("osier data 10", ("OP-6", "BW-11")) == [SHORT]
    assert search.claims_found("dock", ("BW-11",)) == [DOCK]
    assert search.claims_found("data", ("BW-11",)) == []


@given(st.lists(st.text(alphabet="aod 15si", max_size=6), min_size=1, max_size=6))
def test_what_is_typed_on_is_found_as_if_it_were_typed_at_once(typed: list[str]) -> None:
    rows = shelf_row("OP-6", "Osierpell OP-6"), shelf_row("BW-11", "Brackwater BW-11"), shelf_row("A1", "Dosia 15")
    claims = {"OP-6": (HUB, SHORT), "BW-11": (DOCK,)}
    search = ShelfSearch(rows, claims)
    for words in typed:
        assert search.found(words) == ShelfSearch(rows, claims).found(words)
