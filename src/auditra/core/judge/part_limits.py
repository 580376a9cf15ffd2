"""What each part of the rig carries by its own record, for one quantity."""

from __future__ import annotations

import math
from dataclasses import dataclass

from auditra.core.links.charging import STANDARD_W, usual_socket_w
from auditra.core.links.ethernet import CATEGORIES, TWO_PAIRS_BPS, fastest_over, tcp_ceiling_bps
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.device import Port, Role
from auditra.core.model.noted import Noted
from auditra.core.model.reading import NETWORK_RATES, STORAGE_RATES, Quantity
from auditra.core.model.rig import Card, Drive, Gear, Host, HostSocket, Lead, Load, Origin, Peer, Rig, Supply

LIKELY_SHARE = 0.85
"""Of its ceiling, what a part that is sound is sure to let through: the practical share of storage."""
UNMARKED_AMPERES = 3.0
"""What every C to C lead carries. Source: USB Type-C R2.2, 4.4.1 (5 A needs a marker)."""


_PAIRS_FOR_FAST_ETHERNET = 2
TAKES_NO_MORE = 0.9
"""A host that draws this part of what it asks for has what it wants."""
EXPLAINED_SHARE = 0.6
"""A reading of at least this part of a ceiling is what the ceiling lets through; one far below has another reason."""
AT_ITS_END = 0.98
"""A supply from which this part of its watts was seen to flow has no more: meters and ramps stop a step short."""


@dataclass(frozen=True)
class Limit:
    """The most that a part carries, in the unit of the quantity: `most` never more, `sure` no doubt about."""

    part: str
    most: float
    sure: float


UNKNOWN = Limit("", math.inf, 0.0)
"""Nothing was noted of it."""
NO_LIMIT = Limit("", math.inf, math.inf)
"""It has nothing to do with the quantity, or it belongs to the device."""


def rate_limit(name: str, link_bps: object, quantity: Quantity | str, *, on_network_side: bool = False) -> Limit:
    """The limit of a part that makes links of a rate."""
    if link_bps is None:  # a lead for charging alone
        return Limit(name, 0.0, 0.0)
    if not isinstance(link_bps, float | int):
        return Limit(name, math.inf, 0.0)
    if quantity is Quantity.LINK:
        return Limit(name, float(link_bps), float(link_bps))
    most = tcp_ceiling_bps(link_bps, 9000) if on_network_side else payload_ceiling_bps(link_bps)
    sure = 0.95 * tcp_ceiling_bps(link_bps) if on_network_side else LIKELY_SHARE * most
    return Limit(name, most, sure)


def lead_limit(lead: Lead, quantity: Quantity | str, volts: float, *, on_network_side: bool) -> Limit:
    """The limit of a lead; one that is shipped with the device is part of what is promised, and never the rig's."""
    name = f"the lead {lead.id}"
    if lead.origin is Origin.SHIPPED:
        return Limit(name, math.inf, math.inf)
    if quantity is Quantity.OFFERED:
        return NO_LIMIT
    if quantity is Quantity.POWER:
        return _watts_of(lead, name, volts)
    return rate_limit(name, _data_of(lead), quantity, on_network_side=on_network_side)


def _data_of(lead: Lead) -> Noted[float]:
    """Its data rate; of a network lead, what its category and pairs let through over its length."""
    if lead.pairs == _PAIRS_FOR_FAST_ETHERNET:
        return TWO_PAIRS_BPS
    if isinstance(lead.data_bps, float | int) or lead.category not in CATEGORIES:
        return lead.data_bps
    metres = lead.length_m if isinstance(lead.length_m, float | int) else 0.0
    return fastest_over(str(lead.category), metres)


def _watts_of(lead: Lead, name: str, volts: float) -> Limit:
    if isinstance(lead.amperes, float | int):
        return Limit(name, lead.amperes * volts, lead.amperes * volts)
    return Limit(name, math.inf, UNMARKED_AMPERES * volts if lead.ends == ("usb-c", "usb-c") else 0.0)


def socket_w(socket: HostSocket) -> float:
    """What a host's socket gives, as it is noted, or as its kind usually does."""
    return socket.gives_w if isinstance(socket.gives_w, int | float) else usual_socket_w(socket.connector)


def gear_limit(gear: Gear | None, quantity: Quantity | str) -> Limit:
    """The limit of what is measured with."""
    name = f"the {gear.name}" if gear is not None else ""
    match gear:
        case Drive() | Card() if quantity in STORAGE_RATES:
            most = gear.read_bps if quantity is Quantity.READ else gear.write_bps
            return Limit(name, most, 0.0)
        case Peer() if quantity in NETWORK_RATES or quantity is Quantity.LINK:
            return rate_limit(name, gear.rate_bps, quantity, on_network_side=True)
        case Load() if quantity is Quantity.POWER:
            return Limit(name, gear.watts, gear.watts)
        case Supply() if quantity is Quantity.POWER:
            if gear.origin is Origin.SHIPPED:
                return Limit(name, math.inf, math.inf)
            return Limit(name, gear.watts, gear.watts)
        case _:
            return Limit(name, math.inf, 0.0)


def hop_limits(peer: Peer, quantity: Quantity | str) -> list[Limit]:
    """The limits of what lies on the way to a peer."""
    hops = peer.hops if isinstance(peer.hops, tuple) else ()
    return [rate_limit(f"the hop {hop.name}", hop.rate_bps, quantity, on_network_side=True) for hop in hops]


def appetite(host: Host | None) -> Limit:
    """What a host asks for at most, in watts: it takes no more, whatever it is offered."""
    if host is None or not isinstance(host.wants_w, float | int):
        return UNKNOWN
    return Limit(f"the {host.name}, which asks for {host.wants_w:g} W,", host.wants_w, host.wants_w)


def usual_w(supply: Supply) -> float:
    """What a supply gives a device that asks for no more than 20 V, as most do.

    Source: USB PD R3.1, 10.3.1 (up to 100 W without the extended range, which goes beyond 20 V).
    """
    return min(supply.watts, STANDARD_W) if supply.connector.startswith("usb-c") else supply.watts


def idle_port_w(port: Port) -> float:
    """What a device may keep ready for a socket that nothing draws from, in watts."""
    if port.role is not Role.DOWNSTREAM:
        return 0.0
    return usual_socket_w(port.connector)


def socket_limit(rig: Rig, host_id: str, socket_id: str, quantity: Quantity | str) -> Limit:
    """The limit of a host's socket; of its power where that was noted."""
    host = rig.host(host_id)
    socket = host.socket(socket_id) if host is not None else None
    if host is None or socket is None:
        return UNKNOWN
    name = f"socket {socket.id} of the {host.name}"
    if quantity is Quantity.POWER:
        known = isinstance(socket.gives_w, float | int)
        watts = float(socket.gives_w) if isinstance(socket.gives_w, float | int) else math.inf
        return Limit(name, watts, watts if known else 0.0)
    return rate_limit(name, socket.data_bps, quantity)
