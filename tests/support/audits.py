"""Audits made by hand: a small device, a rig that proves everything about it, trials and readings put together."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from functools import cache

from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import (
    ClaimMade,
    DeviceNoted,
    Entry,
    Fact,
    ReadingTaken,
    RigNoted,
    TrialBegun,
    TrialEnded,
)
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import Judgement, judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.profile import Profile
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading
from auditra.core.model.rig import Rig
from auditra.core.model.trial import Outcome
from auditra.core.plan.planner import plan_run_sheet
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.store.demos import DEMOS
from auditra.workflows.trials.run import trial_of

BEGIN = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
PROFILE = Profile(
    "test", {"data": Decimal(5), "links": Decimal(5), "shows": Decimal(7), "takes": Decimal(4)}, Decimal(1)
)
HUB = Device(
    "Osierpell", "OP-6", "pocket hub",
    (
        Face("left", (Port("A1", "usb-a"), Port("A2", "usb-a"), Port("S1", "sd"))),
        Face("right", (Port("N1", "rj45"), Port("H1", "hdmi"), Port("P1", "usb-c", Role.INLET))),
        Face("tail", (Port("UP", "usb-c plug", Role.UPSTREAM),)),
    ),
)  # fmt: skip


@cache
def galley() -> Rig:
    """The rig of the demo."""
    return next(fact.rig for fact in DEMOS[0].facts() if isinstance(fact, RigNoted))


def entries(facts: Iterable[Fact], action: str = "made") -> list[Entry]:
    return [
        Entry(number, BEGIN + timedelta(seconds=number), action, fact) for number, fact in enumerate(facts, start=1)
    ]


def audit_of(*sentences: str, device: Device = HUB, rig: Rig | None = None) -> Audit:
    """An audit of these claims, with no trial yet."""
    claims = [ClaimMade(f"claim{n}", sentence) for n, sentence in enumerate(sentences, start=1)]
    return fold_audit("test", entries([DeviceNoted(device), RigNoted(rig or galley()), *claims]))


def planned(audit: Audit, key: str) -> PlannedTrial:
    """The planned trial that has this key, else the first whose key begins so."""
    sheet = plan_run_sheet(audit.device, audit.rig, audit.claims, audit.depth)
    every = (*sheet.trials, *sheet.reserve)
    exact = next((trial for trial in every if trial.key == key), None)
    return exact or next(trial for trial in every if trial.key.startswith(key))


def with_trial(audit: Audit, key: str, *readings: Reading, outcome: Outcome | None = Outcome.COMPLETE) -> Audit:
    """The audit after one more trial."""
    trial = trial_of(planned(audit, key), audit, "simulated bench")
    taken = tuple(replace(reading, trial=trial.id) for reading in readings)
    record = TrialRecord(trial, taken, outcome, action=trial.id)
    return replace(audit, trials=(*audit.trials, record), begun_trials=audit.begun_trials + 1, last_setup=trial.setup)


def facts_of_trial(audit: Audit, key: str, *readings: Reading, outcome: Outcome = Outcome.COMPLETE) -> tuple[Fact, ...]:
    """The facts that such a trial puts into a journal."""
    record = with_trial(audit, key, *readings).trials[-1]
    return TrialBegun(record.trial), *map(ReadingTaken, record.readings), TrialEnded(record.trial.id, outcome)


def number(
    quantity: Quantity, *values: float, at: str = "A1", error: float | None = None, grade: Grade = Grade.MEASURED
) -> Reading:
    """A reading; a single value is sure to a hundredth of a per cent where nothing else is asked for."""
    error = (1e-4 * abs(values[0]) if len(values) == 1 else 0.0) if error is None else error
    return Reading("T", quantity, at, "test", grade, Number(values), error=error)


def rates(at: str, *values_mb: float, link_bps: float = 5e9) -> tuple[Reading, ...]:
    """A storage trial's readings, in MB/s, the same both ways."""
    values = tuple(value * 8e6 for value in values_mb)
    link = number(Quantity.LINK, link_bps, at=at, grade=Grade.READ)
    error = 0.001 * max(values)
    return link, *(number(quantity, *values, at=at, error=error) for quantity in (Quantity.WRITE, Quantity.READ))


def appeared(at: str, seen: int, tries: int, grade: Grade = Grade.READ) -> Reading:
    return Reading("T", Quantity.APPEARED, at, "test", grade, Count(seen, tries))


def judged(audit: Audit) -> Judgement:
    return judge(audit, PROFILE)
