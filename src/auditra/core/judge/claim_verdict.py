"""The verdict on one claim, from every trial that bears on it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from decimal import Decimal

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import Hedge
from auditra.core.decide.circumstance_text import exception_text, setup_text
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.rules import as_credit, works
from auditra.core.journal.fold import TrialRecord
from auditra.core.judge.comparison import Comparison
from auditra.core.judge.records import Records
from auditra.core.judge.separation import separating
from auditra.core.model.circumstance import Circumstances
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.plan.run_sheet import RunSheet, circumstances_for

LEAST_TO_WORST = (
    Verdict.HOLDS, Verdict.HOLDS_IF, Verdict.OPEN, Verdict.UNPROVEN, Verdict.TOO_CLOSE, Verdict.SHORT, Verdict.BROKEN,
)  # fmt: skip
TRIALS_THAT_SEPARATE = 2
"""How often each side of a condition must be seen before it is named."""
SET_ASIDE = (Outcome.STOPPED, Outcome.FAILED)
"""Trials that the reviewer stopped, or that an instrument spoiled, decide nothing."""


@dataclass(frozen=True)
class SetUpVerdict:
    """What one set-up showed of a claim: all its trials together. `beside` says what is special about it."""

    beside: Circumstances
    verdict: Verdict
    parts: tuple[Part, ...]
    credit: Decimal | None
    trials: tuple[str, ...]


@dataclass(frozen=True)
class ClaimVerdict:
    """The verdict on a claim, with the set-ups behind it and the least and most credit it may still get."""

    claim: Claim
    verdict: Verdict
    shown: str
    sums: tuple[str, ...]
    """The arithmetic behind it, or why the rig cannot show it."""
    set_ups: tuple[SetUpVerdict, ...]
    lowest: Decimal
    highest: Decimal
    unless: Circumstances = ()
    """Where it does not hold, though it does elsewhere."""
    rests_on: tuple[Reading, ...] = ()
    """The readings at the claim's port that were looked at, in order."""
    comparisons: tuple[Comparison, ...] = ()

    @property
    def failing(self) -> tuple[SetUpVerdict, ...]:
        """The set-ups that speak against it."""
        return tuple(set_up for set_up in self.set_ups if set_up.verdict.accuses)

    @property
    def why(self) -> str:
        """Its sums on one line."""
        return "; ".join(self.sums)

    @property
    def condition(self) -> str:
        """The same in words; empty for none."""
        return exception_text(self.unless)

    @property
    def share_shown(self) -> Decimal:
        """How much of the promise has been shown so far, 0 to 1: the credit of its set-ups, untried ones as 0."""
        credits = [set_up.credit or Decimal(0) for set_up in self.set_ups]
        return sum(credits, Decimal(0)) / len(credits) if credits else Decimal(0)

    @property
    def credit(self) -> Decimal | None:
        """What it earns, 0 to 1; None while undecided."""
        return self.highest if self.verdict.decided else None


def judge_claim(claim: Claim, records: Records, sheet: RunSheet) -> ClaimVerdict:
    """The verdict on one claim from all trials that bear on it."""
    return _Judging(claim, records).judge(sheet)


def worst_of(parts: Iterable[Part]) -> Verdict:
    """The weakest part names the verdict; a failure stands even while other parts are still open."""
    return max((part.verdict for part in parts), key=LEAST_TO_WORST.index, default=Verdict.OPEN)


