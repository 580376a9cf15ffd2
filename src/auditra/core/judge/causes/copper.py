"""The ohms of a way, from volts at several currents: the drop at the promised current, and the wire it would be."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from auditra.core.claims.kinds.cable import FAR, NEAR, Drops
from auditra.core.decide.estimates import estimate
from auditra.core.decide.line import Line, Pair, fit_line
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.records import Counted
from auditra.core.links.copper import THERE_AND_BACK, wire_ohm
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import DIRECT

_GAUGES = range(10, 41)


@dataclass(frozen=True, kw_only=True)
class Copper(Finding):
    """Loop resistance of a way, there and back, with what follows from it."""

    kind = "copper"
    role = Role.CAUSE

    way: str
    """What it is of: a lead, or the way to a port."""
    ohm: float
    ohm_expanded: float
    pairs: int
    length_m: float | None
    amperes: float | None
    """The current that was promised."""
    limit_v: float | None

    @property
    def subject(self) -> str:
        return self.way

    @property
    def sentence(self) -> str:
        words = f"{self.way} has {1e3 * self.ohm:.0f} ± {1e3 * self.ohm_expanded:.0f} mohm there and back"
        if self.amperes is None:
            return words
        drop_v, lost_w = self.amperes * self.ohm, self.amperes**2 * self.ohm
        return f"{words}: {1e3 * drop_v:.0f} mV and {lost_w:.2f} W are lost at {self.amperes:g} A"

    @property
    def arithmetic(self) -> str:
        parts = [f"least squares over {self.pairs} loads"]
        if self.length_m:
            parts.append(f"{1e3 * self.ohm / self.length_m:.0f} mohm/m")
            parts.append(f"as {self.gauge} AWG copper" if self.gauge is not None else "no wire of a cable is so thin")
        if self.limit_v is not None and self.amperes is not None:
            parts.append(f"{1e3 * self.amperes * self.ohm:.0f} of {1e3 * self.limit_v:.0f} mV")
        return "; ".join(parts)

    @property
    def gauge(self) -> int | None:
        """The thinnest gauge that has no more ohms at this length; contacts make it look thinner."""
        if not self.length_m:
            return None
        length_m = self.length_m
        return next(
            (gauge for gauge in reversed(_GAUGES) if THERE_AND_BACK * wire_ohm(gauge, length_m) <= self.ohm), None
        )


def _find(inquiry: Inquiry) -> Iterator[Copper]:
    """For each way whose volts were read at several currents, its ohms."""
    groups: dict[tuple[str, str | None, tuple[str, ...]], list[Counted]] = {}
    for trial in inquiry.records.counted:
        for place in trial.places:
            parts = trial.parts_at(None if place == DIRECT else place)
            groups.setdefault((place, trial.setup.gear_at(place), parts), []).append(trial)
    for (place, _, parts), trials in groups.items():
        line, used = _loop(place, trials)
        if line is not None and line.slope - line.slope_expanded > 0:
            yield _copper(inquiry, place, parts, line, used)


def _copper(inquiry: Inquiry, place: str, parts: tuple[str, ...], line: Line, used: tuple[str, ...]) -> Copper:
    drops = [verdict.claim for verdict in inquiry.verdicts
             if isinstance(verdict.claim.promise, Drops) and place in verdict.claim.ports]  # fmt: skip
    promise = drops[0].promise if drops else None
    leads = [part.removeprefix("lead ") for part in parts if part.startswith("lead ")]
    lead = inquiry.records.lead(leads[-1]) if leads else None
    is_lead = lead is not None and place == DIRECT
    amperes = promise.amperes if isinstance(promise, Drops) else getattr(lead, "amperes", None)
    length_m = getattr(lead, "length_m", None)
    return Copper(
        ports=(place,), trials=used, claims=tuple(claim.id for claim in drops),
        way=f"lead {leads[-1]}" if is_lead else f"the way to {place}", ohm=line.slope,
        ohm_expanded=line.slope_expanded, pairs=line.pairs,
        length_m=float(length_m) if isinstance(length_m, float | int) and is_lead else None,
        amperes=float(amperes) if isinstance(amperes, float | int) else None,
        limit_v=promise.volts if isinstance(promise, Drops) else None,
    )  # fmt: skip


def _loop(place: str, trials: Iterable[Counted]) -> tuple[Line | None, tuple[str, ...]]:
    """The line of what is lost over the current: of the drop, or of what both ends lose; its slope is in ohms."""
    trials = tuple(trials)
    drop, used = _line(place, trials, Quantity.DROP, None)
    if drop is not None:
        return drop, used
    near, near_used = _line(place, trials, Quantity.VOLTAGE, NEAR)
    far, far_used = _line(place, trials, Quantity.VOLTAGE, FAR)
    if near is not None and far is not None:
        expanded = math.hypot(near.slope_expanded, far.slope_expanded)
        return Line(near.slope - far.slope, expanded, 0.0, 0.0, far.pairs), (*near_used, *far_used)
    only, used = _line(place, trials, Quantity.VOLTAGE, None)
    if only is None:
        return None, ()
    return Line(-only.slope, only.slope_expanded, only.offset, only.offset_expanded, only.pairs), used


def _line(
    place: str, trials: tuple[Counted, ...], quantity: Quantity, end: str | None
) -> tuple[Line | None, tuple[str, ...]]:
    pairs: list[Pair] = []
    used: list[str] = []
    for trial in trials:
        for reading in trial.at(place).of(quantity).numbers():
            if (end is None or reading.end == end) and (pair := _pair(trial, place, reading)) is not None:
                pairs.append(pair)
                used.append(trial.id)
    return fit_line(pairs), tuple(dict.fromkeys(used))


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


COPPER = Cause(
    "copper", "Ohm's law by least squares; IEC 60028 for the gauge", "volts at three currents or more", _find
)
