"""A shared upstream that is at its own ceiling: what several ports draw from it at once adds up to what it carries.

Where the host's socket was never seen to make a faster link than such a sum fills, it is in doubt as well: whether the
socket or the device holds back, only a faster drive in that socket shows.
"""

from __future__ import annotations

from collections.abc import Container, Iterable, Iterator, Mapping
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.language import parse_claim
from auditra.core.decide.estimates import estimate
from auditra.core.judge.records import Counted, Records, socket_part
from auditra.core.judge.rig_parts import Doubt
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import Device, Role
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Drive, Peer
from auditra.core.quantities.display import MEGABYTES_A_SECOND, bit_rate

FULL_SHARE = 0.85
"""Of an upstream's payload ceiling: with so much on it, it is at its ceiling (the practical share of storage)."""
ROUNDED_UP = 1.02
"""Rates that were read a little too high still fit."""
_SEVERAL = 2
_PAIRED = {
    Quantity.WRITE: (Quantity.WRITE, Quantity.SEND), Quantity.READ: (Quantity.READ, Quantity.RECEIVE),
    Quantity.SEND: (Quantity.WRITE, Quantity.SEND), Quantity.RECEIVE: (Quantity.READ, Quantity.RECEIVE),
}  # fmt: skip
"""The quantities that go the same way, away from the host or towards it."""


@dataclass(frozen=True)
class Filled:
    """What each port moves at once, and the link to the host that they fill together; rates in bits per second."""

    by_port: tuple[tuple[str, float], ...]
    link_bps: float

    @property
    def total(self) -> float:
        return sum(rate for _, rate in self.by_port)

    @property
    def ceiling(self) -> float:
        return payload_ceiling_bps(self.link_bps)


def shared_upstream(
    records: Records, claim: Claim, trial: Counted, port: str, quantity: Quantity | str, device: Device
) -> Doubt | None:
    """Why a port cannot be blamed, where others at work fill the way to the host; None where there is room left.

    It is known where the way is known to carry no more, and a doubt where that was never measured or never seen.
    """
    by_port = _moved_at_once(records, trial, port, quantity)
    rates = list(_upstream_rates(records, claim, trial, device)) if by_port else []
    filled = _filled(by_port, rates)
    if filled is not None:
        others = " and ".join(place for place in by_port if place != port)
        return Doubt(f"with {others} it fills the shared link to the host ({bit_rate(filled.link_bps)})", known=True)
    moved, unmeasured = sum(by_port.values()), _at_work_unmeasured(trial, by_port) if by_port else {}
    doubt = _doubt_of_unmeasured(unmeasured, moved, rates) if unmeasured else None
    return doubt or (_doubt_of_socket(records, trial, moved) if len(by_port) >= _SEVERAL else None)


def _doubt_of_unmeasured(unmeasured: Mapping[str, float], moved: float, rates_bps: Iterable[float]) -> Doubt | None:
    """The flow of gear that was kept at work was not measured: with the most it may be, the link may be full."""
    most = moved + sum(unmeasured.values())
    fills = (rate for rate in rates_bps if not _is_refuted(rate, moved) and most >= _full_bps(rate))
    link_bps = min(fills, default=None)
    if link_bps is None:
        return None
    others = " and ".join(unmeasured)
    link = bit_rate(link_bps)
    return Doubt(f"nothing shows how much {others} moved meanwhile: the link to the host ({link}) may be full")


def _doubt_of_socket(records: Records, trial: Counted, moved: float) -> Doubt | None:
    """All that moves fills the fastest link that the host's socket was ever seen to make: it may make no other."""
    seen_bps = _fastest_through_socket(records, trial)
    if seen_bps is None or _is_refuted(seen_bps, moved) or moved < _full_bps(seen_bps):
        return None
    total, link = MEGABYTES_A_SECOND.show(moved), bit_rate(seen_bps)
    return Doubt(
        f"all ports at work move {total} together, which fills a link of {link}, and socket {trial.setup.host_socket} "
        "was not seen to make a faster one: a faster drive in it would show that"
    )


def filled_upstream(
    records: Records, claim: Claim, trial: Counted, port: str, quantity: Quantity | str, device: Device
) -> Filled | None:
    """What fills the way to the host in a trial; None where there is room left, or one port is at work."""
    by_port = _moved_at_once(records, trial, port, quantity)
    return _filled(by_port, _upstream_rates(records, claim, trial, device))


