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
Flags = npt.NDArray[np.bool_]
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
    starts = np.concatenate(([0], pauses + 1))
    ends = np.concatenate((pauses, [len(edges) - 1]))
    burst = np.repeat(np.arange(len(starts)), ends - starts + 1)
    inside = burst[:-1] == burst[1:]
    bit_s = _bit_of_each(spans, burst, inside, len(starts))
    halves = np.where(spans > _HALF_AT_MOST * NOMINAL_BIT_S, 2, 1)
    long = inside & (spans > _LOST_EDGE * bit_s[burst[:-1]])
    halves[long] = np.rint(2 * spans[long] / bit_s[burst[:-1][long]]).astype(np.int64)
    place = np.concatenate(([0], np.cumsum(np.where(inside, halves, 0))))
    place -= place[starts][burst]  # half bits since the first edge of the burst
    place -= _late_by_half(place, halves, burst, inside, len(starts))[burst]
    return _in_bits(edges, starts, ends, burst, place, bit_s, glitches)


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


def _bit_of_each(spans: Times, burst: Indices, inside: Flags, count: int) -> Times:
    """How long a bit is in each burst, by all its intervals that are of one bit or of half of one."""
    whole = inside & (spans > _HALF_AT_MOST * NOMINAL_BIT_S) & (spans < 1.4 * NOMINAL_BIT_S)
    half = inside & (spans <= _HALF_AT_MOST * NOMINAL_BIT_S)
    total = np.bincount(burst[:-1][whole | half], weights=spans[whole | half], minlength=count)
    number = np.bincount(burst[:-1][whole], minlength=count) + 0.5 * np.bincount(burst[:-1][half], minlength=count)
    return np.where(number > 0, total / np.maximum(number, 0.5), NOMINAL_BIT_S)


def _late_by_half(place: Indices, halves: Indices, burst: Indices, inside: Flags, count: int) -> Indices:
    """1 for bursts whose first edge is in the middle of a bit: an interval of one bit begins at the beginning of "
    "one."""
    whole = inside & (halves == 2)
    odd = np.bincount(burst[:-1][whole], weights=place[:-1][whole] % 2, minlength=count)
    return (2 * odd > np.bincount(burst[:-1][whole], minlength=count)).astype(np.int64)


def _in_bits(
    edges: Times, starts: Indices, ends: Indices, burst: Indices, place: Indices, bit_s: Times, glitches: int
) -> Bursts:
    at_first = np.maximum(place[starts], 0)
    counts = (place[ends] - at_first + 1) // 2 + _PADDING
    first_bit = np.concatenate(([0], np.cumsum(counts)))
    bit = first_bit[burst] + place // 2
    in_middle = (place % 2 == 1) & (place >= 0)
    at_beginning = (place % 2 == 0) & (place >= 0)
    bits = np.zeros(int(first_bit[-1]) + 1, dtype=np.uint8)
    bits[bit[in_middle]] = 1
    has_edge = np.zeros(len(bits), dtype=bool)
    has_edge[bit[at_beginning]] = True
    lost = np.concatenate(([0], np.cumsum(~has_edge)))
    return Bursts(edges[starts], edges[ends], bit_s, first_bit, bits[:-1], lost, glitches)