@dataclass
class _Judging:
    """One claim with every trial of the audit; what was compared is gathered on the way."""

    claim: Claim
    records: Records
    comparisons: dict[tuple[str, str], Comparison] = field(default_factory=dict)

    def judge(self, sheet: RunSheet) -> ClaimVerdict:
        owed = dict.fromkeys(sheet.circumstances_of(self.claim), ())
        by_circumstances: dict[Circumstances, tuple[TrialRecord, ...]] = dict(owed)
        bearing = self.records.bearing_on(self.claim.id)
        for record in bearing:
            beside = circumstances_for(self.claim, record.trial)
            by_circumstances[beside] = (*by_circumstances.get(beside, ()), record)
        set_ups = tuple(self._judge_set_up(beside, of) for beside, of in by_circumstances.items())
        if self.claim.promise.hedge is Hedge.UP_TO and any(set_up.verdict is Verdict.HOLDS for set_up in set_ups):
            set_ups = tuple(each for each in set_ups if each.verdict is Verdict.HOLDS)
        if not bearing:
            return _untried(self.claim, set_ups, sheet)
        readings = tuple(reading for record in bearing for reading in record.taken.at(*self.claim.ports))
        offered = frozenset(sheet.circumstances_of(self.claim, in_reserve=True))
        combined = _combine(self.claim, set_ups, frozenset(owed), offered)
        return replace(combined, rests_on=readings, comparisons=tuple(self.comparisons.values()))

    def _judge_set_up(self, beside: Circumstances, records: tuple[TrialRecord, ...]) -> SetUpVerdict:
        """Every trial decides by itself; the worst that was clearly shown counts, so a repeat cannot hide a failure."""
        names = tuple(record.trial.id for record in records)
        decisions = [self._decide_trial(record) for record in records]
        appearance = self._appearance(records)
        failing = [each for each in decisions if worst_of(each).accuses]
        holding = [each for each in decisions if worst_of(each) is Verdict.HOLDS]
        if appearance is not None and appearance.verdict.decided:
            failing.append((appearance,))
        if failing:
            parts = min(failing, key=_credit)
            return SetUpVerdict(beside, worst_of(parts), parts, _credit(parts), names)
        if holding:
            return SetUpVerdict(beside, Verdict.HOLDS, holding[-1], Decimal(1), names)
        if appearance is not None:
            return SetUpVerdict(beside, appearance.verdict, (appearance,), None, names)
        parts = decisions[-1] if decisions else ()
        return SetUpVerdict(beside, worst_of(parts), parts, None, names)

    def _decide_trial(self, record: TrialRecord) -> tuple[Part, ...]:
        """The parts of every port of the claim that the trial was of."""
        ports = [port for port in self.claim.ports if record.taken.at(port)]
        parts: list[Part] = []
        for port in ports or [self.claim.port]:
            pools = self.claim.promise.procedure == ProcedureId.APPEARANCE
            taken = self._pooled(record, port) if pools else record.taken.at(port)
            decided = self.claim.promise.decide(taken, self._direct_evidence(record, port))
            parts += [replace(part, name=f"{port} {part.name}") for part in decided] if len(ports) > 1 else decided
        return tuple(parts)

    def _pooled(self, record: TrialRecord, port: str) -> ReadingSet:
        """The readings of every repeat of a trial: tries are counted together."""
        return ReadingSet.joined(repeat.taken.at(port) for repeat in self.records.repeats_of(record))

    def _direct_evidence(self, record: TrialRecord, port: str) -> ReadingSet:
        """What the same gear gave without the device, as far as nothing else differed."""
        gear = record.trial.setup.gear_at(port) or record.trial.gear
        comparable: list[TrialRecord] = []
        for direct, comparison in self.records.compared(self.claim.id, port, record, gear):
            self.comparisons[record.trial.id, direct.trial.id] = comparison
            if not comparison.refusing:
                comparable.append(direct)
        return self.records.readings_of(tuple(comparable))

    def _appearance(self, records: tuple[TrialRecord, ...]) -> Part | None:
        """Whether the gear appears through the device as it does direct; None where nothing speaks against it."""
        if not records or self.claim.promise.procedure == ProcedureId.APPEARANCE:
            return None
        taken = ReadingSet.joined(record.taken.at(*self.claim.ports) for record in records)
        direct = self._direct_evidence(records[0], self.claim.port)
        counts = (readings.of(Quantity.APPEARED).count() for readings in (taken, direct))
        return works("appears", *counts)


def _untried(claim: Claim, set_ups: tuple[SetUpVerdict, ...], sheet: RunSheet) -> ClaimVerdict:
    lacking = sheet.beyond_rig.get(claim.id)
    verdict = Verdict.UNPROVEN if lacking else Verdict.OPEN
    shown = "this rig cannot show it" if lacking else "not tried"
    return ClaimVerdict(claim, verdict, shown, (lacking,) if lacking else (), set_ups, Decimal(0), Decimal(1))


def _credit(parts: Iterable[Part]) -> Decimal:
    return min((part.credit for part in parts if part.credit is not None), default=Decimal(0))