def _filled(by_port: Mapping[str, float], rates_bps: Iterable[float]) -> Filled | None:
    """The slowest link that all ports fill together; None for a port alone, or where there is room left."""
    total = sum(by_port.values())
    link_bps = min((rate for rate in rates_bps if not _is_refuted(rate, total)), default=None)
    if len(by_port) < _SEVERAL or link_bps is None or total < _full_bps(link_bps):
        return None
    return Filled(tuple(by_port.items()), link_bps)


def _moved_at_once(records: Records, trial: Counted, port: str, quantity: Quantity | str) -> dict[str, float]:
    """What each port moves the same way as this one, in bits per second; empty where this one moves no payload."""
    paired = _PAIRED.get(quantity, ()) if isinstance(quantity, Quantity) else ()
    by_port: dict[str, float] = {}
    for place in trial.places if paired else ():
        readings = (records.reading(trial, place, each) for each in paired)
        values = [estimate(reading).value for reading in readings if reading is not None]
        if values:
            by_port[place] = max(values)
    return by_port if port in by_port else {}


def _at_work_unmeasured(trial: Counted, measured: Container[str]) -> dict[str, float]:
    """What is promised of ports that were kept at work and not measured, in bits per second."""
    claims = (parse_claim(words, claim_id="") for words in trial.setup.running)
    return {
        port: claim.promise.upstream_bps for claim in claims for port in claim.ports
        if port not in measured and claim.promise.upstream_bps
    }  # fmt: skip


def _full_bps(link_bps: float) -> float:
    """With so much on it, a link may be at its ceiling."""
    return FULL_SHARE * payload_ceiling_bps(link_bps)


def _is_refuted(link_bps: float, moved_bps: float) -> bool:
    """Whether more was moved than such a link carries: then it was not so slow, whatever is noted or was read."""
    return moved_bps > ROUNDED_UP * payload_ceiling_bps(link_bps)


def _upstream_rates(records: Records, claim: Claim, trial: Counted, device: Device) -> Iterator[float]:
    """The rates of the way to the host: its socket as it is noted and as it was seen, and what the upstream was seen to
    negotiate.

    What a claim promises of several ports at once is the device's to carry, so only the host's socket excuses it.
    """
    host = records.rig.host(trial.setup.host)
    socket = host.socket(trial.setup.host_socket) if host is not None else None
    yield from (rate for rate in (socket and socket.data_bps, _seen_of_socket(records, trial)) if rate)
    if isinstance(claim.promise, Data) and claim.is_joined_together:
        return
    upstream = device.first(Role.UPSTREAM)
    at = upstream.id if upstream is not None else ""
    yield from (link.rate_bps for link in trial.record.links if link.at == at and link.rate_bps)
    yield from (min(each.values) for each in trial.taken.of(Quantity.LINK).at(at).numbers())


def _seen_of_socket(records: Records, trial: Counted) -> float | None:
    """The fastest link that the host's socket made without the device, to a drive that is good for a faster one."""
    found = [
        max(link.values) for other in records.with_part(socket_part(trial.setup)) if other.direct
        for link in other.taken.of(Quantity.LINK).numbers()
        if isinstance(drive := records.rig.find(other.record.trial.gear), Drive)
        and min(drive.read_bps, drive.write_bps) > payload_ceiling_bps(max(link.values))
    ]  # fmt: skip
    return max(found, default=None)


def _fastest_through_socket(records: Records, trial: Counted) -> float | None:
    """The fastest link that anything made through the host's socket, with and without the device; None for none."""
    return max((rate for other in records.with_part(socket_part(trial.setup)) for rate in _links_made(records, other)),
               default=None)  # fmt: skip


def _links_made(records: Records, trial: Counted) -> Iterator[float]:
    """Of USB alone: the link of a network socket says nothing of the way to the host."""
    yield from (link.rate_bps for link in trial.record.links if link.rate_bps)
    for link in trial.taken.of(Quantity.LINK).numbers():
        if not isinstance(records.rig.find(trial.gear_at(link.at)), Peer):
            yield max(link.values)
