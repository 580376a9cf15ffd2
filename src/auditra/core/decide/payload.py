"""Payload against a floor, every byte against what was written, and the least link that verified payload needs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from auditra.core.decide.estimates import estimate
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.rules import at_least, wrong_bytes
from auditra.core.links.ethernet import RATES_BPS, tcp_ceiling_bps
from auditra.core.links.usb import LINKS
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.setup import NetworkPath
from auditra.core.model.verdict import Part, Verdict
from auditra.core.quantities.display import MEGABYTES_A_SECOND, Format

USUAL_FRAME_BYTES, JUMBO_FRAME_BYTES = 1500, 9000
_NAMES = {
    Quantity.WRITE: "write", Quantity.READ: "read", Quantity.SEND: "send", Quantity.RECEIVE: "receive",
}  # fmt: skip


def payload_parts(
    evidence: Evidence,
    floor_bps: float,
    quantities: Sequence[Quantity] = (Quantity.WRITE, Quantity.READ),
    fmt: Format = MEGABYTES_A_SECOND,
    *,
    each_is_promised: bool = True,
) -> tuple[Part, ...]:
    """Each direction against a floor, and the bytes. A direction that was neither claimed nor measured is a gap."""
    taken = {reading.quantity for reading in evidence.taken if reading.values}
    measured = [quantity for quantity in quantities if quantity in taken]
    parts = tuple(
        at_least(_NAMES[quantity], evidence, quantity, floor_bps, fmt)
        if quantity in measured or each_is_promised or not measured
        else Part(_NAMES[quantity], Verdict.OPEN, "not measured", gap=True)
        for quantity in quantities
    )
    return (*parts, *wrong_bytes(evidence))


def usb_link_proven_bps(evidence: Evidence) -> float:
    """The slowest USB link that could have carried the verified payload, in bits per second; 0 where there is none.

    Verified: measured, and every byte read back as it was written. Source: USB 3.2, 6.3.1 (line coding).
    """
    checked = evidence.taken.of(Quantity.WRONG_BYTES).numbers()
    if not checked or any(sum(reading.values) for reading in checked):
        return 0.0
    moved_bps = _measured_bps(evidence, (Quantity.WRITE, Quantity.READ))
    return min((link.rate_bps for link in LINKS if link.ceiling_bps >= moved_bps), default=0.0) if moved_bps else 0.0


def network_link_proven_bps(evidence: Evidence) -> float:
    """The slowest Ethernet link that could have carried what was sent and received; 0 where nothing was measured."""
    moved_bps = _measured_bps(evidence, (Quantity.SEND, Quantity.RECEIVE))
    frame = frame_bytes_seen(evidence) or JUMBO_FRAME_BYTES
    could = (rate for rate in RATES_BPS if tcp_ceiling_bps(rate, frame) >= moved_bps)
    return min(could, default=0.0) if moved_bps else 0.0


def frame_bytes_seen(evidence: Evidence) -> int | None:
    """The frame size (MTU) of the trial, in bytes; None where it was not noted."""
    network = evidence.setup.network if evidence.setup is not None else None
    size = network.frame_bytes if isinstance(network, NetworkPath) else None
    return size if isinstance(size, int) and size > USUAL_FRAME_BYTES // 2 else None


def _measured_bps(evidence: Evidence, quantities: Iterable[Quantity]) -> float:
    """The most that was measured for certain, in bits per second; a value that no part could carry is none."""
    most = 0.0
    for quantity in quantities:
        witness = evidence.witness(quantity)
        if witness is None or witness.reading.grade < Grade.MEASURED:
            continue
        y = estimate(witness.reading)
        if y.founded and not evidence.rig.exceeds_a_part(quantity, y):
            most = max(most, y.low)
    return most
