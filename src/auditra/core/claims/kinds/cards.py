"""``S1 cards 95 MB/s``, ``S1 cards UHS-II``: a card in this slot is written and read this fast.

A figure that is the name of a bus class (104 MB/s for UHS-I), or the class itself, is a line rate, and payload is
expected at 0.85 of it; any other figure is payload already, and is owed in full.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Self

from auditra.core.claims.kinds.data import PRACTICAL_SHARE
from auditra.core.claims.observed import TriedWith, Working, read_with
from auditra.core.claims.promise import BITS_A_BYTE, Promise, Scale, Sense, rounded_to_keep, take_hedge
from auditra.core.claims.terms import Amount, OneOf, said
from auditra.core.claims.tokens import Words
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.payload import payload_parts
from auditra.core.links.cards import BUS_BPS, bus_of_rate, slowest_bus_for
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Card, Gear
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import MEGABYTES_A_SECOND, Format, amount, byte_rate
from auditra.core.quantities.units import Dimension

_RATE = Amount(Dimension.BYTE_RATE, example="95 MB/s")
_BUS = OneOf(*BUS_BPS, spellings={"UHS-1": "UHS-I", "UHS-2": "UHS-II", "UHS-3": "UHS-III"})


@dataclass(frozen=True)
class Cards(Promise):
    """A card rate in bits per second, shown in bytes; `bus` is the class, where that was promised."""

    rate_bps: float
    bus: str = ""

    words, of_many = "cards", "cards"
    example = "cards 95 MB/s"
    procedure = ProcedureId.STORAGE
    capability = Capability.DATA
    cannot_be_without = "data"
    beside_display = True

    @classmethod
    def parse(cls, words: Words) -> Self:
        if _BUS.begins(words):
            bus = _BUS.read(words)
            return cls(BUS_BPS[bus], bus)
        hedge = take_hedge(words)
        return cls(_RATE.read(words), hedge=hedge)

    def _said(self) -> Iterable[str]:
        shown = (self.hedge.value, self.bus or _RATE.show(self.rate_bps))
        return (each for each in shown if each)

    @property
    def brief(self) -> str:
        return self.bus or byte_rate(self.rate_bps, digits=3)

    @property
    def payload_floor_bps(self) -> float:
        return self.rate_bps * (PRACTICAL_SHARE if self.bus or bus_of_rate(self.rate_bps) else 1.0)

    @property
    def upstream_bps(self) -> float:
        return self.payload_floor_bps

    @property
    def format(self) -> Format:
        return MEGABYTES_A_SECOND

    def scale(self) -> Scale:
        bus = slowest_bus_for(self.rate_bps)
        quantities = (Quantity.WRITE, Quantity.READ)
        if bus is None:
            return Scale(quantities, self.payload_floor_bps)
        stated = self.payload_floor_bps == self.rate_bps
        return Scale(quantities, self.payload_floor_bps, BUS_BPS[bus], f"{bus} bus", stated=stated)

    def margin(self, gear: Gear) -> float | None:
        return min(gear.read_bps, gear.write_bps) / self.payload_floor_bps if isinstance(gear, Card) else None

    def floors(self) -> Mapping[Quantity, float]:
        return dict.fromkeys((Quantity.WRITE, Quantity.READ), self.owed(self.payload_floor_bps))

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return payload_parts(evidence, self.owed(self.payload_floor_bps), each_is_promised=False)

    @property
    def denied(self) -> str:
        return "no cards"

    def at_shown(self, shown: Mapping[Quantity | str, float]) -> str:
        """The payload that is written and read."""
        payload = [rate for quantity, rate in shown.items() if quantity is not Quantity.LINK]
        rounded = rounded_to_keep(min(payload), Sense.AT_LEAST, BITS_A_BYTE) if payload else 0.0
        return Cards(rounded).sentence(several=False) if rounded else self.denied

    @property
    def lacking(self) -> str:
        return f"a card of more than {self.format.show(self.payload_floor_bps)} both ways"


@dataclass(frozen=True)
class AcceptsCards(Working):
    """``S1 accepts cards of 2 TB``: a card of this size is read and written whole."""

    size_bytes: float = said(Amount(Dimension.SIZE, example="2 TB"), hedged=True)

    words, of_many = "accepts cards of", "accept cards of"
    example = "accepts cards of up to 2 TB"

    def tried_with(self, evidence: Evidence) -> TriedWith | None:
        size_bytes = read_with(evidence, Quantity.CAPACITY)
        return TriedWith(size_bytes, self.size_bytes, Dimension.SIZE) if size_bytes is not None else None

    def question(self, spot: str) -> str:
        return f"Put a card of {amount(self.size_bytes, Dimension.SIZE)} into {spot}: is all of it there, and readable?"

    @property
    def brief(self) -> str:
        return f"to {amount(self.size_bytes, Dimension.SIZE)}"[:11]
