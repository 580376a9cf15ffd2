"""Ways whose volts were read at several currents: there and back they are one loop, with one resistance."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from auditra.core.claims.kinds.cable import FAR, NEAR
from auditra.core.decide.estimates import estimate
from auditra.core.decide.line import Line, Pair, fit_line
from auditra.core.judge.records import Counted, Records
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import DIRECT

_NO_END = ""
"""Readings of which it was not noted which end they are from."""


@dataclass(frozen=True)
class Loop:
    """One way at one place: what was read, and the line through it. The slope of a drop, or of a fall, is its ohms."""

    place: str
    leads: tuple[str, ...]
    trials: tuple[str, ...]
    quantity: Quantity
    pairs: tuple[Pair, ...]
    """Amperes, and the volts that were read under them; at the far end where both were read."""
    line: Line
    """Through the pairs, as they were read."""
    ohm: float
    ohm_expanded: float


def loops_of(records: Records) -> Iterator[Loop]:
    """Every way with volts at three currents or more, of the same gear over the same parts."""
    groups: dict[tuple[str, str | None, tuple[str, ...]], list[Counted]] = {}
    for trial in records.with_quantity(Quantity.VOLTAGE, Quantity.DROP):
        for place in trial.places:
            parts = trial.parts_at(None if place == DIRECT else place)
            groups.setdefault((place, trial.setup.gear_at(place), parts), []).append(trial)
    for (place, _, parts), trials in groups.items():
        loop = _loop(place, tuple(part.removeprefix("lead ") for part in parts if part.startswith("lead ")), trials)
        if loop is not None and loop.ohm - loop.ohm_expanded > 0:
            yield loop


def _loop(place: str, leads: tuple[str, ...], trials: Sequence[Counted]) -> Loop | None:
    """Of the drop where that was read; of what both ends lose; else of what was read without naming an end.

    The far end alone says nothing: it also falls as its source does.
    """
    drop, used = _pairs(place, trials, Quantity.DROP, None)
    line = fit_line(drop)
    if line is not None:
        return Loop(place, leads, used, Quantity.DROP, drop, line, line.slope, line.slope_expanded)
    (near, near_used), (far, far_used) = (_pairs(place, trials, Quantity.VOLTAGE, end) for end in (NEAR, FAR))
    at_near, at_far = fit_line(near), fit_line(far)
    if at_near is not None and at_far is not None:
        expanded = math.hypot(at_near.slope_expanded, at_far.slope_expanded)
        ohm, both = at_near.slope - at_far.slope, tuple(dict.fromkeys((*near_used, *far_used)))
        return Loop(place, leads, both, Quantity.VOLTAGE, far, at_far, ohm, expanded)
    only, used = _pairs(place, trials, Quantity.VOLTAGE, _NO_END)
    line = fit_line(only)
    if line is None:
        return None
    return Loop(place, leads, used, Quantity.VOLTAGE, only, line, -line.slope, line.slope_expanded)


def _pairs(
    place: str, trials: Sequence[Counted], quantity: Quantity, end: str | None
) -> tuple[tuple[Pair, ...], tuple[str, ...]]:
    """Every voltage whose current is known, and the trials that it came from."""
    found = [
        (pair, trial.id)
        for trial in trials
        for reading in trial.at(place).of(quantity).numbers()
        if (end is None or (reading.end if isinstance(reading.end, str) else _NO_END) == end)
        and (pair := _pair(trial, place, reading)) is not None
    ]
    return tuple(pair for pair, _ in found), tuple(dict.fromkeys(name for _, name in found))


def _pair(trial: Counted, place: str, reading: Reading) -> Pair | None:
    """A voltage with the current behind it; None where that was not noted."""
    volts = estimate(reading)
    volts_share = reading.error / abs(volts.value) if volts.value else 0.0
    if isinstance(reading.behind_a, float | int):
        return Pair(float(reading.behind_a), volts.value, 0.0, volts_share)
    currents = [each for each in trial.at(place).of(Quantity.CURRENT).numbers() if each.end == reading.end]
    if len(currents) != 1:
        return None
    amperes = estimate(currents[0])
    share = currents[0].error / abs(amperes.value) if amperes.value else 0.0
    return Pair(amperes.value, volts.value, share, volts_share)
