"""``N1 links 1 Gb/s``: the network socket links at this rate and carries payload to match, both ways."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from auditra.core.claims.promise import Promise, Scale, Sense, rounded_to_keep
from auditra.core.claims.terms import Amount, said
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.payload import (
    USUAL_FRAME_BYTES,
    frame_bytes_seen,
    network_link_proven_bps,
    payload_parts,
)
from auditra.core.decide.rules import link_at_least
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Gear, Peer
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part
from auditra.core.quantities.display import Format, amount, bit_rate, bit_rate_format
from auditra.core.quantities.units import Dimension

PRACTICAL_SHARE = 0.95
"""The part of the TCP ceiling that a good adapter is expected to reach."""


@dataclass(frozen=True)
class Links(Promise):
    """A network link rate in bits per second."""

    rate_bps: float = said(Amount(Dimension.BIT_RATE, example="1 Gb/s"), hedged=True)

    words, of_many = "links", "link"
    example = "links 1 Gb/s"
    procedure = ProcedureId.NETWORK
    capability = Capability.DATA
    cannot_be_without = "network"
    beside_display = True
    soaks = True

    @property
    def brief(self) -> str:
        return bit_rate(self.rate_bps, digits=3)

    @property
    def format(self) -> Format:
        return bit_rate_format(self.payload_floor_bps)

    @property
    def payload_floor_bps(self) -> float:
        return PRACTICAL_SHARE * tcp_ceiling_bps(self.rate_bps)

    @property
    def upstream_bps(self) -> float:
        return self.payload_floor_bps

    def scale(self) -> Scale:
        words = f"TCP at {bit_rate(self.rate_bps)}"
        ceiling = tcp_ceiling_bps(self.rate_bps)
        return Scale((Quantity.SEND, Quantity.RECEIVE), self.payload_floor_bps, ceiling, words, stated=False)

    def at_shown(self, shown: Mapping[Quantity | str, float]) -> str:
        """The rate that it links at, and what goes through where that is less than such a link carries."""
        link = min(shown.get(Quantity.LINK, self.rate_bps), self.rate_bps)
        slower = Links(link)
        payload = [rate for quantity, rate in shown.items() if quantity is not Quantity.LINK]
        moved = rounded_to_keep(min(payload), Sense.AT_LEAST) if payload else 0.0
        short = f", moves {amount(moved, Dimension.BIT_RATE)}" if payload and moved < slower.payload_floor_bps else ""
        return f"{slower.sentence(several=False)}{short}"

    def margin(self, gear: Gear) -> float | None:
        return gear.rate_bps / self.rate_bps if isinstance(gear, Peer) else None

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        promised = self.owed(self.rate_bps)
        link = link_at_least("link", evidence, promised, bit_rate, network_link_proven_bps)
        ceiling_bps = tcp_ceiling_bps(promised, frame_bytes_seen(evidence) or USUAL_FRAME_BYTES)
        both = Quantity.SEND, Quantity.RECEIVE
        floor_bps = PRACTICAL_SHARE * ceiling_bps
        return link, *payload_parts(evidence, floor_bps, both, self.format, each_is_promised=False)

    @property
    def lacking(self) -> str:
        return f"a network peer of {bit_rate(self.rate_bps)} or more"
