"""A straight line through pairs of values: what copper leaves of a voltage, ampere by ampere."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.decide.estimates import half_width, student_factor

MIN_PAIRS = 3
"""Two pairs always lie on a line: the third shows whether they should."""
MIN_SPREAD = 0.15
"""Currents that differ by less than this share of the largest are one load, measured again."""


@dataclass(frozen=True)
class Pair:
    """A value and what it was read under, with the limit of either's own error as a share of it."""

    x: float
    y: float
    x_error_share: float = 0.0
    y_error_share: float = 0.0


@dataclass(frozen=True)
class Line:
    """``offset + slope x``, with the expanded uncertainty (95 %) of both."""

    slope: float
    slope_expanded: float
    offset: float
    offset_expanded: float
    pairs: int

    def at(self, x: float) -> float:
        return self.offset + self.slope * x


def fit_line(pairs: Sequence[Pair]) -> Line | None:
    """Least squares; None for too few pairs, or for currents that are alike.

    The scatter about the line is expanded by Student's factor for n - 2. The error of a meter is mostly a factor that
    all its readings share, so it goes into the slope as it is. Source: JCGM 100:2008, H.3 (fit), 4.3.9 (two limits).
    """
    if len(pairs) < MIN_PAIRS:
        return None
    count = len(pairs)
    x_mean, y_mean = (math.fsum(values) / count for values in ((p.x for p in pairs), (p.y for p in pairs)))
    spread = math.fsum((pair.x - x_mean) ** 2 for pair in pairs)
    widest = max(abs(pair.x) for pair in pairs)
    if not widest or max(p.x for p in pairs) - min(p.x for p in pairs) < MIN_SPREAD * widest:
        return None
    slope = math.fsum((pair.x - x_mean) * (pair.y - y_mean) for pair in pairs) / spread
    offset = y_mean - slope * x_mean
    left = math.fsum((pair.y - offset - slope * pair.x) ** 2 for pair in pairs) / (count - 2)
    factor = student_factor(count - 2)
    share = half_width(max(p.x_error_share for p in pairs), max(p.y_error_share for p in pairs))
    slope_expanded = math.hypot(factor * math.sqrt(left / spread), abs(slope) * share)
    offset_scatter = factor * math.sqrt(left * (1 / count + x_mean**2 / spread))
    return Line(slope, slope_expanded, offset, math.hypot(offset_scatter, abs(offset) * share), count)
