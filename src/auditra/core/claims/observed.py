"""Promises that a person decides by looking: something is there, something works, or a figure is read and typed."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import ClassVar

from auditra.core.claims.promise import ABOUT_SHARE, Hedge, Look, Promise, Scale
from auditra.core.decide.counts import MIN_TRIES_THAT_ACCUSE, works_when_asked
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import at_least, at_most, is_so, within
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import Format, format_for
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
        return (works_when_asked(self.words, evidence),)

    @property
    def lacking(self) -> str:
        return f"gear for {self.words}"


class Sense(Enum):
    """Which way a figure is promised."""

    AT_LEAST = "at least"
    AT_MOST = "at most"
    SIZE = "size"


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
        return Scale((self.reads,), self.limit)

    def look(self, spot: str) -> Look | None:
        return Look(self.asks.format(spot=spot, it=self), self.reads, self.format.show(self.limit), self.dimensions)

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
