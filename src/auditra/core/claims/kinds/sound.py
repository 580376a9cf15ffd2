"""``J1 plays 3.5 mm 300 ohm``, ``J1 records``: sound out and in."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.observed import TriedWith, Working, read_with
from auditra.core.claims.terms import Amount, OneOf, said
from auditra.core.decide.evidence import Evidence
from auditra.core.model.reading import Quantity
from auditra.core.quantities.units import Dimension

_JACKS = OneOf("3.5 mm", "6.3 mm", "2.5 mm", "4.4 mm", "usb-c", "optical")


@dataclass(frozen=True)
class Plays(Working):
    """Sound out, into a plug and a load in ohms where they are named."""

    jack: str = said(_JACKS, default="")
    ohm: float = said(Amount(Dimension.RESISTANCE, example="300 ohm"), default=0.0)

    words, of_many = "plays", "play"
    can_be_disturbed = True
    example = "plays 3.5 mm 300 ohm"

    def tried_with(self, evidence: Evidence) -> TriedWith | None:
        """Another load is another case: more ohms want more volts, fewer more amperes."""
        ohm = read_with(evidence, Quantity.RESISTANCE) if self.ohm else None
        return TriedWith(ohm, self.ohm, Dimension.RESISTANCE, exact=True) if ohm is not None else None

    def question(self, spot: str) -> str:
        load = f" of {self.ohm:g} ohm" if self.ohm else ""
        return f"Plug headphones{load} into {spot}: clean sound, both sides, no dropping out?"

    @property
    def brief(self) -> str:
        return "sound out"


@dataclass(frozen=True)
class Records(Working):
    """Sound in."""

    jack: str = said(_JACKS, default="")

    words, of_many = "records", "record"
    can_be_disturbed = True
    example = "records 3.5 mm"
    asks = "Plug a microphone into {spot} and record: is it heard, without hum?"

    @property
    def brief(self) -> str:
        return "sound in"
