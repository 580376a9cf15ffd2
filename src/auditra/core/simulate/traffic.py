"""Data that moves on the simulated bench: drives, cards and the network, and what they take from one another."""

from __future__ import annotations

import math
from collections.abc import Hashable, Iterator
from dataclasses import dataclass

from auditra.core.links.cards import BUS_BPS
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Card, Drive, Peer
from auditra.core.simulate.connections import USB_COMES_UP_IN_S, Standing
from auditra.core.simulate.trait import Scene, Trait
from auditra.core.simulate.usb import Usb

NETWORK_COMES_UP_IN_S = 2.0
_GOOD_LINK_SHARE = 0.93
_GOOD_NETWORK_SHARE = 0.997
_GOOD_SLOT_SHARE = 0.95
_RATE_NOISE = 0.004
_SPOILED_AT_ONCE_BYTES, _SPOILS_ONE_IN = 1 << 20, 100
"""A socket that spoils bytes does so in one of a hundred stretches of this length, and there in a single byte."""
LARGEST_PACKET_BYTES = 9000
"""What the interfaces of a made-up host are set to."""
_IDLE_PERCENT, _PERCENT_A_GBPS, _PROCESSOR_JITTER = 4.0, 3.0, 1.0
"""How busy the processors of a made-up host are with nothing to do, with each Gb/s of network, and how that wavers."""


@dataclass(frozen=True)
class NetworkNode:
    """A network interface of the simulated host; without a link the speed is None."""

    name: str
    speed_mbps: float | None
    peer: str = ""
    """Who is at its other end."""


