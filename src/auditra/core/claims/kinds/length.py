"""``UP length 15 cm``: the fixed lead, or the body, is this long."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from auditra.core.audit.reading import Grade, Quantity
from auditra.core.audit.rig import Gear
from auditra.core.audit.trial import Procedure
from auditra.core.audit.verdict import Part
from auditra.core.claims.promise import Promise, Scale
from auditra.core.claims.words import Words
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.rules import within
from auditra.core.quantities import Dimension, Format, length, length_format

SIZE_TOLERANCE = 0.02
"""How far a size may be off where the seller states no tolerance."""


@dataclass(frozen=True)
class Length(Promise):
    """A length in metres."""

    metres: float

    words = "length"
    example = "length 15 cm"
    procedure = Procedure.RULE

    @classmethod
    def parse(cls, words: Words) -> Self:
        return cls(words.take_quantity(Dimension.LENGTH).value)

    def __str__(self) -> str:
        return f"length {length(self.metres, digits=12)}"

    @property
    def brief(self) -> str:
        return length(self.metres, digits=3)

    @property
    def format(self) -> Format:
        return length_format(self.metres)

    def scale(self) -> Scale:
        return Scale((Quantity.LENGTH,), self.metres)

    def margin(self, gear: Gear) -> float | None:
        return None

    def decide(self, taken: Evidence, direct: Evidence) -> tuple[Part, ...]:
        return (within("length", taken.last(Quantity.LENGTH), self.metres, SIZE_TOLERANCE, self.format, Grade.TYPED),)

    @property
    def lacking(self) -> str:
        return "a rule"
