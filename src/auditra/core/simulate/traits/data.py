"""What becomes of data: links that fall, links that are shared, gear that is not seen, bytes that are wrong."""

from __future__ import annotations

from collections.abc import Hashable, Iterator
from dataclasses import dataclass

from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Drain, Drive
from auditra.core.simulate.connections import Standing
from auditra.core.simulate.trait import Asked, Scene, Trait

HIGH_SPEED_BPS = 480e6
_RECONNECTED_WITHIN_S = 5.0


@dataclass(frozen=True)
class LosesBesideDisplay(Trait):
    """A socket keeps only a part of its payload while a picture runs through the device."""

    socket: str
    kept: float

    def share(self, scene: Scene, at: Standing) -> float:
        return self.kept if at.plugged.socket == self.socket and scene.displays.are_running else 1.0


@dataclass(frozen=True)
class TakesFourLanes(Trait):
    """A large picture takes all four lanes of the plug to the host: data is left with the two wires of USB 2.0.

    Source: USB Type-C R2.3, appendix E; DisplayPort Alt Mode 2.1, 5.2 (pin assignments C and D).
    """

    from_pixels_a_second: float

    def upstream_bps(self, scene: Scene, link_bps: float) -> float:
        takes_all = scene.displays.most_pixels_a_second >= self.from_pixels_a_second
        return min(link_bps, HIGH_SPEED_BPS) if takes_all else link_bps


@dataclass(frozen=True)
class NarrowUpstream(Trait):
    """Its way to the host is a slower link than its sockets are."""

    most_bps: float

    def upstream_bps(self, scene: Scene, link_bps: float) -> float:
        return min(link_bps, self.most_bps)


@dataclass(frozen=True)
class SharesLink(Trait):
    """Some sockets have one inner link between them."""

    sockets: frozenset[str]
    payload_bps: float

    def shared_bps(self) -> Iterator[tuple[frozenset[str], float]]:
        yield self.sockets, self.payload_bps


@dataclass(frozen=True)
class MindsTheOrder(Trait):
    """A socket keeps only a part of its payload if the picture came before its gear."""

    socket: str
    kept: float

    def share(self, scene: Scene, at: Standing) -> float:
        if at.plugged.socket != self.socket or not scene.displays.are_running:
            return 1.0
        first = min((each.since_s for each in scene.connections.pictures), default=at.since_s)
        return self.kept if first < at.since_s else 1.0


@dataclass(frozen=True)
class SlowTurnedOver(Trait):
    """One way round, the plug in a socket makes a slower link: one of its two sets of fast pairs is not connected."""

    socket: str
    most_bps: float = HIGH_SPEED_BPS

    def link_bps(self, scene: Scene, at: Standing, link_bps: float) -> float:
        return min(link_bps, self.most_bps) if at.plugged.socket == self.socket and at.turned else link_bps


@dataclass(frozen=True)
class SlowHostPlugTurnedOver(Trait):
    """The same of the plug at the host: everything behind it is slow."""

    most_bps: float = HIGH_SPEED_BPS

    def upstream_bps(self, scene: Scene, link_bps: float) -> float:
        here = scene.connections.find(DEVICE)
        return min(link_bps, self.most_bps) if here is not None and here.turned else link_bps


@dataclass(frozen=True)
class SlowOnceReconnected(Trait):
    """Unplugged from the host and plugged in again at once, it comes back with a slower link, and keeps it."""

    most_bps: float

    def upstream_bps(self, scene: Scene, link_bps: float) -> float:
        gap_s = scene.connections.device_was_away_s
        return min(link_bps, self.most_bps) if gap_s is not None and gap_s < _RECONNECTED_WITHIN_S else link_bps


@dataclass(frozen=True)
class Slower(Trait):
    """A socket lets through only a part of what its link could carry, whatever else goes on."""

    socket: str
    kept: float

    def share(self, scene: Scene, at: Standing) -> float:
        return self.kept if at.plugged.socket == self.socket else 1.0


@dataclass(frozen=True)
class Flaky(Trait):
    """What is plugged into a socket does not always come up."""

    socket: str
    chance: float

    def miss(self, scene: Scene, socket: str) -> float:
        return self.chance if socket == self.socket else 0.0

    def works(self, scene: Scene, asked: Asked) -> float:
        return 1 - self.chance if asked.spot == self.socket else 1.0


@dataclass(frozen=True)
class UnseenBeside(Trait):
    """What is in a socket is not there for the host while there is something in another one, whichever came first."""

    socket: str
    other: str

    def link_bps(self, scene: Scene, at: Standing, link_bps: float) -> float:
        is_dead = at.plugged.socket == self.socket and scene.connections.gear_at(self.other) is not None
        return 0.0 if is_dead else link_bps


@dataclass(frozen=True)
class Corrupts(Trait):
    """A socket now and then hands back a wrong byte."""

    socket: str

    def corrupts(self, socket: str) -> bool:
        return socket == self.socket


@dataclass(frozen=True)
class Throttles(Trait):
    """A socket keeps only a part of its payload once the case is so much warmer than the room."""

    socket: str
    kept: float
    above_k: float

    def phase(self, scene: Scene) -> Hashable:
        return scene.heat.rise_k > self.above_k

    def share(self, scene: Scene, at: Standing) -> float:
        return self.kept if at.plugged.socket == self.socket and scene.heat.rise_k > self.above_k else 1.0


@dataclass(frozen=True)
class DropsAtStart(Trait):
    """So much resistance to a socket that the voltage falls too low for gear that draws much: it falls off.

    Source: USB 2.0, 7.2.2 (4.40 V are the least that a port of low power may give).
    """

    socket: str
    ohm: float
    open_v: float = 5.1
    least_v: float = 4.40

    def starts(self, amperes: float) -> bool:
        """Whether gear that draws so much keeps running."""
        return self.open_v - self.ohm * amperes >= self.least_v

    def carries(self, drive: Drive) -> bool:
        """Whether a drive keeps running there."""
        return self.starts(drive.current_a if isinstance(drive.current_a, float | int) else 0.0)

    def share(self, scene: Scene, at: Standing) -> float:
        gear = scene.connections.rig.find(at.plugged.gear)
        falls_off = at.plugged.socket == self.socket and isinstance(gear, Drive) and not self.carries(gear)
        return 0.0 if falls_off else 1.0

    def works(self, scene: Scene, asked: Asked) -> float:
        """Whatever is plugged in there for it."""
        gear = scene.connections.rig.find(scene.connections.gear_at(self.socket) or "")
        draws_a = gear.current_a if isinstance(gear, Drive) else gear.draws_w / 5 if isinstance(gear, Drain) else 0.0
        needs_a = draws_a if isinstance(draws_a, float | int) else 0.0
        return 0.0 if asked == Asked(self.socket, "feeds") and not self.starts(needs_a) else 1.0
