"""Which gear proves a claim, and what it takes to plug it in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from auditra.core.claims.promise import Promise
from auditra.core.links.connectors import carries_picture, carries_power
from auditra.core.links.display import parse_mode
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import Device, Port, Role
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Display, Drain, Gear, Host, HostSocket, Lead, Load, Origin, Rig, Supply
from auditra.core.model.trial import ProcedureId

Taken = frozenset[str]
"""Ids of gear and leads that are in use elsewhere in the same set-up."""
NOTHING_TAKEN: Taken = frozenset()


MOST_ADAPTERS = 2
"""As many adapters in line are looked for: a reviewer who needs more has them as one part of the rig."""


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
    """By its own plug, or by a lead that carries what is meant this way round."""
    if gear.connector == f"{connector} plug" or connector == f"{gear.connector} plug":
        return Choice(gear)
    if not _flows(gear, connector):
        return None
    lead = next((lead for lead in rig.leads_between(gear.connector, connector) if lead.id not in taken), None)
    return Choice(gear, lead) if lead else None


def _flows(gear: Gear, connector: str) -> bool:
    """Whether a plain lead carries picture or power between the two the way it has to go."""
    match gear:
        case Display():
            return carries_picture(connector, gear.connector)
        case Supply():
            return carries_power(gear.connector, connector)
        case Drain() | Load():
            return carries_power(connector, gear.connector)
        case _:
            return True


def _through_adapter(rig: Rig, gear: Gear, connector: str, taken: Taken, left: int = MOST_ADAPTERS) -> Choice | None:
    """As few adapters in line as will do; of as many, the fastest first."""
    fitting = [each for each in rig.adapters if each.connector == f"{connector} plug" and each.id not in taken]
    fitting.sort(key=lambda each: each.data_bps if isinstance(each.data_bps, float | int) else 0.0, reverse=True)
    ways = [(adapter, end) for adapter in fitting if adapter is not gear for end in adapter.ends]
    for adapter, end in ways:
        if (choice := _joined(rig, gear, end, taken)) is not None:
            return Choice(gear, choice.lead, (adapter.id,))
    for adapter, end in ways if left > 1 else ():
        beyond = _through_adapter(rig, gear, end, taken | {adapter.id}, left - 1)
        if beyond is not None:
            return Choice(gear, beyond.lead, (adapter.id, *beyond.through))
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
    return max(sockets_for(rig, upstream), key=lambda pair: (pair[1].data_bps, pair[1].display), default=None)


def sockets_for(rig: Rig, upstream: Port | None) -> tuple[tuple[Host, HostSocket], ...]:
    """Every host socket that the device's upstream plug fits, or a lead to its upstream socket."""
    if upstream is None:
        return ()
    bare = upstream.connector.removesuffix(" plug")
    has_plug = bare != upstream.connector
    return tuple(
        (host, socket)
        for host in rig.hosts
        for socket in host.sockets
        if (socket.connector == bare if has_plug else bool(rig.leads_between(socket.connector, bare)))
    )


_PAYLOAD = (Quantity.WRITE, Quantity.READ, Quantity.SEND, Quantity.RECEIVE)


def share_carried(promise: Promise, socket: HostSocket) -> float:
    """How much of a promise a host socket carries, 1 for all of it. What is not noted of it may carry anything.

    Sources: USB 3.2, 3 (line coding); USB Type-C R2.3, appendix E (a display needs the alternate mode).
    """
    if promise.procedure == ProcedureId.DISPLAY:
        return _share_of_picture(promise, socket)
    ceiling = payload_ceiling_bps(socket.data_bps)
    shares = [1.0]
    for quantity, owed in promise.owes().items():
        if quantity is Quantity.LINK and owed:
            shares.append((socket.data_bps if promise.procedure == ProcedureId.STORAGE else ceiling) / owed)
        elif quantity in _PAYLOAD and owed:
            shares.append(ceiling / owed)
    return min(shares)


def _share_of_picture(promise: Promise, socket: HostSocket) -> float:
    if not socket.display:
        return 0.0
    mode = getattr(promise, "mode", None)
    if mode is None or not isinstance(socket.modes, tuple) or not socket.modes:
        return 1.0
    return max(1.0 if (sends := parse_mode(each)).covers(mode) else min(
        sends.pixels_a_second / mode.pixels_a_second, 0.99) for each in socket.modes)  # fmt: skip


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
