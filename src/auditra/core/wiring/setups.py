"""The set-ups that can be made of a device, a host and a rig; a procedure chooses among them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from auditra.core.model.device import DEVICE, Device, Port, Role
from auditra.core.model.rig import Card, Gear, Host, HostSocket, Load, Reader, Rig, Supply
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.wiring.gear import NOTHING_TAKEN, Choice, Taken, first_reach, inlet_of, lead_to_host, reach

LOAD_INPUT = "input"
CARD_SLOT = "slot"


@dataclass(frozen=True)
class Stand:
    """The device beside the host that it is tried on."""

    device: Device
    rig: Rig
    host: Host
    socket: HostSocket

    @property
    def taken(self) -> Taken:
        """The lead to the host, which no gear of a trial through the device can have."""
        return frozenset(each.lead for each in self._device() if each.lead is not None)

    def nothing(self) -> SetUp:
        """Nothing is connected."""
        return SetUp(self.host.id, self.socket.id, (), device=self.device.id)

    def with_device(self, port: Port, choice: Choice | None) -> SetUp:
        """The device on the host, with gear in a port where some is needed."""
        return self._set_up(*self._device(), *((plugged_in(port, choice),) if choice else ()))

    def charged(self, port: Port, choice: Choice) -> SetUp:
        """The device on the host and fed by the strongest supply that fits, with gear in a port."""
        return self._set_up(*self._device(), *self._charger(choice.ids | self.taken), plugged_in(port, choice))

    def on_host(self, gear: Gear) -> SetUp | None:
        """The gear on the host itself, a card in its reader; None where it fits nothing there."""
        return self._card_in_reader(gear) if isinstance(gear, Card) else self._in_socket(gear)

    def together(self, members: Sequence[tuple[Port, Choice]], running: tuple[str, ...]) -> SetUp:
        """Several pieces of gear on the device at once."""
        setup = self._set_up(*self._device(), *(plugged_in(port, choice) for port, choice in members))
        return replace(setup, running=running)

    def beside(self, setup: SetUp, others: Sequence[Plugged], running: tuple[str, ...]) -> SetUp:
        """The same set-up with something else at work."""
        return replace(setup, plugged=(*setup.plugged, *others), running=(*setup.running, *running))

    def _set_up(self, *plugged: Plugged) -> SetUp:
        return SetUp(self.host.id, self.socket.id, plugged, device=self.device.id)

    def _device(self) -> tuple[Plugged, ...]:
        """The device on the host, with the lead that joins them; nothing where it has no plug for one, as a lead has
        none."""
        upstream = self.device.first(Role.UPSTREAM)
        if upstream is None:
            return ()
        lead = lead_to_host(self.rig, upstream, self.socket)
        return (Plugged(self.host.id, self.socket.id, DEVICE, lead.id if lead is not None else None),)

    def _in_socket(self, gear: Gear) -> SetUp | None:
        """The gear on the socket that the device uses, else on the first that it fits."""
        for socket in (self.socket, *self.host.sockets):
            choice = reach(self.rig, gear, socket.connector)
            if choice is not None:
                plugged = Plugged(self.host.id, socket.id, gear.id, choice.lead_id, choice.through)
                return SetUp(self.host.id, socket.id, (plugged,))
        return None

    def _card_in_reader(self, card: Card) -> SetUp | None:
        reader = self.rig.find(card.reader) if isinstance(card.reader, str) else None
        setup = self._in_socket(reader) if isinstance(reader, Reader) else None
        if reader is None or setup is None:
            return None
        return replace(setup, plugged=(*setup.plugged, Plugged(reader.id, CARD_SLOT, card.id)))

    def _charger(self, taken: Taken = NOTHING_TAKEN) -> tuple[Plugged, ...]:
        """The strongest supply at the inlet; nothing where there is no inlet, or no supply for it."""
        found = self._strongest_supply(taken)
        return (plugged_in(*found),) if found else ()

    def _strongest_supply(self, taken: Taken = NOTHING_TAKEN) -> tuple[Port, Choice] | None:
        inlet = self.device.first(Role.INLET)
        strongest = sorted(self.rig.supplies, key=lambda supply: -supply.watts)
        choice = first_reach(self.rig, strongest, inlet.connector, taken) if inlet else None
        return (inlet, choice) if inlet and choice else None

    def load_for_host(self, port: Port, load: Choice, target_w: float) -> SetUp | None:
        """A load where the host would be, the device fed by the strongest supply that there is for it."""
        found = self._strongest_supply(load.ids)
        if found is None or not isinstance(found[1].gear, Supply) or found[1].gear.watts <= target_w:
            return None
        return self._set_up(
            plugged_in(port, load), replace(plugged_in(*found), through=self._meter_for(found[0].connector))
        )

    def _meter_for(self, connector: str) -> tuple[str, ...]:
        """The meter in line, where it goes between such plugs; one that the machine itself reads first."""
        fitting = (meter for meter in self.rig.meters if meter.connector == connector.removesuffix(" plug"))
        found = sorted(fitting, key=lambda meter: not isinstance(meter.address, str))
        return (found[0].id,) if found else ()

    def between_supply_and_load(self, port: Port, supply: Choice) -> SetUp | None:
        """A load at the host plug, and the supply at the inlet with a meter in line."""
        upstream, inlet = self.device.first(Role.UPSTREAM), inlet_of(self.device, port)
        meter = self._meter_for(inlet.connector) if inlet else ()
        if upstream is None or inlet is None or not meter:
            return None
        load = first_reach(self.rig, self.rig.loads, upstream.connector, supply.ids)
        if load is None:
            return None
        fed = replace(plugged_in(inlet, supply), through=meter)
        return self._set_up(plugged_in(upstream, load), fed)

    def supply_on_load(self, supply: Gear) -> SetUp | None:
        """A supply on the first load that it fits, without the device."""
        return next((s for load in self.rig.loads if (s := self._load_on_supply(load, supply)) is not None), None)

    def load_on_strongest_supply(self, load: Gear) -> SetUp | None:
        """A load on the strongest supply that it fits, without the device."""
        strongest = sorted(self.rig.supplies, key=lambda supply: -supply.watts)
        return next((s for supply in strongest if (s := self._load_on_supply(load, supply)) is not None), None)

    def _load_on_supply(self, load: Gear, supply: Gear) -> SetUp | None:
        choice = reach(self.rig, supply, load.connector)
        meter = self._meter_for(load.connector)
        if not isinstance(load, Load) or choice is None or not meter:
            return None
        return self._set_up(Plugged(load.id, LOAD_INPUT, supply.id, choice.lead_id, through=meter))


def plugged_in(port: Port, choice: Choice) -> Plugged:
    """The choice in a port of the device."""
    return Plugged(DEVICE, port.id, choice.gear.id, choice.lead_id, choice.through)
