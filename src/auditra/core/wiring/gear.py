"""Which gear proves a claim, and what it takes to plug it in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from auditra.core.claims.promise import Promise
from auditra.core.model.device import Device, Port, Role
from auditra.core.model.rig import Gear, Host, HostSocket, Lead, Origin, Rig

Taken = frozenset[str]
"""Ids of gear and leads that are in use elsewhere in the same set-up."""
NOTHING_TAKEN: Taken = frozenset()


@dataclass(frozen=True)
class Choice:
    """A piece of gear with the lead that joins it to a socket, and what is in line; no lead where it has the plug
    itself."""

    gear: Gear
    lead: Lead | None = None
    through: tuple[str, ...] = ()
    """The adapters between, from the socket outwards."""

    @property
    def lead_id(self) -> str | None:
        return self.lead.id if self.lead else None

    @property
    def ids(self) -> Taken:
        return frozenset({self.gear.id, *self.through} | ({self.lead.id} if self.lead else set()))


def reach(rig: Rig, gear: Gear, connector: str, taken: Taken = NOTHING_TAKEN) -> Choice | None:
    """The gear with what it takes to plug it into such a socket; None where it does not fit, or is in use.

    A connector written with ``plug`` (``usb-c plug``, ``sd plug``) goes in as it is; any other needs a lead with
    both ends, the fastest and stoutest that there is. Where none fits, an adapter with a plug for the socket may.
    """
    if gear.id in taken:
        return None
    return _joined(rig, gear, connector, taken) or _through_adapter(rig, gear, connector, taken)


def _joined(rig: Rig, gear: Gear, connector: str, taken: Taken) -> Choice | None:
    """By its own plug, or by a lead."""
    if gear.connector == f"{connector} plug" or connector == f"{gear.connector} plug":
        return Choice(gear)
    lead = next((lead for lead in rig.leads_between(gear.connector, connector) if lead.id not in taken), None)
    return Choice(gear, lead) if lead else None


def _through_adapter(rig: Rig, gear: Gear, connector: str, taken: Taken) -> Choice | None:
    """One adapter in line; the fastest that fits."""
    fitting = [each for each in rig.adapters if each.connector == f"{connector} plug" and each.id not in taken]
    fitting.sort(key=lambda each: each.data_bps if isinstance(each.data_bps, float | int) else 0.0, reverse=True)
    for adapter in fitting:
        for end in adapter.ends:
            if gear is not adapter and (choice := _joined(rig, gear, end, taken)) is not None:
                return Choice(gear, choice.lead, (adapter.id,))
    return None


@dataclass(frozen=True)
class Proof:
    """The gear that reaches furthest beyond a promise, with its margin: below 1 it cannot prove it."""

    choice: Choice
    margin: float


def best_proof(rig: Rig, promise: Promise, connector: str, taken: Taken = NOTHING_TAKEN) -> Proof | None:
    """What on this rig proves a promise made for such a socket best; None where no gear of the kind fits."""
    proofs = [
        Proof(choice, margin)
        for gear in rig.gear()
        if (margin := promise.margin(gear)) is not None and (choice := reach(rig, gear, connector, taken)) is not None
    ]
    return max(proofs, key=lambda proof: proof.margin, default=None)


def first_reach(rig: Rig, gear: Iterable[Gear], connector: str, taken: Taken = NOTHING_TAKEN) -> Choice | None:
    """The first of some gear that fits a socket."""
    return next((choice for each in gear if (choice := reach(rig, each, connector, taken)) is not None), None)


def host_for(rig: Rig, upstream: Port | None) -> tuple[Host, HostSocket] | None:
    """The host socket for the device's upstream plug, or for a lead to its upstream socket: the fastest that fits."""
    if upstream is None:
        return None
    bare = upstream.connector.removesuffix(" plug")
    has_plug = bare != upstream.connector
    sockets = [
        (host, socket)
        for host in rig.hosts
        for socket in host.sockets
        if socket.connector == bare or (not has_plug and rig.leads_between(socket.connector, bare))
    ]
    return max(sockets, key=lambda pair: (pair[1].data_bps, pair[1].display), default=None)


def lead_to_host(rig: Rig, upstream: Port, socket: HostSocket) -> Lead | None:
    """The lead between the device and the host: the one that is supplied with it where there is one, for that is what
    its seller promises with; None where it has a plug of its own, or the rig has no such lead."""
    if upstream.connector.endswith(" plug"):
        return None
    leads = rig.leads_between(upstream.connector, socket.connector)
    return next((lead for lead in leads if lead.origin is Origin.SHIPPED), None) or next(iter(leads), None)


def inlet_of(device: Device, port: Port) -> Port | None:
    """Where a charger goes when the watts of a port are tried: the port itself where it is an inlet."""
    return port if port.role is Role.INLET else device.first(Role.INLET)
