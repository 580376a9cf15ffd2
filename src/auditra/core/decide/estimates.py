"""Estimates with their uncertainty, and counts with their interval."""

from __future__ import annotations

import math
import statistics
from dataclasses import dataclass
from functools import lru_cache

from auditra.core.model.reading import Count, Reading

COVERAGE_FACTOR = 2.0
_WILSON_Z = 1.959963984540054


@dataclass(frozen=True)
class Estimate:
    """A value with its expanded uncertainty (k = 2), in the reading's unit, and the number of repeats behind it."""

    value: float
    expanded: float
    repeats: int

    @property
    def low(self) -> float:
        return self.value - self.expanded

    @property
    def high(self) -> float:
        return self.value + self.expanded


def estimate(reading: Reading) -> Estimate:
    """Median of the repeats; instrument, resolution and repeatability combined.

    Source: JCGM 100:2008, 4.3.7 (a limit of error as a rectangle, a/sqrt 3; a last digit as a rectangle of half its
    width), 4.2.3 (s/sqrt n), 5.1.2 (combination), 6.2.1 (k = 2).
    Raises: ValueError for a reading without a number.
    """
    if not reading.values:
        raise ValueError(f"reading of {reading.quantity} has no number")
    return _estimate(reading.values, reading.error, reading.resolution)


@lru_cache(maxsize=1 << 16)
def _estimate(values: tuple[float, ...], error: float, resolution: float) -> Estimate:
    """A reading is asked for its estimate by every rule and every screen that shows it."""
    combined = math.hypot(_deviation_of_mean(values), error / math.sqrt(3), resolution / 2 / math.sqrt(3))
    return Estimate(statistics.median(values), COVERAGE_FACTOR * combined, len(values))


def _deviation_of_mean(values: tuple[float, ...]) -> float:
    """In floating point, summed exactly: the library's own works in fractions, and takes a hundred times as long."""
    if len(values) < 2:
        return 0.0
    mean = math.fsum(values) / len(values)
    return math.sqrt(math.fsum((value - mean) ** 2 for value in values) / (len(values) - 1) / len(values))


@dataclass(frozen=True)
class Interval:
    """Bounds of a share, 0 to 1."""

    low: float
    high: float


def wilson(count: Count) -> Interval:
    """The 95 % interval of the share behind a count. Source: E. B. Wilson, JASA 22 (1927), 209-212.

    A count of no tries says nothing: 0 to 1.
    """
    if count.tries == 0:
        return Interval(0.0, 1.0)
    n, share, z2 = count.tries, count.seen / count.tries, _WILSON_Z**2
    middle = (share + z2 / (2 * n)) / (1 + z2 / n)
    half = _WILSON_Z / (1 + z2 / n) * math.sqrt(share * (1 - share) / n + z2 / (4 * n * n))
    return Interval(min(share, max(0.0, middle - half)), max(share, min(1.0, middle + half)))
