"""One verdict on a claim from all set-ups that it was tried under."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import Hedge
from auditra.core.decide.circumstance_text import circumstance_text, setup_text
from auditra.core.decide.counts import APPEARS, MIN_TRIES_THAT_ACCUSE
from auditra.core.decide.rules import as_credit
from auditra.core.judge.claim_verdict import LEAST_TO_WORST, ClaimVerdict, SetUpVerdict, worst_of
from auditra.core.judge.conditions import is_host
from auditra.core.judge.records import Records
from auditra.core.judge.separation import covering, separating
from auditra.core.judge.set_ups import SetUpJudging
from auditra.core.judge.unit_guard import Question
from auditra.core.model.circumstance import AtPort, Circumstance, Circumstances, Either
from auditra.core.model.device import Device
from auditra.core.model.rig import Rig
from auditra.core.model.verdict import Part, Verdict
from auditra.core.plan.run_sheet import RunSheet

_NOTHING, _ALL = Decimal(0), Decimal(1)
Kind = frozenset[Circumstance]
"""What run sheets vary of a set-up."""
TIMES_THAT_SEPARATE = 2
"""How often each side of a condition must be seen before it is named."""


@dataclass(frozen=True)
class Judged:
    """A verdict, and whether it depends on trials beside the claim's own."""

    verdict: ClaimVerdict
    looked_around: bool


def judge_claim(
    claim: Claim, records: Records, sheet: RunSheet, device: Device, questions: Sequence[Question] = ()
) -> Judged:
    """The verdict on one claim from all trials that bear on it."""
    judging = SetUpJudging(claim, records, device)
    tried = judging.set_ups()
    aside = tuple(records.asides_of(claim.id))
    if all(map(_is_no_promise, tried)):
        untried = _untried(claim, sheet)
        return Judged(replace(untried, set_ups=(*tried, *untried.set_ups), set_aside=aside), judging.looked_around)
    weighing = _Weighing(claim, records.rig, sheet, tried)
    readings = [reading for trial in records.bearing_on(claim.id) for reading in trial.taken.at(*claim.ports)]
    verdict = replace(
        weighing.verdict(), rests_on=tuple(readings), comparisons=tuple(judging.comparisons.values()), set_aside=aside
    )
    return Judged(_held_back(verdict, questions), judging.looked_around)


def _untried(claim: Claim, sheet: RunSheet) -> ClaimVerdict:
    lacking = sheet.beyond_rig.get(claim.id)
    verdict = Verdict.UNPROVEN if lacking else Verdict.OPEN
    shown = "this rig cannot show it" if lacking else "not tried"
    set_ups = tuple(_not_yet(beside) for beside in dict.fromkeys(sheet.circumstances_of(claim)))
    not_tried = tuple(each.text for each in set_ups)
    sums = (lacking,) if lacking else ()
    return ClaimVerdict(claim, verdict, shown, sums, set_ups, Decimal(0), Decimal(1), not_tried=not_tried)


def _not_yet(beside: Circumstances) -> SetUpVerdict:
    return SetUpVerdict(beside, Verdict.OPEN, (), None, (), varied=beside)


def _held_back(verdict: ClaimVerdict, questions: Sequence[Question]) -> ClaimVerdict:
    """A question that is open holds the verdict back until somebody has answered it."""
    if not questions:
        return verdict
    words = tuple(f"question open on {each.trial}: {each.words}" for each in questions)
    highest = max(verdict.highest, Decimal(0)) if not verdict.verdict.accuses else Decimal(1)
    return replace(
        verdict, verdict=Verdict.UNPROVEN, shown=f"{verdict.shown}, with a question open", sums=words,
        lowest=Decimal(0), highest=highest, unless=(),
    )  # fmt: skip


def times_that_separate(failing: Iterable[SetUpVerdict]) -> int:
    """How often either side must have been seen: what does not come up three times, and did twice, may be chance."""
    of_counts = any(part.verdict.accuses and part.name == APPEARS for each in failing for part in each.parts)
    return MIN_TRIES_THAT_ACCUSE if of_counts else TIMES_THAT_SEPARATE


