"""Readings, narrowed step by step: what they are of, where they were taken, through the device or direct."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property

from auditra.core.model.reading import Count, Quantity, Reading
from auditra.core.model.trial import DIRECT

_WORTH_AN_INDEX = 20
"""Readings; fewer are looked through sooner than sorted."""


@dataclass(frozen=True)
class ReadingSet:
    """Readings in the order in which they were taken: ``readings.of(Quantity.WRITE).at("A1").last()``."""

    readings: tuple[Reading, ...] = ()

    @staticmethod
    def joined(sets: Iterable[ReadingSet]) -> ReadingSet:
        """The readings of several sets, one set after the other."""
        return ReadingSet(tuple([reading for each in sets for reading in each.readings]))

    def __iter__(self) -> Iterator[Reading]:
        return iter(self.readings)

    def __bool__(self) -> bool:
        return bool(self.readings)

    def of(self, *quantities: Quantity | str) -> ReadingSet:
        if len(quantities) == 1 and len(self.readings) > _WORTH_AN_INDEX:
            return self._by_quantity.get(quantities[0], _NONE)
        return ReadingSet(tuple([reading for reading in self.readings if reading.quantity in quantities]))

    @cached_property
    def _by_quantity(self) -> dict[Quantity | str, ReadingSet]:
        """A large set is asked for one quantity after the other, by trial after trial."""
        found: dict[Quantity | str, list[Reading]] = {}
        for reading in self.readings:
            found.setdefault(reading.quantity, []).append(reading)
        return {quantity: ReadingSet(tuple(readings)) for quantity, readings in found.items()}

    def at(self, *places: str) -> ReadingSet:
        return ReadingSet(tuple([reading for reading in self.readings if reading.at in places]))

    def direct(self) -> ReadingSet:
        """Those of the gear without the device."""
        return self.at(DIRECT)

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


_NONE = ReadingSet()
