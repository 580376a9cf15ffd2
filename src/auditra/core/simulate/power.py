"""Volts, amperes and contracts on the simulated bench."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.links.charging import Step, steps_of_source
from auditra.core.model.device import DEVICE, Role
from auditra.core.model.rig import Drain, Instrument, Supply
from auditra.core.model.setup import Plugged
from auditra.core.simulate.connections import USB_COMES_UP_IN_S, Standing
from auditra.core.simulate.trait import Scene

_CONTACT_OHM = 0.03
_GAVE_WAY_SHARE = 0.15
_BUS_V = 5.0
_HOST_SOCKET_W = 15.0
_ASKED_V, _LEAD_A = 20.0, 5.0
_UNMARKED_A = 3.0


@dataclass(frozen=True)
class TypeCNode:
    """A C socket of the simulated host. `cable_a` is what a marker says; None for a cable without one, or a captive."""

    attached: bool = False
    cable_a: float | None = None
    offers: tuple[Step, ...] = ()
    pins: str = ""


@dataclass(frozen=True)
class Flow:
    """Volts and amperes at one place."""

    volts: float
    amperes: float


class Power:
    """What loads draw, meters see and the host is offered."""

    def __init__(self, scene: Scene) -> None:
        self._scene, self._connections = scene, scene.connections
        self.load_a: dict[str, float] = {}
        """What each load is set to draw."""
        self.loads_on: set[str] = set()
        rig, chance = scene.connections.rig, scene.connections.random
        self._gain = {gear.id: chance.uniform(-0.5, 0.5) for gear in rig.gear() if isinstance(gear, Instrument)}

    def type_c(self) -> Iterator[TypeCNode]:
        """The host's C sockets, in order."""
        host = self._connections.host
        for socket in host.sockets if host else ():
            if socket.connector == "usb-c" and host is not None:
                yield self._type_c(host.id, socket.id)

    def _type_c(self, host: str, socket: str) -> TypeCNode:
        connections = self._connections
        here = (each for each in connections.standing if (each.plugged.owner, each.plugged.socket) == (host, socket))
        partner = next((each for each in here if connections.is_up(each.plugged.gear, USB_COMES_UP_IN_S)), None)
        if partner is None:
            return TypeCNode()
        leads = (lead.amperes for lead in connections.rig.leads if lead.id == partner.plugged.lead)
        marked = next((a for a in leads if isinstance(a, float | int) and a > _UNMARKED_A), None)
        if partner.plugged.gear != DEVICE:
            return TypeCNode(attached=True, cable_a=marked)
        supply = self._supply()
        watts = self._passes_w(supply) if supply is not None else 0.0
        pins = "D" if self._scene.displays.are_running else ""
        return TypeCNode(True, marked, steps_of_source(watts) if watts > 0 else (), pins)

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
        in_line = (each for each in self._connections.standing if each.plugged.through)
        fed = next((each for each in in_line if meter_id is None or meter_id in each.plugged.through), None)
        supply = self._connections.rig.find(fed.plugged.gear) if fed else None
        if fed is None or not isinstance(supply, Supply):
            return Flow(0.0, 0.0)
        drawn = self.load_flow()
        watts = drawn.volts * drawn.amperes
        if fed.plugged.owner == DEVICE:
            watts += self._connections.model.own_use_w + sum(self._giving().values())
        half_ohm, volts = _CONTACT_OHM / 2, _contract_v(supply)  # it sits in the middle of what is lost on the way
        amperes = watts / (volts - half_ohm * watts / volts)
        return Flow(volts - amperes * half_ohm, amperes)

    def as_told_by(self, instrument: Instrument, flow: Flow) -> Flow:
        """What an instrument makes of a flow: a gain of its own and noise, together inside its stated error."""
        percent = instrument.power_error_percent
        limit = percent / 100 if isinstance(percent, float | int) else 0.0
        off = limit * (self._gain[instrument.id] + self._connections.random.uniform(-0.2, 0.2))
        gain = math.prod(fault.gain(instrument.id) for fault in self._scene.faults)
        return Flow(flow.volts, flow.amperes * (1 + off) * gain)

    def _load_standing(self, load_id: str | None = None) -> Standing | None:
        """The load, wherever it hangs: plugged into something, or something plugged into it."""
        loads = {load.id for load in self._connections.rig.loads if load_id in (None, load.id)}
        standing = self._connections.standing
        return next((each for each in standing if loads & {each.plugged.gear, each.plugged.owner}), None)

    def _source_of(self, plugged: Plugged) -> tuple[float, float]:
        """The voltage that the load sees, and the watts from which it gives way."""
        supply, model = self._supply(), self._connections.model
        upstream = self._connections.device.first(Role.UPSTREAM)
        if plugged.owner in {load.id for load in self._connections.rig.loads}:
            return (_contract_v(supply), _most_w(supply)) if supply else (0.0, 0.0)
        if plugged.owner == DEVICE and upstream is not None and plugged.socket == upstream.id:
            return (_contract_v(supply), self._passes_w(supply)) if supply else (0.0, 0.0)
        if plugged.owner == DEVICE:
            most_w = min(model.gives_w.get(plugged.socket, 0.0), self._left_for(plugged.socket))
            return model.gives_v.get(plugged.socket, _BUS_V), most_w
        return _BUS_V, self._host_socket_w()

    def _supply(self) -> Supply | None:
        found = (self._connections.rig.find(each.plugged.gear) for each in self._connections.standing)
        return next((gear for gear in found if isinstance(gear, Supply)), None)

    def _left_for(self, socket: str) -> float:
        """What feeds the device, without what it uses itself and gives elsewhere: a socket has no more to give."""
        supply, model = self._supply(), self._connections.model
        fed = self._connections.find(supply.id) if supply is not None else None
        fed_w = self._host_socket_w()
        if supply is not None and fed is not None and fed.plugged.owner == DEVICE:
            fed_w = min(model.takes_w.get(fed.plugged.socket, 0.0), _most_w(supply))
        elsewhere = (watts for port, watts in self._giving().items() if port != socket)
        return max(0.0, fed_w - model.own_use_w - sum(elsewhere))

    def _host_socket_w(self) -> float:
        """What the socket gives that the device, or the load, hangs on."""
        rig = self._connections.rig
        hosts = [(rig.host(each.plugged.owner), each.plugged.socket) for each in self._connections.standing]
        sockets = (host.socket(name) for host, name in hosts if host is not None)
        given = (socket.gives_w for socket in sockets if socket is not None)
        return next((float(watts) for watts in given if isinstance(watts, int | float)), _HOST_SOCKET_W)

    def _passes_w(self, supply: Supply) -> float:
        """What reaches the host of a supply's watts."""
        connections, model = self._connections, self._connections.model
        fed = connections.find(supply.id)
        asked = model.takes_w.get(fed.plugged.socket, 0.0) if fed else 0.0
        giving = self._giving()
        left_w = min(asked, _most_w(supply)) - model.own_use_w - sum(giving.values())
        left_w = min(left_w, model.host_w)
        for trait in model.traits:
            left_w = trait.host_w(self._scene, giving, left_w)
        return max(0.0, left_w)

    def _giving(self) -> dict[str, float]:
        """What each port of the device gives to a drain."""
        rig, model = self._connections.rig, self._connections.model
        behind = (each.plugged for each in self._connections.standing if each.plugged.owner == DEVICE)
        drawn = {
            plugged.socket: drain.draws_w for plugged in behind if isinstance(drain := rig.find(plugged.gear), Drain)
        }
        return {port: min(draws, model.gives_w.get(port, 0.0)) for port, draws in drawn.items()}


def _contract_v(supply: Supply) -> float:
    """The voltage that is agreed on: everything here asks for 20 V at most."""
    return min(supply.volts, _ASKED_V)


def _most_w(supply: Supply) -> float:
    """What the supply gives at that voltage: through a lead for 5 A, or through a plug of its own."""
    return supply.watts if supply.connector.endswith(" plug") else min(supply.watts, _contract_v(supply) * _LEAD_A)
