"""Readings, narrowed step by step: what they are of, where they were taken, through the device or direct."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from auditra.core.model.reading import Count, Quantity, Reading
from auditra.core.model.trial import DIRECT


@dataclass(frozen=True)
class ReadingSet:
    """Readings in the order in which they were taken: ``readings.of(Quantity.WRITE).at("A1").last()``."""

    readings: tuple[Reading, ...] = ()

    @staticmethod
    def joined(sets: Iterable[ReadingSet]) -> ReadingSet:
        """The readings of several sets, one set after the other."""
        return ReadingSet(tuple(reading for each in sets for reading in each.readings))

    def __iter__(self) -> Iterator[Reading]:
        return iter(self.readings)

    def __bool__(self) -> bool:
        return bool(self.readings)

    def of(self, *quantities: Quantity | str) -> ReadingSet:
        return ReadingSet(tuple(reading for reading in self.readings if reading.quantity in quantities))

    def at(self, *places: str) -> ReadingSet:
        return ReadingSet(tuple(reading for reading in self.readings if reading.at in places))

    def direct(self) -> ReadingSet:
        """Those of the gear without the device."""
        return self.at(DIRECT)

    def through_device(self) -> ReadingSet:
        return ReadingSet(tuple(reading for reading in self.readings if reading.at != DIRECT))

    def traced(self) -> ReadingSet:
        """Those with a trace."""
        return ReadingSet(tuple(reading for reading in self.readings if reading.trace is not None))

    def numbers(self) -> ReadingSet:
        """Those that are a number."""
        return ReadingSet(tuple(reading for reading in self.readings if reading.values))

    def last(self) -> Reading | None:
        """The newest; None where there is none."""
        return self.readings[-1] if self.readings else None

    def count(self) -> Count:
        """All tries together: how often gear appeared, or something else happened."""
        counts = [reading.count for reading in self.readings if reading.count is not None]
        return Count(sum(count.seen for count in counts), sum(count.tries for count in counts))
