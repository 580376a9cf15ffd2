"""Edges to bits: biphase mark coding, all bursts of a capture at once.

An edge stands at the beginning of every bit, and one in the middle of a 1.
Source: USB PD R3.1, 5.8.1 (biphase mark coding), 5.8.3 (bit rates, inter-frame gap).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from auditra.core.decode.cc_line.edges import Times

Indices = npt.NDArray[np.int64]
Bits = npt.NDArray[np.uint8]

NOMINAL_BIT_S = 1 / 300_000
"""Source: USB PD R3.1, table 5-27 (fBitRate: 270 to 330 kb/s)."""
SLOWEST_BPS, FASTEST_BPS = 270_000, 330_000
_HALF_AT_MOST = 0.75
"""Of a nominal bit: between half a bit at 270 kb/s and a whole one at 330 kb/s, with the same room to both."""
_LOST_EDGE = 1.45
"""Of the burst's own bit: an interval that is longer has lost an edge."""
_GAP_S = 8e-6
"""Longer than any interval of a message with an edge lost, and shorter than what lies between two of them
(tInterFrameGap, 25 us at least)."""
_GLITCH_S = 0.5e-6
"""Shorter than half a bit can be, however far the two levels are from the threshold. Source: USB PD R3.1, 5.8.3.1
(tRxFilter is 0.1 us at least)."""
_PADDING = 2
"""The last bit of a message ends with no edge of its own where the line is let go."""


@dataclass(frozen=True, eq=False)
class Bursts:
    """Bits of every burst, one behind the other: burst n has those from `first_bit[n]` to before `first_bit[n + 1]`."""

    starts_s: Times
    ends_s: Times
    bit_s: Times
    """How long a bit lasts, in each burst."""
    first_bit: Indices
    bits: Bits
    lost: Indices
    """How many bits before each place lack the edge at their beginning."""
    glitches: int
    """Edges that were left out because they are too close together to be data."""

    def end_of(self, burst: int) -> int:
        """Behind its last bit that was seen."""
        return int(self.first_bit[burst + 1]) - _PADDING

    def __len__(self) -> int:
        return len(self.starts_s)


def bursts_of(edges_s: Times) -> Bursts:
    """What stands between pauses, as bits. Edges are ascending; any may be there."""
    edges, glitches = _without_glitches(edges_s)
    if len(edges) < 2:
        nothing = np.zeros(0)
        return Bursts(
            nothing, nothing, nothing, np.zeros(1, np.int64), np.zeros(0, np.uint8), np.zeros(1, np.int64), glitches
        )
    spans = np.diff(edges)
    pauses = np.flatnonzero(spans > _GAP_S)
    starts, ends = np.concatenate(([0], pauses + 1)), np.concatenate((pauses, [len(edges) - 1]))
    halves = (spans > _HALF_AT_MOST * NOMINAL_BIT_S).astype(np.int8) + np.int8(1)
    halves[pauses] = 0
    place = np.concatenate(([0], np.cumsum(halves, dtype=np.int64)))  # in half bits
    bit_s = _bit_of_each(edges, place, starts, ends)
    if _with_lost_edges(spans, halves, bit_s, starts):
        place = np.concatenate(([0], np.cumsum(halves, dtype=np.int64)))
    counts = ends - starts + 1
    late = _late_by_half(place, halves, starts)
    place -= np.repeat(place[starts] + late, counts)
    return _in_bits(edges, starts, ends, counts, place, bit_s, glitches)


def _without_glitches(edges_s: Times) -> tuple[Times, int]:
    """An odd run of intervals that are too short leaves the level as it was, an even one changes it once."""
    short = np.diff(edges_s) < _GLITCH_S
    if not short.any():
        return edges_s, 0
    bounds = np.flatnonzero(np.diff(np.concatenate(([False], short, [False])).view(np.int8)))
    first, last = bounds[::2], bounds[1::2]  # edges first[n] to last[n] are close together
    keep = np.ones(len(edges_s), dtype=bool)
    runs = np.cumsum(
        np.bincount(first, minlength=len(edges_s)) - np.bincount(last + 1, minlength=len(edges_s) + 1)[:-1]
    )
    keep[runs > 0] = False
    keep[first[(last - first) % 2 == 0]] = True
    return edges_s[keep], int(len(edges_s) - keep.sum())


def _bit_of_each(edges: Times, place: Indices, starts: Indices, ends: Indices) -> Times:
    """How long a bit is in each burst: from its first edge to its last, by the half bits between them."""
    half_bits = place[ends] - place[starts]
    lasted = edges[ends] - edges[starts]
    return np.where(half_bits > 1, 2 * lasted / np.maximum(half_bits, 1), NOMINAL_BIT_S)


def _with_lost_edges(spans: Times, halves: npt.NDArray[np.int8], bit_s: Times, starts: Indices) -> bool:
    """Intervals that are too long for one bit count as so many half bits as fit; whether there are any."""
    long = np.flatnonzero((spans > _LOST_EDGE / FASTEST_BPS) & (halves > 0))
    own = bit_s[np.searchsorted(starts, long, side="right") - 1]
    lost = spans[long] > _LOST_EDGE * own
    halves[long[lost]] = np.rint(2 * spans[long[lost]] / own[lost]).astype(np.int8)
    return bool(lost.any())


def _late_by_half(place: Indices, halves: npt.NDArray[np.int8], starts: Indices) -> Indices:
    """1 for bursts whose first edge is in the middle of a bit: an interval of one bit begins at the beginning of
    one."""
    whole = np.concatenate((halves == 2, [False]))
    first_is_odd = place[starts] % 2
    odd = np.add.reduceat(whole & (place % 2 == 1), starts, dtype=np.int64)
    every = np.add.reduceat(whole, starts, dtype=np.int64)
    odd = np.where(first_is_odd == 1, every - odd, odd)
    return (2 * odd > every).astype(np.int64)


def _in_bits(
    edges: Times, starts: Indices, ends: Indices, counts: Indices, place: Indices, bit_s: Times, glitches: int
) -> Bursts:
    bit_counts = (place[ends] + 1) // 2 + _PADDING
    first_bit = np.concatenate(([0], np.cumsum(bit_counts)))
    bit = np.repeat(first_bit[:-1], counts) + (place >> 1)
    in_middle, inside = (place & 1).astype(bool), place >= 0
    bits = np.zeros(int(first_bit[-1]) + 1, dtype=np.uint8)
    bits[bit[in_middle & inside]] = 1
    lacks_edge = np.ones(len(bits), dtype=bool)
    lacks_edge[bit[~in_middle & inside]] = False
    lost = np.concatenate(([0], np.cumsum(lacks_edge, dtype=np.int64)))
    return Bursts(edges[starts], edges[ends], bit_s, first_bit, bits[:-1], lost, glitches)
