"""``N1 frames 9000 B``: the largest packet that goes through whole."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.observed import Figure
from auditra.core.claims.promise import ReadOff
from auditra.core.claims.terms import Amount, said
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Gear, Peer
from auditra.core.quantities.display import amount
from auditra.core.quantities.units import Dimension


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

    @property
    def brief(self) -> str:
        return amount(self.size_bytes, Dimension.SIZE)[:11]

    def margin(self, gear: Gear) -> float | None:
        return gear.mtu_bytes / self.size_bytes if isinstance(gear, Peer) else None

    @property
    def lacking(self) -> str:
        return f"a network peer that takes packets of {amount(self.size_bytes, Dimension.SIZE)}"