def _combine(
    claim: Claim, set_ups: tuple[SetUpVerdict, ...], owed: frozenset[Circumstances], offered: frozenset[Circumstances]
) -> ClaimVerdict:
    """One verdict from the set-ups: it holds only if it holds in all that it covers."""
    worst = max((each.verdict for each in set_ups), key=LEAST_TO_WORST.index)
    holding = [set_up for set_up in set_ups if set_up.verdict is Verdict.HOLDS]
    failing = [each for each in set_ups if each.verdict.accuses]
    plainest = min(failing, key=lambda each: len(each.beside), default=None)
    tells = plainest or next((each for each in set_ups if each.verdict is worst), set_ups[0])
    lowest, highest = _bounds(set_ups, owed)
    unless = _unless(holding, failing, set_ups, offered)
    verdict = worst
    if unless:
        left = min(lowest, _share_left(set_ups, owed))
        verdict, lowest, highest = Verdict.HOLDS_IF, left, left
    elif failing and holding:
        verdict = Verdict.SHORT
    shown, sums = _in_words(tells, holding)
    lowest, highest = _open_bounds(verdict, lowest, highest)
    return ClaimVerdict(claim, verdict, shown, sums, set_ups, lowest, highest, unless)


def _open_bounds(verdict: Verdict, lowest: Decimal, highest: Decimal) -> tuple[Decimal, Decimal]:
    """An undecided claim may still turn out as anything up to what its set-ups leave it."""
    return (lowest, highest) if verdict.decided else (Decimal(0), highest)


def _asked(set_ups: tuple[SetUpVerdict, ...], owed: frozenset[Circumstances]) -> list[SetUpVerdict]:
    """The set-ups that the run sheet asks for; all, where it asks for none of them."""
    return [set_up for set_up in set_ups if set_up.beside in owed] or list(set_ups)


def _bounds(set_ups: tuple[SetUpVerdict, ...], owed: frozenset[Circumstances]) -> tuple[Decimal, Decimal]:
    """The least and most credit: a set-up not decided yet counts as 0 and as 1.

    Set-ups beyond the run sheet can only reduce it, so that no failing trial ever raises a credit.
    """
    asked = _asked(set_ups, owed)
    extra = [set_up.credit for set_up in set_ups if set_up not in asked and set_up.credit is not None]
    lowest = sum((each.credit or Decimal(0) for each in asked), Decimal(0)) / len(asked)
    highest = sum((Decimal(1) if each.credit is None else each.credit for each in asked), Decimal(0)) / len(asked)
    return min(as_credit(float(lowest)), *extra, Decimal(1)), min(as_credit(float(highest)), *extra, Decimal(1))


def _share_left(set_ups: tuple[SetUpVerdict, ...], owed: frozenset[Circumstances]) -> Decimal:
    asked = _asked(set_ups, owed)
    return as_credit(sum(each.verdict is Verdict.HOLDS for each in asked) / len(asked))


def _unless(
    holding: list[SetUpVerdict],
    failing: list[SetUpVerdict],
    set_ups: tuple[SetUpVerdict, ...],
    offered: frozenset[Circumstances],
) -> Circumstances:
    """What separates passing trials from failing ones, each side seen more than once.

    Empty where nothing does, where two could, or where a trial that is on offer would show it by itself.
    """
    if len(holding) + len(failing) < len(set_ups):
        return ()
    if any(sum(len(each.trials) for each in side) < TRIALS_THAT_SEPARATE for side in (holding, failing)):
        return ()
    found = separating([each.beside for each in failing], [each.beside for each in holding])
    untried = {frozenset(each) for each in offered} - {frozenset(set_up.beside) for set_up in set_ups}
    return found[0] if len(found) == 1 and frozenset(found[0]) not in untried else ()


def _in_words(tells: SetUpVerdict, holding: list[SetUpVerdict]) -> tuple[str, tuple[str, ...]]:
    beside = f"{setup_text(tells.beside)}: " if tells.beside else ""
    if not tells.trials and holding:
        return f"{_shown(holding[-1].parts)}; {beside}not tried yet", ()
    shown = _shown(tells.parts) or "not tried"
    sums = tuple(f"{part.name}: {part.arithmetic}" for part in tells.parts if part.arithmetic)
    return f"{beside}{shown}" if beside and tells.verdict.accuses else shown, sums


def _shown(parts: tuple[Part, ...]) -> str:
    """The weakest parts first; a part that is fine is reported only where all are."""
    worst = worst_of(parts)
    told = [part for part in parts if part.verdict is worst]
    return ", ".join(
        part.shown if len(told) == 1 or part.name in part.shown else f"{part.name} {part.shown}" for part in told
    )
