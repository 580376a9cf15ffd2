"""The knee of a throughput trace: a burst, then what it falls to and keeps."""

from __future__ import annotations

import math
import statistics
from dataclasses import dataclass

from auditra.core.model.reading import Trace

MIN_POINTS_A_SIDE = 4
FALLEN = 0.85
"""A steady part below this share of the burst is another rate; above it, any drive wanders."""
_TIMES_THE_SCATTER = 6.0


@dataclass(frozen=True)
class Knee:
    """Rates in the trace's unit, the time of the fall in seconds, and what had been moved until then."""

    burst: float
    steady: float
    at_s: float
    moved: float
    """In the trace's unit times seconds: bits, of bits per second."""


def find_knee(trace: Trace) -> Knee | None:
    """The one split that leaves the least scatter on either side; None where both sides are alike."""
    values, time_s = trace.values, trace.time_s
    if len(values) < 2 * MIN_POINTS_A_SIDE:
        return None
    sums, squares = [0.0], [0.0]
    for value in values:
        sums.append(sums[-1] + value)
        squares.append(squares[-1] + value * value)

    def scatter(begin: int, end: int) -> float:
        total = sums[end] - sums[begin]
        return (squares[end] - squares[begin]) - total * total / (end - begin)

    places = range(MIN_POINTS_A_SIDE, len(values) - MIN_POINTS_A_SIDE + 1)
    split = min(places, key=lambda at: scatter(0, at) + scatter(at, len(values)))
    burst, steady = statistics.median(values[:split]), statistics.median(values[split:])
    noise = math.sqrt(max(0.0, scatter(0, split) + scatter(split, len(values))) / len(values))
    if not burst > 0 or steady >= FALLEN * burst or burst - steady < _TIMES_THE_SCATTER * noise / math.sqrt(split):
        return None
    moved = math.fsum(
        value * (later - earlier)
        for value, earlier, later in zip(values[:split], time_s[:split], time_s[1 : split + 1], strict=False)
    )
    return Knee(burst, steady, time_s[split], moved)
