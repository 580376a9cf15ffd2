"""Sampled voltages of a CC line as edges: a table of times and volts, as an oscilloscope writes it.

The threshold is half way between the two levels that are driven while something is sent, with some of the swing as
hysteresis. Source: USB PD R3.1, 5.8.2 and table 5-29 (the swing is 1.05 to 1.2 V; between messages the line rests where
the termination puts it, and that is no level of the code).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np
import numpy.typing as npt

from auditra.core.decode.cc_line.edges import Capture, Line, Times
from auditra.core.decode.problem import Code, Problem
from auditra.core.tables.layout import Layout
from auditra.core.tables.reader import Table, read_table

Values = npt.NDArray[np.float64]

_STEP = 0.15
"""Of the whole range: samples that differ by so much lie on both sides of an edge."""
_AROUND = 3
"""Samples before and behind an edge that belong to it."""
_LOW, _HIGH, _HYSTERESIS = 10.0, 90.0, 0.15
_VOLTS = ("V", "mV", "kV")
_MAX_LINES = 8


def columns_of_volts(layout: Layout) -> list[int]:
    """Those in volts; without any, those that have no unit at all."""
    others = [column for column in layout.columns if column.number != layout.time]
    volts = [column.number for column in others if column.unit in _VOLTS]
    return (volts or [column.number for column in others if not column.unit])[:_MAX_LINES]


def read_samples(pieces: Iterable[bytes], layout: Layout) -> Capture:
    """Every column of volts as a line. Never raises for what is in the table."""
    wanted = columns_of_volts(layout)
    table = read_table(pieces, layout, wanted)
    lines = tuple(
        Line(layout.columns[number].name, edges_of_samples(table.time_s, values))
        for number, values in table.columns.items()
    )
    return Capture(lines, tuple(_problems(table)))


def edges_of_samples(time_s: Times, volts: Values) -> Times:
    """The moments at which the line passes the threshold, between two samples by a straight line."""
    known = np.isfinite(volts) & np.isfinite(time_s)
    time_s, volts = time_s[known], volts[known]
    if len(volts) < 2 * _AROUND or np.ptp(volts) <= 0:
        return np.zeros(0)
    threshold, slack = _threshold(volts)
    above, below = volts > threshold + slack, volts < threshold - slack
    decided = np.flatnonzero(above | below)
    level = above[decided]
    turns = np.flatnonzero(level[1:] != level[:-1])
    before, after = decided[turns], decided[turns + 1]
    share = (threshold - volts[before]) / (volts[after] - volts[before])
    edges: Times = time_s[before] + share * (time_s[after] - time_s[before])
    return np.maximum.accumulate(edges)


def _threshold(volts: Values) -> tuple[float, float]:
    """Half way between the levels beside the edges, and how far from there a level must be."""
    steep = np.flatnonzero(np.abs(np.diff(volts)) > _STEP * np.ptp(volts))
    near = (
        np.unique((steep[:, None] + np.arange(-_AROUND, _AROUND + 2)).clip(0, len(volts) - 1)) if len(steep) else None
    )
    driven = volts if near is None else volts[near]
    low, high = np.percentile(driven, [_LOW, _HIGH])
    return float(low + high) / 2, float(high - low) * _HYSTERESIS


def _problems(table: Table) -> Iterator[Problem]:
    """Offsets are lines."""
    for bad in table.bad_rows:
        yield Problem(bad.line, Code.SHORT, bad.why)
    if table.left_out > len(table.bad_rows):
        yield Problem(0, Code.COUNT, f"{table.left_out} lines are no rows, and are left out")
    if table.goes_back:
        yield Problem(0, Code.ORDER, f"the time goes back {table.goes_back} times")
    if table.is_cut:
        yield Problem(0, Code.LONG, "it has more rows than are read")
