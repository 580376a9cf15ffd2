"""The storage engine beside a minimal C program that does the same on the same disk. ``make bench`` runs it."""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path

from auditra.bench.clock import SystemClock
from auditra.bench.storage import FileTarget
from auditra.core.journal.facts import DeviceNoted, Entry, Fact, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.model.reading import Reading
from auditra.core.plan.planner import plan_run_sheet
from auditra.store.demos import DEMOS
from auditra.workflows.trials.doors import Bench, Links, Progress
from auditra.workflows.trials.measure import storage
from auditra.workflows.trials.measure.rates import RateTrace
from auditra.workflows.trials.measure.session import TrialSession
from benchmarks.pairs import Pairs

MEGABYTES, PAIRS = 1024, 11
NOW = datetime(2026, 3, 2, tzinfo=UTC)
HERE = Path(__file__).resolve().parent


@dataclass
class Run:
    """Megabytes a second: written and flushed, read, and read with every byte compared."""

    write: float
    read: float
    verified: float


def reference(program: Path, folder: Path) -> Run:
    ran = subprocess.run([program, folder / "c.bin", str(MEGABYTES)], capture_output=True, text=True, check=True)
    return Run(*(MEGABYTES * 1.048576 / float(seconds) for seconds in ran.stdout.split()))


@dataclass
class _Kept:
    """Where the engine's readings go, and who looks on."""

    readings: list[Reading] = field(default_factory=list)

    def watch(self, progress: Progress) -> None:
        return None

    def put(self, fact: Fact) -> None:
        return None


def engine(folder: Path, session: TrialSession) -> Run:
    target = FileTarget(folder, MEGABYTES << 20)
    try:
        mover = storage.mover_of(target, session.bench.clock)
        size = MEGABYTES << 20
        traces = [RateTrace(session.bench.clock, session.watch, 0.0) for _ in range(2)]
        write_bps = storage.write_pass(session, mover, size, 1, traces[0])
        begun = time.perf_counter()
        read_bps, wrong = storage.read_pass(session, mover, size, 1, traces[1])
        verified = size / (time.perf_counter() - begun)
        if wrong:
            sys.exit(f"{wrong} wrong bytes")
        return Run(write_bps / 8e6, read_bps / 8e6, verified / 1e6)
    finally:
        target.close()


def a_session() -> TrialSession:
    facts = DEMOS[0].facts()
    device = next(fact.device for fact in facts if isinstance(fact, DeviceNoted))
    rig = next(fact.rig for fact in facts if isinstance(fact, RigNoted))
    claims = fold_audit("b", [Entry(n, NOW, "made", fact) for n, fact in enumerate(facts, 1)]).claims
    kept = _Kept()
    planned = plan_run_sheet(device, rig, claims).trials[0]
    bench = Bench("benchmark", SystemClock(), None, None)  # type: ignore[arg-type]
    return TrialSession(
        "T1", planned, rig, bench, Links(), device, lambda *taken: kept.readings.extend(taken), kept.put, kept.watch
    )


def main() -> None:
    compiler = shutil.which("cc") or shutil.which("gcc")
    if compiler is None:
        print("storage engine: no C compiler is here, so there is nothing to compare it with")
        return
    with tempfile.TemporaryDirectory(dir=".") as name:
        folder = Path(name)
        program = folder / "reference"
        subprocess.run([compiler, "-O2", "-o", program, HERE / "storage_reference.c"], check=True)
        session = a_session()
        engine(folder, session)
        taken = [(reference(program, folder), engine(folder, session)) for _ in range(PAIRS)]
    for what, aim in (("write", "at least 0.95"), ("read", "at least 0.95"), ("verified", "at least 0.95")):
        pairs = Pairs(*(tuple(getattr(side, what) for side in sides) for sides in zip(*taken, strict=True)))
        print(pairs.told(f"storage engine, {what}", "MB/s", aim=aim))


if __name__ == "__main__":
    main()
