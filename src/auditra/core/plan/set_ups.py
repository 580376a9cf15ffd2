"""How things stand plugged for each procedure, on the device and direct."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.audit.device import DEVICE, Device, Port, Role
from auditra.core.audit.rig import Card, Gear, Host, HostSocket, Reader, Rig
from auditra.core.audit.setup import Plugged, SetUp
from auditra.core.audit.trial import Procedure
from auditra.core.plan.gear import Choice, first_reach, inlet_of, reach

LOAD_INPUT = "input"
CARD_SLOT = "slot"


@dataclass(frozen=True)
class Stand:
    """The device beside the host that it is tried on."""

    device: Device
    rig: Rig
    host: Host
    socket: HostSocket

    def on_device(self, procedure: Procedure, port: Port, choice: Choice) -> SetUp | None:
        """How the gear is tried through the device; None where the rig lacks a part."""
        if procedure is Procedure.POWER_IN:
            return self._between_supply_and_load(port, choice)
        if procedure is Procedure.RULE:
            return SetUp(self.host.id, self.socket.id, ())
        charger = self._charger() if procedure is Procedure.POWER_OUT else ()
        gear = Plugged(DEVICE, port.id, choice.gear.id, choice.lead_id)
        return self._set_up(self._device(), *charger, gear)

    def direct(self, procedure: Procedure, gear: Gear) -> SetUp | None:
        """The same gear without the device; None where it fits nothing on the host."""
        if procedure is Procedure.POWER_IN:
            return self._supply_on_load(gear)
        if isinstance(gear, Card):
            return self._card_in_reader(gear)
        return self._on_host(gear)

    def beside(self, setup: SetUp, display: Plugged, words: str) -> SetUp:
        """The same set-up with a display running."""
        return SetUp(setup.host, setup.host_socket, (*setup.plugged, display), (*setup.running, words))

    def _set_up(self, *plugged: Plugged) -> SetUp:
        return SetUp(self.host.id, self.socket.id, plugged)

    def _device(self) -> Plugged:
        return Plugged(self.host.id, self.socket.id, DEVICE)

    def _on_host(self, gear: Gear) -> SetUp | None:
        """The gear on the socket that the device uses, else on the first that it fits."""
        for socket in (self.socket, *self.host.sockets):
            choice = reach(self.rig, gear, socket.connector)
            if choice is not None:
                plugged = Plugged(self.host.id, socket.id, gear.id, choice.lead_id)
                return SetUp(self.host.id, socket.id, (plugged,))
        return None

    def _card_in_reader(self, card: Card) -> SetUp | None:
        reader = self.rig.find(card.reader) if isinstance(card.reader, str) else None
        setup = self._on_host(reader) if isinstance(reader, Reader) else None
        if reader is None or setup is None:
            return None
        return SetUp(setup.host, setup.host_socket, (*setup.plugged, Plugged(reader.id, CARD_SLOT, card.id)))

    def _charger(self) -> tuple[Plugged, ...]:
        inlet = self.device.first(Role.INLET)
        if inlet is None:
            return ()
        strongest = sorted(self.rig.supplies, key=lambda supply: -supply.watts)
        choice = first_reach(self.rig, strongest, inlet.connector)
        return (Plugged(DEVICE, inlet.id, choice.gear.id, choice.lead_id),) if choice else ()

    def _between_supply_and_load(self, port: Port, supply: Choice) -> SetUp | None:
        upstream, inlet = self.device.first(Role.UPSTREAM), inlet_of(self.device, port)
        if upstream is None or inlet is None or not self.rig.meters:
            return None
        load = first_reach(self.rig, self.rig.loads, upstream.connector)
        if load is None:
            return None
        return self._set_up(
            Plugged(DEVICE, upstream.id, load.gear.id, load.lead_id),
            Plugged(DEVICE, inlet.id, supply.gear.id, supply.lead_id, through=(self.rig.meters[0].id,)),
        )

    def _supply_on_load(self, supply: Gear) -> SetUp | None:
        for load in self.rig.loads:
            choice = reach(self.rig, supply, load.connector)
            if choice is not None and self.rig.meters:
                meter = (self.rig.meters[0].id,)
                return self._set_up(Plugged(load.id, LOAD_INPUT, supply.id, choice.lead_id, through=meter))
        return None
