"""The judgement: a pure function of an audit. Nothing is judged anywhere else."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from auditra.core.audit.audit import Audit, TrialRecord
from auditra.core.audit.claim import Claim
from auditra.core.audit.reading import Count
from auditra.core.audit.trial import Outcome, Procedure
from auditra.core.audit.verdict import Part, Verdict
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.findings import Finding, find_unstated
from auditra.core.judge.profile import Profile
from auditra.core.judge.rules import CONTENT, as_credit, works
from auditra.core.judge.score import Score, score_claims
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet, run_sheet_of, still_to_do

_LEAST_TO_WORST = (
    Verdict.HOLDS, Verdict.HOLDS_IF, Verdict.OPEN, Verdict.UNPROVEN, Verdict.TOO_CLOSE, Verdict.SHORT, Verdict.BROKEN,
)  # fmt: skip
_TRIALS_THAT_SEPARATE = 2
"""How often each side of a condition must be seen before it is named."""

_SET_ASIDE = (Outcome.STOPPED, Outcome.FAILED)
"""Trials that the reviewer broke off, or that an instrument spoiled, accuse nobody."""

Conditions = tuple[str, ...]


@dataclass(frozen=True)
class SetUpVerdict:
    """What one set-up showed of a claim: all its trials together. `beside` says what else ran."""

    beside: Conditions
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
    why: str
    set_ups: tuple[SetUpVerdict, ...]
    lowest: Decimal
    highest: Decimal
    condition: str = ""

    @property
    def share_shown(self) -> Decimal:
        """How much of the promise has been shown so far, 0 to 1: the credit of its set-ups, untried ones as 0."""
        credits = [each.credit or Decimal(0) for each in self.set_ups]
        return sum(credits, Decimal(0)) / len(credits) if credits else Decimal(0)

    @property
    def credit(self) -> Decimal | None:
        """What it earns, 0 to 1; None while undecided."""
        return self.highest if self.verdict.decided else None


@dataclass(frozen=True)
class Judgement:
    """All that can be said of an audit as it stands."""

    claims: tuple[ClaimVerdict, ...]
    unstated: tuple[Finding, ...]
    score: Score
    sheet: RunSheet
    to_do: tuple[PlannedTrial, ...]

    @property
    def decided(self) -> int:
        return sum(each.verdict.decided for each in self.claims)

    def of_port(self, port: str) -> tuple[ClaimVerdict, ...]:
        return tuple(each for each in self.claims if each.claim.port == port)

    def worst_of_port(self, port: str) -> Verdict | None:
        """The verdict that a port is shown with; None where nothing is promised of it."""
        verdicts = [each.verdict for each in self.of_port(port)]
        return max(verdicts, key=_LEAST_TO_WORST.index, default=None)

    def of_claim(self, claim_id: str) -> ClaimVerdict | None:
        return next((each for each in self.claims if each.claim.id == claim_id), None)


def judge(audit: Audit, profile: Profile) -> Judgement:
    """The judgement of an audit's facts under a score profile."""
    sheet = run_sheet_of(audit)
    counted = tuple(record for record in audit.trials if record.outcome not in _SET_ASIDE)
    verdicts = tuple(judge_claim(claim, counted, sheet) for claim in audit.claims)
    unstated = find_unstated(audit)
    score = score_claims(
        [(each.claim, each.verdict, each.lowest, each.highest) for each in verdicts],
        unstated,
        profile,
        _danger(verdicts),
    )
    return Judgement(verdicts, unstated, score, sheet, still_to_do(sheet, audit.trials))


def _danger(verdicts: Iterable[ClaimVerdict]) -> str:
    """What caps the score: other bytes came back than were written, though the gear is sound; empty for nothing."""
    for each in verdicts:
        for part in (part for set_up in each.set_ups for part in set_up.parts):
            if part.name == CONTENT and part.verdict is Verdict.BROKEN:
                return f"{each.claim.port} hands back other bytes than it was given: {part.shown}"
    return ""


