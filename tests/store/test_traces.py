"""Traces stand beside the journal and are tied into its chain: none is lost, changed, moved or added unseen."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from pathlib import Path

import pytest

from auditra.core.errors import FactsRefused, JournalDamaged
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Entry, ReadingTaken, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.model.reading import Reading, Trace
from auditra.documents.facts import Encoded, EncodedTrace, decode_fact, encode_fact
from auditra.store.dialects.sqlite import FILE
from auditra.store.exchange import FACTS_FILE, export_audit, read_audit
from auditra.store.journal import StoredJournal
from auditra.store.library import Library
from tests.store.conftest import Shelf
from tests.support.audits import BEGIN, audit_of, entries, facts_of_trial, galley, rates
from tests.support.audits import HUB as DEVICE

TRACE = Trace((0.0, 0.25, 0.5), (3.6e9, 3.61e9, 1 / 3))


def audited() -> list[Entry]:
    """A trial with two readings that have a trace, and one that has none."""
    link, write, read = rates("A1", 450)
    traced = replace(write, trace=TRACE), replace(read, trace=Trace((0.0,), (7.0,)))
    trial = facts_of_trial(audit_of("A1 data 5 Gb/s"), "A1/", link, *traced)
    return entries([DeviceNoted(DEVICE), RigNoted(galley()), ClaimMade("claim1", "A1 data 5 Gb/s"), *trial])


@pytest.fixture
def audit(shelf: Shelf) -> Shelf:
    """A library with the audit in it."""
    shelf.open().restore("OP-6", audited())
    return shelf


def journal(shelf: Shelf) -> StoredJournal:
    return shelf.open().journal("OP-6")


def traced(kept: tuple[Entry, ...]) -> list[Reading]:
    readings = [entry.fact.reading for entry in kept if isinstance(entry.fact, ReadingTaken)]
    return [reading for reading in readings if reading.trace is not None]


def test_a_trace_comes_back_as_it_was(audit: Shelf) -> None:
    assert [reading.trace for reading in traced(journal(audit).entries())] == [TRACE, Trace((0.0,), (7.0,))]


def test_no_body_holds_a_trace(tmp_path: Path) -> None:
    Library(tmp_path).restore("OP-6", audited())
    with sqlite3.connect(tmp_path / FILE) as db:
        assert not any('"time_s"' in body for (body,) in db.execute("SELECT body FROM entry"))
        assert db.execute("SELECT count(*) FROM trace").fetchone() == (2,)


def test_its_columns_are_made_once_somebody_looks() -> None:
    seen = decode_fact(encode_fact(ReadingTaken(replace(rates("A1", 450)[1], trace=TRACE))), lambda: "here")
    assert isinstance(seen, ReadingTaken)
    assert isinstance(trace := seen.reading.trace, EncodedTrace)
    assert "_plain" not in vars(trace)
    assert trace.values == TRACE.values
    assert encode_fact(seen).trace == encode_fact(ReadingTaken(replace(seen.reading, trace=TRACE))).trace


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE trace SET columns = replace(columns, '7.0', '8.0')",
        "DELETE FROM trace WHERE number = (SELECT max(number) FROM trace)",
        "UPDATE trace SET number = number + 1 WHERE number = (SELECT max(number) FROM trace)",
        "INSERT INTO trace VALUES (1, 1, '{}')",
    ],
)
def test_a_trace_that_was_changed_removed_moved_or_added_shows(audit: Shelf, statement: str) -> None:
    audit.change(statement)
    with pytest.raises(JournalDamaged):
        journal(audit).entries()


@pytest.mark.parametrize("columns", ["", "{}", "[]", '{"time_s":[1],"values":["x"]}', '{"time_s":[1,2],"values":[1]}'])
def test_columns_that_are_none_are_told(columns: str) -> None:
    body = encode_fact(ReadingTaken(rates("A1", 450)[1])).body
    read = decode_fact(Encoded("reading", body, columns), lambda: "entry 7")
    assert isinstance(read, ReadingTaken)
    assert read.reading.trace is not None
    with pytest.raises(JournalDamaged, match="entry 7"):
        _ = read.reading.trace.values


def test_a_trace_beside_what_has_none_is_told() -> None:
    with pytest.raises(JournalDamaged, match="not its own"):
        decode_fact(Encoded("note", '{"text":"x"}', "{}"), lambda: "here")


def test_out_as_files_and_in_again(audit: Shelf) -> None:
    kept, folder = journal(audit).entries(), audit.folder
    export_audit("OP-6", kept, folder / "out")
    assert read_audit(folder / "out", BEGIN).entries[: len(kept)] == kept
    facts = folder / "out" / FACTS_FILE
    facts.write_text(facts.read_text().replace("3610000000.0", "3620000000.0"))
    with pytest.raises(FactsRefused, match="chain does not fit"):
        read_audit(folder / "out", BEGIN)


def test_what_is_appended_later_is_read_by_another_window(audit: Shelf) -> None:
    window = journal(audit)
    before = window.read()[0]
    taken = replace(rates("A1", 440)[1], trial=before.trials[0].trial.id, trace=TRACE)
    journal(audit).append([ReadingTaken(taken)], action="more", at=BEGIN)
    after = window.read()[0]
    assert after.trials[0].readings[-1] == taken
    assert after == fold_audit("OP-6", journal(audit).entries())
