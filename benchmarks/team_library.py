"""A team's library on a real server: appends beside those of the bare driver, two writers at once, a large copy.

python -m benchmarks.team_library [AUDITS]
"""

from __future__ import annotations

import multiprocessing
import os
import shutil
import sys
import tempfile
import time
from itertools import pairwise
from pathlib import Path

import psycopg
from tests.support.postgres import TeamServer, running_server

from auditra.core.journal.facts import NoteWritten
from auditra.core.journal.fold import fold_audit
from auditra.store.copying import check_library, copy_library
from auditra.store.demos import DEMOS
from auditra.store.library import Library
from auditra.store.place import LibraryPlace
from benchmarks.judging_and_journal import APPENDS, AT_ONCE, NOW, PAIRS, appends_a_second
from benchmarks.pairs import take_pairs

INTERLEAVED, AUDITS = 10_000, 10_000
_BARE = "INSERT INTO bare VALUES (%s, %s, %s, %s, %s, %s, %s, %s)"


def bare_appends_a_second(url: str) -> float:
    """Rows as long as ours and a head that moves, in transactions of the driver alone."""
    row = (1, 0, NOW.isoformat(), "notes", "note", "x" * 40, "0" * 64, "")
    with psycopg.connect(url, autocommit=True) as db:
        db.execute("DROP TABLE IF EXISTS bare, bare_head")
        db.execute("CREATE TABLE bare (LIKE entry INCLUDING CONSTRAINTS INCLUDING INDEXES)")
        db.execute("CREATE TABLE bare_head AS SELECT 1 AS id, 0 AS entries, ''::text AS head")
        begun = time.perf_counter()
        for number in range(0, APPENDS, AT_ONCE):
            with db.transaction(), db.cursor() as cursor:
                cursor.executemany(_BARE, [(1, number + each, *row[2:]) for each in range(AT_ONCE)])
                cursor.execute("UPDATE bare_head SET entries = %s, head = %s WHERE id = 1", (number, "0" * 64))
        return APPENDS / (time.perf_counter() - begun)


def _write(place: LibraryPlace, who: str, count: int) -> None:
    journal = Library(place, who).journal("both")
    for number in range(count):
        journal.append([NoteWritten(f"{who}/{number}")], action=f"{who}/{number}", at=NOW)


def write_interleaved(place: LibraryPlace) -> str:
    """Two processes on one audit."""
    Library(place).create("both", DEMOS[0].facts(), NOW)
    begun = time.perf_counter()
    writers = [multiprocessing.Process(target=_write, args=(place, who, INTERLEAVED // 2)) for who in ("Ada", "Bo")]
    for each in writers:
        each.start()
    for each in writers:
        each.join()
    spent = time.perf_counter() - begun
    entries = Library(place).journal("both").entries()
    notes = [note.text for note in fold_audit("both", entries).notes]
    wanted = {f"{who}/{number}" for who in ("Ada", "Bo") for number in range(INTERLEAVED // 2)}
    turns = sum(one.writer != other.writer for one, other in pairwise(entries))
    whole = "none lost, none twice, chain whole" if len(notes) == len(wanted) and set(notes) == wanted else "WRONG"
    return f"{INTERLEAVED} appends of two writers in {spent:.0f} s, {turns} turns between them: {whole}"


def copy_and_check(place: LibraryPlace, folder: Path, audits: int) -> None:
    source, target = Library(folder / "source"), Library(place)
    for number in range(audits):
        source.create(f"A{number}", DEMOS[number % len(DEMOS)].facts(), NOW)
    begun = time.perf_counter()
    entries = sum(step.entries for step in copy_library(source, target))
    copied = time.perf_counter()
    assert [step for step in copy_library(source, target) if step.entries] == []
    again = time.perf_counter()
    problems = [step for step in check_library(target) if step.problems]
    checked = time.perf_counter()
    print(f"{audits} audits with {entries} entries copied and compared in {copied - begun:.0f} s, "
          f"once more with nothing to do in {again - copied:.1f} s, "
          f"checked in {checked - again:.0f} s: {len(problems)} problems")  # fmt: skip


def main() -> None:
    audits = int(sys.argv[1]) if len(sys.argv) > 1 else AUDITS
    folder = Path(tempfile.mkdtemp(prefix="auditra-team-"))
    os.chmod(folder, 0o755)
    try:
        with running_server(folder) as server:
            _measure(server, folder, audits)
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def _measure(server: TeamServer, folder: Path, audits: int) -> None:
    database = server.new_database()
    place, url = server.place(database), server.url(database)
    appends_a_second(place)
    pairs = take_pairs(lambda: bare_appends_a_second(url), lambda: appends_a_second(place), PAIRS)
    print(pairs.told("appends to a team's journal", "a second", aim=">= 0.5 of the bare driver"))
    print(write_interleaved(server.place(server.new_database())))
    copy_and_check(server.place(server.new_database()), folder, audits)


if __name__ == "__main__":
    main()
