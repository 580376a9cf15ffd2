"""What is connected to what on the simulated bench, since when, and whether it came up: shared by every domain."""

from __future__ import annotations

import random
from collections.abc import Callable, Container, Iterable
from dataclasses import dataclass, replace

from auditra.core.model.device import DEVICE, Device
from auditra.core.model.rig import Display, Host, HostSocket, Rig
from auditra.core.model.setup import Plugged
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.trait import Scene

USB_COMES_UP_IN_S = 1.2
_ALL_UP_IN_S = 4.0


@dataclass(frozen=True)
class Standing:
    """Something plugged in, since when, and whether it came up."""

    plugged: Plugged
    since_s: float
    comes_up: bool
    turned: bool = False
    """A plug that goes in both ways is in the other way round."""


class Connections:
    """Changes only by `plug`, `pull` and `stand`. Two with one id: the first is found."""

    def __init__(self, scene: Scene, device: Device, rig: Rig, model: DeviceModel, chance: random.Random) -> None:
        self.device, self.rig, self.model, self.random = device, rig, model, chance
        self._scene = scene
        self.now_s = 0.0
        self.moved_s: dict[tuple[str, str], float] = {}
        """When something was last plugged into a socket or pulled from it, by owner and socket."""
        self.device_was_away_s: float | None = None
        """How long the device was unplugged before it came back into the same socket; None where it came anew."""
        self.standing: list[Standing] = []
        self._by_gear: dict[str, Standing] = {}
        self._left_s: dict[Plugged, float] = {}
        self._device_at: HostSocket | None = None
        self._steady: dict[tuple[object, ...], float] = {}
        self._changed_s = 0.0

    def plug(self, plugged: Plugged, *, turned: bool = False) -> None:
        left_s = self._left_s.pop(plugged, None)
        self._note_move(plugged)
        comes_up = self.random.random() >= (self._miss(plugged.socket) if plugged.owner == DEVICE else 0.0)
        self._set([*self.standing, Standing(plugged, self.now_s, comes_up, turned)])
        if plugged.gear == DEVICE:
            self.device_was_away_s = self.now_s - left_s if left_s is not None else None
            self._start_anew()

    def pull(self, plugged: Plugged) -> None:
        self._note_move(plugged)
        self._left_s[plugged] = self.now_s
        self._set([standing for standing in self.standing if standing.plugged != plugged])

    def stand(self, plugged: Iterable[Plugged], turned: Container[str] = ()) -> None:
        """Everything plugged as it was left, long since up."""
        long_ago_s = self.now_s - 60
        self._set([Standing(each, long_ago_s, comes_up=True, turned=each.gear in turned) for each in plugged])

    def _miss(self, socket: str) -> float:
        return max((trait.miss(self._scene, socket) for trait in self.model.traits), default=0.0)

    def _note_move(self, plugged: Plugged) -> None:
        self.note_change()
        self.moved_s[plugged.owner, plugged.socket] = self.now_s

    def _set(self, standing: list[Standing]) -> None:
        self.standing = standing
        self._by_gear = {each.plugged.gear: each for each in reversed(standing)}
        device = self.find(DEVICE)
        host = self.rig.host(device.plugged.owner) if device else None
        self._device_at = host.socket(device.plugged.socket) if device and host else None

    def note_change(self) -> None:
        """Something was plugged, pulled or switched: rates are worked out anew."""
        self._steady.clear()
        self._changed_s = self.now_s

    def _start_anew(self) -> None:
        """Everything behind the device comes up again when the device is plugged in."""
        self._set(
            [replace(each, since_s=self.now_s) if each.plugged.owner == DEVICE else each for each in self.standing]
        )

    def find(self, gear_id: str) -> Standing | None:
        return self._by_gear.get(gear_id)

    def gear_at(self, socket: str) -> str | None:
        """What is in a socket of the device."""
        here = (each.plugged for each in self.standing if (each.plugged.owner, each.plugged.socket) == (DEVICE, socket))
        return next((plugged.gear for plugged in here), None)

    @property
    def pictures(self) -> tuple[Standing, ...]:
        """The displays behind the device."""
        behind = (each for each in self.standing if each.plugged.owner == DEVICE)
        return tuple(each for each in behind if isinstance(self.rig.find(each.plugged.gear), Display))

    def is_up(self, gear_id: str, after_s: float) -> bool:
        standing = self.find(gear_id)
        return standing is not None and standing.comes_up and self.now_s - standing.since_s >= after_s

    @property
    def device_is_up(self) -> bool:
        """The host sees the device."""
        return self.host_socket is not None and self.is_up(DEVICE, USB_COMES_UP_IN_S)

    @property
    def host(self) -> Host | None:
        hosts = (self.rig.host(standing.plugged.owner) for standing in self.standing)
        return next((host for host in hosts if host is not None), self.rig.hosts[0])

    def socket_of(self, plugged: Plugged) -> HostSocket | None:
        """The socket of a host that something is in."""
        host = self.rig.host(plugged.owner)
        return host.socket(plugged.socket) if host is not None else None

    @property
    def host_socket(self) -> HostSocket | None:
        """The host socket that the device is plugged into."""
        return self._device_at

    @property
    def host_rate_bps(self) -> float:
        return self._device_at.data_bps if self._device_at else 0.0

    def lead_bps(self, plugged: Plugged) -> float | None:
        """What the lead of something carries at most; None where that is not known, or there is none."""
        rates = (lead.data_bps for lead in self.rig.leads if lead.id == plugged.lead)
        return next((float(rate) for rate in rates if isinstance(rate, float | int)), None)

    def place(self, standing: Standing) -> int:
        """The number of a socket on its owner, from 1."""
        host = self.rig.host(standing.plugged.owner)
        ids = [socket.id for socket in host.sockets] if host else [port.id for port in self.device.ports()]
        return ids.index(standing.plugged.socket) + 1 if standing.plugged.socket in ids else 1

    def steadily(self, key: tuple[object, ...], compute: Callable[[], float]) -> float:
        """A rate that stays as it is until something is plugged or pulled, once all has come up."""
        if self.now_s - self._changed_s < _ALL_UP_IN_S:
            return compute()
        if key not in self._steady:
            self._steady[key] = compute()
        return self._steady[key]
