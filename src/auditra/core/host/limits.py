"""What of the port, the cable or the partner limits the power and the lanes of a C socket, in words."""

from __future__ import annotations

from collections.abc import Iterator
from operator import itemgetter

from auditra.core.decode.identity import CableIdentity, limits_in_words
from auditra.core.host.snapshot import AlternateMode, PowerOffer, TypeCPort

_CURRENT_W = {"default": (7.5, "5 V at up to 1.5 A"), "1.5A": (7.5, "5 V 1.5 A"), "3.0A": (15.0, "5 V 3 A")}
"""Source: USB Type-C R2.2, table 4-24 (Type-C current); default USB power is 900 mA or less, 1.5 A with BC 1.2."""
_CABLE_WITHOUT_MARKER_W, _MOST_WITHOUT_MARKER_MA = 60.0, 3000
"""Source: USB Type-C R2.2, 4.9: more than 3 A requires a cable with a 5 A marker."""
_PLUG = "plug"
_FOUR_LANES, _TWO_LANES = "ACE", "BDF"
DISPLAYPORT_SVID = 0xFF01


def power_limits(port: TypeCPort) -> Iterator[str]:
    """One sentence for everything that is known to limit the power, the lowest first."""
    found: list[tuple[float, str]] = []
    if port.operation in _CURRENT_W:
        most, words = _CURRENT_W[port.operation]
        found.append((most, f"no contract: {words}"))
    for who, offer in _sources(port):
        most_w = offer.most_w
        if most_w is not None:
            found.append((most_w, f"{who} offers {most_w:g} W at most"))
    cable = port.cable.identity.cable if port.cable and port.cable.identity else None
    if cable is not None and cable.most_w is not None:
        found.append((cable.most_w, f"the cable's marker allows {limits_in_words(cable)}"))
    elif port.cable is not None:
        found.append((_CABLE_WITHOUT_MARKER_W, "the cable answered, but its current rating is not reported"))
    elif _could_have_answered(port):
        found += ((_CABLE_WITHOUT_MARKER_W, words) for words in _without_cable(port))
    return (words for _, words in sorted(found, key=itemgetter(0)))


def _could_have_answered(port: TypeCPort) -> bool:
    """A cable is asked in power delivery alone, and only one that is no part of what is attached.

    Source: USB PD R3.1, 6.4.4.3.1 (Discover Identity to SOP'); connector types: table 6-33.
    """
    partner = port.partner
    if partner is None or partner.power_delivery is False or partner.accessory not in (None, "", "none"):
        return False
    if port.operation is not None and port.operation != "usb_power_delivery":
        return False
    if port.operation is None and partner.power_delivery is None:
        return False
    return partner.identity is None or partner.identity.header.connector != _PLUG


def _without_cable(port: TypeCPort) -> Iterator[str]:
    if port.vconn_source is False:
        yield "no cable reported: this port does not power the marker (VCONN), so the cable may still have one"
    else:
        yield "no cable answered: without a marker 3 A (60 W) is the limit"
    offer = port.partner.offer if port.partner is not None else None
    if offer is not None and any((each.current_ma or 0) > _MOST_WITHOUT_MARKER_MA for each in offer.gives):
        yield "the partner offers more than 3 A, which requires a cable that it identified as 5 A"


def _sources(port: TypeCPort) -> Iterator[tuple[str, PowerOffer]]:
    """Who gives: the port where it is the source, else the partner; both where that is not known."""
    if port.offer is not None and port.power_role != "sink":
        yield "the port", port.offer
    if port.partner is not None and port.partner.offer is not None and port.power_role != "source":
        yield "the partner", port.partner.offer


def lane_limits(port: TypeCPort) -> Iterator[str]:
    """What becomes of the four lanes, and what the cable allows of them."""
    for mode in port.partner.modes if port.partner is not None else ():
        words = lanes_in_words(mode)
        if words:
            yield words
    cable = port.cable.identity.cable if port.cable and port.cable.identity else None
    if cable is not None and cable.speed is not None:
        yield from _cable_lanes(cable)


def _cable_lanes(cable: CableIdentity) -> Iterator[str]:
    assert cable.speed is not None
    if cable.speed.lane_mbps <= 480:
        yield "the cable is marked for USB 2.0: it has no fast lanes"
    else:
        yield f"the cable is marked for {cable.speed.name}"


def lanes_in_words(mode: AlternateMode) -> str:
    """What DisplayPort leaves for data. Source: VESA DisplayPort Alt Mode 2.1, table 3-2 (pin assignments)."""
    if mode.svid != DISPLAYPORT_SVID or not mode.active or mode.pin_assignment is None:
        return ""
    pins = mode.pin_assignment
    if pins in _FOUR_LANES:
        return f"DisplayPort has all four lanes (pin assignment {pins}): only USB 2.0 is left for data"
    if pins in _TWO_LANES:
        return f"DisplayPort has two lanes (pin assignment {pins}), fast data has two"
    return ""
