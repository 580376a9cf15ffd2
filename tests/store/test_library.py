"""The journal keeps what it took: through changes from outside, other writers, newer versions and a full disk."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import event

from auditra.core.errors import (
    JournalDamaged,
    LibraryBusy,
    LibraryFull,
    LibraryTooNew,
    NoSuchAudit,
    StoreError,
)
from auditra.core.journal.facts import NoteWritten
from auditra.core.journal.fold import fold_audit
from auditra.store.demos import DEMOS
from auditra.store.dialects import sqlite as dialect
from auditra.store.dialects.sqlite import FILE
from auditra.store.journal import StoredJournal
from auditra.store.library import Library
from tests.store.conftest import Shelf
from tests.support.audits import BEGIN


@pytest.fixture
def library(tmp_path: Path) -> Iterator[Library]:
    """One in a folder."""
    opened = Library(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def any_library(shelf: Shelf) -> Library:
    return shelf.open()


@pytest.fixture
def journal(any_library: Library) -> StoredJournal:
    return any_library.create("OP-6", DEMOS[0].facts(), BEGIN)


def test_what_was_appended_is_read_in_order(any_library: Library, journal: StoredJournal) -> None:
    for n in range(3):
        journal.append([NoteWritten(f"note {n}")], action=f"n{n}", at=BEGIN)
    entries = any_library.journal("OP-6").entries()
    assert [entry.number for entry in entries] == list(range(1, len(DEMOS[0].facts()) + 4))
    assert [note.text for note in fold_audit("OP-6", entries).notes] == ["note 0", "note 1", "note 2"]


def test_full_synchronous_write_ahead_logging(library: Library) -> None:
    with library._dialect.engine.connect() as db:
        assert db.exec_driver_sql("PRAGMA journal_mode").scalar_one() == "wal"
        assert db.exec_driver_sql("PRAGMA synchronous").scalar_one() == 2


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE entry SET body = replace(body, '5 Gb', '9 Gb') WHERE number = 4",
        "UPDATE entry SET at = '2031-01-01T00:00:00+00:00' WHERE number = 2",
        "DELETE FROM entry WHERE number = 4",
        "DELETE FROM entry WHERE number = (SELECT max(number) FROM entry)",
        "UPDATE entry SET number = number + 100 WHERE number > 5",
        "UPDATE entry SET action = 'T9' WHERE number = 4",
    ],
)
def test_a_changed_or_removed_fact_shows(shelf: Shelf, journal: StoredJournal, statement: str) -> None:
    shelf.change(statement)
    with pytest.raises(JournalDamaged, match="OP-6"):
        journal.entries()


def test_a_library_of_a_newer_version_is_left_alone(shelf: Shelf, any_library: Library) -> None:
    if shelf.place.is_of_team:
        shelf.change("UPDATE alembic_version SET version_num = '0099'")
    else:
        shelf.change("PRAGMA user_version = 99")
    with pytest.raises(LibraryTooNew, match="version 99"):
        shelf.open()


def test_a_file_that_is_no_library_is_told(tmp_path: Path) -> None:
    (tmp_path / FILE).write_bytes(b"not a database, but long enough to look at" * 50)
    with pytest.raises(StoreError, match=FILE):
        Library(tmp_path)


def test_a_folder_that_cannot_be_made_is_told(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    with pytest.raises(StoreError, match="--library"):
        Library(tmp_path / "file" / "library")


def test_unknown_and_taken_names_are_told(any_library: Library, journal: StoredJournal) -> None:
    with pytest.raises(NoSuchAudit, match="The shelf has: OP-6"):
        any_library.journal("OP-7")
    with pytest.raises(StoreError, match="Choose another name"):
        any_library.create("OP-6", DEMOS[0].facts(), BEGIN)


def test_a_full_disk_takes_nothing_and_says_so(library: Library) -> None:
    journal = library.create("OP-6", DEMOS[0].facts(), BEGIN)
    taken = [len(journal.entries())]

    @event.listens_for(library._dialect.engine, "checkout")
    def _no_room(connection: sqlite3.Connection, *_: object) -> None:
        pages = connection.execute("PRAGMA page_count").fetchone()[0]
        connection.execute(f"PRAGMA max_page_count = {pages}")

    def fill() -> None:
        for n in range(500):
            journal.append([NoteWritten("x" * 200)], action=f"n{n}", at=BEGIN)
            taken[0] += 1

    with pytest.raises(LibraryFull, match="Make room"):
        fill()
    assert len(journal.entries()) == taken[0]


def test_two_writers_never_chain_to_one_entry(shelf: Shelf, journal: StoredJournal) -> None:
    def write(who: int) -> None:
        own = shelf.open().journal("OP-6")
        for n in range(10):
            own.append([NoteWritten(f"{who}/{n}")], action=f"{who}/{n}", at=BEGIN)

    writers = [threading.Thread(target=write, args=(who,)) for who in range(4)]
    for each in writers:
        each.start()
    for each in writers:
        each.join()
    notes = [note.text for note in fold_audit("OP-6", journal.entries()).notes]
    assert sorted(notes) == sorted(f"{who}/{n}" for who in range(4) for n in range(10))


def test_a_writer_that_does_not_let_go_is_told_of(library: Library, monkeypatch: pytest.MonkeyPatch) -> None:
    library.create("OP-6", DEMOS[0].facts(), BEGIN)
    monkeypatch.setattr(dialect, "BUSY_TIMEOUT_S", 0.2)
    impatient = Library(library.folder).journal("OP-6")
    holder = sqlite3.connect(library.folder / FILE, isolation_level=None)
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(LibraryBusy, match="another Auditra is writing"):
        impatient.append([NoteWritten("late")], action="n", at=BEGIN)
    holder.execute("ROLLBACK")
    impatient.append([NoteWritten("late")], action="n", at=BEGIN)


_HOLDER = """
import sys, time
from pathlib import Path
from auditra.store.library import Library
from auditra.store.place import LibraryPlace
with Library(LibraryPlace(Path(sys.argv[1]), sys.argv[2])).held_for_trials("OP-6"):
    print("held", flush=True)
    time.sleep(60)
"""


def test_one_audit_is_run_by_one_process_and_its_death_lets_go(shelf: Shelf, any_library: Library) -> None:
    any_library.create("OP-6", DEMOS[0].facts(), BEGIN)
    any_library.create("other", DEMOS[0].facts(), BEGIN)
    command = [sys.executable, "-c", _HOLDER, str(shelf.folder), shelf.place.url]
    other = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    assert other.stdout is not None
    assert other.stdout.readline() == "held\n"
    with pytest.raises(LibraryBusy, match="is running its trials"), any_library.held_for_trials("OP-6"):
        pass
    with any_library.held_for_trials("other"):
        pass
    other.kill()
    other.wait()
    assert _is_let_go(any_library)


def _is_let_go(library: Library, within_s: float = 5.0) -> bool:
    """A server notices the end of a process a moment later."""
    until = time.monotonic() + within_s
    while True:
        try:
            with library.held_for_trials("OP-6"):
                return True
        except LibraryBusy:
            if time.monotonic() > until:
                return False
            time.sleep(0.02)
