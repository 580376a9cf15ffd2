"""The body: warmth, sizes, weight, what it is made of, and how its sockets are counted."""

from __future__ import annotations

import statistics
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import ClassVar

from auditra.core.claims.observed import Figure, Stated
from auditra.core.claims.promise import Look, Promise, ReadOff, Sense
from auditra.core.claims.terms import Amount, FreeWords, SizeTerm, Whole, said
from auditra.core.decide.estimates import estimate
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import is_so
from auditra.core.model.reading import Grade, Quantity, Trace
from auditra.core.model.setup import MINUTE_S
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import amount, plain_number
from auditra.core.quantities.units import Dimension


@dataclass(frozen=True)
class Below(Figure):
    """``body below 45 C``: its surface stays cooler, at work and once it is steady."""

    celsius: float = said(Amount(Dimension.TEMPERATURE, example="45 C"))

    words = "below"
    example = "below 45 C"
    on_body = True
    sense = Sense.AT_MOST
    asks = "Keep it at work until it warms no more: how warm is the warmest spot of {spot}?"
    reads = Quantity.CASE_TEMPERATURE
    read_off = ReadOff.WARMTH
    dimensions = (Dimension.TEMPERATURE,)
    lowest = Grade.MEASURED

    @property
    def limit(self) -> float:
        return self.celsius

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """A case that still warms shows no plateau yet; in a room above 25 C the room takes its share of the blame."""
        part = super().decide(evidence)[0]
        witness = evidence.witness(self.reads)
        if witness is None:
            return (part,)
        minutes = _minutes_at_work(evidence)
        if part.verdict is Verdict.HOLDS and minutes is not None and minutes < STEADY_AFTER_MIN:
            why = f"after {minutes:.0f} min at work only; a case is steady after {STEADY_AFTER_MIN:.0f} min or more"
            return (Part(part.name, Verdict.UNPROVEN, part.shown, why),)
        if part.verdict is Verdict.HOLDS and (kelvin := _still_rises_k(evidence)) is not None:
            why = f"it still rises, by {kelvin:.1f} K in the last 10 min; less than {STEADY_K:g} K is steady"
            return (Part(part.name, Verdict.UNPROVEN, part.shown, why),)
        room = evidence.witness(Quantity.AMBIENT_TEMPERATURE)
        above_k = estimate(room.reading).value - USUAL_ROOM_C if room is not None else 0.0
        if part.verdict is Verdict.SHORT and above_k > 0 and estimate(witness.reading).low - above_k <= self.limit:
            why = f"{part.arithmetic}, but the room is {above_k:.1f} K warmer than {USUAL_ROOM_C:g} C"
            return (Part(part.name, Verdict.UNPROVEN, part.shown, why),)
        return (part,)

    @property
    def brief(self) -> str:
        return f"below {self.celsius:g} C"[:11]


STEADY_K, STEADY_S = 0.5, 600.0
"""A temperature that changes by less than this in 10 minutes is steady."""
USUAL_ROOM_C = 25.0
"""The room that a temperature is meant for where none is stated. Source: IEC 62368-1:2018, B.2.6.1."""


def _of_moments(evidence: Evidence) -> Trace | None:
    """Single values with the moment that each was read at, as a trace."""
    pairs = [(reading.moment, estimate(reading).value) for reading in evidence.taken.of(Quantity.CASE_TEMPERATURE)
             if reading.values and isinstance(reading.moment, datetime)]  # fmt: skip
    timed = sorted((moment, value) for moment, value in pairs if isinstance(moment, datetime))
    if len(timed) < 2:
        return None
    begin = timed[0][0]
    times = tuple((moment - begin).total_seconds() for moment, _ in timed)
    return Trace(times, tuple(value for _, value in timed))


STEADY_AFTER_MIN = 30.0
"""A case of such a size has a time constant of 10 to 20 minutes, and is near its plateau after two of them."""


def _minutes_at_work(evidence: Evidence) -> float | None:
    """How long it had been at work, as noted; None where it was not, or where a trace tells better."""
    if evidence.taken.of(Quantity.CASE_TEMPERATURE).traced():
        return None
    soaked = [max(reading.values) for reading in evidence.taken.of(Quantity.SOAKED).numbers()]
    seconds = max(soaked, default=evidence.setup.soaked_s if evidence.setup is not None else 0.0)
    return seconds / MINUTE_S if seconds else None