@dataclass(frozen=True)
class _Weighing:
    """A claim's set-ups, beside what its run sheet asks for."""

    claim: Claim
    rig: Rig
    sheet: RunSheet
    tried: tuple[SetUpVerdict, ...]

    def verdict(self) -> ClaimVerdict:
        """One verdict: it holds where its plain promise was shown and nothing tried contradicts it."""
        counted = self._counted
        holding = [each for each in counted if each.verdict is Verdict.HOLDS and each.meets_conditions]
        failing = [each for each in counted if each.verdict.accuses]
        missing = self._missing(holding)
        owed = tuple(_not_yet(beside) for beside in self._owed if not self._is_covered(beside, self.tried))
        every = (*counted, *(each for each in self.tried if _is_no_promise(each)), *owed)
        lowest, highest = self._bounds(counted)
        unless = self._unless(holding, failing)
        verdict = self._decided(counted, holding, failing, missing)
        if unless:
            verdict, lowest = Verdict.HOLDS_IF, highest
        elif verdict is Verdict.HOLDS:
            highest = Decimal(1)
        if not verdict.decided:
            lowest = Decimal(0)
        shown, sums = self._in_words(verdict, counted, holding, failing, missing)
        beside = (each for each in self.sheet.unpromised_for(self.claim) if not self._is_covered(each, self.tried))
        not_tried = (*missing, *(each.text for each in owed), *self._gaps(holding), *map(setup_text, beside))
        return ClaimVerdict(
            self.claim, verdict, shown, sums, every, lowest, highest, unless,
            not_tried=tuple(dict.fromkeys(not_tried)) if not unless else (),
        )  # fmt: skip

    @property
    def _counted(self) -> tuple[SetUpVerdict, ...]:
        """What is promised "up to" is judged under the best set-up; what was never promised counts where it holds."""
        tried = tuple(each for each in self.tried if not _is_no_promise(each))
        if self.claim.promise.hedge is Hedge.UP_TO:
            best = tuple(each for each in tried if each.verdict is Verdict.HOLDS and each.meets_conditions)
            return best or tried
        return tried

    def _decided(
        self,
        counted: Sequence[SetUpVerdict],
        holding: Sequence[SetUpVerdict],
        failing: Sequence[SetUpVerdict],
        missing: Sequence[str],
    ) -> Verdict:
        """Before any condition is found that separates the good from the bad."""
        if failing and holding:
            times = sum(each.times for each in failing)
            sides = [each.seen for each in failing], [each.seen for each in holding]
            separable = separating(*sides) or covering(*sides)
            return Verdict.UNPROVEN if separable or times < TIMES_THAT_SEPARATE else Verdict.SHORT
        if failing:
            return max((each.verdict for each in failing), key=LEAST_TO_WORST.index)
        if self._contradicted(counted, holding):
            return Verdict.UNPROVEN
        if holding:
            return self._open_or_beyond if missing else Verdict.HOLDS
        return max((each.verdict for each in counted), key=LEAST_TO_WORST.index)

    def _contradicted(self, counted: Sequence[SetUpVerdict], holding: Sequence[SetUpVerdict]) -> bool:
        """Something tried falls below the promise, or misses, and the cause is not known yet."""
        return bool(holding) and any(
            part.low for each in counted if each.verdict in (Verdict.UNPROVEN, Verdict.TOO_CLOSE) for part in each.parts
            if each.meets_conditions
        )  # fmt: skip

    @property
    def _open_or_beyond(self) -> Verdict:
        return Verdict.UNPROVEN if self._unreachable_hosts else Verdict.OPEN

    # what the promise itself asks for

    def _missing(self, holding: Sequence[SetUpVerdict]) -> tuple[str, ...]:
        """What the plain promise names and no set-up showed yet: a port of the group, a host of several."""
        shown = {each for set_up in holding for each in set_up.varied}
        ports = [AtPort(port) for port in self.claim.ports] if self._is_tried_port_by_port else []
        left = [circumstance_text(port) for port in ports if port not in shown]
        return (*left, *(f"on {name}" for name in self._hosts_left(holding)))

    @property
    def _is_tried_port_by_port(self) -> bool:
        return any(isinstance(each, AtPort) for set_up in self.tried for each in set_up.varied)

    def _hosts_left(self, holding: Sequence[SetUpVerdict]) -> Iterator[str]:
        for name in self.claim.promise.hosts_named:
            if not any(is_host(self.rig, host, name) for set_up in holding for host in set_up.hosts):
                yield name

    @property
    def _unreachable_hosts(self) -> tuple[str, ...]:
        named = self.claim.promise.hosts_named
        return tuple(name for name in named if not any(is_host(self.rig, host.id, name) for host in self.rig.hosts))

    def _gaps(self, holding: Sequence[SetUpVerdict]) -> Iterator[str]:
        """Directions that were measured in no good set-up."""
        measured = {part.name for each in holding for part in each.parts if not part.gap}
        for part in (part for each in holding for part in each.parts if part.gap and part.name not in measured):
            yield part.name

    # what the run sheet asks for besides

    @property
    def _owed(self) -> tuple[Circumstances, ...]:
        return tuple(dict.fromkeys(self.sheet.circumstances_of(self.claim)))

    def _is_covered(self, beside: Circumstances, tried: Iterable[SetUpVerdict]) -> bool:
        """What was decided under more load counts for less; what failed there, or is undecided, only for itself."""
        return any(
            set(beside) == set(each.varied)
            or (each.verdict is Verdict.HOLDS and each.meets_conditions and set(beside) <= set(each.varied))
            for each in tried
        )

    def _bounds(self, tried: Sequence[SetUpVerdict]) -> tuple[Decimal, Decimal]:
        """The least and most credit: a set-up not decided yet counts as 0 and as 1, but never as more than one with
        less to do got, and one that was shown with more to do as shown.

        Set-ups beyond the run sheet can only reduce it, so that no failing trial ever raises a credit.
        """
        least: dict[Kind, Decimal] = {}
        most: dict[Kind, Decimal] = {}
        for each in tried:
            kind = frozenset(each.varied)
            least[kind] = min(least.get(kind, _ALL), each.credit or _NOTHING)
            most[kind] = min(most.get(kind, _ALL), _ALL if each.credit is None else each.credit)
        asked = list(dict.fromkeys(map(frozenset, self._owed))) or list(most)
        caps = {kind: min((got for less, got in most.items() if less <= kind), default=_ALL) for kind in asked}
        lows = [
            min(caps[kind], least.get(kind, _ALL if self._is_covered(tuple(kind), tried) else _NOTHING))
            for kind in asked
        ]  # fmt: skip
        beyond = [got for kind, got in most.items() if kind not in caps]
        return _mean(lows, beyond), _mean(list(caps.values()), beyond)

    def _unless(self, holding: Sequence[SetUpVerdict], failing: Sequence[SetUpVerdict]) -> Circumstances:
        """What separates passing trials from failing ones, each side seen more than once.

        Empty where nothing does, where two could, or where a trial that is on offer would show it by itself.
        """
        least = times_that_separate(failing)
        if any(sum(each.times for each in side) < least for side in (holding, failing)):
            return ()
        sides = [each.seen for each in failing], [each.seen for each in holding]
        found = separating(*sides)
        if not found and (each := covering(*sides)):
            return (Either(each),)
        offered = {frozenset(each) for each in self.sheet.circumstances_of(self.claim, in_reserve=True)}
        untried = offered - {frozenset(each.varied) for each in self.tried}
        return found[0] if len(found) == 1 and frozenset(found[0]) not in untried else ()

    # words

    def _in_words(
        self,
        verdict: Verdict,
        counted: Sequence[SetUpVerdict],
        holding: Sequence[SetUpVerdict],
        failing: Sequence[SetUpVerdict],
        missing: Sequence[str],
    ) -> tuple[str, tuple[str, ...]]:
        plainest = min(failing, key=lambda each: len(each.beside), default=None)
        if plainest is None and holding and verdict in (Verdict.HOLDS, Verdict.OPEN):
            plainest = min(holding, key=lambda each: len(each.beside))
        if plainest is None and holding and verdict is Verdict.UNPROVEN:
            plainest = next((each for each in counted if any(part.low for part in each.parts)), None)
        worst = max((each.verdict for each in counted), key=LEAST_TO_WORST.index)
        tells = plainest or next(each for each in counted if each.verdict is worst)
        shown = shown_text(tells.parts) or "not tried"
        if missing:
            shown = f"{shown}; not shown {' or '.join(missing)}"
        sums = tuple(f"{part.name}: {part.arithmetic}" for part in tells.parts if part.arithmetic)
        beside = setup_text(tells.beside)
        return f"{beside}: {shown}" if beside and tells.verdict.accuses else shown, sums


def _is_no_promise(each: SetUpVerdict) -> bool:
    """It was tried where it was never promised, and did not hold there."""
    return each.unpromised and each.verdict is not Verdict.HOLDS


def _mean(credits: Sequence[Decimal], beyond: Sequence[Decimal]) -> Decimal:
    """The mean; what lies beyond the sheet counts with it where it is lower."""
    mean = sum(credits, _NOTHING) / len(credits) if credits else _ALL
    every = [*credits, *(min(each, mean) for each in beyond)]
    return as_credit(float(sum(every, _NOTHING) / len(every))) if every else _ALL


def shown_text(parts: Iterable[Part]) -> str:
    """The weakest parts first; a part that is fine is reported only where all are."""
    counted = [part for part in parts if not part.gap]
    worst = worst_of(counted)
    named = [part for part in counted if part.verdict is worst]
    return ", ".join(
        part.shown if len(named) == 1 or part.name in part.shown else f"{part.name} {part.shown}" for part in named
    )