def judge_claim(claim: Claim, records: Iterable[TrialRecord], sheet: RunSheet) -> ClaimVerdict:
    """The verdict on one claim from all trials that bear on it."""
    records = tuple(records)
    owed = dict.fromkeys(sheet.conditions_of(claim.id), ())
    by_conditions: dict[Conditions, tuple[TrialRecord, ...]] = dict(owed)
    for record in records:
        if claim.id in record.trial.claims and record.trial.port is not None:
            beside = record.trial.setup.running
            by_conditions[beside] = (*by_conditions.get(beside, ()), record)
    set_ups = tuple(_judge_set_up(claim, beside, of, records) for beside, of in by_conditions.items())
    if not any(each.trials for each in set_ups):
        return _untried(claim, set_ups, sheet)
    return _combine(claim, set_ups, frozenset(owed))


def _untried(claim: Claim, set_ups: tuple[SetUpVerdict, ...], sheet: RunSheet) -> ClaimVerdict:
    lacking = sheet.beyond_rig.get(claim.id)
    verdict = Verdict.UNPROVEN if lacking else Verdict.OPEN
    shown = "this rig cannot show it" if lacking else "not tried"
    return ClaimVerdict(claim, verdict, shown, lacking or "", set_ups, Decimal(0), Decimal(1))


def _judge_set_up(
    claim: Claim, beside: Conditions, records: tuple[TrialRecord, ...], every: tuple[TrialRecord, ...]
) -> SetUpVerdict:
    """Every trial decides by itself; the worst that was clearly shown counts, so a repeat cannot hide a failure."""
    names = tuple(record.trial.id for record in records)
    decisions = [_decide_trial(claim, record, every) for record in records]
    appearance = _appearance(claim, records, every)
    failing = [each for each in decisions if _worst(each).accuses]
    holding = [each for each in decisions if _worst(each) is Verdict.HOLDS]
    if appearance is not None and appearance.verdict.decided:
        failing.append((appearance,))
    if failing:
        parts = min(failing, key=_credit)
        return SetUpVerdict(beside, _worst(parts), parts, _credit(parts), names)
    if holding:
        return SetUpVerdict(beside, Verdict.HOLDS, holding[-1], Decimal(1), names)
    if appearance is not None:
        return SetUpVerdict(beside, appearance.verdict, (appearance,), None, names)
    parts = decisions[-1] if decisions else ()
    return SetUpVerdict(beside, _worst(parts), parts, None, names)


def _decide_trial(claim: Claim, record: TrialRecord, every: tuple[TrialRecord, ...]) -> tuple[Part, ...]:
    taken = Evidence(tuple(r for r in record.readings if r.at == claim.port))
    direct = _direct_evidence(record, every)
    if claim.promise.procedure is Procedure.APPEARANCE:
        taken = _pooled(record, every)
    return claim.promise.decide(taken, direct)


def _pooled(record: TrialRecord, every: tuple[TrialRecord, ...]) -> Evidence:
    """The readings of every repeat of a trial: tries are counted together."""
    same = (each for each in every if each.trial.key == record.trial.key)
    return Evidence(tuple(reading for each in same for reading in each.readings))


def _direct_evidence(record: TrialRecord, every: tuple[TrialRecord, ...]) -> Evidence:
    """What the same gear gave on the same host without the device."""
    return Evidence(
        tuple(
            reading
            for each in every
            if each.trial.port is None
            and each.trial.gear == record.trial.gear
            and each.trial.setup.host == record.trial.setup.host
            for reading in each.readings
        )
    )


def _appearance(claim: Claim, records: tuple[TrialRecord, ...], every: tuple[TrialRecord, ...]) -> Part | None:
    """Whether the gear appears through the device as it does direct; None where nothing speaks against it."""
    if not records or claim.promise.procedure is Procedure.APPEARANCE:
        return None
    counts = [Evidence(record.readings).count() for record in records]
    taken = Count(sum(each.seen for each in counts), sum(each.tries for each in counts))
    return works("appears", taken, _direct_evidence(records[0], every).count())


def _worst(parts: Iterable[Part]) -> Verdict:
    """The weakest part names the verdict; a failure stands even while other parts are still open."""
    verdicts = [part.verdict for part in parts]
    return max(verdicts, key=_LEAST_TO_WORST.index, default=Verdict.OPEN)


