"""A team's database on another machine, whose cable is pulled: no answer comes, and no word that none will come."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from auditra.core.errors import LibraryUnreachable
from auditra.core.journal.facts import EvidenceKept, NoteWritten
from auditra.store.dialects.postgresql import ANSWERS_WITHIN_S, CONNECTS_WITHIN_S
from tests.store.conftest import Shelf
from tests.store.test_team_cuts import bring_back, journal_of, note, notes_of, team_on
from tests.support.audits import BEGIN
from tests.support.namespaces import Cable, cable, may_have_namespaces
from tests.support.postgres import temporary_server

pytestmark = pytest.mark.skipif(not may_have_namespaces(), reason="this machine makes no network namespaces")
_AT_ONCE_S = 1.0


@pytest.fixture
def line() -> Iterator[Cable]:
    with cable() as made:
        yield made


@pytest.fixture
def team(line: Cable, tmp_path: Path) -> Iterator[Shelf]:
    with temporary_server(line.there_address, line.inside) as server, team_on(server, tmp_path) as made:
        yield made


def test_a_pulled_cable_costs_one_wait_and_loses_nothing(line: Cable, team: Shelf) -> None:
    journal = journal_of(team)
    _, head = journal.read()
    note(journal, "before")
    with line.unanswered():
        begun = time.monotonic()
        note(journal, "first")
        waited_s = time.monotonic() - begun
        assert waited_s < ANSWERS_WITHIN_S + CONNECTS_WITHIN_S + 2
        until = time.monotonic() + 3 * CONNECTS_WITHIN_S  # longer than it takes to try in vain
        count = 0
        while time.monotonic() < until:
            begun = time.monotonic()
            note(journal, f"{count}")
            sha256 = journal.keep(b"a photo")
            assert journal.evidence_of(sha256) == b"a photo"
            with pytest.raises(LibraryUnreachable):
                journal.append([NoteWritten("typed")], action="n", at=BEGIN, after=head)
            assert len(journal.read()[0].notes) == count + 3
            assert not journal.has_grown(journal.read()[1])
            assert time.monotonic() - begun < _AT_ONCE_S
            count += 1
            time.sleep(0.3)
        journal.append([EvidenceKept(sha256, "label.png", 7)], action="photo", at=BEGIN)
    bring_back(journal)
    assert notes_of(team) == ["before", "first", *(f"{number}" for number in range(count))]
    assert team.open().evidence.read(sha256) == b"a photo"