def _still_rises_k(evidence: Evidence) -> float | None:
    """By how much the case warms in 10 minutes at the end of its trace, in kelvin; None where it is steady."""
    traces = [reading.trace for reading in evidence.taken.of(Quantity.CASE_TEMPERATURE).traced()]
    for trace in (*traces, _of_moments(evidence)):
        if trace is None or len(trace.time_s) < 2:
            continue
        since = max(trace.time_s[0], trace.time_s[-1] - STEADY_S)
        window = [value for time, value in zip(trace.time_s, trace.values, strict=False) if time >= since]
        tenth = max(1, len(window) // 10)
        rise_k = statistics.median(window[-tenth:]) - statistics.median(window[:tenth])
        span_s = trace.time_s[-1] - since
        if span_s > 0 and rise_k * STEADY_S / span_s >= STEADY_K:
            return rise_k * STEADY_S / span_s
    return None


@dataclass(frozen=True)
class Weighs(Figure):
    """``body weighs 95 g``."""

    kilograms: float = said(Amount(Dimension.MASS, example="95 g"), hedged=True)

    words, of_many = "weighs", "weigh"
    example = "weighs 95 g"
    on_body = True
    sense = Sense.SIZE
    tolerance = 0.05
    asks = "What do the scales say of {spot}?"
    reads = Quantity.MASS
    dimensions = (Dimension.MASS,)
    blames_device = True

    @property
    def limit(self) -> float:
        return self.kilograms

    @property
    def brief(self) -> str:
        return amount(self.kilograms, Dimension.MASS)[:11]


@dataclass(frozen=True)
class SlotWidth(Figure):
    """``body slot width 18 mm``: of a stand's slot."""

    metres: float = said(Amount(Dimension.LENGTH, example="18 mm"), hedged=True)

    words = "slot width"
    example = "slot width 1.8 cm"
    on_body = True
    sense = Sense.SIZE
    asks = "How wide is the slot of {spot}, by the rule?"
    reads = Quantity.SLOT_WIDTH
    dimensions = (Dimension.LENGTH,)
    blames_device = True

    @property
    def limit(self) -> float:
        return self.metres

    @property
    def brief(self) -> str:
        return f"slot {amount(self.metres, Dimension.LENGTH)}"[:11]


@dataclass(frozen=True)
class Size(Stated):
    """``body size 120 x 50 x 15 mm``: each side within 2 %."""

    sides_m: tuple[float, float, float] = said(SizeTerm())

    words = "size"
    example = "size 120 x 50 x 15 mm"
    on_body = True
    lowest = Grade.TYPED

    def question(self, spot: str) -> str:
        sides = [f"{plain_number(side * 980)} to {plain_number(side * 1020)} mm" for side in self.sides_m]
        return f"By the rule, is it {' by '.join(sides)} (2 % give or take)?"

    @property
    def brief(self) -> str:
        return f"{self.sides_m[0] * 1e3:.0f}x{self.sides_m[1] * 1e3:.0f} mm"[:11]


@dataclass(frozen=True)
class MadeOf(Stated):
    """``body made of aluminium``."""

    material: str = said(FreeWords("aluminium"))

    words = "made of"
    example = "made of aluminium"
    on_body = True
    asks = "Is {spot} of {it.material}, as far as can be seen?"

    @property
    def brief(self) -> str:
        return self.material[:11]


@dataclass(frozen=True)
class HasLockSlot(Stated):
    """``body has lock slot``."""

    words, of_many = "has lock slot", "have lock slot"
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {
        "": ("lock slot", "security slot", r"slot for an? (?:\w+ )?lock"),
    }
    example = "has lock slot"
    on_body = True
    asks = "Is there a lock slot on {spot}, and does a lock hold in it?"

    @property
    def brief(self) -> str:
        return "lock slot"


@dataclass(frozen=True)
class Counted(Promise):
    """``body ports 11``: the "N in 1" of the box.

    One rule for all devices: every socket of the faces counts once, the host's plug not; the sheet shows which.
    """

    ports: int = said(Whole(most=64))

    words = "ports"
    example = "ports 11"
    on_body = True
    procedure = ProcedureId.LOOK

    @property
    def brief(self) -> str:
        return f"{self.ports} in 1"

    def look(self, spot: str) -> Look:
        question = f"Count the sockets, the plug for the host not among them: are there {self.ports}?"
        return Look(question, Quantity.PORTS, "yes")

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return (is_so("ports", evidence, Quantity.PORTS, Grade.SEEN),)

    @property
    def lacking(self) -> str:
        return "a person to count"
