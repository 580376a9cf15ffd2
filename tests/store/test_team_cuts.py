"""A team's database that goes away in the midst of work: nothing that was taken is lost, nothing is there twice."""

from __future__ import annotations

import random
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest

from auditra.core.errors import LibraryUnreachable, StoreError
from auditra.core.journal.facts import ClaimMade, EvidenceKept, NoteWritten
from auditra.core.journal.fold import fold_audit
from auditra.store import patient_journal
from auditra.store.demos import DEMOS
from auditra.store.dialects import bell, postgresql
from auditra.store.journal import StoredJournal
from auditra.store.patient_journal import PatientJournal
from tests.store.conftest import Shelf
from tests.support.audits import BEGIN
from tests.support.postgres import TeamServer

CUTS, SERVER_KILLS = 60, 4


@pytest.fixture
def team(team_server: TeamServer, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Shelf]:
    asks_soon(monkeypatch)
    with team_on(team_server, tmp_path) as made:
        yield made


def asks_soon(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(patient_journal, "ASKS_AGAIN_AFTER_S", 0.01)
    monkeypatch.setattr(bell, "_CONNECTS_AGAIN_AFTER_S", 0.01)


@contextmanager
def team_on(server: TeamServer, folder: Path) -> Iterator[Shelf]:
    database = server.new_database()
    made = Shelf(server.place(database, folder), server, database)
    made.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    try:
        yield made
    finally:
        for each in made.opened:
            each.close()


def journal_of(team: Shelf) -> PatientJournal:
    journal = team.open("Ada").journal("OP-6")
    assert isinstance(journal, PatientJournal)
    journal.read()
    return journal


def note(journal: StoredJournal, text: str) -> None:
    journal.append([NoteWritten(text)], action="T1", at=BEGIN)


def notes_of(team: Shelf) -> list[str]:
    journal = team.open().journal("OP-6")
    return [each.text for each in fold_audit("OP-6", journal.entries()).notes]


def bring_back(journal: PatientJournal, within_s: float = 20.0) -> None:
    """Read until nothing waits."""
    until = time.monotonic() + within_s
    while True:
        try:
            journal.read()
        except LibraryUnreachable:
            pass
        else:
            if not journal.waiting:
                return
        assert time.monotonic() < until
        time.sleep(0.02)


def test_lines_cut_at_random_moments_lose_nothing_and_double_nothing(team: Shelf) -> None:
    journal, chance, ended = journal_of(team), random.Random(1), threading.Event()
    assert team.server is not None
    server, cuts = team.server, []

    def cut() -> None:
        with server.connect("postgres") as db:
            while not ended.is_set():
                time.sleep(chance.uniform(0, 0.02))
                found = db.execute(
                    "SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE datname = %s"
                    " AND application_name = 'auditra'", (team.database,),
                ).fetchone()  # fmt: skip
                cuts.append(found)

    cutter = threading.Thread(target=cut)
    cutter.start()
    written = 0
    while len(cuts) < CUTS:
        note(journal, f"{written}")
        written += 1
    ended.set()
    cutter.join()
    bring_back(journal)
    assert notes_of(team) == [f"{n}" for n in range(written)]


def test_a_server_that_is_killed_loses_nothing_that_was_taken(
    own_server: TeamServer, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    asks_soon(monkeypatch)
    with team_on(own_server, tmp_path) as team:
        journal, chance, written = journal_of(team), random.Random(2), 0
        for _ in range(SERVER_KILLS):
            killed = threading.Timer(chance.uniform(0, 0.2), own_server.kill)
            killed.start()
            while killed.is_alive() or journal.waiting < 3:
                note(journal, f"{written}")
                written += 1
                time.sleep(0.002)
            assert [each.text for each in journal.read()[0].notes] == [f"{n}" for n in range(written)]
            own_server.start()
            bring_back(journal)
        assert notes_of(team) == [f"{n}" for n in range(written)]


def cut_off(team: Shelf) -> None:
    """Nobody gets in, and whoever is in is thrown out."""
    assert team.server is not None
    with team.server.connect("postgres") as db:
        db.execute(f"ALTER DATABASE {team.database} ALLOW_CONNECTIONS false".encode())
        db.execute(f"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{team.database}'".encode())


def let_in(team: Shelf) -> None:
    assert team.server is not None
    with team.server.connect("postgres") as db:
        db.execute(f"ALTER DATABASE {team.database} ALLOW_CONNECTIONS true".encode())


def test_what_waits_outlives_the_process_and_comes_after_what_others_wrote(team: Shelf) -> None:
    journal = journal_of(team)
    cut_off(team)
    note(journal, "taken meanwhile")
    sha256 = journal.keep(b"a photo")
    assert journal.evidence_of(sha256) == b"a photo"
    assert journal.has_grown(journal.read()[1]) is False
    let_in(team)
    note(StoredJournal(team.open("Bo")._dialect, team.folder / "another machine", "OP-6"), "from another bench")
    again = journal_of(team)
    assert again.waiting == 0
    assert notes_of(team) == ["from another bench", "taken meanwhile"]
    bring_back(journal)
    assert notes_of(team) == ["from another bench", "taken meanwhile"]
    assert {entry.writer for entry in again.entries()[-1:]} == {"Ada"}


def test_evidence_that_was_kept_meanwhile_comes_before_what_names_it(team: Shelf) -> None:
    journal = journal_of(team)
    cut_off(team)
    photo, other = journal.keep(b"a photo"), journal.keep(b"another")
    journal.append([EvidenceKept(photo, "label.png", 7)], action="photo", at=BEGIN)
    let_in(team)
    bring_back(journal)
    journal.append([EvidenceKept(other, "other.png", 7)], action="other", at=BEGIN)
    elsewhere = StoredJournal(team.open()._dialect, team.folder / "another machine", "OP-6")
    assert (elsewhere.evidence_of(photo), elsewhere.evidence_of(other)) == (b"a photo", b"another")


def test_a_database_that_is_away_is_asked_again_though_readings_keep_coming(
    team: Shelf, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(patient_journal, "ASKS_AGAIN_AFTER_S", 0.3)
    journal = journal_of(team)
    cut_off(team)
    note(journal, "first")
    let_in(team)
    until = time.monotonic() + 5
    while journal.waiting:
        assert time.monotonic() < until
        note(journal, "more")
        time.sleep(0.05)


def test_readings_wait_too_while_another_bench_holds_the_audit(team: Shelf, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(postgresql, "WAITS_FOR_LOCK_MS", 100)
    journal = journal_of(team)
    assert team.server is not None
    with team.server.connect(team.database) as holder, holder.transaction():
        holder.execute("SELECT pg_advisory_xact_lock(1, %s)", (postgresql._number("OP-6"),))
        note(journal, "taken meanwhile")
        assert journal.waiting == 1
    bring_back(journal)
    assert notes_of(team) == ["taken meanwhile"]


def test_an_action_that_rests_on_what_is_there_does_not_wait(team: Shelf) -> None:
    journal = journal_of(team)
    _, head = journal.read()
    cut_off(team)
    with pytest.raises(LibraryUnreachable):
        journal.append([NoteWritten("typed")], action="n", at=BEGIN, after=head)
    assert journal.waiting == 0
    let_in(team)
    assert notes_of(team) == []


def test_what_does_not_fit_any_more_is_kept_aside_and_told(team: Shelf) -> None:
    journal = journal_of(team)
    cut_off(team)
    journal.append([ClaimMade("new", "A1 gives 4 W"), NoteWritten("taken meanwhile")], action="c", at=BEGIN)
    let_in(team)
    elsewhere = StoredJournal(team.open()._dialect, team.folder / "another machine", "OP-6")
    elsewhere.append([ClaimMade("new", "A2 gives 4 W")], action="c", at=BEGIN)
    with pytest.raises(StoreError, match="2 facts that waited here do not fit any more") as told:
        bring_back(journal)
    assert "taken meanwhile" in Path(told.value.what).read_text(encoding="utf-8")
    assert journal.read()[0] == elsewhere.read()[0]


def test_two_windows_of_one_machine_lose_nothing_of_each_other(team: Shelf) -> None:
    one = journal_of(team)
    cut_off(team)
    note(one, "first")
    other = PatientJournal(team.opened[-1]._dialect, team.folder, "OP-6", "Ada")
    note(one, "second")
    let_in(team)
    bring_back(other)
    assert [entry.fact for entry in one._spool.entries()] == [NoteWritten("second")]
    bring_back(one)
    assert one._spool.entries() == ()
    assert notes_of(team) == ["first", "second"]


def test_a_half_written_line_was_never_taken(team: Shelf) -> None:
    journal = journal_of(team)
    cut_off(team)
    note(journal, "whole")
    with journal._spool.file.open("ab") as file:
        file.write(b'{"fact":"note","numb')
    note(journal, "whole again")
    let_in(team)
    bring_back(journal_of(team))
    assert notes_of(team) == ["whole", "whole again"]
    assert not journal._spool.file.exists()


def test_a_bench_that_lost_its_line_still_holds_the_audit_on_its_machine(team: Shelf) -> None:
    library = team.open()
    with library.held_for_trials("OP-6"):
        cut_off(team)
        with pytest.raises(StoreError, match="is running its trials"), team.opened[0].held_for_trials("OP-6"):
            pass
    let_in(team)
    with team.open().held_for_trials("OP-6"):
        pass
