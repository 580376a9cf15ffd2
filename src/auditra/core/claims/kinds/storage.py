"""``A1 reads 500 MB/s``, ``A1 writes 450 MB/s``: payload one way, owed in full; ``D0 stores 1 TB``: room inside."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar

from auditra.core.claims.observed import Figure
from auditra.core.claims.promise import Promise, Scale
from auditra.core.claims.terms import Amount, said
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.payload import payload_parts
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Card, Drive, Gear
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import MEGABYTES_A_SECOND, Format, amount, byte_rate
from auditra.core.quantities.units import Dimension


@dataclass(frozen=True)
class _OneWay(Promise):
    """Payload one way, in bits per second."""

    rate_bps: float = said(Amount(Dimension.BYTE_RATE, Dimension.BIT_RATE, example="500 MB/s"), hedged=True)

    procedure = ProcedureId.STORAGE
    capability = Capability.DATA
    cannot_be_without = "data"
    beside_display = True
    quantity: ClassVar[Quantity]

    @property
    def brief(self) -> str:
        return f"{self.words[0]} {byte_rate(self.rate_bps, digits=3)}"

    @property
    def format(self) -> Format:
        return MEGABYTES_A_SECOND

    @property
    def upstream_bps(self) -> float:
        return self.rate_bps

    def scale(self) -> Scale:
        return Scale((self.quantity,), self.owed(self.rate_bps))

    def margin(self, gear: Gear) -> float | None:
        if not isinstance(gear, Drive | Card):
            return None
        return (gear.read_bps if self.quantity is Quantity.READ else gear.write_bps) / self.rate_bps

    def floors(self) -> Mapping[Quantity, float]:
        return {self.quantity: self.owed(self.rate_bps)}

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return payload_parts(evidence, self.owed(self.rate_bps), (self.quantity,))

    @property
    def lacking(self) -> str:
        return f"a drive or card that {self.words} more than {self.format.show(self.rate_bps)}"


@dataclass(frozen=True)
class Reads(_OneWay):
    """Towards the host."""

    words, of_many = "reads", "read"
    example = "reads 500 MB/s"
    quantity = Quantity.READ


@dataclass(frozen=True)
class Writes(_OneWay):
    """Away from the host."""

    words, of_many = "writes", "write"
    example = "writes 450 MB/s"
    quantity = Quantity.WRITE


@dataclass(frozen=True)
class Stores(Figure):
    """Room for data, in bytes."""

    size_bytes: float = said(Amount(Dimension.SIZE, example="1 TB"), hedged=True)

    words, of_many = "stores", "store"
    example = "stores 1 TB"
    asks = "How large does the host say that the storage at {spot} is?"
    reads = Quantity.CAPACITY
    dimensions = (Dimension.SIZE,)
    blames_device = True

    @property
    def limit(self) -> float:
        return self.size_bytes

    @property
    def brief(self) -> str:
        return amount(self.size_bytes, Dimension.SIZE)[:11]
