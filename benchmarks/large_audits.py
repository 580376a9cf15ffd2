"""What grows with an audit: judging, opening, one note more, taking files in; and a shelf of many audits.

The time of reading the same bytes as plain JSON in the same run stands beside some, since a shared machine's absolute
times say little.
"""

from __future__ import annotations

import json
import tempfile
import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import (
    ClaimMade,
    DeviceNoted,
    Entry,
    Fact,
    NoteWritten,
    ReadingTaken,
    RigNoted,
    TrialBegun,
    TrialEnded,
)
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import Judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.reading import Grade, Number, Quantity, Reading, Trace
from auditra.core.model.rig import Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import Outcome, ProcedureId, Trial
from auditra.store.demos import DEMOS
from auditra.store.exchange import FACTS_FILE, export_audit, read_audit
from auditra.store.library import Library
from auditra.store.profiles import load_profile
from auditra.workflows.audits.audit_session import AuditSession

CLAIMS, TRIALS, DIRECT, AUDITS, LINES = 200, 2_000, 5, 1_000, 200_000
NOW = datetime(2026, 3, 2, tzinfo=UTC)
QUANTITIES = (Quantity.LINK, Quantity.WRITE, Quantity.READ, Quantity.WRONG_BYTES, Quantity.CASE_TEMPERATURE)
VALUES = (5e9, 3.6e9, 3.7e9, 0.0, 31.0)
TRACE = Trace(tuple(n / 4 for n in range(40)), tuple(3.6e9 + n * 1e5 / 3 for n in range(40)))


def beginning() -> list[Fact]:
    """A dock of 200 sockets, a claim each."""
    rig = next(fact.rig for fact in DEMOS[0].facts() if isinstance(fact, RigNoted))
    rig = Rig(rig.name, rig.hosts, drives=rig.drives, leads=rig.leads)
    ports = tuple(Port(f"A{n}", "usb-a") for n in range(1, CLAIMS + 1))
    device = Device("Bench", "B-200", "dock", (Face("front", (*ports, Port("UP", "usb-c plug", Role.UPSTREAM))),))
    claims = [ClaimMade(f"claim{n}", f"A{n} data 5 Gb/s") for n in range(1, CLAIMS + 1)]
    return [DeviceNoted(device), RigNoted(rig), *claims]


def trial(number: int, *, direct: bool = False) -> Trial:
    """A storage trial of the sockets in turn, or of the drive without the device."""
    socket = (number - 1) % CLAIMS + 1
    if direct:
        setup = SetUp("laptop", "C1", (Plugged("laptop", "C1", "fast-ssd", "CC-1"),))
        return Trial(f"T{number}", ProcedureId.STORAGE, (), setup, "fast-ssd", None)
    plugged = Plugged("laptop", "C1", "device"), Plugged("device", f"A{socket}", "fast-ssd", "AC-1")
    setup = SetUp("laptop", "C1", plugged)
    return Trial(f"T{number}", ProcedureId.STORAGE, (f"claim{socket}",), setup, "fast-ssd", f"A{socket}")


def readings(of: Trial, trace: Trace | None = None) -> tuple[Reading, ...]:
    at = of.port or "direct"
    return tuple(
        Reading(
            of.id, quantity, at, "engine", Grade.MEASURED, Number((value,)), error=value * 1e-3,
            trace=trace if quantity in (Quantity.WRITE, Quantity.READ) else None,
        )
        for quantity, value in zip(QUANTITIES, VALUES, strict=True)
    )  # fmt: skip


def facts(trace: Trace | None = TRACE) -> Iterator[tuple[Fact, str]]:
    """The facts of such an audit without an end, each with its action; every hundredth trial is a direct one."""
    yield from ((fact, "made") for fact in beginning())
    number = 0
    while True:
        number += 1
        begun = trial(number, direct=number % 100 == 0)
        yield TrialBegun(begun), begun.id
        yield from ((ReadingTaken(reading), begun.id) for reading in readings(begun, trace))
        yield TrialEnded(begun.id, Outcome.COMPLETE), begun.id


