"""Promises that a person decides by looking: something is there, something works, or a figure is read and typed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from auditra.core.claims.promise import ABOUT_SHARE, Hedge, Look, Promise, ReadOff, Scale, Sense
from auditra.core.decide.counts import MIN_TRIES_THAT_ACCUSE, works_when_asked
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import at_least, at_most, is_so, within
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import Format, amount, format_for
from auditra.core.quantities.units import Dimension

SIZE_TOLERANCE = 0.02
"""How far a size may be off where the seller states no tolerance."""


@dataclass(frozen=True)
class Stated(Promise):
    """Something that is so or not, and that anybody can see: what is in the box, what stands on the case."""

    procedure = ProcedureId.LOOK
    asks: ClassVar[str]
    """The question, with ``{spot}`` for the port."""
    lowest: ClassVar[Grade] = Grade.SEEN

    def look(self, spot: str) -> Look:
        return Look(self.question(spot), Quantity.SEEN_TO_BE, "yes", grade=self.lowest)

    def question(self, spot: str) -> str:
        """What a person is asked."""
        return self.asks.format(spot=spot, it=self)

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return (is_so(self.words, evidence, Quantity.SEEN_TO_BE, self.lowest),)

    @property
    def lacking(self) -> str:
        return "a person to look"


@dataclass(frozen=True)
class TriedWith:
    """A load, a length or a size that something was tried with, and the promised one, in one SI unit."""

    tried: float
    promised: float
    dimension: Dimension
    exact: bool = False
    """Another value is another case, not a harder or an easier one."""
    words: tuple[str, str] = ("", "")
    """The tried and the promised one in words, where the bare value says little."""

    @property
    def is_less(self) -> bool:
        return self.tried < self.promised * (1 - SIZE_TOLERANCE) or (self.exact and self._is_another)

    @property
    def is_more(self) -> bool:
        return self.tried > self.promised * (1 + SIZE_TOLERANCE) or (self.exact and self._is_another)

    @property
    def _is_another(self) -> bool:
        return abs(self.tried / self.promised - 1) > ABOUT_SHARE

    @property
    def text(self) -> str:
        return self.words[0] or amount(self.tried, self.dimension)

    @property
    def promised_text(self) -> str:
        return self.words[1] or amount(self.promised, self.dimension)


def read_with(evidence: Evidence, quantity: Quantity) -> float | None:
    """A value that was noted in the same trials, such as the ohms of what was plugged in; None for none."""
    readings = evidence.pool.of(quantity).numbers()
    return min((min(reading.values) for reading in readings), default=None)


@dataclass(frozen=True)
class Working(Promise):
    """Something that works or not. It is tried several times, and without the device too before it is called broken."""

    procedure = ProcedureId.LOOK
    asks: ClassVar[str]
    """What to try, with ``{spot}`` for the port; the count of successes is asked after it."""

    def look(self, spot: str) -> Look:
        tries = MIN_TRIES_THAT_ACCUSE
        question = f"{self.question(spot)} In how many of {tries} tries?"
        return Look(question, Quantity.WORKS, f"{tries} of {tries}", tries=tries)

    def question(self, spot: str) -> str:
        """What a person is asked to try."""
        return self.asks.format(spot=spot, it=self)

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """A count counts only for what it was tried with: proof over 10 m is none over 15 m."""
        part, tried = works_when_asked(self.words, evidence), self.tried_with(evidence)
        if tried is None or not (part.verdict is Verdict.HOLDS or part.verdict.accuses):
            return (part,)
        if part.verdict is Verdict.HOLDS and tried.is_less:
            why = f"shown with {tried.text} only; {tried.promised_text} is promised"
        elif part.verdict.accuses and tried.is_more:
            why = f"tried with {tried.text}, which is more than the {tried.promised_text} that is promised"
        else:
            return (part,)
        return (Part(part.name, Verdict.UNPROVEN, part.shown, why),)

    def tried_with(self, evidence: Evidence) -> TriedWith | None:
        """With what it was tried, beside what was promised; None where it names nothing, or nothing was noted."""
        return None

    @property
    def lacking(self) -> str:
        return f"gear for {self.words}"


@dataclass(frozen=True)
class Figure(Promise):
    """A figure that is read elsewhere and typed: a size, a temperature, a time."""

    procedure = ProcedureId.LOOK
    asks: ClassVar[str]
    sense: ClassVar[Sense] = Sense.AT_LEAST
    reads: ClassVar[Quantity | str]
    dimensions: ClassVar[tuple[Dimension, ...]]
    tolerance: ClassVar[float] = SIZE_TOLERANCE
    lowest: ClassVar[Grade] = Grade.TYPED
    read_off: ClassVar[ReadOff | None] = None
    """Which instruments may be asked for it."""
    blames_device: ClassVar[bool] = False
    """Nothing of the rig could explain it when the figure falls short."""

    @property
    def limit(self) -> float:
        """The promised figure, in SI."""
        raise NotImplementedError

    @property
    def format(self) -> Format:
        return format_for(self.dimensions[0], self.limit)

    def scale(self) -> Scale:
        return Scale((self.reads,), self.limit, sense=self._sense)

    def look(self, spot: str) -> Look | None:
        question, hint = self.asks.format(spot=spot, it=self), self.format.show(self.limit)
        return Look(question, self.reads, hint, self.dimensions, read_off=self.read_off)

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        name, fmt, lowest = str(self.reads), self.format, self.lowest
        if self._sense is Sense.SIZE:
            return (within(name, evidence, self.reads, self.limit, self.share_allowed, fmt, lowest),)
        if self._sense is Sense.AT_MOST:
            return (at_most(name, evidence, self.reads, self.limit, fmt, lowest),)
        owed = self.owed(self.limit)
        return (at_least(name, evidence, self.reads, owed, fmt, lowest, blames_device=self.blames_device),)

    @property
    def share_allowed(self) -> float:
        """How far a size may be off, as a part of it."""
        return ABOUT_SHARE if self.hedge is Hedge.ABOUT else self.tolerance

    @property
    def _sense(self) -> Sense:
        """A size with "up to" or "at least" is one-sided."""
        if self.sense is Sense.SIZE and self.hedge in (Hedge.UP_TO, Hedge.AT_LEAST):
            return Sense.AT_MOST if self.hedge is Hedge.UP_TO else Sense.AT_LEAST
        return self.sense

    @property
    def lacking(self) -> str:
        return f"an instrument that reads {self.reads}"
