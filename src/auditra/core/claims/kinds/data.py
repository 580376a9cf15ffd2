"""``A1 data 5 Gb/s``: the socket links at this rate and carries payload to match, both ways."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from auditra.core.audit.reading import Quantity
from auditra.core.audit.rig import Drive, Gear
from auditra.core.audit.trial import Procedure
from auditra.core.audit.verdict import Part
from auditra.core.claims.promise import Promise, Scale
from auditra.core.claims.words import Words
from auditra.core.judge.evidence import Evidence
from auditra.core.judge.rules import link_at_least, payload_parts
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.quantities import MEGABYTES_A_SECOND, Dimension, Format, bit_rate

PRACTICAL_SHARE = 0.85
"""The part of the payload ceiling that a good drive is expected to reach over a good link."""


@dataclass(frozen=True)
class Data(Promise):
    """A data rate in bits per second, as signalled on the link."""

    rate_bps: float

    words = "data"
    example = "data 5 Gb/s"
    procedure = Procedure.STORAGE
    beside_display = True

    @classmethod
    def parse(cls, words: Words) -> Self:
        return cls(words.take_quantity(Dimension.BIT_RATE).value)

    def __str__(self) -> str:
        return f"data {bit_rate(self.rate_bps, digits=12)}"

    @property
    def brief(self) -> str:
        return bit_rate(self.rate_bps, digits=3)

    @property
    def payload_floor_bps(self) -> float:
        return PRACTICAL_SHARE * payload_ceiling_bps(self.rate_bps)

    @property
    def format(self) -> Format:
        return MEGABYTES_A_SECOND

    @property
    def upstream_bps(self) -> float:
        return self.payload_floor_bps

    def scale(self) -> Scale:
        ceiling = payload_ceiling_bps(self.rate_bps)
        words = f"{bit_rate(self.rate_bps)} link"
        return Scale((Quantity.WRITE, Quantity.READ), self.payload_floor_bps, ceiling, words)

    def margin(self, gear: Gear) -> float | None:
        return min(gear.read_bps, gear.write_bps) / self.payload_floor_bps if isinstance(gear, Drive) else None

    def decide(self, taken: Evidence, direct: Evidence) -> tuple[Part, ...]:
        link = link_at_least("link", taken.last(Quantity.LINK), self.rate_bps, direct.last(Quantity.LINK), bit_rate)
        return link, *payload_parts(taken, direct, self.payload_floor_bps)

    @property
    def lacking(self) -> str:
        return f"a drive of {self.format.show(self.payload_floor_bps)} or more both ways, on a socket it fits"
