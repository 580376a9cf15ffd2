"""Two trials compared: everything that differs, and whether what is left is still a comparison."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from auditra.core.counted import counted
from auditra.core.decide.circumstance_text import circumstance_text
from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import TrialRuled
from auditra.core.judge.records import Counted, Records
from auditra.core.judge.rig_parts import RigParts
from auditra.core.model.circumstance import Aspect, AtPort, Circumstance, Running, Under
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.trial import DIRECT
from auditra.core.procedures.registry import procedure_of
from auditra.core.quantities.display import bit_rate
from auditra.core.wiring.trial_profile import TrialProfile

_OF_THE_DEVICE = (
    Aspect.HOST_SOCKET, Aspect.LEAD, Aspect.HOST_LEAD, Aspect.ADAPTERS, Aspect.PORT, Aspect.RUNNING, Aspect.IDLE,
    Aspect.SUPPLY, Aspect.ORDER, Aspect.REPLUGGED, Aspect.SIDE, Aspect.ARRANGED, Aspect.EVENTS, Aspect.BATTERY,
    Aspect.FILE, Aspect.GEAR,
)  # fmt: skip
"""What a device in between brings with it: sockets and leads of its own, what else it does, how it is fed.

Sockets, leads and adapters are looked at part by part (`rig_proof`); anything else is a second reason for a difference.
"""


_SEVERAL = (Aspect.RUNNING, Aspect.IDLE, Aspect.EVENTS, Aspect.ARRANGED)


@dataclass(frozen=True)
class Difference:
    """One thing that differs between two trials; nothing on one side where it was known to be absent there."""

    aspect: Aspect
    one: frozenset[Circumstance]
    other: frozenset[Circumstance]

    def __str__(self) -> str:
        """``host: on laptop, against on older-laptop``."""
        return f"{self.aspect}: {_side(self.one)}, against {_side(self.other)}"

    @property
    def things(self) -> int:
        """How many things differ: of what may be several at once, such as what else runs, each by itself."""
        return max(1, len(self.one | self.other)) if self.aspect in _SEVERAL else 1

    @property
    def refuses_baseline(self) -> bool:
        """It is another reason for a difference beside the device, so a direct trial is no baseline."""
        return self.aspect not in _OF_THE_DEVICE


def _side(circumstances: frozenset[Circumstance]) -> str:
    return " and ".join(sorted(map(circumstance_text, circumstances))) or "none"


@dataclass(frozen=True)
class Measured:
    """One quantity in both trials: the ratio of the first to the second with its uncertainty (95 %)."""

    quantity: str
    one: Estimate
    other: Estimate

    @property
    def ratio(self) -> float | None:
        return self.one.value / self.other.value if self.other.value else None

    @property
    def ratio_expanded(self) -> float | None:
        """The uncertainty of the ratio. Source: JCGM 100:2008, 5.1.6 (relative variances of a quotient add up)."""
        if self.ratio is None or not self.one.value:
            return None
        shares = (side.expanded / side.value for side in (self.one, self.other))
        return abs(self.ratio) * math.hypot(*shares)

    @property
    def is_real(self) -> bool:
        """Whether they differ by more than their scatter and errors: the interval of the difference leaves out zero."""
        if not (self.one.founded and self.other.founded):
            return False
        apart = abs(self.one.value - self.other.value)
        return apart > math.hypot(self.one.expanded, self.other.expanded)


def measured_text(measured: Measured) -> str:
    """``write rate: 40.2 ± 0.3 against 457.8 ± 0.7 MB/s, ratio 0.088 ± 0.001, a real difference``."""
    if measured.quantity == Quantity.LINK:  # a link is what it says it is
        one, other = (bit_rate(side.value) for side in (measured.one, measured.other))
        return f"{measured.quantity}: {one} in both" if one == other else f"{measured.quantity}: {one} against {other}"
    near = max(abs(measured.one.value), abs(measured.other.value))
    fmt = format_of(Reading("", measured.quantity, "", "", Grade.TOLD, Number((near,))), near)
    one, other = (fmt.pair(side.value, side.expanded) for side in (measured.one, measured.other))
    ratio = ""
    if measured.ratio is not None and measured.ratio_expanded is not None:
        ratio = f", ratio {measured.ratio:.3f} ± {measured.ratio_expanded:.3f}"
    kind = "a real difference" if measured.is_real else "inside the scatter"
    return f"{measured.quantity}: {one} against {other}{ratio}, {kind}"


@dataclass(frozen=True)
class TrialComparison:
    """Two trials side by side."""

    one: str
    other: str
    differences: tuple[Difference, ...]
    measured: tuple[Measured, ...]
    through_and_direct: bool = False
    """One is through the device and the other is not: that is the one thing that may differ."""

    @property
    def is_fair(self) -> bool:
        """Whether a difference of their values can have one reason only: one thing differs at most."""
        return self._things <= (0 if self.through_and_direct else 1)

    @property
    def _things(self) -> int:
        return sum(difference.things for difference in self.differences)

    @property
    def why_not(self) -> str:
        """Why it is no fair comparison; empty where it is one."""
        named = "; ".join(map(str, self.differences))
        if self.is_fair:
            return ""
        return (
            f"{counted(self._things, 'thing')} beside the device differ: {named}"
            if self.through_and_direct
            else (f"{self._things} things differ: {named}")
        )


@dataclass(frozen=True)
class Comparison:
    """A trial of a claim beside a direct one, with everything that differs."""

    claim: str
    trial: str
    direct: str
    differences: tuple[Difference, ...]

    @property
    def refusing(self) -> tuple[Difference, ...]:
        """The differences that make it no comparison; none where it counts."""
        return tuple(each for each in self.differences if each.refuses_baseline)


def refusal_text(comparison: Comparison) -> str:
    """Why a comparison decides nothing; empty where it counts."""
    refusing = "; ".join(map(str, comparison.refusing))
    return f"more than the device differs: {refusing}" if refusing else ""


def differences(records: Records, one: Counted, other: Counted, port: str | None) -> tuple[Difference, ...]:
    """Everything that is known to differ. What one side did not note is not known to differ.

    Source: one thing at a time, or the cause stays unknown.
    """
    key = ("differences", one.wiring, other.wiring, port)
    is_plain = not (one.record.events or other.record.events or one.record.path or other.record.path)
    kept: tuple[Difference, ...] | None = records.kept.get(key) if is_plain else None
    if kept is None:
        kept = _differences(records, one, other, port)
        if is_plain:
            records.kept[key] = kept
    return kept


def _differences(records: Records, one: Counted, other: Counted, port: str | None) -> tuple[Difference, ...]:
    ours, theirs = (_others_at_work(records.profile(*each), each[1]) for each in ((one, port), (other, other.port)))
    found = (*_of_profiles(ours, theirs), *_of_procedures(one, other))
    if one.setup.host != other.setup.host:  # sockets of two hosts are never the same one
        return tuple(each for each in found if each.aspect is not Aspect.HOST_SOCKET)
    return found


def _others_at_work(profile: TrialProfile, port: str | None) -> TrialProfile:
    """A profile without what the port under trial does itself: that is no circumstance of it."""
    running = frozenset(each for each in profile[Aspect.RUNNING] if not _is_of(each, port))
    return profile if len(running) == len(profile[Aspect.RUNNING]) else {**profile, Aspect.RUNNING: running}


def _is_of(circumstance: Circumstance, port: str | None) -> bool:
    return isinstance(circumstance, Running) and circumstance.claim.partition(" ")[0] == port


def _of_profiles(ours: TrialProfile, theirs: TrialProfile) -> Iterator[Difference]:
    for aspect, mine in ours.items():
        their = theirs.get(aspect)
        if their is not None and mine != their and (mine - their or their - mine):
            yield Difference(aspect, mine - their, their - mine)


def _of_procedures(one: Counted, other: Counted) -> Iterator[Difference]:
    mine, their = procedure_of(one.record.trial.procedure), procedure_of(other.record.trial.procedure)
    if not mine.compares_with(their):
        yield _pair(Under(Aspect.PROCEDURE, mine.title), Under(Aspect.PROCEDURE, their.title))
    ours, theirs = one.record.path, other.record.path
    if ours is not None and theirs is not None and ours.drive_identity != theirs.drive_identity:
        yield _pair(Under(Aspect.DRIVE, ours.drive_identity), Under(Aspect.DRIVE, theirs.drive_identity))


def _pair(one: Circumstance, other: Circumstance) -> Difference:
    return Difference(one.aspect, frozenset({one}), frozenset({other}))


def compare_trials(records: Records, one: Counted, other: Counted) -> TrialComparison:
    """Any two trials that a reviewer picks: what differs, and each quantity that both have.

    Beside a direct trial the device is the one thing that is meant; a socket, lead or adapter that comes with it is
    another one unless its own record is good for the higher of both values.
    """
    found = differences(records, one, other, one.port)
    measured = tuple(_measured(records, one, other))
    if one.direct is not other.direct:
        found = tuple(each for each in found if not _comes_with_the_device(each, records, one, other, measured))
    elif one.port != other.port:
        found = (*found, _ports(one, other))
    return TrialComparison(one.id, other.id, found, measured, through_and_direct=one.direct is not other.direct)


def compare_in(audit: Audit, one: str, other: str) -> TrialComparison | None:
    """Two trials of an audit, whether they count or not; None where it does not have both."""
    named = [record for name in (one, other) for record in audit.trials if record.trial.id == name]
    if len(named) != 2:
        return None
    records = Records(audit.rig)
    for record in named:  # what was set aside is compared too
        ruled = replace(record, ruling=TrialRuled(record.trial.id, counts=True))
        records = records.grown_to((*(each.record for each in records.counted), ruled), audit.rig, frozenset())
    return compare_trials(records, *records.counted)


def _comes_with_the_device(
    difference: Difference, records: Records, one: Counted, other: Counted, measured: tuple[Measured, ...]
) -> bool:
    if difference.aspect in (Aspect.HOST_LEAD, Aspect.IDLE, Aspect.SUPPLY):
        return True
    if difference.aspect not in (Aspect.LEAD, Aspect.HOST_SOCKET):
        return False
    through = one if other.direct else other
    limits = RigParts(records, through, through.port or DIRECT)
    return all(
        limits.of(part, each.quantity).sure >= max(each.one.value, each.other.value)
        for each in measured for part in through.parts_at(through.port)
    )  # fmt: skip


def _ports(one: Counted, other: Counted) -> Difference:
    return _pair(AtPort(one.port or DIRECT), AtPort(other.port or DIRECT))


def _measured(records: Records, one: Counted, other: Counted) -> Iterator[Measured]:
    for quantity in dict.fromkeys(reading.quantity for reading in one.taken):
        mine, their = (records.reading(each, each.record.trial.place, quantity) for each in (one, other))
        if mine is not None and their is not None and quantity is not Quantity.WRONG_BYTES:
            if quantity is Quantity.LINK:
                ours, theirs = (Estimate(min(each.values), 0.0, len(each.values)) for each in (mine, their))
            else:
                ours, theirs = estimate(mine), estimate(their)
            yield Measured(str(quantity), ours, theirs)
