"""The simulated bench made quick, and whole audits run on it."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.journal.admission import Known
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Entry, Fact, RigNoted
from auditra.core.model.depth import Depth
from auditra.core.model.rig import Rig
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.simulate.demo_devices import MODELS
from auditra.core.simulate.model import DeviceModel
from auditra.core.wiring.moves import PlugMove
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Head, Progress
from tests.support.audits import BEGIN, HUB, PROFILE, galley

HONEST = MODELS["Osierpell OP-6"]


class MemoryJournal:
    """A journal in memory, for what is not about storage; it admits what the stored one admits."""

    writer, waiting = "", 0

    def __init__(self, facts: Iterable[Fact]) -> None:
        self.known = Known("test")
        self.kept: list[Entry] = []
        self.evidence: dict[str, bytes] = {}
        self.append(facts, action="made", at=BEGIN)

    def read(self) -> tuple[Audit, Head]:
        return self.known.fold.audit(), Head(len(self.kept), "")

    def has_grown(self, since: Head) -> bool:
        return len(self.kept) > since.entries

    def append(self, facts: Iterable[Fact], *, action: str, at: datetime, after: Head | None = None) -> None:
        for fact in facts:
            assert self.known.problems(fact) == ()
            entry = Entry(len(self.kept) + 1, at, action, fact)
            self.known.take(entry)
            self.kept.append(entry)

    def keep(self, data: bytes) -> str:
        sha256 = hashlib.sha256(data).hexdigest()
        self.evidence[sha256] = data
        return sha256

    def evidence_of(self, sha256: str) -> bytes:
        return self.evidence[sha256]

    def entries(self) -> tuple[Entry, ...]:
        return tuple(self.kept)


class SteppedClock:
    """Time that passes only while somebody waits."""

    def __init__(self) -> None:
        self.passed_s = 0.0

    def now_s(self) -> float:
        return self.passed_s

    def moment(self) -> datetime:
        return BEGIN + timedelta(days=1, seconds=self.passed_s)

    def sleep(self, seconds: float) -> None:
        self.passed_s += seconds


class Onlooker:
    """Sees a trial and says nothing; may have enough of it after so many samples."""

    def __init__(self) -> None:
        self.samples: list[Progress] = []
        self.facts: list[Fact] = []

    def begun(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        self.planned, self.moves = planned, tuple(moves)

    def progress(self, progress: Progress) -> None:
        self.samples.append(progress)

    def taken(self, fact: Fact) -> None:
        self.facts.append(fact)


def session_with(*sentences: str, rig: Rig | None = None) -> AuditSession:
    claims = [ClaimMade(f"claim{n}", sentence) for n, sentence in enumerate(sentences, start=1)]
    return AuditSession("test", MemoryJournal([DeviceNoted(HUB), RigNoted(rig or galley()), *claims]), PROFILE)


def run_all(
    session: AuditSession,
    model: DeviceModel = HONEST,
    *,
    seed: int = 1,
    sockets: bool = False,
    rounds: int = 1,
    depth: Depth = Depth.FULL,
) -> Onlooker:
    """Do the whole run sheet, and go over it again as often as there are rounds."""
    onlooker = Onlooker()
    with open_simulated_bench(session.judged.audit, seed=seed, model=model, over_sockets=sockets) as bench:
        for _ in range(rounds):
            for planned in session.judged.judgement.sheet.down_to(depth):
                session.run(planned, bench, onlooker)
    return onlooker


def run_what_is_left(session: AuditSession, model: DeviceModel | None = None) -> Onlooker:
    """Do what is to be done until nothing is, follow-ups too."""
    onlooker = Onlooker()
    with open_simulated_bench(session.judged.audit, model=model, over_sockets=False) as bench:
        while to_do := session.judged.judgement.to_do:
            session.run(to_do[0], bench, onlooker)
    return onlooker
