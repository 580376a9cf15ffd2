"""What the three promises of watts have in common; the leading underscore keeps it from being a kind."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Self

from auditra.core.audit.reading import Quantity
from auditra.core.audit.verdict import Part
from auditra.core.claims.promise import Promise, Scale
from auditra.core.claims.words import Words
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.rules import at_least
from auditra.core.quantities import WATTS, Dimension, Format, plain_number


@dataclass(frozen=True)
class Watts(Promise):
    """A promise of power, in watts, measured at the port it is made for."""

    watts: float

    lacking_gear: ClassVar[str]

    @classmethod
    def parse(cls, words: Words) -> Self:
        return cls(words.take_quantity(Dimension.POWER).value)

    def __str__(self) -> str:
        return f"{self.words} {plain_number(self.watts)} W"

    @property
    def format(self) -> Format:
        return WATTS

    def scale(self) -> Scale:
        return Scale((Quantity.POWER,), self.watts)

    @property
    def target(self) -> float:
        return self.watts

    def decide(self, taken: Evidence, direct: Evidence) -> tuple[Part, ...]:
        return (at_least("power", taken.last(Quantity.POWER), self.watts, direct.last(Quantity.POWER), WATTS),)

    @property
    def lacking(self) -> str:
        return f"{self.lacking_gear} of more than {plain_number(self.watts)} W"
