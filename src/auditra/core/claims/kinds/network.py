"""``N1 frames 9000 B``: the largest packet that goes through whole."""

from __future__ import annotations

from dataclasses import dataclass, replace

from auditra.core.claims.observed import Figure
from auditra.core.claims.promise import ReadOff
from auditra.core.claims.terms import Amount, said
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import at_least
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Gear, Peer
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import amount
from auditra.core.quantities.units import Dimension

_HALF_A_BYTE = 0.5


@dataclass(frozen=True)
class Frames(Figure):
    """A packet size (the MTU) in bytes."""

    size_bytes: float = said(Amount(Dimension.SIZE, example="9000 B"), hedged=True)

    words = "frames"
    needs_gear = True
    example = "frames 9 kB"
    asks = "The largest packet that reached the peer over {spot}, not split?"
    reads = Quantity.LARGEST_FRAME
    read_off = ReadOff.FRAME
    dimensions = (Dimension.SIZE,)

    @property
    def limit(self) -> float:
        return self.size_bytes

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        """Packets are whole bytes: what was read as 9000 B, to half of one, has let 9000 B through."""
        name, owed = str(self.reads), self.owed(self.limit) - _HALF_A_BYTE
        part = at_least(name, evidence, self.reads, owed, self.format, self.lowest)
        if part.verdict is Verdict.HOLDS:
            part = replace(part, arithmetic=f"{part.shown} reaches {self.format.show(self.limit)}, in whole bytes")
        return (part,)

    @property
    def brief(self) -> str:
        return amount(self.size_bytes, Dimension.SIZE)[:11]

    def margin(self, gear: Gear) -> float | None:
        return gear.mtu_bytes / self.size_bytes if isinstance(gear, Peer) else None

    @property
    def lacking(self) -> str:
        return f"a network peer that takes packets of {amount(self.size_bytes, Dimension.SIZE)}"
