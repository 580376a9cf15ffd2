"""Where the function of a claim was tried, through the device or not, and whether it worked there."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from enum import Enum
from functools import cached_property

from auditra.core.claims.claim import Claim
from auditra.core.decide.counts import APPEARS
from auditra.core.decide.estimates import Estimate
from auditra.core.decide.evidence import Clearing, Evidence, NoRig, OtherCount
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.judge.claim_verdict import ClaimVerdict, SetUpVerdict
from auditra.core.judge.part_limits import EXPLAINED_SHARE, Limit
from auditra.core.judge.records import Counted, Records, least_of
from auditra.core.judge.rig_parts import RigParts
from auditra.core.model.circumstance import Aspect, AtPort, Circumstance, OnHost, Running, Through, Under
from auditra.core.model.device import DEVICE, Device, Role
from auditra.core.model.reading import PAYLOAD_RATES, Count, Quantity, Reading
from auditra.core.model.rig import Drain, Origin
from auditra.core.model.trial import DIRECT, ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.procedures.registry import procedure_of

LINK = "link"
_LOOKED_AT_PART_BY_PART = frozenset(
    {Aspect.HOST_SOCKET, Aspect.LEAD, Aspect.HOST_LEAD, Aspect.ADAPTERS, Aspect.GEAR, Aspect.PROCEDURE, Aspect.DRIVE,
     Aspect.PORT}
)  # fmt: skip
ALWAYS_KNOWN = frozenset({*_LOOKED_AT_PART_BY_PART, Aspect.HOST, Aspect.RUNNING, Aspect.IDLE, Aspect.SOAK})
"""What a set-up lists as a whole: what is not in the list was not there."""


_OF_THE_DEVICE = frozenset(
    {Aspect.RUNNING, Aspect.IDLE, Aspect.SOAK, Aspect.SUPPLY, Aspect.BATTERY, Aspect.ORDER, Aspect.REPLUGGED,
     Aspect.SIDE, Aspect.ARRANGED, Aspect.EVENTS}
)  # fmt: skip
"""What the device does, or is done to it: that the gear alone, or another function, works under it clears nothing."""
_OF_ONE_PORT = frozenset({Aspect.RUNNING, Aspect.IDLE, Aspect.SIDE, Aspect.EVENTS})
"""What may slow one port and not the one beside it: each socket has contacts of its own for either side of a plug."""


class Outcome(Enum):
    """Whether a function worked in a try."""

    WORKED = "worked"
    FAILED = "failed"


@dataclass(frozen=True)
class Try:
    """Trials of one set-up at one place, which all say the same of a function."""

    trials: tuple[str, ...]
    place: str
    outcome: Outcome
    suspects: frozenset[Circumstance]
    """Every part on the way and every circumstance: what could be to blame, were it to fail."""
    noted: frozenset[Aspect]
    times: int
    """How often it was seen."""
    is_own: bool = True
    """It was at a port of the claim; else at another one, or direct."""
    limit: Limit | None = None
    """The part that by its own record could not have carried what was promised."""
    share: float = 0.0
    """Where it failed, how much of the promise was reached, 0 to 1."""

    @property
    def failed(self) -> bool:
        return self.outcome is Outcome.FAILED

    def is_known_without(self, suspect: Circumstance) -> bool:
        """Whether a suspect is known to have been absent."""
        if suspect.aspect is Aspect.ORDER and not any(isinstance(each, Running) for each in self.suspects):
            return True  # an order needs two that are at work
        return suspect not in self.suspects and suspect.aspect in self.noted | ALWAYS_KNOWN


class _Cleared(NoRig):
    """Takes every reading at its word: whoever is to blame, was the promise kept here?"""

    def __init__(self, records: Records) -> None:
        super().__init__()
        self._records = records

    def measures(self, reading: Reading) -> bool:
        return self._records.measures(reading)

    def clearing(self, quantity: Quantity | str, shown: Estimate, needed: float) -> Clearing:
        return Clearing(True, "")

    def clearing_of_mode(self, shown: str, needed: str) -> Clearing:
        return Clearing(True, "")

    def clearing_of_word(self, name: str) -> Clearing:
        return Clearing(True, "")

    def other_count(self, quantity: Quantity | str) -> OtherCount:
        return OtherCount(Count(10, 10), "elsewhere")


def is_investigated(verdict: ClaimVerdict) -> bool:
    """Whether something that was tried of it falls below what was promised, whoever is to blame."""
    return any(falls_below(set_up) for set_up in verdict.set_ups if set_up.trials)


def falls_below(set_up: SetUpVerdict) -> bool:
    """Whether something in it falls below what was promised, whoever is to blame."""
    return bool(_low_parts(set_up))


def _low_parts(set_up: SetUpVerdict) -> list[Part]:
    fell = (part for part in set_up.parts if part.verdict.accuses or part.low or part.excused)
    return [part for part in fell if not part.gap]


@dataclass(frozen=True)
class Function:
    """What failed of a promise: the parts of its decision. Claims with the same promise share its tries."""

    claim: Claim
    """One that promises it."""
    names: frozenset[str]

    @property
    def key(self) -> tuple[object, ...]:
        of_group = self.claim.promise.of_group
        return self.claim.device, str(self.claim.promise), self.names, self.claim.id if of_group else ""


def function_of(verdict: ClaimVerdict) -> Function:
    """The function that fell below the promise somewhere: a link that is too slow explains the rates over it."""
    claim = verdict.claim
    every = [parts for parts in map(_low_parts, verdict.set_ups) if parts]
    accusing = [[part for part in parts if part.verdict.accuses] for parts in every]
    sure = [parts for parts in accusing if parts] if verdict.verdict.accuses or verdict.unless else []
    low = [{_bare(part.name, claim) for part in parts} for parts in sure or every]
    of_link = bool(low) and all(LINK in names for names in low) and verdict.verdict.accuses
    return Function(claim, frozenset({LINK}) if of_link else frozenset().union(*low))


def _bare(name: str, claim: Claim) -> str:
    """The name of a part without the port of a group before it."""
    first, _, rest = name.partition(" ")
    return rest if rest and first in claim.ports else name


@dataclass(frozen=True)
class Tried:
    """One try as it counts for a claim of its own port, of a port that promises the same, and of any other."""

    own: Try
    alike: Try
    foreign: Try

    @property
    def is_plain(self) -> bool:
        """Nothing else was in use that could slow its port alone."""
        return self.own.suspects == self.alike.suspects


def tries_of_function(function: Function, records: Records, device: Device) -> tuple[Tried, ...]:
    """Every try of a function: at all ports, and direct."""
    return tuple(_Finder(function.claim, function.names, records, device).tries())


def tries_of_claim(claim: Claim, tried: Sequence[Tried], alike: frozenset[str], records: Records) -> tuple[Try, ...]:
    """The tries that say something of a claim.

    Failures count at its own ports, direct for the same gear, and at like ports that fail with nothing else in use.
    """
    here = [each.own for each in tried if each.own.place in claim.ports and each.own.failed]
    gear = {thing for each in here for thing in _gear_in(each)}
    counts: list[Try] = []
    for each in tried:
        if each.own.place in claim.ports:
            counts.append(each.own)
        elif each.own.place in alike:
            counts += [each.alike] if not each.own.failed or each.is_plain else []
        elif not each.own.failed or (each.own.place == DIRECT and gear & set(_gear_in(each.own))):
            counts.append(each.foreign)
    return (*counts, *_without_the_device(claim, records))


def _without_the_device(claim: Claim, records: Records) -> Iterator[Try]:
    """What was counted without the device, beside the count with it: the host by itself."""
    groups: dict[frozenset[Circumstance], list[Counted]] = {}
    for trial in records.with_quantity(Quantity.WORKS_WITHOUT):
        if claim.id in trial.record.trial.claims:
            sockets = (each for each in _parts_of(trial, None) if each.aspect is Aspect.HOST_SOCKET)
            groups.setdefault(frozenset((OnHost(trial.setup.host), *sockets)), []).append(trial)
    for suspects, trials in groups.items():
        count = ReadingSet.joined(trial.taken for trial in trials).of(Quantity.WORKS_WITHOUT).count()
        if count.tries and count.seen == count.tries:
            names = tuple(trial.id for trial in trials)
            yield Try(names, DIRECT, Outcome.WORKED, suspects, frozenset(), count.tries, is_own=False)


@dataclass
class _Finder:
    """Looks through the trials for one function."""

    claim: Claim
    names: frozenset[str]
    records: Records
    device: Device

    def tries(self) -> Iterator[Tried]:
        groups: dict[tuple[str, frozenset[Circumstance], frozenset[Aspect]], list[Counted]] = {}
        for trial in self.records.counted:
            if self._is_of_the_function(trial):
                for place in self._places(trial):
                    groups.setdefault((place, *self._suspects(trial, place)), []).append(trial)
        for (place, suspects, noted), trials in groups.items():
            tried = self._judged(trials, place, suspects, noted)
            if tried is not None:
                alike = frozenset(each for each in suspects if each.aspect not in _OF_ONE_PORT)
                foreign = frozenset(each for each in alike if each.aspect not in _OF_THE_DEVICE)
                at_other_port = replace(tried, is_own=False)
                yield Tried(
                    tried, replace(at_other_port, suspects=alike), replace(at_other_port, suspects=foreign)
                )  # fmt: skip

    def _is_of_the_function(self, trial: Counted) -> bool:
        ours, theirs = procedure_of(self.claim.promise.procedure), procedure_of(trial.record.trial.procedure)
        ours_or_baseline = {ours.id, ours.baseline}
        return theirs.id in ours_or_baseline or ours.compares_with(theirs) or theirs.all_at_once

    def _places(self, trial: Counted) -> tuple[str, ...]:
        if trial.direct:
            return (DIRECT,)
        if self.claim.promise.of_group:
            return (self.claim.port,) if any(port in trial.places for port in self.claim.ports) else ()
        if trial.setup.device != self.claim.device:
            return ()
        return tuple(place for place in trial.places if self.device.has(place) or place in self.claim.ports)

    def _judged(
        self, trials: list[Counted], place: str, suspects: frozenset[Circumstance], noted: frozenset[Aspect]
    ) -> Try | None:
        """Trials of one set-up; None where they say nothing of the function, or contradict each other."""
        places = self.claim.ports if self.claim.promise.of_group and place != DIRECT else (place,)
        pool = ReadingSet.joined(trial.taken.at(*places) for trial in trials)
        outcomes = [self._outcome(trial, trial.taken.at(*places), pool) for trial in trials]
        spoke = [(trial, outcome) for trial, outcome in zip(trials, outcomes, strict=True) if outcome is not None]
        if not spoke or len({outcome for _, outcome in spoke}) > 1:
            return None
        tries = pool.of(Quantity.WORKS if APPEARS not in self.names else Quantity.APPEARED).count().tries
        failed = spoke[-1][1] is Outcome.FAILED
        limit = self._limit(spoke[-1][0], place) if failed else None
        return Try(
            tuple(trial.id for trial, _ in spoke), place, spoke[-1][1], suspects, noted, max(len(spoke), tries),
            limit=limit, share=max(self._share(trial, place) for trial, _ in spoke) if failed else 1.0,
        )  # fmt: skip

    def _share(self, trial: Counted, place: str) -> float:
        """The least part of a promised rate that was reached; 0 where none was read."""
        read = (
            (self.records.reading(trial, place, quantity), floor)
            for quantity, floor in self.claim.promise.owes().items() if quantity in PAYLOAD_RATES and floor > 0
        )  # fmt: skip
        return min((min(reading.values) / floor for reading, floor in read if reading is not None), default=0.0)

    def _outcome(self, trial: Counted, taken: ReadingSet, pool: ReadingSet) -> Outcome | None:
        if self.names == {APPEARS} and self.claim.promise.procedure != ProcedureId.APPEARANCE:
            return _came(pool)
        gear = self.records.rig.find(trial.record.trial.gear)
        evidence = Evidence(taken, pool, _Cleared(self.records), trial.setup, gear, quiet=True)
        parts = [part for part in self.claim.promise.decide(evidence) if part.name in self.names and not part.gap]
        if any(part.verdict.accuses for part in parts):
            return None if trial.only_what_it_reached else Outcome.FAILED
        held = [part for part in parts if part.verdict is Verdict.HOLDS or self._is_at_its_end(trial, part)]
        return Outcome.WORKED if held and all(part in held or part.verdict is Verdict.OPEN for part in parts) else None

    def _is_at_its_end(self, trial: Counted, part: Part) -> bool:
        """Without the device the rig comes so near to a figure that it may well reach it: what it is noted to give."""
        measured = bool(self.claim.promise.owes()) and part.name not in (APPEARS, self.claim.promise.words)
        return trial.direct and measured and part.verdict is Verdict.TOO_CLOSE

    def _limit(self, trial: Counted, place: str) -> Limit | None:
        """The narrowest part of the rig by its record, where that is below a floor of the claim; of no gear that never
        came up."""
        if self.names == {APPEARS}:
            return None
        parts = RigParts(self.records, trial, place)
        for quantity, floor in self.claim.promise.owes().items():
            limit = min(parts.way(quantity), key=lambda part: part.most, default=None)
            if limit is not None and limit.most < floor and self._explains(limit, trial, place, quantity):
                return limit
        return None

    def _explains(self, limit: Limit, trial: Counted, place: str, quantity: Quantity) -> bool:
        """Whether what was read comes near what the part lets through: far below it, something else is to blame."""
        reading = self.records.reading(trial, place, quantity)
        return reading is None or least_of(quantity, reading) >= EXPLAINED_SHARE * limit.most

    def _suspects(self, trial: Counted, place: str) -> tuple[frozenset[Circumstance], frozenset[Aspect]]:
        port = None if place == DIRECT else place
        profile = self.records.profile(trial, port)
        found: set[Circumstance] = set(_parts_of(trial, port))
        for aspect, circumstances in profile.items():
            if aspect not in _LOOKED_AT_PART_BY_PART:
                found.update(each for each in circumstances if not self._is_own(each, port, trial))
        if port is not None:
            found |= {AtPort(port), Through(trial.setup.device)}
        return frozenset(found), frozenset(profile)

    @cached_property
    def _can_be_fed(self) -> bool:
        """Whether it has an inlet, or was seen to be fed."""
        fed = (isinstance(trial.setup.charger, str) for trial in self.records.counted)
        return self.device.first(Role.INLET) is not None or any(fed)

    def _is_own(self, circumstance: Circumstance, port: str | None, trial: Counted) -> bool:
        """What the port does itself is no circumstance of it, nor what every set-up of the procedure has.

        That nothing feeds a device is none where nothing could; nor is the supply that is itself measured with, or what
        stands for the host at the plug to the host.
        """
        if circumstance == Under(Aspect.SUPPLY, None):
            return not self._can_be_fed
        if isinstance(circumstance, Under) and circumstance.aspect is Aspect.SUPPLY:
            return port is not None and circumstance.value == trial.gear_at(port)
        if isinstance(circumstance, Under) and circumstance.aspect is Aspect.IDLE:
            upstream = self.device.first(Role.UPSTREAM)
            at_host_plug = upstream is not None and circumstance.value == upstream.id
            return at_host_plug or self._draws_behind_inlet(trial, str(circumstance.value))
        return isinstance(circumstance, Running) and circumstance.claim.partition(" ")[0] == port

    def _draws_behind_inlet(self, trial: Counted, socket: str) -> bool:
        """What draws from another socket makes an inlet take more, not less."""
        gear = self.records.rig.find(trial.gear_at(socket))
        return trial.record.trial.procedure == ProcedureId.POWER_IN and isinstance(gear, Drain)


def _came(pool: ReadingSet) -> Outcome | None:
    """Whether gear appeared each time, or never in tries enough to accuse."""
    count = pool.of(Quantity.APPEARED).count()
    if not count.tries:
        return Outcome.WORKED if pool.numbers() else None
    if count.seen == count.tries:
        return Outcome.WORKED
    return Outcome.FAILED if count.seen * 2 < count.tries and count.tries >= 2 else None


def _parts_of(trial: Counted, port: str | None) -> Iterator[Circumstance]:
    """Each part of the rig on the way by itself, wherever it sits."""
    for part in trial.parts_at(port):
        kind, _, name = part.partition(" ")
        aspect = {"lead": Aspect.LEAD, "adapter": Aspect.ADAPTERS}.get(kind, Aspect.HOST_SOCKET)
        yield Under(aspect, name)
    gear = trial.gear_at(port) if port is not None else trial.record.trial.gear
    if gear != DEVICE:
        yield Under(Aspect.GEAR, gear)


def _gear_in(tried: Try) -> Iterable[Circumstance]:
    return (each for each in tried.suspects if each.aspect is Aspect.GEAR)


def is_of_seller(suspect: Circumstance, records: Records) -> bool:
    """Whether a part came with the device: what is shipped is promised with it."""
    if isinstance(suspect, AtPort | Through):
        return True
    if not isinstance(suspect, Under) or not isinstance(suspect.value, str):
        return False
    lead, gear = records.lead(suspect.value), records.rig.find(suspect.value)
    if suspect.aspect is Aspect.LEAD:
        return lead is not None and lead.origin is Origin.SHIPPED
    return getattr(gear, "origin", None) is Origin.SHIPPED and suspect.aspect in (Aspect.ADAPTERS, Aspect.SUPPLY)
