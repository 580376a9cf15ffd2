"""``A1 gives 4.5 W``, ``A1 gives 0.5 A``: the socket feeds what is plugged into it with this much."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Self

from auditra.core.claims.kinds._power import Watts
from auditra.core.claims.promise import Scale, take_hedge
from auditra.core.claims.terms import Amount
from auditra.core.claims.tokens import Words
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import at_least
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Load
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import Format, amount, format_for
from auditra.core.quantities.units import Dimension

USB_VOLTS = 5.0
"""What a port gives before anything else is agreed. Source: USB 2.0, 7.2.1."""
_WATTS = Amount(Dimension.POWER, example="4.5 W")
_AMPERES = Amount(Dimension.CURRENT, example="0.5 A")


@dataclass(frozen=True)
class Gives(Watts):
    """Watts at this port; amperes where those are promised, at the voltage that stands there."""

    amperes: float = 0.0

    words, of_many = "gives", "give"
    example = "gives 4.5 W"
    procedure = ProcedureId.POWER_OUT
    capability = Capability.POWER_OUT
    lacking_gear = "a load"
    proved_by = Load

    @classmethod
    def parse(cls, words: Words) -> Self:
        hedge = take_hedge(words)
        if not _WATTS.begins(words) and _AMPERES.begins(words):
            amperes = _AMPERES.read(words)
            return cls(amperes * USB_VOLTS, amperes=amperes, hedge=hedge)
        return cls(_WATTS.read(words), hedge=hedge)

    def _said(self) -> Iterable[str]:
        shown = _AMPERES.show(self.amperes) if self.amperes else _WATTS.show(self.watts)
        return (each for each in (self.hedge.value, shown) if each)

    @property
    def brief(self) -> str:
        return f"out {amount(self.amperes, Dimension.CURRENT) if self.amperes else f'{self.watts:g} W'}"[:11]

    @property
    def format(self) -> Format:
        return format_for(Dimension.CURRENT, self.amperes) if self.amperes else super().format

    def scale(self) -> Scale:
        return Scale((Quantity.CURRENT,), self.owed(self.amperes)) if self.amperes else super().scale()

    def floors(self) -> Mapping[Quantity, float]:
        return {} if self.amperes else super().floors()

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        if not self.amperes:
            return super().decide(evidence)
        return (at_least("current", evidence, Quantity.CURRENT, self.owed(self.amperes), self.format),)
