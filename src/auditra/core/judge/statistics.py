"""Estimates with their uncertainty, and counts with their interval."""

from __future__ import annotations

import math
import statistics
from dataclasses import dataclass

from auditra.core.audit.reading import Count, Reading

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
    repeatability = _deviation_of_mean(reading.values)
    instrument = reading.error / math.sqrt(3)
    resolution = reading.resolution / 2 / math.sqrt(3)
    combined = math.sqrt(repeatability**2 + instrument**2 + resolution**2)
    return Estimate(statistics.median(reading.values), COVERAGE_FACTOR * combined, len(reading.values))


def _deviation_of_mean(values: tuple[float, ...]) -> float:
    return statistics.stdev(values) / math.sqrt(len(values)) if len(values) > 1 else 0.0


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
