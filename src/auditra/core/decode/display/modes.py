"""The modes of a display, each once: timings of one size and rate are one mode, whatever way they are written."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from auditra.core.decode.display.timing import DisplayTiming

_SAME_RATE = 0.0004
"""Exact rates that differ by less are one: a detailed timing has its clock in steps of 10 kHz. 24 and 23.976 Hz differ
by 0.001 of themselves."""
_NOMINAL_HZ = 0.5
"""A timing of a size and a rate alone has its rate in whole Hz: it is the exact one that is nearest within this."""


def merged(timings: Iterable[DisplayTiming]) -> tuple[DisplayTiming, ...]:
    """Each size and rate once, the best first: the largest picture, then the highest rate."""
    by_size: dict[tuple[int, int, bool], list[DisplayTiming]] = {}
    for timing in sorted(timings, key=lambda each: each.pixel_clock_khz is None):
        found = by_size.setdefault((timing.width, timing.height, timing.interlaced), [])
        rate = timing.refresh_millihz
        near = [(abs(each.refresh_millihz - rate), n) for n, each in enumerate(found) if _is_same_rate(each, timing)]
        if near:
            at = min(near)[1]
            found[at] = _both(found[at], timing)
        else:
            found.append(timing)
    return tuple(sorted((each for found in by_size.values() for each in found), key=_worth, reverse=True))


def _is_same_rate(known: DisplayTiming, other: DisplayTiming) -> bool:
    apart = abs(known.refresh_millihz - other.refresh_millihz)
    exact = known.pixel_clock_khz is not None and other.pixel_clock_khz is not None
    return apart <= known.refresh_millihz * _SAME_RATE if exact else apart < _NOMINAL_HZ * 1000


def _both(known: DisplayTiming, other: DisplayTiming) -> DisplayTiming:
    """The one of full colour, with what either says. With 4:2:0 alone it is only where both are."""
    full = other if known.chroma_420_only and not other.chroma_420_only else known
    return replace(
        full,
        preferred=known.preferred or other.preferred,
        native=known.native or other.native,
        chroma_420_too=not full.chroma_420_only
        and any(each.chroma_420_too or each.chroma_420_only for each in (known, other)),
    )


def _worth(each: DisplayTiming) -> tuple[int, int, bool]:
    return each.width * each.height, each.refresh_millihz, not each.interlaced
