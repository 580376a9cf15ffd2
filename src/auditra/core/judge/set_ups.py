"""What one set-up shows of a claim: each of its trials by itself, its counts together."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from decimal import Decimal
from functools import cached_property

from auditra.core.claims.claim import Claim
from auditra.core.counted import counted
from auditra.core.decide.counts import APPEARS, appears, each_count
from auditra.core.decide.estimates import estimate
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.judge.claim_verdict import SetUpVerdict, worst_of
from auditra.core.judge.comparison import Comparison
from auditra.core.judge.conditions import Unmet, unmet_conditions
from auditra.core.judge.records import Counted, Records
from auditra.core.judge.rig_parts import RigParts
from auditra.core.judge.rig_proof import RigProof
from auditra.core.judge.separation import Seen
from auditra.core.model.circumstance import Aspect, AtPort, Circumstance, Circumstances, OnHost, Running, Soaked
from auditra.core.model.device import Device
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.rig import Gear, Lead
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.plan.run_sheet import circumstances_for

_CLEARLY_HOLDS = (Part("", Verdict.HOLDS, "", "", Decimal(1)),)
"""What stands for a trial that holds without a doubt until its figures are asked for."""
MIN_GRAVE_TRIALS = 2
"""That show something broken, such as bytes that changed, beside others of the same set-up in which all was well."""
MIN_TRIALS_THAT_OUTVOTE = 3
"""Of the very same set-up, against others that say otherwise: a plug that goes into the wrong socket twice is rare, but
happens."""


@dataclass
class SetUpJudging:
    """One claim with every trial of the audit. What was compared is gathered on the way."""

    claim: Claim
    records: Records
    device: Device
    comparisons: dict[tuple[str, str], Comparison] = field(default_factory=dict)
    looked_around: bool = False
    _pools: dict[str, tuple[ReadingSet, ReadingSet]] = field(default_factory=dict)
    """By port, the pooled readings of the set-up that is looked at, and those of them at the port."""
    _seen_of_wiring: dict[int, Seen] = field(default_factory=dict)
    _most_of_wiring: dict[int, tuple[float, ...]] = field(default_factory=dict)

    def set_ups(self) -> tuple[SetUpVerdict, ...]:
        """The verdict of each set-up that was tried, in the order in which they were tried first.

        One that lacks what the claim names is another than one that has it, though nothing else differs.
        """
        groups: dict[tuple[frozenset[Circumstance], tuple[Unmet, ...]], list[Counted]] = {}
        seen: dict[frozenset[Circumstance], Seen] = {}
        for trial in self.records.bearing_on(self.claim.id):
            noted = self._seen(trial)
            seen.setdefault(noted.circumstances, noted)
            unmet = unmet_conditions(self.claim, trial.setup, self.records.rig)
            groups.setdefault((noted.circumstances, unmet), []).append(trial)
        common = frozenset.intersection(*seen) if len(seen) > 1 else frozenset[Circumstance]()
        alone = len(seen) == 1
        return tuple(
            self._judge(trials, unmet, seen[key], self._beside(trials[0], key - common if not alone else frozenset()))
            for (key, unmet), trials in groups.items()
        )

    def _seen(self, trial: Counted) -> Seen:
        """What was noted of a trial's set-up; worked out once for trials of the same wiring, unless events differ."""
        if trial.record.events:
            return self._look_at(trial)
        kept = self._seen_of_wiring.get(trial.wiring)
        if kept is None:
            kept = self._seen_of_wiring[trial.wiring] = self._look_at(trial)
        return kept

    def _look_at(self, trial: Counted) -> Seen:
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
        """What is special about a set-up: what run sheets vary, then what else differs between the claim's set-ups.

        What sheets vary on purpose is said of the set-ups that depart in it, and not of those that do not.
        """
        varied = self.varied(trial)
        said = {aspect for each in self.records.bearing_on(self.claim.id) for aspect in each.setup.departs}
        said |= {Aspect.ORDER} if trial.setup.running else set()
        others = sorted(
            (each for each in differing - set(varied) if each.aspect not in said),
            key=lambda each: (list(Aspect).index(each.aspect), repr(each)),
        )
        if any(isinstance(each, OnHost) for each in others):
            others = [each for each in others if each.aspect is not Aspect.HOST_SOCKET]
        return (*varied, *(each for each in others if not isinstance(each, Running | Soaked | AtPort)))

    def varied(self, trial: Counted) -> Circumstances:
        """What run sheets vary of its set-up."""
        return circumstances_for(self.claim, trial.record.trial)

    def _judge(
        self, trials: list[Counted], unmet: tuple[Unmet, ...], seen: Seen, beside: Circumstances
    ) -> SetUpVerdict:
        pool = ReadingSet.joined(trial.taken for trial in trials if not trial.only_what_it_reached)
        found = self._weigh(trials, pool, beside)
        tries = pool.of(Quantity.WORKS).at(*self.claim.ports).count().tries
        times = max(len(trials), tries)
        found = replace(found, seen=seen, varied=self.varied(trials[0]), times=times, meets_conditions=not unmet)
        found = replace(found, unpromised=trials[0].setup.unpromised)
        if not unmet or (found.verdict.accuses and all(each.can_only_add for each in unmet)):
            return found
        why = f"not as promised: {'; '.join(each.text for each in unmet)}"
        parts = tuple(replace(part, verdict=Verdict.UNPROVEN, arithmetic=why, credit=None) for part in found.parts)
        return replace(found, verdict=Verdict.UNPROVEN, parts=parts, credit=None)

    def _weigh(self, trials: list[Counted], pool: ReadingSet, beside: Circumstances) -> SetUpVerdict:
        """What was clearly shown more than once counts: no repeat hides it. One trial against others decides nothing:
        hands slip into the socket beside."""
        names = tuple(trial.id for trial in trials)
        quiet = len(trials) > 1
        clear = _CLEARLY_HOLDS if quiet and self._floors else ()
        decided = [
            (clear, trial)
            if clear and self._clearly_holds(trial)
            else (self.decide(trial, trial.taken, pool, quiet=quiet), trial)
            for trial in trials
        ]
        decided = [each for each in decided if not each[1].only_what_it_reached or _holds(each[0])]
        appearance = self._appearance(trials, pool)
        if appearance is not None and appearance.verdict.decided:
            return SetUpVerdict(beside, appearance.verdict, (appearance,), appearance.credit, names)
        decisions = [parts for parts, _ in decided if parts is not clear]
        failing = [parts for parts in decisions if worst_of(parts).accuses]
        holding = [parts for parts, _ in decided if parts is clear or _holds(parts)]
        low = [parts for parts in decisions if any(part.low for part in parts) and parts not in failing]
        graver = [parts for parts in failing if worst_of(parts) is Verdict.BROKEN]

        def in_words(parts: tuple[Part, ...]) -> tuple[Part, ...]:
            """The parts of a trial with their figures."""
            trial = next(each for found, each in reversed(decided) if found is parts)
            return self.decide(trial, trial.taken, pool) if quiet else parts

        is_seen_twice = len(graver) >= MIN_GRAVE_TRIALS
        if failing and (not holding or is_seen_twice or len(failing) >= MIN_TRIALS_THAT_OUTVOTE):
            parts = in_words(min(graver or failing, key=credit_of))
            return SetUpVerdict(beside, worst_of(parts), parts, credit_of(parts), names)
        if holding and (failing or low):
            against = failing or low
            parts = _disagreeing(in_words(min(against, key=credit_of)), len(against), len(holding))
            return SetUpVerdict(beside, Verdict.UNPROVEN, parts, None, names, disagrees=True)
        if appearance is not None:
            return SetUpVerdict(beside, appearance.verdict, (appearance,), None, names)
        if holding:
            return SetUpVerdict(beside, Verdict.HOLDS, in_words(holding[-1]), Decimal(1), names)
        return self._undecided(trials, [in_words(parts) for parts in decisions], pool, beside, names)

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

    @cached_property
    def _floors(self) -> tuple[tuple[Quantity, float], ...]:
        """What a trial at the claim's one port must reach; empty where it has more ports, or takes more to decide."""
        return () if self.claim.others else tuple(self.claim.promise.floors().items())

    def _clearly_holds(self, trial: Counted) -> bool:
        """Whether every value that decides was measured once and is above its floor for certain, and nothing is wrong.

        The rules say the same of such a trial; this is for audits with many of them.
        """
        found, port, most = 0, self.claim.port, self._narrowest(trial)
        for reading in trial.taken.readings:
            if reading.at != port:
                continue
            quantity = reading.quantity
            if quantity is Quantity.WRONG_BYTES and any(reading.values):
                return False
            for place, (of, floor) in enumerate(self._floors):
                if of is quantity:
                    if found & 1 << place or not _is_above(reading, floor, most[place]):
                        return False
                    found |= 1 << place
        return found == (1 << len(self._floors)) - 1

    def _narrowest(self, trial: Counted) -> tuple[float, ...]:
        """The most that the parts on the way carry, of each quantity that has a floor."""
        kept = self._most_of_wiring.get(trial.wiring)
        if kept is None:
            parts = RigParts(self.records, trial, self.claim.port)
            kept = self._most_of_wiring[trial.wiring] = tuple(parts.most(quantity) for quantity, _ in self._floors)
        return kept

    def decide(self, trial: Counted, taken: ReadingSet, pool: ReadingSet, *, quiet: bool = False) -> tuple[Part, ...]:
        """The parts of every port of the claim that the trial was of."""
        own = taken is trial.taken
        if self.claim.promise.of_group:
            return self._decide_group(trial, taken, pool, quiet=quiet)
        ports = [port for port in self.claim.ports if (trial.at(port) if own else taken.at(port))]
        parts: list[Part] = []
        for port in ports or [self.claim.port]:
            proof = self._proof(trial, port)
            gear, way_m = self._wiring_of(trial, port)
            kept = self._pools.get(port)
            if kept is None or kept[0] is not pool:
                kept = self._pools[port] = pool, pool.at(port)
            evidence = Evidence(
                trial.at(port) if own else taken.at(port), kept[1], proof, trial.setup, gear, way_m, quiet
            )
            decided = self.claim.promise.decide(evidence)
            self._gather(proof)
            parts += [replace(part, name=f"{port} {part.name}") for part in decided] if len(ports) > 1 else decided
        return tuple(parts)

    def _decide_group(self, trial: Counted, taken: ReadingSet, pool: ReadingSet, *, quiet: bool) -> tuple[Part, ...]:
        """What is said of a group of ports as a whole is decided from the readings of all of them."""
        ports = self.claim.ports
        proof = self._proof(trial, next((port for port in ports if taken.at(port)), self.claim.port))
        gear, way_m = self._wiring_of(trial, proof.port)
        evidence = Evidence(taken.at(*ports), pool.at(*ports), proof, trial.setup, gear, way_m, quiet)
        decided = self.claim.promise.decide(evidence)
        self._gather(proof)
        return decided

    def _wiring_of(self, trial: Counted, port: str) -> tuple[Gear | None, float | None]:
        """What is plugged into a port, and the longest lead of the set-up; the same for all of one wiring."""
        key = ("wiring", trial.wiring, port)
        kept: tuple[Gear | None, float | None] | None = self.records.kept.get(key)
        if kept is None:
            rig = self.records.rig
            kept = self.records.kept[key] = rig.find(trial.gear_at(port)), _length_m(trial.setup, rig.leads)
        return kept

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
        taken = pool.of(Quantity.APPEARED).at(*self.claim.ports)
        if not taken or taken.count().seen == taken.count().tries:
            return None
        if (why := self._sends_no_picture(trials[0].setup)) is not None:
            shown = f"appeared in {taken.count().seen} of {counted(taken.count().tries, 'try')}"
            return Part(APPEARS, Verdict.UNPROVEN, shown, why, excused=True)
        proof = self._proof(trials[0], trials[0].port or self.claim.port)
        part = appears(APPEARS, taken.count(), proof.other_count(Quantity.APPEARED), each_count(taken))
        self._gather(proof)
        return part

    def _sends_no_picture(self, setup: SetUp) -> str | None:
        """Why no picture can come in a set-up of a picture: the host's socket has none; None for no such reason."""
        host = self.records.rig.host(setup.host)
        socket = host.socket(setup.host_socket) if host is not None else None
        if self.claim.promise.procedure != ProcedureId.DISPLAY or host is None or socket is None or socket.display:
            return None
        return f"socket {socket.id} of the {host.name} is noted to send no picture"