def entries(count: int, trace: Trace | None = TRACE) -> list[Entry]:
    made = zip(range(1, count + 1), facts(trace), strict=False)
    return [Entry(number, NOW, action, fact) for number, (fact, action) in made]


def record(of: Trial) -> TrialRecord:
    return TrialRecord(of, readings(of), Outcome.COMPLETE)


def milliseconds(do: Callable[[], Any]) -> float:
    begun = time.perf_counter()
    do()
    return (time.perf_counter() - begun) * 1e3


def judging() -> None:
    """All of it, and then after one reading more."""
    empty = fold_audit("B-200", entries(CLAIMS + 2))
    trials = [record(trial(n)) for n in range(1, TRIALS + 1)]
    trials += [record(trial(TRIALS + n, direct=True)) for n in range(1, DIRECT + 1)]
    full: Audit = replace(empty, trials=tuple(trials))
    more = replace(full, trials=(*full.trials, record(trial(TRIALS + DIRECT + 1))))
    profile = load_profile()
    first: list[float] = []
    next_one: list[float] = []
    for _ in range(5):
        judge = Judge(profile)
        first.append(milliseconds(lambda judge=judge: judge.judge(full)))  # type: ignore[misc]
        next_one.append(milliseconds(lambda judge=judge: judge.judge(more)))  # type: ignore[misc]
    print(f"judging {CLAIMS} claims with {TRIALS * 5} readings: {sorted(first)[2]:.0f} ms (goal 150); "
          f"after one trial more: {sorted(next_one)[2]:.1f} ms (at most 30)")  # fmt: skip


def journal(folder: Path, count: int) -> None:
    """Opening an audit of so many entries, and a note in it."""
    library = Library(folder / f"library-{count}")
    library.restore("B-200", kept := entries(count))
    export_audit("B-200", kept[:count], folder / f"out-{count}")
    lines = (folder / f"out-{count}" / FACTS_FILE).read_bytes().splitlines()
    plain = milliseconds(lambda: [json.loads(line) for line in lines])
    profile = load_profile()
    handle = milliseconds(lambda: AuditSession("B-200", library.journal("B-200"), profile))
    session = AuditSession("B-200", library.journal("B-200"), profile)
    notes = sorted(
        milliseconds(lambda n=n: session.write(lambda _: (NoteWritten(f"note {n}"),), "note", SystemClock()))  # type: ignore[misc]
        for n in range(20)
    )
    print(f"journal of {count} entries: opened in {handle:.0f} ms ({handle / plain:.1f} times its JSON); "
          f"a note {notes[10]:.1f} ms, worst {notes[-1]:.1f} (at most 20 at 5000)")  # fmt: skip
    library.close()


def taking_in(folder: Path) -> None:
    """A file of 200,000 facts."""
    export_audit("B-200", entries(LINES - 1, None), folder / "out")
    lines = (folder / "out" / FACTS_FILE).read_bytes().splitlines()
    plain = milliseconds(lambda: [json.loads(line) for line in lines])
    library = Library(folder / "imported")
    spent = milliseconds(lambda: library.restore("B-200", read_audit(folder / "out", NOW).entries))
    print(f"import of {len(lines)} lines: {spent / 1e3:.1f} s ({spent / plain:.1f} times its JSON; goal 10 s)")


def shelf(folder: Path) -> None:
    """A thousand audits that were never judged."""
    handle = LibraryHandle(folder / "shelf")
    for number in range(AUDITS):
        handle.library.create(f"OP-6 no {number}", DEMOS[0].facts(), DEMOS[0].made_at)
    begun, first = time.perf_counter(), 0.0
    for _ in handle.shelf.each_row():
        first = first or time.perf_counter() - begun
    print(f"shelf of {AUDITS} audits without a cache: first row {first * 1e3:.0f} ms, "
          f"all {time.perf_counter() - begun:.1f} s (goal 3 s)")  # fmt: skip


def main() -> None:
    judging()
    with tempfile.TemporaryDirectory(dir=".") as name:
        for count in (5_000, 50_000):
            journal(Path(name), count)
        shelf(Path(name))
        taking_in(Path(name))


if __name__ == "__main__":
    main()
