"""What a claim is decided from: the readings of a trial, those of its repeats, and what the rig was shown to do."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass, field

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.model.reading import Count, Grade, Quantity, Reading
from auditra.core.model.rig import Gear
from auditra.core.model.setup import SetUp


@dataclass(frozen=True)
class Clearing:
    """Whether the rig is cleared of a low value: by whom, or who is suspected. The text says either."""

    cleared: bool
    text: str
    blames_rig: bool = False
    """Something other than the device is known to explain it."""


@dataclass(frozen=True)
class OtherCount:
    """The same gear where the device, or this port of it, is not in the way."""

    count: Count
    where: str = "direct"


NEVER_TRIED = OtherCount(Count(0, 0))


class RigView(ABC):
    """What is known of the rig for one trial at one port."""

    @abstractmethod
    def measures(self, reading: Reading) -> bool:
        """Whether it was read by eye off an instrument of the rig whose error is known."""

    @abstractmethod
    def exceeds_a_part(self, quantity: Quantity | str, shown: Estimate) -> str:
        """The part of the way, with its limit, that could not have carried so much; empty for none."""

    @abstractmethod
    def clearing(self, quantity: Quantity | str, shown: Estimate, needed: float) -> Clearing:
        """Whether host, lead, gear, supply or peer could explain a value below what is needed."""

    @abstractmethod
    def clearing_of_mode(self, shown: str, needed: str) -> Clearing:
        """The same for a display mode."""

    @abstractmethod
    def clearing_of_word(self, name: str) -> Clearing:
        """The same for something that is on or not, such as hdr."""

    @abstractmethod
    def other_count(self, quantity: Quantity | str) -> OtherCount:
        """How often the same gear worked direct, else at a twin of the port."""

    @abstractmethod
    def elsewhere(self, quantity: Quantity | str) -> ReadingSet:
        """What the same gear gave on the same host, direct or at another port."""


class NoRig(RigView):
    """Nothing is known of the rig: it could explain anything."""

    def __init__(self, direct: ReadingSet | None = None) -> None:
        self._direct = direct or ReadingSet()

    def measures(self, reading: Reading) -> bool:
        return False

    def exceeds_a_part(self, quantity: Quantity | str, shown: Estimate) -> str:
        return ""

    def clearing(self, quantity: Quantity | str, shown: Estimate, needed: float) -> Clearing:
        return Clearing(False, "the same gear was not tried direct")

    def clearing_of_mode(self, shown: str, needed: str) -> Clearing:
        return Clearing(False, "the display was not seen to run that direct")

    def clearing_of_word(self, name: str) -> Clearing:
        return Clearing(False, "it was not seen direct either")

    def other_count(self, quantity: Quantity | str) -> OtherCount:
        return OtherCount(self._direct.of(quantity).count())

    def elsewhere(self, quantity: Quantity | str) -> ReadingSet:
        return self._direct.of(quantity)


@dataclass(frozen=True)
class Evidence:
    """One trial of a claim at one port."""

    taken: ReadingSet
    pool: ReadingSet = ReadingSet()
    """The readings of all trials of this set-up, itself among them; tries are counted over these."""
    rig: RigView = field(default_factory=NoRig)
    setup: SetUp | None = None
    gear: Gear | None = None
    """What is plugged into the port."""
    way_m: float | None = None
    """The longest lead of the set-up, in metres; None where no length was noted."""
    quiet: bool = False
    """Only the verdict is asked for, of a trial among many: no figure needs to be put into words."""

    def witness(self, *quantities: Quantity | str) -> Witness | None:
        """The reading that decides: of the highest grade, then of the smallest uncertainty; None for none."""
        found = [reading for reading in self.taken if reading.quantity in quantities and reading.values]
        if len(found) < 2:
            return Witness(found[0], self.grade(found[0])) if found else None
        best = max(self.grade(reading) for reading in found)
        equal = [reading for reading in found if self.grade(reading) == best]
        reading = min(reversed(equal), key=lambda each: (not estimate(each).founded, estimate(each).expanded))
        return Witness(reading, best, tuple(other for other in equal if _apart(reading, other)))

    def said(self, quantity: Quantity | str) -> Reading | None:
        """The last answer in words, or yes or no, of the highest grade."""
        found = [reading for reading in self.taken.of(quantity) if reading.text is not None or reading.yes is not None]
        return max(enumerate(found), key=lambda pair: (pair[1].grade, pair[0]))[1] if found else None

    def contradicts(self, reading: Reading) -> bool:
        """Whether another answer of the same grade says otherwise."""
        same = (each for each in self.taken.of(reading.quantity) if each.grade == reading.grade)
        return any(type(each.value) is type(reading.value) and each.value != reading.value for each in same)

    def grade(self, reading: Reading) -> float:
        """Its grade; what was read off an instrument of the rig by eye, with its error known, counts as 4."""
        if reading.grade is Grade.TYPED and self.rig.measures(reading):
            return float(Grade.READ)
        return float(reading.grade)

    def decides_watts(self, reading: Reading) -> bool:
        """Whether it is as good as a measurement: an engine's, an instrument's, or read off one by eye."""
        return reading.grade >= Grade.MEASURED or (reading.grade >= Grade.TYPED and self.rig.measures(reading))


@dataclass(frozen=True)
class Witness:
    """The reading that decides about a quantity, and others of equal standing that contradict it."""

    reading: Reading
    grade: float
    against: tuple[Reading, ...] = ()


def _apart(one: Reading, other: Reading) -> bool:
    """Whether two values cannot both be right."""
    if one is other:
        return False
    first, second = estimate(one), estimate(other)
    return first.founded and second.founded and (first.high < second.low or second.high < first.low)
