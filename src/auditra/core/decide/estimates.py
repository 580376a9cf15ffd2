"""Estimates with their uncertainty, and counts with their interval."""

from __future__ import annotations

import bisect
import math
from dataclasses import dataclass
from functools import lru_cache

from auditra.core.model.reading import Count, Reading

_KEPT_OF_A_LIMIT = 0.95
"""Of a value that is anywhere within a limit alike, the part of the limit that holds 95 % of it."""
_WILSON_Z = 1.959963984540054
_STUDENT = {
    1: 12.706, 2: 4.303, 3: 3.182, 4: 2.776, 5: 2.571, 6: 2.447, 7: 2.365, 8: 2.306, 9: 2.262, 10: 2.228, 11: 2.201,
    12: 2.179, 13: 2.160, 14: 2.145, 15: 2.131, 16: 2.120, 17: 2.110, 18: 2.101, 19: 2.093, 20: 2.086, 25: 2.060,
    30: 2.042, 35: 2.030, 40: 2.021, 45: 2.014, 50: 2.009, 100: 1.984,
}  # fmt: skip
"""Student's factor for 95 %, by degrees of freedom. Source: JCGM 100:2008, table G.2, to three decimals."""
_DEGREES = tuple(_STUDENT)
_MEDIAN = (1.0, 1.0, 1.160, 1.092, 1.198, 1.135, 1.214, 1.160, 1.223, 1.177)
"""How much wider the median of 1 to 10 normal values scatters than their mean.

Source: the variance of the middle order statistic of normal samples; ``make truth`` works the coverage out again.
"""


@dataclass(frozen=True)
class Estimate:
    """A value with its expanded uncertainty (95 %), in the reading's unit, and the number of repeats behind it.

    `founded` is False for a single value of which neither error nor last digit is known: it decides nothing.
    """

    value: float
    expanded: float
    repeats: int
    founded: bool = True

    @property
    def low(self) -> float:
        return self.value - self.expanded

    @property
    def high(self) -> float:
        return self.value + self.expanded


def estimate(reading: Reading) -> Estimate:
    """Median of the repeats; instrument, resolution and repeatability combined so that 95 % is 95 %.

    Repeatability is expanded by Student's factor for its n - 1 degrees of freedom, the instrument by the half-width
    that holds 95 % of a limit of error and half a last digit together; the two are added as squares. One factor for
    the effective degrees of freedom (G.4.1) would cover just 88 % of two repeats, which are where it matters.

    Source: JCGM 100:2008, 4.2.3 (s/sqrt n), 4.3.7 (a limit is a rectangle), 5.1.2 (combination), G.3 (Student).
    Raises: ValueError for a reading without a number.
    """
    if not reading.values:
        raise ValueError(f"reading of {reading.quantity} has no number")
    return _estimate(reading.values, reading.error, reading.resolution)


@lru_cache(maxsize=1 << 16)
def _estimate(values: tuple[float, ...], error: float, resolution: float) -> Estimate:
    """A reading is asked for its estimate by every rule and every screen that shows it."""
    count = len(values)
    if count == 1:
        return Estimate(values[0], half_width(error, resolution / 2), 1, error > 0 or resolution > 0)
    ordered, half = sorted(values), count // 2
    median = ordered[half] if count % 2 else (ordered[half - 1] + ordered[half]) / 2
    scatter = student_factor(count - 1) * _deviation_of_median(values)
    expanded = math.hypot(scatter, half_width(error, resolution / 2)) if error or resolution else scatter
    return Estimate(median, expanded, count)


def student_factor(degrees: int) -> float:
    """Student's factor for 95 %, for the next lower number of degrees of freedom that is in the table.

    Source: JCGM 100:2008, G.4.1 (truncate to the next lower). Raises: ValueError below 1.
    """
    if degrees < 1:
        raise ValueError("one repeat has no degree of freedom")
    return _STUDENT[_DEGREES[bisect.bisect_right(_DEGREES, degrees) - 1]]


def half_width(one: float, other: float) -> float:
    """Half of the interval that holds 95 % of the sum of two values, each anywhere within its own limit alike.

    Source: the convolution of two rectangles is a trapezoid (JCGM 100:2008, 4.3.9); its tails hold 5 %.
    """
    wide, narrow = max(one, other), min(one, other)
    in_the_slope = wide + narrow - math.sqrt(0.2 * wide * narrow)
    return in_the_slope if in_the_slope >= wide - narrow and narrow else _KEPT_OF_A_LIMIT * wide


def limit_behind(*expanded: float) -> float:
    """The limit of error of a sum or difference of values with these uncertainties, so that it has their U.

    Source: JCGM 100:2008, 5.1.2 (they add up as squares).
    """
    return math.hypot(*expanded) / _KEPT_OF_A_LIMIT


def _deviation_of_median(values: tuple[float, ...]) -> float:
    """Of the median of normal values, by their own scatter.

    In floating point, summed exactly: the library's own works in fractions, and takes a hundred times as long.
    """
    count = len(values)
    mean = math.fsum(values) / count
    of_mean = math.sqrt(math.fsum([(value - mean) ** 2 for value in values]) / (count - 1) / count)
    wider = _MEDIAN[count - 1] if count <= len(_MEDIAN) else math.sqrt(math.pi / 2)
    return of_mean * wider


@dataclass(frozen=True)
class Interval:
    """Bounds of a share, 0 to 1, or of a difference of two, -1 to 1."""

    low: float
    high: float


@lru_cache(maxsize=1 << 12)
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


def difference(one: Count, other: Count) -> Interval:
    """The 95 % interval of the difference of two shares, the first less the second.

    Source: R. G. Newcombe, Statistics in Medicine 17 (1998), 873-890, method 10. No tries on one side: -1 to 1.
    """
    if not one.tries or not other.tries:
        return Interval(-1.0, 1.0)
    first, second = one.seen / one.tries, other.seen / other.tries
    ours, theirs = wilson(one), wilson(other)
    down = math.hypot(first - ours.low, theirs.high - second)
    up = math.hypot(ours.high - first, second - theirs.low)
    return Interval(first - second - down, first - second + up)