def _credit(parts: Iterable[Part]) -> Decimal:
    return min((part.credit for part in parts if part.credit is not None), default=Decimal(0))


def _combine(claim: Claim, set_ups: tuple[SetUpVerdict, ...], owed: frozenset[Conditions]) -> ClaimVerdict:
    """One verdict from the set-ups: it holds only if it holds in all that it covers."""
    worst = max((each.verdict for each in set_ups), key=_LEAST_TO_WORST.index)
    holding = [each for each in set_ups if each.verdict is Verdict.HOLDS]
    failing = [each for each in set_ups if each.verdict.accuses]
    tells = failing[0] if failing else next((each for each in set_ups if each.verdict is worst), set_ups[0])
    lowest, highest = _bounds(set_ups, owed)
    condition = _condition(holding, failing, set_ups)
    verdict = worst
    if condition:
        verdict, lowest, highest = Verdict.HOLDS_IF, *(2 * (_share_left(set_ups),))
    elif failing and holding:
        verdict = Verdict.SHORT
    shown, why = _in_words(tells, holding)
    return ClaimVerdict(claim, verdict, shown, why, set_ups, *_open_bounds(verdict, lowest, highest), condition)


def _open_bounds(verdict: Verdict, lowest: Decimal, highest: Decimal) -> tuple[Decimal, Decimal]:
    """An undecided claim may still turn out as anything up to what its set-ups leave it."""
    return (lowest, highest) if verdict.decided else (Decimal(0), highest)


def _bounds(set_ups: tuple[SetUpVerdict, ...], owed: frozenset[Conditions]) -> tuple[Decimal, Decimal]:
    """The least and most credit: a set-up not decided yet counts as 0 and as 1.

    Set-ups that nobody asked for can only take away, so that no failing trial ever raises a credit.
    """
    asked = [each for each in set_ups if each.beside in owed] or list(set_ups)
    extra = [each.credit for each in set_ups if each not in asked and each.credit is not None]
    lowest = sum((each.credit or Decimal(0) for each in asked), Decimal(0)) / len(asked)
    highest = sum((Decimal(1) if each.credit is None else each.credit for each in asked), Decimal(0)) / len(asked)
    return min(as_credit(float(lowest)), *extra, Decimal(1)), min(as_credit(float(highest)), *extra, Decimal(1))


def _share_left(set_ups: tuple[SetUpVerdict, ...]) -> Decimal:
    return as_credit(sum(each.verdict is Verdict.HOLDS for each in set_ups) / len(set_ups))


def _condition(holding: list[SetUpVerdict], failing: list[SetUpVerdict], set_ups: tuple[SetUpVerdict, ...]) -> str:
    """The one thing running that parts good trials from bad, each side seen more than once; empty where none does."""
    if len(holding) + len(failing) < len(set_ups) or not holding:
        return ""
    if any(len(each.trials) < _TRIALS_THAT_SEPARATE for each in (*holding, *failing)):
        return ""
    for running in sorted({running for each in failing for running in each.beside}):
        always = all(running in each.beside for each in failing)
        if always and not any(running in each.beside for each in holding):
            return f"not while {running}"
    return ""


def _in_words(tells: SetUpVerdict, holding: list[SetUpVerdict]) -> tuple[str, str]:
    beside = f"while {', '.join(tells.beside)}: " if tells.beside else ""
    if not tells.trials and holding:
        return f"{_shown(holding[-1].parts)}; {beside}not tried yet", ""
    shown = _shown(tells.parts) or "not tried"
    arithmetic = "; ".join(f"{part.name}: {part.arithmetic}" for part in tells.parts if part.arithmetic)
    return f"{beside}{shown}" if beside and tells.verdict.accuses else shown, arithmetic


def _shown(parts: tuple[Part, ...]) -> str:
    """The weakest parts first; a part that is fine is told only where all are."""
    worst = _worst(parts)
    told = [part for part in parts if part.verdict is worst]
    return ", ".join(
        part.shown if len(told) == 1 or part.name in part.shown else f"{part.name} {part.shown}" for part in told
    )
