"""Network peers of the simulated bench: streams that are counted as a real bench counts them."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.bench.network.peer_client import LOOK_S
from auditra.bench.simulated.clock import VirtualClock
from auditra.core.errors import BenchError
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.model.rig import Peer
from auditra.core.simulate.traffic import LARGEST_PACKET_BYTES
from auditra.core.simulate.world import World
from auditra.workflows.trials.network_doors import NetworkAccount, NetworkStream, PacketSizes

_PATIENCE_S, _TRIES_AGAIN_S = 10.0, 0.1
"""How long a stream waits for a link that is lost, as TCP does on connecting too, and how often it looks."""
_ROUND_TRIP_S, _ASKING_S = 0.0004, 1.0
_PAYLOAD_OF_WIRE = tcp_ceiling_bps(1.0)
"""The part of what passes the wire that is TCP payload, over full frames."""


@dataclass(frozen=True)
class _Trips:
    median_s: float | None = _ROUND_TRIP_S
    loss_percent: float = 0.0


class SimulatedStream:
    """A TCP stream whose bytes take as long as the link makes them."""

    def __init__(self, world: World, clock: VirtualClock, peer: str, interface: str) -> None:
        self._world, self._clock, self._peer, self._interface = world, clock, peer, interface
        self._moved_bytes, self._began_s = 0, clock.now_s()

    def send(self, count: int) -> int:
        rate = _rate_within_patience(self._world, self._clock, self._peer)
        if rate <= 0:
            raise BenchError(self._peer, why="the link is down", do="Plug it again and repeat the trial")
        moved = max(count, int(rate / 8 * LOOK_S))  # a real stream is not looked at more often either
        self._clock.spend(moved * 8 / rate, busy=True)
        self._moved_bytes += moved
        return moved

    def receive(self, count: int) -> int:
        return self.send(count)

    def account(self) -> NetworkAccount:
        """What strays does not show on the port's own interface."""
        moved, spent_s = self._moved_bytes, self._clock.now_s() - self._began_s
        self._moved_bytes, self._began_s = 0, self._clock.now_s()
        traffic = self._world.traffic
        on_wire = 0 if traffic.strays(self._peer) else int(moved / _PAYLOAD_OF_WIRE)
        rate_bps = moved * 8 / spent_s if spent_s > 0 else 0.0
        return NetworkAccount(self._interface, moved, on_wire, busy_percent=traffic.processor_percent(rate_bps))

    def delays(self) -> _Trips:
        self._clock.spend(_ASKING_S, busy=False)
        return _Trips()

    def packets(self) -> PacketSizes:
        rig, traffic = self._world.connections.rig, self._world.traffic
        peer = rig.find(self._peer)
        far = peer.mtu_bytes if isinstance(peer, Peer) else None
        return PacketSizes(traffic.largest_packet_bytes(self._peer), LARGEST_PACKET_BYTES, far)

    def close(self) -> None:
        return None


def _rate_within_patience(world: World, clock: VirtualClock, peer: str) -> float:
    """The rate to a peer, once its link is up; 0 where it does not come up in time."""
    waited_s = 0.0
    while (rate := world.traffic.wire_bps(peer)) <= 0 and waited_s < _PATIENCE_S:
        clock.spend(_TRIES_AGAIN_S, busy=False)
        waited_s += _TRIES_AGAIN_S
    return rate


class SimulatedPeers:
    """Answers for every peer of the rig that has a link."""

    def __init__(self, world: World, clock: VirtualClock) -> None:
        self._world, self._clock = world, clock

    def serves(self, peer: str) -> bool:
        return isinstance(self._world.connections.rig.find(peer), Peer)

    def ask_interface(self, peer: str) -> str:
        nodes = self._world.traffic.network()
        return next((node.name for node in nodes if node.peer == peer and node.speed_mbps is not None), "")

    def connect(self, peer: str, interface: str = "", streams: int = 1) -> NetworkStream:
        if _rate_within_patience(self._world, self._clock, peer) <= 0:
            raise BenchError(peer, why="it does not answer", do="See to its link and repeat the trial")
        return SimulatedStream(self._world, self._clock, peer, interface)
