"""What a cable is said to carry, to drop at most, and to say of itself."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Self

from auditra.core.claims.observed import Figure, Stated, TriedWith, Working, read_with
from auditra.core.claims.promise import Look, Promise, ReadOff, Scale, Sense, take_hedge
from auditra.core.claims.terms import Amount, ModeTerm, Term, said
from auditra.core.claims.tokens import Words
from auditra.core.decide.estimates import estimate, limit_behind
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.rules import as_credit, at_least, at_most, link_at_least
from auditra.core.links.display import Mode, mode_of
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import Format, amount, bit_rate, format_for, length
from auditra.core.quantities.units import Dimension

_QUANTITY = {
    Dimension.CURRENT: Quantity.CURRENT,
    Dimension.VOLTAGE: Quantity.VOLTAGE,
    Dimension.POWER: Quantity.POWER,
    Dimension.BIT_RATE: Quantity.LINK,
}


@dataclass(frozen=True)
class Load:
    """What goes through: a value in SI and its dimension."""

    value: float
    dimension: Dimension


class _LoadTerm(Term[Load]):
    """Amperes, volts, watts or a data rate."""

    examples = ("5 A", "100 W", "10 Gb/s", "20 V")

    def read(self, words: Words) -> Load:
        words.look_for(*self.examples)
        place = words.place
        found = words.take_quantity(*_QUANTITY)
        if found.value <= 0:
            words.back(place)
            raise words.refuse("a value greater than zero")
        return Load(found.value, found.unit.dimension)

    def show(self, value: Load) -> str:
        return amount(value.value, value.dimension)


@dataclass(frozen=True)
class Carries(Promise):
    """``body carries 240 W``, ``body carries 10 Gb/s``: through the whole of it, with no more loss than is allowed."""

    load: Load = said(_LoadTerm(), hedged=True)

    words, of_many = "carries", "carry"
    example = "carries 5 A"
    on_body = True
    procedure = ProcedureId.LOOK

    @property
    def brief(self) -> str:
        return amount(self.load.value, self.load.dimension)[:11]

    @property
    def format(self) -> Format:
        return format_for(self.load.dimension, self.load.value)

    def scale(self) -> Scale:
        return Scale((_QUANTITY[self.load.dimension],), self.load.value)

    def look(self, spot: str) -> Look:
        what = _QUANTITY[self.load.dimension]
        hint = self.format.show(self.load.value)
        by = ReadOff.THROUGH if what in (Quantity.CURRENT, Quantity.POWER) else None
        question = f"How much {what} goes through it, read at the far end?"
        without = Quantity.LINK_WITHOUT if what is Quantity.LINK else None
        return Look(question, what, hint, (self.load.dimension,), read_off=by, without=without)

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        what, owed = _QUANTITY[self.load.dimension], self.owed(self.load.value)
        if what is Quantity.LINK:
            part = link_at_least(str(what), evidence, owed, bit_rate, lowest=Grade.TYPED)
            return (_beside_another(part, evidence, owed),)
        return (at_least(str(what), evidence, what, owed, self.format, Grade.TYPED),)


def _beside_another(part: Part, evidence: Evidence, owed: float) -> Part:
    """A link that falls short, beside what another cable in its place made: that clears the rig."""
    link, other = evidence.witness(Quantity.LINK), evidence.witness(Quantity.LINK_WITHOUT)
    if part.verdict is not Verdict.UNPROVEN or link is None or other is None or min(other.reading.values) < owed:
        return part
    made = min(link.reading.values)
    why = f"{bit_rate(made)} < {bit_rate(owed)}; another cable in its place makes {bit_rate(min(other.reading.values))}"
    return Part(part.name, Verdict.SHORT, part.shown, why, as_credit(made / owed))


@dataclass(frozen=True)
class CarriesPicture(Working):
    """``body carries picture 3840x2160@60``: a display behind it runs this mode; without one, any picture."""

    mode: Mode | None = said(ModeTerm(), hedged=True, default=None)

    words, of_many = "carries picture", "carry picture"
    example = "carries picture 3840x2160@60"
    on_body = True

    @classmethod
    def parse(cls, words: Words) -> Self:
        hedge = take_hedge(words)
        if not hedge and not words.peek()[:1].isdigit():
            words.look_for(*ModeTerm.examples)
            return cls()
        return cls(ModeTerm().read(words), hedge=hedge)

    def _said(self) -> Iterable[str]:
        return filter(None, (self.hedge.value, str(self.mode or "")))

    def question(self, spot: str) -> str:
        return f"Put a display behind it: does it {f'run {self.mode}' if self.mode else 'show a picture'}?"

    def tried_with(self, evidence: Evidence) -> TriedWith | None:
        """The mode that was read meanwhile; one that covers the promise is as much."""
        modes = [mode for reading in evidence.pool.of(Quantity.MODE) if (mode := mode_of(reading.text)) is not None]
        if not modes or self.mode is None:
            return None
        wanted = self.mode
        best = max(modes, key=lambda mode: (mode.covers(wanted), mode.pixels_a_second))
        pixels = wanted.pixels_a_second
        tried = pixels if best.covers(wanted) else min(pixels / 2, best.pixels_a_second)
        return TriedWith(tried, pixels, Dimension.FREQUENCY, words=(str(best), str(wanted)))

    @property
    def brief(self) -> str:
        return f"{self.mode.height}p{self.mode.refresh_hz:g}" if self.mode else "picture"


@dataclass(frozen=True)
class Drops(Figure):
    """``body drops at most 250 mV at 3 A``: volts left in it at a current, both ways together."""

    volts: float = said(Amount(Dimension.VOLTAGE, example="250 mV"))
    amperes: float = said(Amount(Dimension.CURRENT, example="3 A"), after="at")

    words, of_many = "drops at most", "drop at most"
    example = "drops at most 250 mV at 3 A"
    on_body = True
    sense = Sense.AT_MOST
    asks = "Volts at its near end less volts at its far end, while {it.amperes:g} A flow?"
    reads = Quantity.DROP
    read_off = ReadOff.DROP
    dimensions = (Dimension.VOLTAGE,)
    lowest = Grade.MEASURED

    @property
    def limit(self) -> float:
        return self.volts

    def look(self, spot: str) -> Look | None:
        asked = super().look(spot)
        return replace(asked, behind_a=self.amperes) if asked is not None else None

    def looks_besides(self, spot: str) -> tuple[Look, ...]:
        return (Look("How many amperes flowed then?", Quantity.CURRENT, f"{self.amperes:g} A", (Dimension.CURRENT,)),)

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """A drop grows with the current, so one at another current is computed to the promised one (Ohm's law)."""
        if not evidence.taken.of(Quantity.DROP) and (between := _between_ends(evidence)) is not None:
            evidence = replace(evidence, taken=ReadingSet((*evidence.taken, between)))
        witness = evidence.witness(Quantity.DROP)
        if witness is None:
            return (Part(self._part, Verdict.OPEN, "not tried"),)
        amperes = self._amperes_behind(evidence, witness.reading)
        if amperes is None or amperes <= 0:
            why = f"the current behind it was not noted: a drop counts only at {self.amperes:g} A"
            return (Part(self._part, Verdict.UNPROVEN, self.format.show(estimate(witness.reading).value), why),)
        factor = self.amperes / amperes
        computed = ReadingSet(tuple(_at_current(each, factor) for each in evidence.taken.of(Quantity.DROP)))
        part = at_most(
            self._part, replace(evidence, taken=computed), Quantity.DROP, self.limit, self.format, self.lowest
        )
        if abs(factor - 1) > _SAME_CURRENT:
            sum_ = f"{part.arithmetic}; computed from {amperes:g} A to {self.amperes:g} A"
            part = replace(part, arithmetic=sum_)
        return (part,)

    @property
    def _part(self) -> str:
        return str(Quantity.DROP)

    def _amperes_behind(self, evidence: Evidence, reading: Reading) -> float | None:
        if isinstance(reading.behind_a, float | int):
            return float(reading.behind_a)
        current = evidence.witness(Quantity.CURRENT)
        return estimate(current.reading).value if current is not None else None

    @property
    def brief(self) -> str:
        return f"-{amount(self.volts, Dimension.VOLTAGE)}"[:11]


_SAME_CURRENT = 0.01
"""A current within this share of the promised one is the promised one."""


NEAR, FAR = "near", "far"
"""How a reading names the end of a lead that it was taken at."""


def _between_ends(evidence: Evidence) -> Reading | None:
    """The drop as the difference of the volts at both ends, read while one current flowed; None where they were not.

    Source: JCGM 100:2008, 5.1.2 (the uncertainties of a difference add up as squares).
    """
    volts = [reading for reading in evidence.taken.of(Quantity.VOLTAGE) if reading.values]
    near, far = ([reading for reading in volts if reading.end == end] for end in (NEAR, FAR))
    for one, other in ((one, other) for one in near for other in far):
        if one.behind_a == other.behind_a:
            first, second = estimate(one), estimate(other)
            error = limit_behind(first.expanded, second.expanded)
            value, grade = Number((first.value - second.value,)), min(one.grade, other.grade)
            return replace(one, quantity=Quantity.DROP, value=value, error=error, resolution=0.0, grade=grade)
    return None


def _at_current(reading: Reading, factor: float) -> Reading:
    """A drop as it would be at another current; its error and last digit grow with it."""
    value = Number(tuple(each * factor for each in reading.values))
    return replace(reading, value=value, error=reading.error * factor, resolution=reading.resolution * factor)


@dataclass(frozen=True)
class Marked(Stated):
    """``body is marked 50 V 5 A``: its e-marker says so; without figures, it has one."""

    volts: float = said(Amount(Dimension.VOLTAGE, example="50 V"), default=0.0)
    amperes: float = said(Amount(Dimension.CURRENT, example="5 A"), default=0.0)

    words, of_many = "is marked", "are marked"
    example = "is marked 50 V 5 A"
    on_body = True
    lowest = Grade.TYPED

    def question(self, spot: str) -> str:
        figures = " ".join(part for part in self._said())
        return f"Does its marker answer{f', and say {figures}' if figures else ''}?"

    @property
    def brief(self) -> str:
        return " ".join(self._said())[:11] or "marked"


@dataclass(frozen=True)
class Reaches(Working):
    """``body reaches 5 m``: over all of this length, what is promised of it still works."""

    metres: float = said(Amount(Dimension.LENGTH, example="5 m"), hedged=True)

    words, of_many = "reaches", "reach"
    example = "reaches 5 m"
    on_body = True

    def tried_with(self, evidence: Evidence) -> TriedWith | None:
        metres = read_with(evidence, Quantity.LENGTH) or evidence.way_m
        return TriedWith(metres, self.metres, Dimension.LENGTH) if metres is not None else None

    def question(self, spot: str) -> str:
        return f"Lay it out over {length(self.metres)}, its whole reach: does all behind it still work?"

    @property
    def brief(self) -> str:
        return length(self.metres, digits=3)
