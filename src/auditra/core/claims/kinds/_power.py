"""What the three promises of watts have in common; the leading underscore keeps it from being a kind."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar

from auditra.core.claims.promise import CANNOT_PROVE, Promise, Scale
from auditra.core.claims.terms import Amount, said
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import at_least
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Gear, Load, Supply
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import WATTS, Format, plain_number
from auditra.core.quantities.units import Dimension


def contract_text(evidence: Evidence) -> str:
    """What was offered and agreed, as host or log has it; empty where nothing was read."""
    pairs = (("offered", Quantity.OFFERED), ("agreed", Quantity.AGREED))
    found = ((word, witness) for word, quantity in pairs if (witness := evidence.witness(quantity)) is not None)
    return ", ".join(f"{word} {WATTS.show(max(witness.reading.values))}" for word, witness in found)


@dataclass(frozen=True)
class Watts(Promise):
    """A promise of power, in watts, measured at the port it is made for."""

    watts: float = said(Amount(Dimension.POWER, example="60 W"), hedged=True)

    lacking_gear: ClassVar[str]
    proved_by: ClassVar[type[Load | Supply]]

    @property
    def format(self) -> Format:
        return WATTS

    def scale(self) -> Scale:
        return Scale((Quantity.POWER,), self.owed(self.watts))

    @property
    def target(self) -> float:
        return self.watts

    def margin(self, gear: Gear) -> float | None:
        """Just the promised watts prove nothing, for some are lost on the way."""
        if not isinstance(gear, self.proved_by):
            return None
        share = gear.watts / self.watts if self.watts else 1.0
        return share if gear.watts > self.watts else min(share, CANNOT_PROVE)

    def floors(self) -> Mapping[Quantity, float]:
        return {Quantity.POWER: self.owed(self.watts)}

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        part = at_least("power", evidence, Quantity.POWER, self.owed(self.watts), WATTS)
        words = contract_text(evidence)
        if not words or part.verdict.decided:
            return (part,)
        why = "; ".join(filter(None, (part.arithmetic, f"{words}: no proof of watts that arrive")))
        verdict = Verdict.UNPROVEN if part.verdict is Verdict.OPEN else part.verdict
        return (replace(part, verdict=verdict, shown=words if not part.arithmetic else part.shown, arithmetic=why),)

    @property
    def lacking(self) -> str:
        return f"{self.lacking_gear} of more than {plain_number(self.watts)} W"