def _is_above(reading: Reading, floor: float, most: float) -> bool:
    """Whether a reading alone shows a floor: by its grade, with its uncertainty, and not more than the parts carry."""
    if reading.quantity is Quantity.LINK:
        return reading.grade >= Grade.READ and bool(reading.values) and min(reading.values) >= floor
    if reading.grade < Grade.MEASURED or not reading.values:
        return False
    y = estimate(reading)
    return y.founded and floor <= y.value - y.expanded <= most


def credit_of(parts: tuple[Part, ...]) -> Decimal:
    """The least credit of some parts."""
    return min((part.credit for part in parts if part.credit is not None), default=Decimal(0))


def _holds(parts: tuple[Part, ...]) -> bool:
    return worst_of(parts) is Verdict.HOLDS


def _disagreeing(worst: tuple[Part, ...], count: int, holding: int) -> tuple[Part, ...]:
    """Trials of one set-up that say different things: the worst of them, and how many it has with it."""
    why = f"{count} of {count + holding} trials of this set-up fall below what was promised: repeat it"
    return tuple(replace(part, verdict=Verdict.UNPROVEN, credit=None, arithmetic=f"{part.arithmetic}; {why}")
                 for part in worst if part.low or part.verdict.accuses)  # fmt: skip


def _length_m(setup: SetUp, leads: tuple[Lead, ...]) -> float | None:
    """The longest lead of the set-up whose length was noted, in metres: over which its function was shown."""
    ids = {each.lead for each in setup.plugged if each.lead is not None}
    lengths = [float(lead.length_m) for lead in leads if lead.id in ids and isinstance(lead.length_m, float | int)]
    return max(lengths, default=None)
