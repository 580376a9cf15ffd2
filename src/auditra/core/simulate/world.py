"""A simulated bench: what is plugged where, what flows, how warm it is. Time passes only when it is told to."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace

from auditra.core.links.cards import BUS_BPS
from auditra.core.links.charging import Step, steps_of_source
from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.links.usb import LINKS, payload_ceiling_bps
from auditra.core.model.device import DEVICE, Device, Role
from auditra.core.model.rig import Card, Display, Drain, Drive, Host, HostSocket, Instrument, Peer, Reader, Rig, Supply
from auditra.core.model.setup import Plugged
from auditra.core.simulate.model import DeviceModel

AMBIENT_C = 21.5
USB_COMES_UP_IN_S = 1.2
PICTURE_COMES_UP_IN_S = 2.6
NETWORK_COMES_UP_IN_S = 2.0
_ALL_UP_IN_S = 4.0
_GOOD_LINK_SHARE = 0.93
_GOOD_NETWORK_SHARE = 0.997
_GOOD_SLOT_SHARE = 0.95
_RATE_NOISE = 0.004
_CONTACT_OHM = 0.03
_GAVE_WAY_SHARE = 0.15
_BUS_V = 5.0
_HOST_SOCKET_W = 15.0
_ASKED_V, _LEAD_A = 20.0, 5.0
_UPSTREAM_BPS, _HIGH_SPEED_BPS = 10e9, 480e6
_HUB_CONTAINER = "6f1e0601-0000-4000-8000-00000000b0a7"
_INNER_CONTAINER = "6f1e0603-0000-4000-8000-00000000b0a7"
_INNER_BPS = 5e9
_UNMARKED_A = 3.0


@dataclass(frozen=True)
class Standing:
    """Something plugged in, since when, and whether it came up."""

    plugged: Plugged
    since_s: float
    comes_up: bool


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


@dataclass(frozen=True)
class TypeCNode:
    """A C socket of the simulated host. `cable_a` is what a marker says; None for a cable without one, or a captive."""

    attached: bool = False
    cable_a: float | None = None
    offers: tuple[Step, ...] = ()
    pins: str = ""


@dataclass(frozen=True)
class NetworkNode:
    """A network interface of the simulated host; without a link the speed is None."""

    name: str
    speed_mbps: float | None


@dataclass(frozen=True)
class DisplayNode:
    """A display connector of the simulated host."""

    name: str
    display: Display | None
    mode: Mode | None


@dataclass(frozen=True)
class Flow:
    """Volts and amperes at one place."""

    volts: float
    amperes: float


class World:
    """The truth behind the doors of the simulated bench."""

    def __init__(self, device: Device, rig: Rig, model: DeviceModel, seed: int) -> None:
        self.device, self.rig, self.model = device, rig, model
        self.now_s = 0.0
        self.case_c = AMBIENT_C
        self.load_a: dict[str, float] = {}
        """What each load is set to draw."""
        self.loads_on: set[str] = set()
        self.busy: set[str] = set()
        """Gear that is kept at work beside what is measured."""
        self.random = random.Random(seed)
        self._gain = {gear.id: self.random.uniform(-0.5, 0.5) for gear in rig.gear() if isinstance(gear, Instrument)}
        self._standing: list[Standing] = []
        self._by_gear: dict[str, Standing] = {}
        self._device_at: HostSocket | None = None
        self._steady: dict[tuple[object, ...], float] = {}
        self._changed_s = 0.0

    # Hands and time

    def plug(self, plugged: Plugged) -> None:
        self._change()
        miss = self.model.misses.get(plugged.socket, 0.0) if plugged.owner == DEVICE else 0.0
        self._stand([*self._standing, Standing(plugged, self.now_s, comes_up=self.random.random() >= miss)])
        if plugged.gear == DEVICE:
            self._start_anew()

    def pull(self, plugged: Plugged) -> None:
        self._change()
        self._stand([each for each in self._standing if each.plugged != plugged])

    def stand(self, plugged: Iterable[Plugged]) -> None:
        """Everything plugged as it was left, long since up."""
        self._stand([Standing(each, self.now_s - 60, comes_up=True) for each in plugged])

    def advance(self, seconds: float, *, busy: bool = False) -> None:
        """Let time pass; a busy device warms up more. First-order: Newton's law of cooling."""
        self.now_s += seconds
        rise = 0.0 if self._host_socket() is None else self.model.rise_busy_k if busy else self.model.rise_idle_k
        share = 1 - math.exp(-seconds / self.model.warms_in_s)
        self.case_c += (AMBIENT_C + rise - self.case_c) * share

    def _stand(self, standing: list[Standing]) -> None:
        """What is connected from now on; of two with one id, the first is found."""
        self._standing = standing
        self._by_gear = {each.plugged.gear: each for each in reversed(standing)}
        each = self._find(DEVICE)
        host = self.rig.host(each.plugged.owner) if each else None
        self._device_at = host.socket(each.plugged.socket) if each and host else None

    def _change(self) -> None:
        self._steady.clear()
        self._changed_s = self.now_s

    def _start_anew(self) -> None:
        """Everything behind the device comes up again when the device is plugged in."""
        self._stand(
            [replace(each, since_s=self.now_s) if each.plugged.owner == DEVICE else each for each in self._standing]
        )

    # What the host sees

    def usb(self) -> Iterator[UsbNode]:
        if self._host_socket() is not None and self._is_up(DEVICE, USB_COMES_UP_IN_S):
            could, ports = _UPSTREAM_BPS / 1e6, len(list(self.device.ports()))
            fast = min(_UPSTREAM_BPS, self._host_rate()) / 1e6
            for place, speed, usb_id, version in (
                ("2-1", fast, "1f6e:0601", " 3.20"), ("1-1", _HIGH_SPEED_BPS / 1e6, "1f6e:0602", " 2.10"),
            ):  # fmt: skip
                yield UsbNode(place, speed, usb_id, True, version, self.device.name, could, ports + 1, _HUB_CONTAINER)
            yield from self._inner_hub(ports + 1, fast)
        for each in self._standing:
            gear = self.rig.find(each.plugged.gear)
            if isinstance(gear, Drive | Reader) and (rate := self.usb_link_bps(gear.id)) is not None:
                bus = "1" if rate <= _HIGH_SPEED_BPS else "2"
                place = (
                    f"{bus}-1.{self._path(each)}" if each.plugged.owner == DEVICE else f"{bus}-{self._place(each) + 1}"
                )
                ids = gear.usb_id if isinstance(gear, Drive) and isinstance(gear.usb_id, str) else "1f6e:0a00"
                version = " 3.20" if rate > _HIGH_SPEED_BPS else " 2.10"
                could = _own_link_bps(gear) / 1e6
                yield UsbNode(place, rate / 1e6, ids, False, version, gear.name, could, power_ma=896)

    def _inner_hub(self, port: int, fast_mbps: float) -> Iterator[UsbNode]:
        """Sockets of 5 Gb/s hang on a hub of their own inside: a hub's sockets are as fast as the hub."""
        if not any(self._is_inner(socket) for socket in self.model.data_bps):
            return
        speed = min(_INNER_BPS / 1e6, fast_mbps)
        ports = len(list(self.device.ports()))
        for bus, rate, usb_id, version in ((2, speed, "1f6e:0603", " 3.20"), (1, 480.0, "1f6e:0604", " 2.10")):
            name = f"{self.device.name}, inner hub"
            yield UsbNode(
                f"{bus}-1.{port}", rate, usb_id, True, version, name, _INNER_BPS / 1e6, ports, _INNER_CONTAINER
            )

    def _is_inner(self, socket: str) -> bool:
        return _HIGH_SPEED_BPS < self.model.data_bps.get(socket, 0.0) <= _INNER_BPS

    def _path(self, each: Standing) -> str:
        """The numbers of the sockets behind the device's own."""
        inner = f"{len(list(self.device.ports())) + 1}." if self._is_inner(each.plugged.socket) else ""
        return f"{inner}{self._place(each)}"

    def type_c(self) -> Iterator[TypeCNode]:
        """The host's C sockets, in order."""
        host = self._host()
        for socket in host.sockets if host else ():
            if socket.connector == "usb-c" and host is not None:
                yield self._type_c(host.id, socket.id)

    def _type_c(self, host: str, socket: str) -> TypeCNode:
        here = (each for each in self._standing if (each.plugged.owner, each.plugged.socket) == (host, socket))
        each = next((each for each in here if self._is_up(each.plugged.gear, USB_COMES_UP_IN_S)), None)
        if each is None:
            return TypeCNode()
        leads = (lead.amperes for lead in self.rig.leads if lead.id == each.plugged.lead)
        marked = next((a for a in leads if isinstance(a, float | int) and a > _UNMARKED_A), None)
        if each.plugged.gear != DEVICE:
            return TypeCNode(attached=True, cable_a=marked)
        supply = self._supply()
        watts = self._passes_w(supply) if supply is not None else 0.0
        running = any(node.mode is not None for node in self.displays())
        return TypeCNode(True, marked, steps_of_source(watts) if watts > 0 else (), "D" if running else "")

    def network(self) -> Iterator[NetworkNode]:
        host = self._host()
        for socket in host.sockets if host else ():
            if socket.connector == "rj45":
                yield NetworkNode("lan0", self._network_link(host.id if host else "", socket.id, socket.data_bps))
        if self._host_socket() is not None and self._is_up(DEVICE, USB_COMES_UP_IN_S):
            for index, (port, rate) in enumerate(self.model.network_bps.items()):
                yield NetworkNode(f"usb{index}", self._network_link(DEVICE, port, rate))

    def displays(self) -> Iterator[DisplayNode]:
        for each in self._standing:
            gear = self.rig.find(each.plugged.gear)
            if isinstance(gear, Display):
                yield DisplayNode(f"card0-DP-{self._place(each)}", gear, self.mode_of(gear.id))

    def usb_link_bps(self, gear_id: str) -> float | None:
        """The link that a drive or reader makes; None while it is not up, or where the socket does no data."""
        each = self._find(gear_id)
        if each is None or not self._is_up(gear_id, USB_COMES_UP_IN_S):
            return None
        gear = self.rig.find(gear_id)
        limits = [_own_link_bps(gear), *self._lead_limit(each.plugged)]
        if each.plugged.owner == DEVICE:
            if self._host_socket() is None or each.plugged.socket not in self.model.data_bps:
                return None
            limits += [self.model.data_bps[each.plugged.socket], self._host_rate()]
        else:
            limits.append(self._socket_rate(each.plugged))
        return max((link.rate_bps for link in LINKS if link.rate_bps <= min(limits)), default=480e6)

    def mode_of(self, display_id: str) -> Mode | None:
        each, gear = self._find(display_id), self.rig.find(display_id)
        if each is None or not isinstance(gear, Display) or not self._is_up(display_id, PICTURE_COMES_UP_IN_S):
            return None
        modes = [parse_mode(text) for text in gear.modes]
        if each.plugged.owner != DEVICE:
            return modes[0]
        socket = self._host_socket()
        if socket is None or not socket.display or each.plugged.socket not in self.model.display_modes:
            return None
        most = parse_mode(self.model.display_modes[each.plugged.socket]).pixels_a_second
        return next((mode for mode in modes if mode.pixels_a_second <= most), None)

    # What flows

    def has_room(self, gear_id: str) -> bool:
        """A drive or card can be written to."""
        gear, each = self.rig.find(gear_id), self._find(gear_id)
        if isinstance(gear, Drive):
            return self.usb_link_bps(gear_id) is not None
        if not isinstance(gear, Card) or each is None or not self._is_up(gear_id, USB_COMES_UP_IN_S):
            return False
        in_device = each.plugged.owner == DEVICE and each.plugged.socket in self.model.card_bps
        return (in_device and self._host_socket() is not None) or self._find(each.plugged.owner) is not None

    def payload_bps(self, gear_id: str, *, writing: bool) -> float:
        """What a drive or card takes or gives at this moment, with its jitter; 0 once it is gone."""
        key = (gear_id, writing, frozenset(self.busy))
        steady = self._steadily(key, lambda: self._among_others(gear_id, self._payload_bps(gear_id, writing=writing)))
        return steady * self.random.gauss(1.0, _RATE_NOISE)

    def _payload_bps(self, gear_id: str, *, writing: bool) -> float:
        gear, each = self.rig.find(gear_id), self._find(gear_id)
        if each is None or not isinstance(gear, Drive | Card) or not self.has_room(gear_id):
            return 0.0
        own = gear.write_bps if writing else gear.read_bps
        if isinstance(gear, Drive):
            ceiling = payload_ceiling_bps(self.usb_link_bps(gear_id) or 0.0) * _GOOD_LINK_SHARE
        else:
            slot = self.model.card_bps.get(each.plugged.socket) if each.plugged.owner == DEVICE else None
            ceiling = min(BUS_BPS.get(gear.bus, own), slot or own / _GOOD_SLOT_SHARE) * _GOOD_SLOT_SHARE
        return min(own, ceiling) * self._share(each.plugged)

    def wire_bps(self, peer_id: str) -> float:
        """TCP payload to a peer at this moment, with its jitter; 0 without a link."""
        key = (peer_id, self._is_hot, frozenset(self.busy))
        steady = self._steadily(key, lambda: self._among_others(peer_id, self._wire_bps(peer_id)))
        return steady * min(1.0, self.random.gauss(0.999, _RATE_NOISE / 4))

    def _wire_bps(self, peer_id: str) -> float:
        each = self._find(peer_id)
        if each is None:
            return 0.0
        links = [node.speed_mbps for node in self.network() if node.speed_mbps is not None]
        if not links:
            return 0.0
        good = tcp_ceiling_bps(max(links) * 1e6) * _GOOD_NETWORK_SHARE
        warm = self.model.hot_share.get(each.plugged.socket, 1.0) if self._is_hot else 1.0
        return good * self._share(each.plugged) * (warm if each.plugged.owner == DEVICE else 1.0)

    @property
    def _is_hot(self) -> bool:
        return self.case_c - AMBIENT_C > self.model.hot_above_k

    def _among_others(self, gear_id: str, alone_bps: float) -> float:
        """What is left of a rate on the links that it shares with gear that is kept at work."""
        each = self._find(gear_id)
        if each is None or each.plugged.owner != DEVICE:
            return alone_bps
        others = {
            other.plugged.socket: self._own_rate(other.plugged.gear)
            for other in self._standing
            if other.plugged.gear in self.busy - {gear_id} and other.plugged.owner == DEVICE
        }
        upstream = payload_ceiling_bps(min(_UPSTREAM_BPS, self._host_rate())) * _GOOD_LINK_SHARE
        ways = [(frozenset({each.plugged.socket, *others}), upstream), *self.model.shared_bps.items()]
        rate = alone_bps
        for ports, most in ways:
            asked = sum((own for port, own in others.items() if port in ports), alone_bps)
            if each.plugged.socket in ports and asked > most:
                rate = min(rate, alone_bps * most / asked)
        return rate

    def _own_rate(self, gear_id: str) -> float:
        if isinstance(self.rig.find(gear_id), Peer):
            return self._wire_bps(gear_id)
        return self._payload_bps(gear_id, writing=False)

    def _steadily(self, key: tuple[object, ...], compute: Callable[[], float]) -> float:
        """A rate that stays as it is until something is plugged or pulled, once all has come up."""
        if self.now_s - self._changed_s < _ALL_UP_IN_S:
            return compute()
        if key not in self._steady:
            self._steady[key] = compute()
        return self._steady[key]

    def corrupts(self, gear_id: str) -> bool:
        """A block read now comes back with a wrong byte."""
        each = self._find(gear_id)
        bad = each is not None and each.plugged.owner == DEVICE and each.plugged.socket in self.model.corrupts
        return bad and self.random.random() < 0.01

    def load_flow(self, load_id: str | None = None) -> Flow:
        """Volts and amperes at an electronic load, or at whichever is connected; nothing at one that is not."""
        load = self._load_standing(load_id)
        if load is None:
            return Flow(0.0, 0.0)
        volts, most_w = self._source_of(load.plugged)
        ids = {load.plugged.gear, load.plugged.owner} & self.loads_on
        amperes = sum(self.load_a.get(each, 0.0) for each in ids)
        volts -= amperes * _CONTACT_OHM
        return Flow(volts, amperes) if volts * amperes <= most_w else Flow(volts * _GAVE_WAY_SHARE, amperes)

    def meter_flow(self, meter_id: str | None = None) -> Flow:
        """Volts and amperes through a meter, or through whichever is in line; nothing through one that is not."""
        in_line = (each for each in self._standing if each.plugged.through)
        each = next((each for each in in_line if meter_id is None or meter_id in each.plugged.through), None)
        supply = self.rig.find(each.plugged.gear) if each else None
        if each is None or not isinstance(supply, Supply):
            return Flow(0.0, 0.0)
        drawn = self.load_flow()
        watts = drawn.volts * drawn.amperes
        if each.plugged.owner == DEVICE:
            watts += self.model.own_use_w
        amperes = watts / _contract_v(supply)
        return Flow(_contract_v(supply) - amperes * _CONTACT_OHM, amperes)

    def as_told_by(self, instrument: Instrument, flow: Flow) -> Flow:
        """What an instrument makes of a flow: a gain of its own and noise, together inside its stated error."""
        percent = instrument.power_error_percent
        limit = percent / 100 if isinstance(percent, float | int) else 0.0
        off = limit * (self._gain[instrument.id] + self.random.uniform(-0.2, 0.2))
        return Flow(flow.volts, flow.amperes * (1 + off))

    def figure(self, spot: str, quantity: str) -> float | None:
        """What a person reads of a spot; None for what nobody can see."""
        return self.model.figures.get((spot, quantity))

    def is_so(self, spot: str) -> bool:
        """Whether a spot is as it is said to be, for one who looks."""
        return spot not in self.model.lacks

    def works_in(self, spot: str, tries: int) -> int:
        """In how many tries something at a spot works."""
        missed = self.model.misses.get(spot, 0.0)
        return sum(self.random.random() >= missed for _ in range(tries))

    def length_m(self, port: str) -> float:
        return self.model.lengths_m.get(port, 0.0)

    # Inside

    def _find(self, gear_id: str) -> Standing | None:
        return self._by_gear.get(gear_id)

    def _place(self, each: Standing) -> int:
        """The number of a socket on its owner, from 1."""
        host = self.rig.host(each.plugged.owner)
        ids = [socket.id for socket in host.sockets] if host else [port.id for port in self.device.ports()]
        return ids.index(each.plugged.socket) + 1 if each.plugged.socket in ids else 1

    def _is_up(self, gear_id: str, after_s: float) -> bool:
        each = self._find(gear_id)
        return each is not None and each.comes_up and self.now_s - each.since_s >= after_s

    def _host(self) -> Host | None:
        return next((host for each in self._standing if (host := self.rig.host(each.plugged.owner))), self.rig.hosts[0])

    def _host_socket(self) -> HostSocket | None:
        """The host socket that the device is plugged into."""
        return self._device_at

    def _host_rate(self) -> float:
        socket = self._host_socket()
        return socket.data_bps if socket else 0.0

    def _socket_rate(self, plugged: Plugged) -> float:
        host = self.rig.host(plugged.owner)
        socket = host.socket(plugged.socket) if host else None
        return socket.data_bps if socket else 0.0

    def _lead_limit(self, plugged: Plugged) -> Iterator[float]:
        for lead in self.rig.leads:
            if lead.id == plugged.lead and isinstance(lead.data_bps, float | int):
                yield lead.data_bps

    def _network_link(self, owner: str, socket: str, rate: float) -> float | None:
        for each in self._standing:
            peer = self.rig.find(each.plugged.gear)
            here = (each.plugged.owner, each.plugged.socket) == (owner, socket)
            if here and isinstance(peer, Peer) and self._is_up(peer.id, NETWORK_COMES_UP_IN_S):
                return min(rate, peer.rate_bps) / 1e6
        return None

    def _share(self, plugged: Plugged) -> float:
        if plugged.owner != DEVICE:
            return 1.0
        running = any(node.mode is not None for node in self.displays())
        beside = self.model.beside_display_share.get(plugged.socket, 1.0) if running else 1.0
        return self.model.payload_share.get(plugged.socket, 1.0) * beside

    def _load_standing(self, load_id: str | None = None) -> Standing | None:
        """The load, wherever it hangs: plugged into something, or something plugged into it."""
        loads = {load.id for load in self.rig.loads if load_id in (None, load.id)}
        return next((each for each in self._standing if loads & {each.plugged.gear, each.plugged.owner}), None)

    def _source_of(self, plugged: Plugged) -> tuple[float, float]:
        """The voltage that the load sees, and the watts from which it gives way."""
        supply = self._supply()
        upstream = self.device.first(Role.UPSTREAM)
        if plugged.owner in {load.id for load in self.rig.loads}:
            return (_contract_v(supply), _most_w(supply)) if supply else (0.0, 0.0)
        if plugged.owner == DEVICE and upstream is not None and plugged.socket == upstream.id:
            return (_contract_v(supply), self._passes_w(supply)) if supply else (0.0, 0.0)
        if plugged.owner == DEVICE:
            volts = self.model.gives_v.get(plugged.socket, _BUS_V)
            return volts, self.model.gives_w.get(plugged.socket, 0.0)
        return _BUS_V, _HOST_SOCKET_W

    def _supply(self) -> Supply | None:
        found = (self.rig.find(each.plugged.gear) for each in self._standing)
        return next((gear for gear in found if isinstance(gear, Supply)), None)

    def _passes_w(self, supply: Supply) -> float:
        each = self._find(supply.id)
        asked = self.model.takes_w.get(each.plugged.socket, 0.0) if each else 0.0
        drained = {
            each.plugged.socket: drain.draws_w
            for each in self._standing
            if isinstance(drain := self.rig.find(each.plugged.gear), Drain) and each.plugged.owner == DEVICE
        }
        given = sum(min(draws, self.model.gives_w.get(port, 0.0)) for port, draws in drained.items())
        most = [watts for ports, watts in self.model.host_w_while.items() if ports <= drained.keys()]
        left = min(asked, _most_w(supply)) - self.model.own_use_w - given
        return max(0.0, min(left, self.model.host_w, *most))


def _contract_v(supply: Supply) -> float:
    """The voltage that is agreed on: everything here asks for 20 V at most."""
    return min(supply.volts, _ASKED_V)


def _most_w(supply: Supply) -> float:
    """What the supply gives at that voltage: through a lead for 5 A, or through a plug of its own."""
    return supply.watts if supply.connector.endswith(" plug") else min(supply.watts, _contract_v(supply) * _LEAD_A)


def _own_link_bps(gear: object) -> float:
    """The link that a drive was made for: the slowest that carries what it can do."""
    if not isinstance(gear, Drive):
        return 10e9
    return next((link.rate_bps for link in LINKS if link.ceiling_bps >= gear.read_bps), LINKS[-1].rate_bps)
