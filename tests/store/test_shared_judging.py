"""What one bench of a team has judged, the others need not judge too; and nobody believes what does not fit."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest

from auditra.cli.composition import LibraryHandle
from auditra.core.errors import LibraryReadOnly
from auditra.core.journal.facts import NoteWritten
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.store.demos import DEMOS
from auditra.store.dialects import judged_rows
from auditra.store.dialects.postgresql import grant_role
from auditra.store.library_shelf import LibraryShelf
from auditra.store.place import LibraryPlace
from tests.store.conftest import Shelf
from tests.store.test_team_library import user_of
from tests.support.audits import BEGIN
from tests.support.postgres import TeamServer


@pytest.fixture
def team(team_server: TeamServer, tmp_path: Path) -> Shelf:
    database = team_server.new_database()
    made = Shelf(team_server.place(database, tmp_path / "first"), team_server, database)
    for name in ("OP-6", "BW-11"):
        made.open().create(name, DEMOS[0].facts(), BEGIN)
    return made


class Bench:
    """One machine, with a folder of its own and a list of what it had to judge."""

    def __init__(self, place: LibraryPlace) -> None:
        self.handle = LibraryHandle(place)
        self.judged: list[str] = []
        self.shelf = LibraryShelf(self.handle.folder, lambda: self.handle.library, self._judge, _raise)

    def _judge(self, name: str) -> JudgedAudit:
        self.judged.append(name)
        return self.handle.session(name).judged


def _raise(what: str, error: BaseException) -> None:
    raise error


@pytest.fixture
def bench(team: Shelf, tmp_path: Path) -> Callable[[str], Bench]:
    def make(name: str) -> Bench:
        assert team.server is not None
        return Bench(team.server.place(team.database, tmp_path / name))

    return make


def test_what_one_bench_judged_another_shows_and_searches_without_judging(bench: Callable[[str], Bench]) -> None:
    first, second, third = bench("first"), bench("second"), bench("third")
    rows = first.shelf.rows()
    assert first.judged == ["OP-6", "BW-11"]
    assert second.shelf.rows() == rows
    assert [*third.shelf.each_audits_claims()] == [*first.shelf.each_audits_claims()] != []
    assert (second.judged, third.judged) == ([], [])
    assert second.shelf.kept_claims() == first.shelf.kept_claims()
    assert second.shelf.kept_rows()[:] == rows


def test_an_audit_that_grew_is_judged_once_more_by_whoever_looks_first(bench: Callable[[str], Bench]) -> None:
    first, second = bench("first"), bench("second")
    first.shelf.rows()
    second.handle.library.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    rows = second.shelf.rows()
    assert second.judged == ["OP-6"]
    assert first.shelf.rows() == rows
    assert first.judged == ["OP-6", "BW-11"]


@pytest.mark.parametrize(
    "damage",
    ["UPDATE judged SET version = '0.1'", "UPDATE judged SET head = 'x'", "UPDATE judged SET claims = '[[1]]'",
     "UPDATE judged SET shelf_row = replace(shelf_row, '\"claims\": 8', '\"claims\": 9')",
     f"UPDATE judged SET claims = '[]' || repeat(' ', {judged_rows.MOST_CHARACTERS})", "DELETE FROM judged"],
)  # fmt: skip
def test_what_does_not_fit_is_judged_here(bench: Callable[[str], Bench], team: Shelf, damage: str) -> None:
    rows = bench("first").shelf.rows()
    team.change(damage)
    second = bench("second")
    assert second.shelf.rows() == rows
    assert second.judged == ["OP-6", "BW-11"]


def test_a_row_of_a_journal_that_has_grown_meanwhile_is_not_kept(bench: Callable[[str], Bench], team: Shelf) -> None:
    first = bench("first")
    coming = first.shelf.each_row()
    next(coming)
    team.open().journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    assert len([*coming]) == 1
    assert team.server is not None
    with team.server.connect(team.database) as db:
        found = db.execute("SELECT name, judged_by FROM judged JOIN audit ON audit.id = judged.audit").fetchall()
    assert found == [("BW-11", "owner")]


def test_a_reader_is_shown_what_was_judged_and_shares_nothing(
    team: Shelf, bench: Callable[[str], Bench], tmp_path: Path
) -> None:
    place = user_of(team, "ro")
    grant_role(team.place, "ro", "reader")
    reading = Bench(replace(place, folder=tmp_path / "reading"))
    assert len(reading.shelf.rows()) == len(reading.judged) == 2
    first = bench("first")
    first.shelf.rows()
    assert first.judged == ["OP-6", "BW-11"]
    with pytest.raises(LibraryReadOnly):
        reading.handle.library.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)


def test_the_database_notes_who_judged_whatever_is_said(team: Shelf, bench: Callable[[str], Bench]) -> None:
    bench("first").shelf.rows()
    assert team.server is not None
    with team.server.connect(team.database) as db:
        db.execute("UPDATE judged SET judged_by = 'another'")
        assert {row[0] for row in db.execute("SELECT judged_by FROM judged").fetchall()} == {"owner"}


def test_a_look_that_is_broken_off_forgets_nothing_that_was_known(bench: Callable[[str], Bench]) -> None:
    first = bench("first")
    rows = first.shelf.rows()
    first.handle.library.journal("OP-6").append([NoteWritten("x")], action="n", at=BEGIN)
    coming = first.shelf.each_row()
    next(coming)
    del coming
    kept = first.shelf.kept_rows()
    assert kept[0].head != rows[0].head
    assert kept[1] == rows[1]
