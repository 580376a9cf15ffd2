"""What a rig can show at all: simple physics of gear, plugs and leads, without any plan or judgement."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from auditra.core.links.charging import usual_socket_w
from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import Port, Role
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Card, Display, Drain, Drive, Gear, Lead, Rig, Supply

SHOWN_SHARE = 0.75
"""Gear shows a fall where what is left is clearly less than it can do itself."""
_GOOD_SHARE = 0.9
_C_SOCKET_W = usual_socket_w("usb-c")


class OnTheBench:
    """Asks of one rig, as it really is; its first host moves no more than so much payload, whatever is connected."""

    def __init__(self, rig: Rig, most_payload_bps: float = math.inf) -> None:
        self.rig = rig
        socket_bps = max(socket.data_bps for socket in rig.hosts[0].sockets if socket.connector != "rj45")
        self._most_bps = min(most_payload_bps, good_payload_bps(socket_bps))

    def lead_for(self, gear: Gear, port: Port, taken: Iterable[str] = ()) -> str | None:
        """The lead that joins gear and port, empty for a plug of its own; None where nothing does."""
        if gear.connector == f"{port.connector} plug":
            return ""
        fitting = (lead for lead in self.rig.leads if lead.joins(gear.connector, port.connector)
                   and not (isinstance(gear, Display) and self._runs_backwards(lead, port)))  # fmt: skip
        return next((lead.id for lead in fitting if lead.id not in set(taken)), None)

    def _runs_backwards(self, lead: Lead, port: Port) -> bool:
        """A picture lead with two kinds of plug changes the signal one way only, from its first end to its second."""
        return lead.ends[0] != lead.ends[1] and lead.ends[0] != port.connector

    def drives(self, port: Port, payload_bps: float) -> bool:
        """A drive, or a card, that goes into the port and is clearly faster than this."""
        return any(
            self._is_faster(each, payload_bps) and self.lead_for(each, port) is not None for each in self._stores()
        )

    def two_stores(self, one: Port, one_bps: float, other: Port, other_bps: float) -> bool:
        """Two that go into two ports at once, each as fast as its port is promised."""
        for first in self._stores():
            lead = self.lead_for(first, one)
            for second in self._stores():
                if first is second or lead is None or self.lead_for(second, other, [lead]) is None:
                    continue
                enough = (
                    min(self._most_bps, _rate(first)) >= one_bps and min(self._most_bps, _rate(second)) >= other_bps
                )
                if enough:
                    return True
        return False

    def shows(self, port: Port, mode: str) -> bool:
        """A display that runs the mode at the port, over a lead that carries it."""
        return any(self._runs(display, port, parse_mode(mode)) for display in self.rig.displays)

    def shows_anything(self, port: Port) -> bool:
        return any(self.lead_for(display, port) is not None for display in self.rig.displays)

    def shows_both(self, one: Port, one_mode: str, other: Port) -> bool:
        """A display that runs the mode at one port, and another one at another port."""
        for first in self.rig.displays:
            if self._runs(first, one, parse_mode(one_mode)):
                lead = self.lead_for(first, one)
                for second in self.rig.displays:
                    if second is not first and self.lead_for(second, other, [lead or ""]) is not None:
                        return True
        return False

    def peer(self, rate_bps: float) -> bool:
        """A network peer with such a link, and a lead that carries it."""
        leads = [lead for lead in self.rig.leads if lead.joins("rj45", "rj45") and _carries(lead, rate_bps)]
        enough = self._most_bps >= rate_bps
        return enough and bool(leads) and any(peer.rate_bps >= rate_bps for peer in self.rig.peers)

    def links_without(self, rate_bps: float) -> bool:
        """A host with a network socket of its own that shows a peer at such a rate."""
        return any(socket.connector == "rj45" and socket.data_bps >= rate_bps
                   for host in self.rig.hosts for socket in host.sockets)  # fmt: skip

    def kept_ready_w(self, ports: Iterable[Port]) -> float:
        """What a device may keep ready for those of some sockets that nothing of this rig can draw from."""
        idle_w = sorted((usual_socket_w(port.connector), port.id) for port in ports if port.role is Role.DOWNSTREAM)
        drained = sum(any(self.lead_for(drain, port) is not None for port in ports) for drain in self.rig.drains)
        at_c = [watts for watts, _ in idle_w if watts >= _C_SOCKET_W]
        return sum(watts for watts, _ in idle_w if watts < _C_SOCKET_W) + sum(at_c[drained:])

    def load(self, port: Port, watts: float) -> bool:
        """A load that draws so much at the port."""
        return any(load.watts > watts and self.lead_for(load, port) is not None for load in self.rig.loads)

    def load_while_fed(self, port: Port, watts: float, inlet: Port | None, needs_w: float, upstream: Port) -> bool:
        """A load at the port, a supply for the device, and the host: each with a lead of its own."""
        taken: list[str] = []
        if not upstream.connector.endswith(" plug"):
            taken += [lead.id for lead in self.rig.leads if lead.joins("usb-c", upstream.connector)][:1]
            if not taken:
                return False
        loads = (self.lead_for(load, port, taken) for load in self.rig.loads if load.watts > watts)
        lead = next((each for each in loads if each is not None), None)
        supplies: Sequence[Supply] = self.rig.supplies if inlet is not None and lead is not None else ()
        return any(each.watts >= needs_w and inlet is not None
                   and self.lead_for(each, inlet, (*taken, lead or "")) is not None for each in supplies)  # fmt: skip

    def feeds(self, inlet: Port | None, watts: float) -> bool:
        """A supply for the inlet with so many watts."""
        supplies: Sequence[Supply] = self.rig.supplies if inlet is not None else ()
        return any(each.watts >= watts and inlet is not None and self.lead_for(each, inlet) is not None
                   for each in supplies)  # fmt: skip

    def drains(self, ports: Sequence[Port], watts: float) -> bool:
        """A drain of so many watts for each of these ports."""
        enough: list[Drain] = [each for each in self.rig.drains if each.draws_w >= _GOOD_SHARE * watts]
        return len(enough) >= len(ports) and all(self.lead_for(enough[0], port) is not None for port in ports)

    def meters_in_line(self) -> bool:
        return any(meter.is_in_line for meter in self.rig.meters)

    def meters_power(self) -> bool:
        """A meter in line, and a load."""
        return self.meters_in_line() and bool(self.rig.loads)

    def meters_volts(self) -> bool:
        """A meter whose error of volts is known."""
        return any(isinstance(each.accuracy, tuple) and any(said.quantity == Quantity.VOLTAGE for said in each.accuracy)
                   for each in self.rig.meters)  # fmt: skip

    def hosts_for(self, upstream: Port) -> tuple[str, ...]:
        """The hosts that the device's plug fits."""
        bare = upstream.connector.removesuffix(" plug")
        own_plug = bare != upstream.connector
        return tuple(
            host.id for host in self.rig.hosts
            if any(socket.connector == bare if own_plug else
                   any(lead.joins(socket.connector, bare) for lead in self.rig.leads) for socket in host.sockets)
        )  # fmt: skip

    def _stores(self) -> tuple[Drive | Card, ...]:
        return (*self.rig.drives, *self.rig.cards)

    def _is_faster(self, store: Drive | Card, payload_bps: float) -> bool:
        return SHOWN_SHARE * min(_rate(store), self._most_bps) > payload_bps

    def _runs(self, display: Display, port: Port, mode: Mode) -> bool:
        return self.lead_for(display, port) is not None and any(parse_mode(each).covers(mode) for each in display.modes)


def _rate(store: Drive | Card) -> float:
    return min(store.read_bps, store.write_bps)


def _carries(lead: Lead, rate_bps: float) -> bool:
    return not isinstance(lead.data_bps, float | int) or lead.data_bps >= rate_bps


def good_payload_bps(link_bps: float) -> float:
    """What a sound socket lets through."""
    return payload_ceiling_bps(link_bps) * _GOOD_SHARE
