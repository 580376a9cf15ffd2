"""``UP length 15 cm``: the fixed lead, or the body, is this long, give or take what the seller states."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.observed import Figure
from auditra.core.claims.promise import Look, Sense
from auditra.core.claims.terms import Amount, said
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import length
from auditra.core.quantities.units import Dimension


@dataclass(frozen=True)
class Length(Figure):
    """A length in metres; `give_m` is what the seller says that it may be off."""

    metres: float = said(Amount(Dimension.LENGTH, example="15 cm"), hedged=True)
    give_m: float = said(Amount(Dimension.LENGTH, example="1 cm"), after="give or take", default=0.0)

    words = "length"
    example = "length 15 cm"
    asks = "How long is {spot}, by the rule?"
    sense = Sense.SIZE
    reads = Quantity.LENGTH
    dimensions = (Dimension.LENGTH,)
    blames_device = True
    procedure = ProcedureId.RULE

    @property
    def limit(self) -> float:
        return self.metres

    @property
    def share_allowed(self) -> float:
        return self.give_m / self.metres if self.give_m else super().share_allowed

    @property
    def brief(self) -> str:
        return length(self.metres, digits=3)

    def look(self, spot: str) -> Look | None:
        return None

    @property
    def lacking(self) -> str:
        return "a rule"
