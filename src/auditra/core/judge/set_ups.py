"""What one set-up shows of a claim: each of its trials by itself, its counts together."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from decimal import Decimal

from auditra.core.claims.claim import Claim
from auditra.core.decide.counts import appears, each_count
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.judge.claim_verdict import SetUpVerdict, worst_of
from auditra.core.judge.comparison import Comparison
from auditra.core.judge.conditions import unmet_conditions
from auditra.core.judge.records import Counted, Records
from auditra.core.judge.rig_proof import RigProof
from auditra.core.judge.separation import Seen
from auditra.core.model.circumstance import Aspect, AtPort, Circumstance, Circumstances, OnHost, Running, Soaked
from auditra.core.model.device import Device
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Lead
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.plan.run_sheet import circumstances_for

MIN_TRIALS_THAT_OUTVOTE = 2
"""A single trial among others of the very same set-up that say otherwise decides nothing."""


@dataclass
class SetUpJudging:
    """One claim with every trial of the audit. What was compared is gathered on the way."""

    claim: Claim
    records: Records
    device: Device
    comparisons: dict[tuple[str, str], Comparison] = field(default_factory=dict)
    looked_around: bool = False

    def set_ups(self) -> tuple[SetUpVerdict, ...]:
        """The verdict of each set-up that was tried, in the order in which they were tried first."""
        groups: dict[frozenset[Circumstance], list[Counted]] = {}
        seen: dict[frozenset[Circumstance], Seen] = {}
        for trial in self.records.bearing_on(self.claim.id):
            noted = self._seen(trial)
            seen.setdefault(noted.circumstances, noted)
            groups.setdefault(noted.circumstances, []).append(trial)
        common = frozenset.intersection(*seen) if len(seen) > 1 else frozenset[Circumstance]()
        alone = len(seen) == 1
        return tuple(
            self._judge(trials, seen[key], self._beside(trials[0], key - common if not alone else frozenset()))
            for key, trials in groups.items()
        )

    def _seen(self, trial: Counted) -> Seen:
        profile = self.records.profile(trial, self._port_of(trial))
        own = {Running(words) for words in self.claim.own_words}
        circumstances = {each for noted in profile.values() for each in noted} - own
        ports = [each for each in circumstances_for(self.claim, trial.record.trial) if isinstance(each, AtPort)]
        return Seen(frozenset(circumstances | set(ports)), frozenset(profile) | {Aspect.PORT})

    def _port_of(self, trial: Counted) -> str | None:
        """The port of the claim that a trial is of; of several at once, the first of the claim's own."""
        if trial.port in self.claim.ports:
            return trial.port
        return next((port for port in self.claim.ports if trial.setup.gear_at(port) is not None), trial.port)

    def _beside(self, trial: Counted, differing: frozenset[Circumstance]) -> Circumstances:
        """What is special about a set-up: what run sheets vary, then what else differs between the claim's set-ups."""
        varied = self.varied(trial)
        others = sorted(differing - set(varied), key=lambda each: (list(Aspect).index(each.aspect), repr(each)))
        if any(isinstance(each, OnHost) for each in others):
            others = [each for each in others if each.aspect is not Aspect.HOST_SOCKET]
        return (*varied, *(each for each in others if not isinstance(each, Running | Soaked | AtPort)))

    def varied(self, trial: Counted) -> Circumstances:
        """What run sheets vary of its set-up."""
        return circumstances_for(self.claim, trial.record.trial)

    def _judge(self, trials: list[Counted], seen: Seen, beside: Circumstances) -> SetUpVerdict:
        unmet = unmet_conditions(self.claim, trials[0].setup, self.records.rig)
        found = self._weigh(trials, beside)
        found = replace(found, seen=seen, varied=self.varied(trials[0]), meets_conditions=not unmet)
        if not unmet or (found.verdict.accuses and all(each.can_only_add for each in unmet)):
            return found
        why = f"not as promised: {'; '.join(each.text for each in unmet)}"
        parts = tuple(replace(part, verdict=Verdict.UNPROVEN, arithmetic=why, credit=None) for part in found.parts)
        return replace(found, verdict=Verdict.UNPROVEN, parts=parts, credit=None)

    def _weigh(self, trials: list[Counted], beside: Circumstances) -> SetUpVerdict:
        """The worst that was clearly shown counts: no repeat hides it. One trial against others decides nothing."""
        names = tuple(trial.id for trial in trials)
        pool = ReadingSet.joined(trial.taken for trial in trials if not trial.only_what_it_reached)
        decided = [(trial, self.decide(trial, trial.taken, pool)) for trial in trials]
        decisions = [parts for trial, parts in decided if not trial.only_what_it_reached or _holds(parts)]
        appearance = self._appearance(trials, pool)
        if appearance is not None and appearance.verdict.decided:
            return SetUpVerdict(beside, appearance.verdict, (appearance,), appearance.credit, names)
        failing = [parts for parts in decisions if worst_of(parts).accuses]
        holding = [parts for parts in decisions if _holds(parts)]
        low = [parts for parts in decisions if any(part.low for part in parts) and parts not in failing]
        graver = [parts for parts in failing if worst_of(parts) is Verdict.BROKEN]
        if graver or (failing and (not holding or len(failing) >= MIN_TRIALS_THAT_OUTVOTE)):
            parts = min(graver or failing, key=credit_of)
            return SetUpVerdict(beside, worst_of(parts), parts, credit_of(parts), names)
        if holding and (failing or low):
            parts = _disagreeing(failing or low, len(holding))
            return SetUpVerdict(beside, Verdict.UNPROVEN, parts, None, names)
        if appearance is not None:
            return SetUpVerdict(beside, appearance.verdict, (appearance,), None, names)
        if holding:
            return SetUpVerdict(beside, Verdict.HOLDS, holding[-1], Decimal(1), names)
        return self._undecided(trials, decisions, pool, beside, names)

    def _undecided(
        self,
        trials: list[Counted],
        decisions: list[tuple[Part, ...]],
        pool: ReadingSet,
        beside: Circumstances,
        names: tuple[str, ...],
    ) -> SetUpVerdict:
        """No trial decides by itself: all readings of the set-up together, else the one that says most."""
        if len(decisions) > 1:
            parts = self.decide(trials[-1], pool, pool)
            if _holds(parts) or worst_of(parts).accuses:
                return SetUpVerdict(beside, worst_of(parts), parts, credit_of(parts), names)
        speaking = [parts for parts in decisions if any(part.verdict is not Verdict.OPEN for part in parts)]
        parts = (speaking or decisions or [()])[-1]
        return SetUpVerdict(beside, worst_of(parts), parts, None, names)

    def decide(self, trial: Counted, taken: ReadingSet, pool: ReadingSet) -> tuple[Part, ...]:
        """The parts of every port of the claim that the trial was of."""
        ports = [port for port in self.claim.ports if taken.at(port)]
        parts: list[Part] = []
        for port in ports or [self.claim.port]:
            proof = self._proof(trial, port)
            evidence = Evidence(
                taken.at(port), pool.at(port), proof, trial.setup, self.records.rig.find(trial.gear_at(port)),
                _length_m(trial.setup, port, self.records.rig.leads),
            )  # fmt: skip
            decided = self.claim.promise.decide(evidence)
            self._gather(proof)
            parts += [replace(part, name=f"{port} {part.name}") for part in decided] if len(ports) > 1 else decided
        return tuple(parts)

    def _proof(self, trial: Counted, port: str) -> RigProof:
        return RigProof(self.records, self.claim, trial, port, self.device)

    def _gather(self, proof: RigProof) -> None:
        """What a proof looked at, for the report."""
        if proof.looked_around:
            self.looked_around = True
            for other, comparison in proof.comparisons:
                self.comparisons[comparison.trial, other.id] = comparison

    def _appearance(self, trials: list[Counted], pool: ReadingSet) -> Part | None:
        """Whether the gear appears through the device as it does elsewhere; None where nothing speaks against it."""
        if self.claim.promise.procedure == ProcedureId.APPEARANCE:
            return None
        taken = pool.at(*self.claim.ports).of(Quantity.APPEARED)
        if not taken or taken.count().seen == taken.count().tries:
            return None
        proof = self._proof(trials[0], trials[0].port or self.claim.port)
        part = appears("appears", taken.count(), proof.other_count(Quantity.APPEARED), each_count(taken))
        self._gather(proof)
        return part


def credit_of(parts: tuple[Part, ...]) -> Decimal:
    """The least credit of some parts."""
    return min((part.credit for part in parts if part.credit is not None), default=Decimal(0))


def _holds(parts: tuple[Part, ...]) -> bool:
    return worst_of(parts) is Verdict.HOLDS


def _disagreeing(against: list[tuple[Part, ...]], holding: int) -> tuple[Part, ...]:
    """Trials of one set-up that say different things."""
    count = len(against)
    why = f"{count} of {count + holding} trials of this set-up fall below what was promised: repeat it"
    worst = min(against, key=credit_of)
    return tuple(replace(part, verdict=Verdict.UNPROVEN, credit=None, arithmetic=f"{part.arithmetic}; {why}")
                 for part in worst if part.low or part.verdict.accuses)  # fmt: skip


def _length_m(setup: SetUp, port: str, leads: tuple[Lead, ...]) -> float | None:
    """The longest lead of the set-up whose length was noted, in metres: over which its function was shown."""
    ids = {each.lead for each in setup.plugged if each.lead is not None}
    lengths = [float(lead.length_m) for lead in leads if lead.id in ids and isinstance(lead.length_m, float | int)]
    return max(lengths, default=None)
