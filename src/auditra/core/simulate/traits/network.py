"""What becomes of a network link: packets that are too large, links that are lost, drivers that are missing or busy."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass

from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Quantity
from auditra.core.simulate.connections import Standing
from auditra.core.simulate.trait import Scene, Trait


@dataclass(frozen=True)
class LimitsFrames(Trait):
    """No larger packet goes through a socket whole."""

    socket: str
    most_bytes: int

    def figure(self, scene: Scene, spot: str, quantity: str) -> float | None:
        return float(self.most_bytes) if (spot, quantity) == (self.socket, Quantity.LARGEST_FRAME) else None


@dataclass(frozen=True)
class LostAfterInletMoves(Trait):
    """The link of a socket is lost for a while whenever something is plugged into the inlet or pulled from it."""

    socket: str
    inlet: str
    lasts_s: float

    def _is_lost(self, scene: Scene) -> bool:
        moved_s = scene.connections.moved_s.get((DEVICE, self.inlet))
        return moved_s is not None and scene.connections.now_s - moved_s < self.lasts_s

    def phase(self, scene: Scene) -> Hashable:
        return self._is_lost(scene)

    def share(self, scene: Scene, at: Standing) -> float:
        return 0.0 if at.plugged.socket == self.socket and self._is_lost(scene) else 1.0


@dataclass(frozen=True)
class NeedsDriver(Trait):
    """What is in a socket stays unseen on a host where nothing was installed for the device."""

    socket: str
    hosts: frozenset[str]

    def miss(self, scene: Scene, socket: str) -> float:
        here = scene.connections.find(DEVICE)
        return 1.0 if socket == self.socket and here is not None and here.plugged.owner in self.hosts else 0.0


@dataclass(frozen=True)
class DriverBusies(Trait):
    """The driver that a host has installed for the device keeps so much of its processors busy."""

    percent: float

    def processor_percent(self, scene: Scene) -> float:
        here = scene.connections.find(DEVICE)
        host = scene.connections.rig.host(here.plugged.owner) if here is not None else None
        return self.percent if host is not None and isinstance(host.driver, str) and scene.driver_runs else 0.0
