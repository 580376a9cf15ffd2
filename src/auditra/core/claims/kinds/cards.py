"""``S1 cards 95 MB/s``: a card in this slot is written and read this fast.

A figure that is the name of a bus class (104 MB/s for UHS-I) is a line rate, and payload is expected at 0.85 of it;
any other figure is payload already, and is owed in full.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from auditra.core.audit.reading import Quantity
from auditra.core.audit.rig import Card, Gear
from auditra.core.audit.trial import Procedure
from auditra.core.audit.verdict import Part
from auditra.core.claims.kinds.data import PRACTICAL_SHARE
from auditra.core.claims.promise import Promise, Scale
from auditra.core.claims.words import Words
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.rules import payload_parts
from auditra.core.links.cards import BUS_BPS, bus_of_rate, slowest_bus_for
from auditra.core.quantities import MEGABYTES_A_SECOND, Dimension, Format, byte_rate, plain_number


@dataclass(frozen=True)
class Cards(Promise):
    """A card rate in bits per second, told in bytes."""

    rate_bps: float

    words = "cards"
    example = "cards 95 MB/s"
    procedure = Procedure.STORAGE
    beside_display = True

    @classmethod
    def parse(cls, words: Words) -> Self:
        return cls(words.take_quantity(Dimension.BYTE_RATE).value)

    def __str__(self) -> str:
        return f"cards {plain_number(self.rate_bps / 8e6)} MB/s"

    @property
    def brief(self) -> str:
        return byte_rate(self.rate_bps, digits=3)

    @property
    def payload_floor_bps(self) -> float:
        return self.rate_bps * (PRACTICAL_SHARE if bus_of_rate(self.rate_bps) else 1.0)

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
        return Scale(quantities, self.payload_floor_bps, BUS_BPS[bus], f"{bus} bus")

    def margin(self, gear: Gear) -> float | None:
        return min(gear.read_bps, gear.write_bps) / self.payload_floor_bps if isinstance(gear, Card) else None

    def decide(self, taken: Evidence, direct: Evidence) -> tuple[Part, ...]:
        return payload_parts(taken, direct, self.payload_floor_bps)

    @property
    def lacking(self) -> str:
        return f"a card of more than {self.format.show(self.payload_floor_bps)} both ways"
