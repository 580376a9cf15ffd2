"""Judging a large audit, and putting facts into the journal beside the bare rate at which the disk flushes."""

from __future__ import annotations

import os
import tempfile
import time
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Entry, Fact, NoteWritten, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import Judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.rig import Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import Outcome, ProcedureId, Trial
from auditra.store.demos import DEMOS
from auditra.store.library import Library
from auditra.store.place import LibraryPlace
from auditra.store.profiles import load_profile
from auditra.workflows.audits.collecting import without_collecting
from benchmarks.pairs import take_pairs

CLAIMS, REPEATS = 200, 10
READINGS = CLAIMS * REPEATS * 5
APPENDS, AT_ONCE, PAIRS = 300, 3, 9
"""A storage trial records write rate, read rate and wrong bytes together."""
NOW = datetime(2026, 3, 2, tzinfo=UTC)


def large_audit() -> Audit:
    """A device of 200 sockets, a claim each, tried ten times with five readings."""
    rig = next(fact.rig for fact in DEMOS[0].facts() if isinstance(fact, RigNoted))
    rig = Rig(rig.name, rig.hosts, drives=rig.drives, leads=rig.leads)
    ports = tuple(Port(f"A{n}", "usb-a") for n in range(1, CLAIMS + 1))
    device = Device("Bench", "B-200", "dock", (Face("front", (*ports, Port("UP", "usb-c plug", Role.UPSTREAM))),))
    facts: list[Fact] = [DeviceNoted(device), RigNoted(rig)]
    facts += [ClaimMade(f"claim{n}", f"A{n} data 5 Gb/s") for n in range(1, CLAIMS + 1)]
    entries = [Entry(number, NOW, "made", fact) for number, fact in enumerate(facts, start=1)]
    return replace(
        fold_audit("B-200", entries),
        trials=tuple(_trial(n, turn) for turn in range(REPEATS) for n in range(1, CLAIMS + 1)),
    )


def _trial(n: int, turn: int) -> TrialRecord:
    port = f"A{n}"
    setup = SetUp("laptop", "C1", (Plugged("laptop", "C1", "device"), Plugged("device", port, "fast-ssd", "AC-1")))
    trial = Trial(f"T{turn * CLAIMS + n}", ProcedureId.STORAGE, (f"claim{n}",), setup, "fast-ssd", port)
    quantities = (Quantity.LINK, Quantity.WRITE, Quantity.READ, Quantity.WRONG_BYTES, Quantity.CASE_TEMPERATURE)
    values = (5e9,), (3.6e9, 3.61e9, 3.62e9 + turn), (3.7e9, 3.71e9, 3.72e9 + n), (0.0,), (31.0,)
    readings = tuple(
        Reading(trial.id, quantity, port, "engine", Grade.MEASURED, Number(value))
        for quantity, value in zip(quantities, values, strict=True)
    )
    return TrialRecord(trial, readings, Outcome.COMPLETE)


def judging_s(audit: Audit) -> tuple[float, float]:
    """Seconds of processor time to judge it first, and again after one more reading, as the product does both."""
    judge, more = Judge(load_profile()), _with_one_more(audit)
    with without_collecting():
        begun = time.process_time()
        judge.judge(audit)
        first = time.process_time()
        judge.judge(more)
    return first - begun, time.process_time() - first


def _with_one_more(audit: Audit) -> Audit:
    """The same with one more reading of the last trial."""
    *others, last = audit.trials
    return replace(audit, trials=(*others, replace(last, readings=(*last.readings, last.readings[-1]))))


def bare_flushes_a_second(folder: Path) -> float:
    """Writes of a page, each on the disk before the next."""
    file = os.open(folder / "bare", os.O_RDWR | os.O_CREAT, 0o600)
    page = b"x" * 4120
    begun = time.perf_counter()
    for number in range(APPENDS):
        os.pwrite(file, page, number * len(page))
        os.fdatasync(file)
    spent = time.perf_counter() - begun
    os.close(file)
    return APPENDS / spent


def appends_a_second(place: LibraryPlace | Path) -> float:
    """Facts as a storage trial records them: what it learned in one breath at once, then on disk before more comes."""
    library = Library(place)
    name = f"B{time.monotonic_ns()}"
    journal = library.create(name, DEMOS[0].facts(), NOW)
    begun = time.perf_counter()
    for number in range(0, APPENDS, AT_ONCE):
        facts = [NoteWritten(f"note {number + each}") for each in range(AT_ONCE)]
        journal.append(facts, action=f"notes {number}", at=NOW)
    spent = time.perf_counter() - begun
    library.close()
    return APPENDS / spent


def main() -> None:
    audit = large_audit()
    runs = [judging_s(audit) for _ in range(PAIRS)]
    for words, taken in zip(("at first", "after one more reading"), map(sorted, zip(*runs, strict=True)), strict=True):
        print(f"judging {CLAIMS} claims with {READINGS} readings {words}: {taken[len(taken) // 2] * 1e3:.0f} ms "
              f"[{taken[0] * 1e3:.0f} .. {taken[-1] * 1e3:.0f}] of {PAIRS} runs")  # fmt: skip
    with tempfile.TemporaryDirectory(dir=".") as name:
        folder = Path(name)
        place = folder / "library"
        appends_a_second(place)
        pairs = take_pairs(lambda: bare_flushes_a_second(folder), lambda: appends_a_second(place), PAIRS)
    print(pairs.told("journal appends", "a second", aim="the reference is a bare flush a write"))


if __name__ == "__main__":
    main()