class Traffic:
    """Rates in bits of payload per second."""

    def __init__(self, scene: Scene, usb: Usb) -> None:
        self._scene, self._usb = scene, usb
        self._connections = scene.connections
        self._changeable = tuple(each for each in scene.connections.model.traits if type(each).phase != Trait.phase)
        self.busy: set[str] = set()
        """Gear that is kept at work beside what is measured."""
        self._written: dict[str, tuple[float, float]] = {}
        """Since when gear is where it is, and the bytes that were written to it from then on."""

    def note_written(self, gear_id: str, count: int) -> None:
        """So many bytes went to a drive or card."""
        since_s = self._since_s(gear_id)
        before_s, written = self._written.get(gear_id, (since_s, 0.0))
        self._written[gear_id] = since_s, count + (written if before_s == since_s else 0.0)

    def _since_s(self, gear_id: str) -> float:
        standing = self._connections.find(gear_id)
        return standing.since_s if standing is not None else 0.0

    def _share_by_faults(self, gear_id: str) -> float:
        since_s, written = self._written.get(gear_id, (0.0, 0.0))
        written = written if since_s == self._since_s(gear_id) else 0.0
        return math.prod(fault.share_of(gear_id, written) for fault in self._scene.faults)

    def _phase(self) -> Hashable:
        """What rates depend on besides what is plugged: asked for each block that moves."""
        changing = tuple([trait.phase(self._scene) for trait in self._changeable]) if self._changeable else ()
        return (frozenset(self.busy) if self.busy else None, changing)

    def network(self) -> Iterator[NetworkNode]:
        """The host's own interfaces, and those in the device."""
        host = self._connections.host
        for socket in host.sockets if host else ():
            if socket.connector == "rj45":
                yield self._node("lan0", host.id if host else "", socket.id, socket.data_bps)
        if self._connections.device_is_up:
            for index, (port, rate) in enumerate(self._connections.model.network_bps.items()):
                yield self._node(f"usb{index}", DEVICE, port, rate)

    def _node(self, name: str, owner: str, socket: str, rate: float) -> NetworkNode:
        for standing in self._connections.standing:
            peer = self._connections.rig.find(standing.plugged.gear)
            here = (standing.plugged.owner, standing.plugged.socket) == (owner, socket)
            if here and isinstance(peer, Peer) and self._connections.is_up(peer.id, NETWORK_COMES_UP_IN_S):
                return NetworkNode(name, min(rate, peer.rate_bps) / 1e6, peer.id)
        return NetworkNode(name, None)

    def has_room(self, gear_id: str) -> bool:
        """A drive or card can be written to."""
        connections = self._connections
        gear, standing = connections.rig.find(gear_id), connections.find(gear_id)
        if isinstance(gear, Drive):
            return self._usb.link_bps(gear_id) is not None
        if not isinstance(gear, Card) or standing is None or not connections.is_up(gear_id, USB_COMES_UP_IN_S):
            return False
        in_device = standing.plugged.owner == DEVICE and standing.plugged.socket in connections.model.card_bps
        return (in_device and connections.host_socket is not None) or (
            connections.find(standing.plugged.owner) is not None
        )

    def payload_bps(self, gear_id: str, *, writing: bool) -> float:
        """What a drive or card takes or gives at this moment, with its jitter; 0 once it is gone."""
        key = (gear_id, writing, self._phase())
        steady = self._connections.steadily(
            key, lambda: self._among_others(gear_id, self._payload_bps(gear_id, writing=writing))
        )
        kept = self._share_by_faults(gear_id) if writing and self._scene.faults else 1.0
        return steady * kept * self._connections.random.gauss(1.0, _RATE_NOISE)

    def _payload_bps(self, gear_id: str, *, writing: bool) -> float:
        gear, standing = self._connections.rig.find(gear_id), self._connections.find(gear_id)
        if standing is None or not isinstance(gear, Drive | Card) or not self.has_room(gear_id):
            return 0.0
        own, plugged = gear.write_bps if writing else gear.read_bps, standing.plugged
        if isinstance(gear, Drive):
            ceiling = payload_ceiling_bps(self._usb.link_bps(gear_id) or 0.0) * _GOOD_LINK_SHARE
        else:
            slot = self._connections.model.card_bps.get(plugged.socket) if plugged.owner == DEVICE else None
            ceiling = min(BUS_BPS.get(gear.bus, own), slot or own / _GOOD_SLOT_SHARE) * _GOOD_SLOT_SHARE
            reader_bps = self._usb.link_bps(plugged.owner) if plugged.owner != DEVICE else None
            if reader_bps is not None:
                ceiling = min(ceiling, payload_ceiling_bps(reader_bps) * _GOOD_LINK_SHARE)
        if plugged.owner == DEVICE:
            ceiling = min(ceiling, payload_ceiling_bps(self._usb.upstream_bps) * _GOOD_LINK_SHARE)
        return min(min(own, ceiling) * self._share(standing), self._host_most_bps)

    def wire_bps(self, peer_id: str) -> float:
        """TCP payload to a peer at this moment, with its jitter; 0 without a link."""
        detours = (fault.detour_bps(peer_id) for fault in self._scene.faults)
        if (by_detour := next((each for each in detours if each is not None), None)) is not None:
            return by_detour * self._connections.random.gauss(1.0, _RATE_NOISE)
        key = (peer_id, self._phase())
        steady = self._connections.steadily(key, lambda: self._among_others(peer_id, self._wire_bps(peer_id)))
        return steady * min(1.0, self._connections.random.gauss(0.999, _RATE_NOISE / 4))

    def _wire_bps(self, peer_id: str) -> float:
        standing = self._connections.find(peer_id)
        links = [node.speed_mbps for node in self.network() if node.speed_mbps is not None]
        if standing is None or not links:
            return 0.0
        wire_bps = tcp_ceiling_bps(max(links) * 1e6) * _GOOD_NETWORK_SHARE * self._share(standing)
        wire_bps = min(wire_bps, self._host_most_bps)
        if standing.plugged.owner != DEVICE:
            return wire_bps
        return min(wire_bps, payload_ceiling_bps(self._usb.upstream_bps) * _GOOD_LINK_SHARE)

    def strays(self, peer_id: str) -> bool:
        """What moves to a peer goes another way than is meant."""
        return any(fault.detour_bps(peer_id) is not None for fault in self._scene.faults)

    def largest_packet_bytes(self, peer_id: str) -> int | None:
        """The largest that gets there and back whole; None without a way there."""
        standing, peer = self._connections.find(peer_id), self._connections.rig.find(peer_id)
        if standing is None or not isinstance(peer, Peer):
            return None
        spot = standing.plugged.socket if standing.plugged.owner == DEVICE else ""
        through = self._scene.figure(spot, Quantity.LARGEST_FRAME) if spot else None
        return min(LARGEST_PACKET_BYTES, peer.mtu_bytes, int(through) if through is not None else LARGEST_PACKET_BYTES)

    def processor_percent(self, payload_bps: float) -> float:
        """How busy the processors of the host are while so much payload moves over its network."""
        host = self._connections.host
        others = [trait.processor_percent(self._scene) for trait in self._connections.model.traits]
        others += [fault.processor_percent(host.id if host else "", payload_bps) for fault in self._scene.faults]
        jitter = self._connections.random.uniform(-_PROCESSOR_JITTER, _PROCESSOR_JITTER)
        return min(100.0, _IDLE_PERCENT + _PERCENT_A_GBPS * payload_bps / 1e9 + sum(others) + jitter)

    @property
    def _host_most_bps(self) -> float:
        """What else runs on the host leaves only so much."""
        host = self._connections.host
        return min((fault.most_payload_bps(host.id if host else "") for fault in self._scene.faults), default=math.inf)

    def _among_others(self, gear_id: str, alone_bps: float) -> float:
        """What is left of a rate on the links that it shares with gear that is kept at work."""
        connections = self._connections
        mine = connections.find(gear_id)
        if mine is None or mine.plugged.owner != DEVICE:
            return alone_bps
        others = {
            standing.plugged.socket: self._own_rate(standing.plugged.gear)
            for standing in connections.standing
            if standing.plugged.gear in self.busy - {gear_id} and standing.plugged.owner == DEVICE
        }
        upstream = payload_ceiling_bps(self._usb.upstream_bps) * _GOOD_LINK_SHARE
        ways = [(frozenset({mine.plugged.socket, *others}), upstream)]
        ways += [way for trait in connections.model.traits for way in trait.shared_bps()]
        rate = alone_bps
        for ports, most in ways:
            asked = sum((own for port, own in others.items() if port in ports), alone_bps)
            if mine.plugged.socket in ports and asked > most:
                rate = min(rate, alone_bps * most / asked)
        return rate

    def _own_rate(self, gear_id: str) -> float:
        if isinstance(self._connections.rig.find(gear_id), Peer):
            return self._wire_bps(gear_id)
        return self._payload_bps(gear_id, writing=False)

    def _share(self, at: Standing) -> float:
        """The part of a link's payload that the device lets through now."""
        if at.plugged.owner != DEVICE:
            return 1.0
        model = self._connections.model
        own = model.payload_share.get(at.plugged.socket, 1.0)
        return math.prod((own, *(trait.share(self._scene, at) for trait in model.traits)))

    def wrong_bytes(self, gear_id: str, count: int) -> int:
        """How many of so many bytes that are read now come back wrong."""
        standing = self._connections.find(gear_id)
        if standing is None or standing.plugged.owner != DEVICE:
            return 0
        if not any(trait.corrupts(standing.plugged.socket) for trait in self._connections.model.traits):
            return 0
        chance = self._connections.random.random
        return sum(chance() < 1 / _SPOILS_ONE_IN for _ in range(math.ceil(count / _SPOILED_AT_ONCE_BYTES)))
