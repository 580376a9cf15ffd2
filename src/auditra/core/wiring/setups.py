"""The set-ups that can be made of a device, a host and a rig; a procedure chooses among them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from auditra.core.links.connectors import PLUG, TURNABLE
from auditra.core.model.device import DEVICE, Device, OwnSupply, Port, Role
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Card, Gear, Host, HostSocket, Lead, Load, Origin, Reader, Rig, Supply
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
    def lead_taken(self) -> Taken:
        """The lead to the host, which no gear of a trial through the device can have."""
        return frozenset(each.lead for each in self._device() if each.lead is not None)

    @property
    def taken(self) -> Taken:
        """The same, and the lead of what feeds the device."""
        fed = self._fed_as_sold()
        return self.lead_taken | frozenset(each.lead for each in fed if each.lead is not None)

    @property
    def inlet(self) -> Port | None:
        """Where a supply feeds the device."""
        return self.device.first(Role.INLET)

    @cached_property
    def own_supply(self) -> Supply | None:
        """The supply that its seller packs in; None where the device comes without one, or the rig has none that is as
        it is stated."""
        stated = self.device.supply
        for supply in self.supplies:
            as_stated = isinstance(stated, OwnSupply) and math.isclose(supply.volts, stated.volts, rel_tol=0.02)
            enough = isinstance(stated, OwnSupply) and supply.watts >= 0.99 * stated.volts * stated.amperes
            if supply.origin is Origin.SHIPPED or (as_stated and enough):
                return supply
        return None

    @cached_property
    def supplies(self) -> tuple[Supply, ...]:
        """The supplies of the rig that fit the inlet: the one that is packed in first, then the strongest."""
        inlet = self.inlet
        if inlet is None:
            return ()
        fitting = [supply for supply in self.rig.supplies if reach(self.rig, supply, inlet.connector) is not None]
        return tuple(sorted(fitting, key=lambda supply: (supply.origin is not Origin.SHIPPED, -supply.watts)))

    def nothing(self) -> SetUp:
        """Nothing is connected."""
        return SetUp(self.host.id, self.socket.id, (), device=self.device.id)

    def fed_by(self, supply: Supply, taken: Taken) -> Plugged | None:
        """A supply in the inlet; None where it does not fit, or is in use."""
        choice = reach(self.rig, supply, self.inlet.connector, taken) if self.inlet is not None else None
        return plugged_in(self.inlet, choice) if self.inlet is not None and choice is not None else None

    def _fed_as_sold(self) -> tuple[Plugged, ...]:
        """The supply that comes with the device, in its place."""
        fed = self.fed_by(self.own_supply, self.lead_taken) if self.own_supply is not None else None
        return (fed,) if fed is not None else ()

    def with_device(self, port: Port, choice: Choice | None) -> SetUp:
        """The device on the host, fed as it is sold, with gear in a port where some is needed."""
        fed = self._fed_as_sold() if self.inlet is None or port.id != self.inlet.id else ()
        setup = self._set_up(*self._device(), *fed, *((plugged_in(port, choice),) if choice else ()))
        setup = replace(setup, replugged=False) if self._device() else setup
        return replace(setup, charger=fed[0].gear) if fed else setup

    def moved_here(self, setup: SetUp) -> SetUp | None:
        """A set-up of another host with the device on this one; None where the lead to it is in use."""
        lead = self._device()[0].lead if self._device() else None
        others = [each for each in setup.plugged if each.gear != DEVICE]
        if any(each.owner == setup.host for each in others) or (lead is not None and lead in {o.lead for o in others}):
            return None
        return replace(
            setup, host=self.host.id, host_socket=self.socket.id, plugged=(*self._device(), *others)
        )  # fmt: skip

    def other_lead(self, setup: SetUp) -> Lead | None:
        """The best lead to the host beside the one in use; None where there is none."""
        upstream = self.device.first(Role.UPSTREAM)
        if upstream is None or upstream.connector.endswith(PLUG):
            return None
        in_use = {each.lead for each in setup.plugged}
        leads = self.rig.leads_between(upstream.connector, self.socket.connector)
        return next((lead for lead in leads if lead.id not in in_use), None)

    def charged(self, port: Port, choice: Choice) -> SetUp:
        """The device on the host and fed, as it is sold or by the strongest supply that fits, with gear in a port."""
        return self._set_up(*self._device(), *self._charger(choice.ids | self.lead_taken), plugged_in(port, choice))

    def on_host(self, gear: Gear) -> SetUp | None:
        """The gear on the host itself, a card in its reader; None where it fits nothing there."""
        return self._card_in_reader(gear) if isinstance(gear, Card) else self._in_socket(gear)

    def together(self, members: Sequence[tuple[Port, Choice]], running: tuple[str, ...]) -> SetUp:
        """Several pieces of gear on the device at once."""
        gear = (plugged_in(port, choice) for port, choice in members)
        flipped = False if any(port.connector == TURNABLE for port, _ in members) else NOT_NOTED
        fed = self._fed_as_sold()
        setup = self._set_up(*self._device(), *fed, *gear)
        host_flipped = False if self.socket.connector == TURNABLE else NOT_NOTED
        charger = fed[0].gear if fed else NOT_NOTED
        return replace(
            setup, running=running, charger=charger, replugged=False, flipped=flipped, host_flipped=host_flipped
        )  # fmt: skip

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
        """A supply at the inlet; nothing where there is no inlet, or no supply for it."""
        found = self._supply_of(taken)
        return (plugged_in(*found),) if found else ()

    def _supply_of(self, taken: Taken = NOTHING_TAKEN, more_than_w: float = 0.0) -> tuple[Port, Choice] | None:
        """The supply that is sold with it, else the strongest, with more than so many watts."""
        inlet = self.inlet
        enough = (supply for supply in self.supplies if supply.watts > more_than_w)
        choice = first_reach(self.rig, enough, inlet.connector, taken) if inlet else None
        return (inlet, choice) if inlet and choice else None

    def load_for_host(self, port: Port, load: Choice, target_w: float) -> SetUp | None:
        """A load where the host would be, the device fed by its own supply, else by the strongest that has enough."""
        found = self._supply_of(load.ids, target_w)
        if found is None:
            return None
        return self._set_up(
            plugged_in(port, load), replace(plugged_in(*found), through=self._meter_for(found[0].connector))
        )

    def _meter_for(self, connector: str) -> tuple[str, ...]:
        """The meter in line, where it goes between such plugs; one that the machine itself reads first."""
        in_line = (meter for meter in self.rig.meters if meter.is_in_line)
        fitting = (meter for meter in in_line if meter.connector == connector.removesuffix(" plug"))
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
