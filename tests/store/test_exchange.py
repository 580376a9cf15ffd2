"""An audit out as files and in again, judged the same; every wrong line is told, and nothing is half taken."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from auditra.core.errors import AuditraError, FactsRefused, InputError
from auditra.core.journal.facts import (
    FACT_KINDS,
    ClaimDropped,
    ClaimEdited,
    ClaimMade,
    DeviceNoted,
    Entry,
    Fact,
    RigNoted,
)
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import judge
from auditra.documents.facts import fact_schema
from auditra.store import exchange
from auditra.store.exchange import FACTS_FILE, export_audit, read_audit
from auditra.store.files import load_claim_sheet
from tests.support.audits import HUB, PROFILE, audit_of, entries, facts_of_trial, galley, rates, with_trial

NOW = datetime(2026, 4, 1, tzinfo=UTC)
SENTENCE = "A1 data 5 Gb/s"


def audited() -> list[Entry]:
    """A short audit: one direct trial, one on the device."""
    direct = rates("direct", 1000, link_bps=10e9)
    audit = audit_of(SENTENCE)
    first = facts_of_trial(audit, "direct/", *direct)
    second = facts_of_trial(with_trial(audit, "direct/", *direct), "A1/", *rates("A1", 450))
    kept = entries([DeviceNoted(HUB), RigNoted(galley()), ClaimMade("claim1", SENTENCE)])
    for action, facts in (("T1", first), ("T2", second)):
        kept += [Entry(len(kept) + number, NOW, action, fact) for number, fact in enumerate(facts, start=1)]
    return kept


@pytest.fixture
def exported(tmp_path: Path) -> Path:
    export_audit("OP-6", audited(), tmp_path)
    return tmp_path


def lines(folder: Path) -> list[str]:
    return (folder / FACTS_FILE).read_text().splitlines()


def rewrite(folder: Path, kept: Iterable[str]) -> None:
    (folder / FACTS_FILE).write_text("\n".join(kept) + "\n")


def refused(folder: Path) -> FactsRefused:
    with pytest.raises(FactsRefused) as told:
        read_audit(folder, NOW)
    return told.value


def test_what_was_exported_comes_back_and_is_judged_the_same(exported: Path) -> None:
    came = read_audit(exported, NOW)
    assert came.name == "OP-6"
    assert came.remarks == ()
    before, after = (judge(fold_audit("a", each), PROFILE) for each in (audited(), came.entries))
    assert after == before
    assert after.claims[0].verdict.word == "holds"
    assert [entry.fact for entry in came.entries][: len(audited())] == [entry.fact for entry in audited()]


def test_a_file_by_hand_needs_sheets_and_a_few_keys(exported: Path) -> None:
    said = [json.loads(line) for line in lines(exported)]
    by_hand = [{"format": "auditra facts", "version": 1, "audit": "by hand"}]
    by_hand += [{"fact": each["fact"], "body": each["body"]} for each in said[4:]]
    rewrite(exported, map(json.dumps, by_hand))
    audit = fold_audit("a", read_audit(exported, NOW).entries)
    assert judge(audit, PROFILE).claims[0].verdict.word == "holds"
    assert audit.bench == "live bench"
    assert audit.undoable == ("T1", "T2")


def test_a_sheet_that_says_otherwise_is_told_and_the_facts_count(exported: Path) -> None:
    sheet = exported / "claims.toml"
    sheet.write_text(sheet.read_text().replace("Osierpell", "Elsewhere"))
    came = read_audit(exported, NOW)
    assert "claims.toml disagrees" in came.remarks[0]
    assert fold_audit("a", came.entries).device.maker == "Osierpell"


def damaged(folder: Path, index: int, **changes: object) -> str:
    """The reason told for one line with changed keys of its body, or of the line itself; unchained."""
    said = [json.loads(line) for line in lines(folder)]
    for each in said[1:]:
        each.pop("link")
    target = said[index]
    for key, value in changes.items():
        (target if key in target else target["body"])[key] = value
    rewrite(folder, map(json.dumps, said))
    problems = refused(folder).problems
    assert index + 1 in [line for line, _ in problems]
    return next(why for line, why in problems if line == index + 1)


READING = 6
BROKEN = [
    (READING, {"fact": "prophecy"}, 'fact "prophecy": unknown kind'),
    (READING, {"at": "yesterday"}, "no date and time"),
    (READING, {"at": "2026-04-01T10:00:00"}, "time zone"),
    (READING, {"reading": {"quantity": "read rate"}}, "reading"),
    (READING, {"colour": "red"}, "unknown key"),
    (READING, {"body": [1]}, "reading"),
    (READING, {"action": "x" * 41}, "40 characters"),
    (4, {"trial": {"id": "T9"}}, "trial"),
]


@pytest.mark.parametrize(("index", "changes", "told"), BROKEN)
def test_a_wrong_line_is_told_with_its_number_and_reason(
    exported: Path, index: int, changes: dict[str, object], told: str
) -> None:
    assert told in damaged(exported, index, **changes)


READINGS = [
    ({"trial": "T9"}, 'no trial "T9" was begun'),
    ({"unit": "MB/s"}, 'is written in b/s, not in "MB/s"'),
    ({"values": [-1.0]}, "cannot be -1"),
    ({"values": [], "count": {"seen": 4, "tries": 3}}, '"4 of 3" is impossible'),
    ({"trace": {"time_s": [0.0], "values": []}}, "trace times and values differ"),
    ({"quantity": "wobble"}, "needs its unit"),
    ({"quantity": "display mode", "values": [], "text": "huge"}, "not a display mode"),
    ({"yes": True}, "a reading has one value, and this has: values, yes"),
    ({"colour": "red"}, "unknown key"),
    ({"grade": 9}, "grade"),
    ({"error": -1.0}, "must not be negative"),
]


@pytest.mark.parametrize(("changes", "told"), READINGS)
def test_a_reading_that_cannot_be_is_told(exported: Path, changes: dict[str, object], told: str) -> None:
    said = json.loads(lines(exported)[READING])["body"]["reading"]
    assert told in damaged(exported, READING, reading=said | changes)


TRIALS = [
    ({"port": "Z9"}, "no device has a port Z9"),
    ({"claims": ["claim9"]}, 'no claim "claim9"'),
    ({"gear": "moon"}, 'no gear "moon"'),
    ({"setup": {"host": "mainframe", "host_socket": "C1", "plugged": []}}, 'no host "mainframe"'),
]


@pytest.mark.parametrize(("changes", "told"), TRIALS)
def test_a_reference_to_what_is_not_there_is_told(exported: Path, changes: dict[str, object], told: str) -> None:
    said = json.loads(lines(exported)[4])["body"]["trial"]
    assert told in damaged(exported, 4, trial=said | changes)


def test_infinity_and_not_a_number_are_refused_as_values(exported: Path) -> None:
    kept = lines(exported)
    kept[READING] = (
        kept[READING].replace('"grade":4', '"error":NaN,"grade":4').replace('"grade":5', '"error":NaN,"grade":5')
    )
    rewrite(exported, kept)
    assert "NaN: a number must be finite" in str(refused(exported))


def test_a_changed_line_and_a_missing_one_break_the_chain(exported: Path) -> None:
    kept = lines(exported)
    rewrite(exported, [line.replace('"T1"', '"T7"') if n == 5 else line for n, line in enumerate(kept)])
    assert "chain does not fit" in str(refused(exported))
    rewrite(exported, [*kept[:5], *kept[6:]])
    assert "chain does not fit" in str(refused(exported))


def test_all_wrong_lines_are_told_not_the_first_alone_and_long_ones_do_not_stop_the_rest(exported: Path) -> None:
    kept = lines(exported)
    monster = '{"fact":"note","body":{"text":"' + "x" * (10 << 20) + '"}}'
    rewrite(exported, [kept[0], "{", *kept[1:], monster, '{"fact":"omen"}', "\x00"])
    told = refused(exported)
    numbers = [line for line, _ in told.problems]
    assert {2, len(kept) + 2, len(kept) + 3, len(kept) + 4} <= set(numbers)
    assert "longer than" in str(told)


def test_a_million_lines_are_refused_without_being_all_told(exported: Path) -> None:
    with (exported / FACTS_FILE).open("a") as file:
        file.write("{}\n" * 1_000_000)
    told = refused(exported)
    assert len(told.problems) == FactsRefused.MAX_LISTED
    assert told.more > exchange.MAX_LINES / 2


def test_more_lines_than_are_read_are_refused(exported: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(exchange, "MAX_LINES", 5)
    assert "more than 5 lines" in str(refused(exported))


@pytest.mark.parametrize(
    "text",
    [
        "",
        "[]",
        "{}",
        '{"format":"auditra facts","version":9,"audit":"a"}',
        "\xff",
        '{"format":"auditra facts","version":1,"audit":"\\u001b[31m"}',
    ],
)
def test_a_file_of_another_kind_is_refused(tmp_path: Path, text: str) -> None:
    (tmp_path / FACTS_FILE).write_bytes(text.encode("latin-1"))
    with pytest.raises(InputError):
        read_audit(tmp_path, NOW)


def test_escape_codes_in_a_file_are_told_inert(exported: Path) -> None:
    rewrite(exported, [*lines(exported), '{"fact":"\\u001b[31mred","body":{}}'])
    assert "\x1b" not in str(refused(exported))


def test_without_a_file_or_a_folder_that_takes_one_it_is_said(tmp_path: Path) -> None:
    with pytest.raises(InputError, match=FACTS_FILE):
        read_audit(tmp_path, NOW)
    (tmp_path / "file").write_text("")
    with pytest.raises(AuditraError, match="--to"):
        export_audit("a", audited(), tmp_path / "file" / "below")


def test_an_export_does_not_write_through_a_link_in_its_way(tmp_path: Path) -> None:
    elsewhere = tmp_path / "elsewhere"
    elsewhere.write_text("mine")
    (tmp_path / FACTS_FILE).symlink_to(elsewhere)
    export_audit("OP-6", audited(), tmp_path)
    assert elsewhere.read_text() == "mine"


def test_the_schema_names_every_kind_of_fact_and_what_its_lines_hold() -> None:
    schema = fact_schema()
    titles = {each["title"] for each in schema["oneOf"]}
    assert titles == {"first line", *FACT_KINDS}
    assert "PathTrace" in schema["$defs"]
    json.dumps(schema)


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_a_file_with_one_byte_changed_is_taken_or_refused_in_words(exported: Path, data: st.DataObject) -> None:
    whole = (exported / FACTS_FILE).read_bytes()
    at = data.draw(st.integers(0, len(whole) - 1))
    folder = exported / "damaged"
    folder.mkdir(exist_ok=True)
    (folder / FACTS_FILE).write_bytes(whole[:at] + bytes([data.draw(st.integers(0, 255))]) + whole[at + 1 :])
    try:
        read_audit(folder, NOW)
    except InputError as error:
        assert FACTS_FILE in str(error)


def test_the_claims_and_the_device_that_stand_go_out_and_their_history_too(tmp_path: Path) -> None:
    kept = audited()
    late: list[Fact] = [
        ClaimEdited("claim1", "A1 data 10 Gb/s while A2 gives 4.5 W"), ClaimMade("claim9", "body weighs 95 g"),
        ClaimMade("claim10", "A1+A2 give 4.5 W each"), ClaimDropped("claim9", "read wrongly"),
        DeviceNoted(replace(HUB, firmware="1.2")),
    ]  # fmt: skip
    kept += [Entry(len(kept) + n, NOW, f"later {n}", fact) for n, fact in enumerate(late, start=1)]
    export_audit("OP-6", kept, tmp_path)
    sheet = load_claim_sheet(tmp_path / "claims.toml")
    assert [claim.sentence for claim in sheet.claims] == [
        "A1 data 10 Gb/s while A2 gives 4.5 W",
        "A1+A2 give 4.5 W each",
    ]
    assert sheet.device.firmware == "1.2"
    came = read_audit(tmp_path, NOW)
    assert came.remarks == ()
    assert judge(fold_audit("a", came.entries), PROFILE) == judge(fold_audit("a", kept), PROFILE)
