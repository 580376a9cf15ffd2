"""The readings a decision may look at, found by what they are of."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.model.reading import Count, Quantity, Reading


@dataclass(frozen=True)
class Evidence:
    """Readings in the order in which they were taken."""

    readings: tuple[Reading, ...] = ()

    def last(self, quantity: Quantity | str, at: str | None = None) -> Reading | None:
        """The newest reading of a quantity, at a port where one is named."""
        found = (r for r in reversed(self.readings) if r.quantity == quantity and at in (None, r.at))
        return next(found, None)

    def count(self, quantity: Quantity = Quantity.APPEARED) -> Count:
        """All tries together: how often gear appeared, or something else happened."""
        counts = [r.count for r in self.readings if r.quantity is quantity and r.count is not None]
        return Count(sum(c.seen for c in counts), sum(c.tries for c in counts))
