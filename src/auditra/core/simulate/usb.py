"""The USB tree of the simulated bench: the device's hubs, and the drives and readers behind them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.links.usb import LINKS
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Drive, Reader
from auditra.core.simulate.connections import USB_COMES_UP_IN_S, Standing
from auditra.core.simulate.trait import Scene

_HIGH_SPEED_BPS = 480e6
_INNER_BPS = 5e9
_HUB_CONTAINER = "6f1e0601-0000-4000-8000-00000000b0a7"
_INNER_CONTAINER = "6f1e0603-0000-4000-8000-00000000b0a7"


@dataclass(frozen=True)
class UsbNode:
    """A USB device on a bus of the simulated host."""

    name: str
    speed_mbps: float
    usb_id: str
    is_hub: bool
    version: str
    product: str
    could_mbps: float = 480.0
    ports: int = 0
    container: str = ""
    power_ma: int = 0


class Usb:
    """What the host sees on its USB buses."""

    def __init__(self, scene: Scene) -> None:
        self._scene, self._connections = scene, scene.connections

    @property
    def upstream_bps(self) -> float:
        """The link between host and device."""
        connections = self._connections
        device = connections.find(DEVICE)
        lead_bps = connections.lead_bps(device.plugged) if device is not None else None
        rate_bps = min(connections.model.upstream_bps, connections.host_rate_bps, lead_bps or math.inf)
        for trait in connections.model.traits:
            rate_bps = trait.upstream_bps(self._scene, rate_bps)
        return rate_bps

    def nodes(self) -> Iterator[UsbNode]:
        """Every device that has come up."""
        connections, device = self._connections, self._connections.device
        if connections.device_is_up and connections.model.is_hub:
            could, ports = connections.model.upstream_bps / 1e6, len(list(device.ports()))
            fast = self.upstream_bps / 1e6
            for place, speed, usb_id, version in (
                ("2-1", fast, "1f6e:0601", " 3.20"), ("1-1", _HIGH_SPEED_BPS / 1e6, "1f6e:0602", " 2.10"),
            ):  # fmt: skip
                yield UsbNode(place, speed, usb_id, True, version, device.name, could, ports + 1, _HUB_CONTAINER)
            yield from self._inner_hub(ports + 1, fast)
        for standing in connections.standing:
            gear = connections.rig.find(standing.plugged.gear)
            if isinstance(gear, Drive | Reader) and (rate_bps := self.link_bps(gear.id)) is not None:
                yield self._node_of(gear, standing, rate_bps)

    def _node_of(self, gear: Drive | Reader, standing: Standing, rate_bps: float) -> UsbNode:
        bus = "1" if rate_bps <= _HIGH_SPEED_BPS else "2"
        place = f"{bus}-{self._place(standing)}"
        for fault in self._scene.faults:
            rate_bps = fault.shown_link_bps(rate_bps)
        ids = gear.usb_id if isinstance(gear, Drive) and isinstance(gear.usb_id, str) else "1f6e:0a00"
        version = " 3.20" if rate_bps > _HIGH_SPEED_BPS else " 2.10"
        could = own_link_bps(gear) / 1e6
        return UsbNode(place, rate_bps / 1e6, ids, False, version, gear.name, could, power_ma=896)

    def _place(self, standing: Standing) -> str:
        """Where it hangs on its bus: on a socket of the host, or behind the device, which may be a hub."""
        connections = self._connections
        if standing.plugged.owner != DEVICE:
            return str(connections.place(standing) + 1)
        return f"1.{self._path(standing)}" if connections.model.is_hub else "1"

    def _inner_hub(self, port: int, fast_mbps: float) -> Iterator[UsbNode]:
        """Sockets of 5 Gb/s hang on a hub of their own inside: a hub's sockets are as fast as the hub."""
        if not any(self._is_inner(socket) for socket in self._connections.model.data_bps):
            return
        device = self._connections.device
        ports, name = len(list(device.ports())), f"{device.name}, inner hub"
        speed = min(_INNER_BPS / 1e6, fast_mbps)
        for bus, rate, usb_id, version in ((2, speed, "1f6e:0603", " 3.20"), (1, 480.0, "1f6e:0604", " 2.10")):
            place = f"{bus}-1.{port}"
            yield UsbNode(place, rate, usb_id, True, version, name, _INNER_BPS / 1e6, ports, _INNER_CONTAINER)

    def _is_inner(self, socket: str) -> bool:
        return _HIGH_SPEED_BPS < self._connections.model.data_bps.get(socket, 0.0) <= _INNER_BPS

    def _path(self, standing: Standing) -> str:
        """The numbers of the sockets behind the device's own."""
        ports = len(list(self._connections.device.ports()))
        inner = f"{ports + 1}." if self._is_inner(standing.plugged.socket) else ""
        return f"{inner}{self._connections.place(standing)}"

    def link_bps(self, gear_id: str) -> float | None:
        """The link that a drive or reader makes; None while it is not up, or where the socket does no data."""
        connections = self._connections
        standing = connections.find(gear_id)
        if standing is None or not connections.is_up(gear_id, USB_COMES_UP_IN_S):
            return None
        limits = [own_link_bps(connections.rig.find(gear_id)), connections.lead_bps(standing.plugged) or math.inf]
        if standing.plugged.owner == DEVICE:
            own = connections.model.data_bps.get(standing.plugged.socket)
            if connections.host_socket is None or own is None:
                return None
            limits.append(self._through_device(standing, own))
            if not limits[-1]:
                return None
        else:
            socket = connections.socket_of(standing.plugged)
            limits.append(socket.data_bps if socket is not None else 0.0)
        return max((link.rate_bps for link in LINKS if link.rate_bps <= min(limits)), default=480e6)

    def _through_device(self, standing: Standing, own_bps: float) -> float:
        for trait in self._connections.model.traits:
            own_bps = trait.link_bps(self._scene, standing, own_bps)
        return min(own_bps, self.upstream_bps)


def own_link_bps(gear: object) -> float:
    """The link that a drive was made for: the slowest that carries what it can do."""
    if not isinstance(gear, Drive):
        return 10e9
    return next((link.rate_bps for link in LINKS if link.ceiling_bps >= gear.read_bps), LINKS[-1].rate_bps)
