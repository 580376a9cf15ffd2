"""The answer to Discover Identity: what a partner or a cable says that it is, as vendor data objects (VDOs).

Source: USB PD R3.1 V1.8, 6.4.4.3.1 "Discover Identity"; SuperSpeed and USB4 speeds: table 6-40 and following.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.decode.bits import bit, bits, version_of

_PARTNER_TYPES = {1: "hub", 2: "peripheral", 3: "power bank", 5: "adapter", 6: "powered device"}
_DFP_TYPES = {1: "hub", 2: "host", 3: "power brick"}
_CONNECTORS = {2: "receptacle", 3: "plug"}
_CABLE_ENDS = {2: "C plug", 3: "captive"}
_CURRENTS_MA = {0: 500, 1: 3000, 2: 5000}
_VBUS_MV = (20_000, 20_000, 20_000, 50_000)
"""The codes for 30 V and 40 V are deprecated and mean 20 V. Source: USB PD R3.1, table 6-42, "Maximum VBUS Voltage"."""
_UNDISCOVERED = 0
_LAST_DFP_TYPE = 4
"""3, and 4 before R3.1. Source: USB PD R3.1, table 6-36."""
_LONGEST_PASSIVE_LATENCY, _LONGEST_ACTIVE_LATENCY = 8, 10
"""The last codes that have a meaning. Source: USB PD R3.1, tables 6-42 and 6-43, "Cable Latency"."""


class Sort(StrEnum):
    """What an identity is of."""

    PARTNER = "partner"
    PASSIVE = "passive cable"
    ACTIVE = "active cable"
    VPD = "VCONN-powered device"
    UNKNOWN_PLUG = "plug of an unknown kind"
    """Its product type is reserved, or it says none: nothing can be read of what it carries."""


_CABLE_SORTS = {3: Sort.PASSIVE, 4: Sort.ACTIVE, 6: Sort.VPD}


@dataclass(frozen=True)
class LaneSpeed:
    """The fastest signalling of a cable: its name, and Mb/s a lane."""

    name: str
    lane_mbps: int


LANE_SPEEDS = {
    0: LaneSpeed("USB 2.0", 480), 1: LaneSpeed("USB 3.2 Gen 1", 5000),
    2: LaneSpeed("USB 3.2 Gen 2, USB4 Gen 2", 10_000), 3: LaneSpeed("USB4 Gen 3", 20_000),
    4: LaneSpeed("USB4 Gen 4", 40_000),
}  # fmt: skip
"""Source: USB PD R3.1, table 6-42 (passive cable, USB Highest Speed); 4 since USB PD R3.2."""


@dataclass(frozen=True)
class IdHeader:
    """Who it is. Source: table 6-33."""

    vid: int
    usb_host: bool
    usb_device: bool
    modal: bool
    """It has alternate modes."""
    partner_type: str
    dfp_type: str
    connector: str


@dataclass(frozen=True)
class CableIdentity:
    """What a marker says of a cable. Source: tables 6-42 (passive) and 6-43, 6-44 (active).

    None where it says a reserved value, or where that sort of cable does not say it.
    """

    active: bool
    end: str
    speed: LaneSpeed | None
    current_ma: int | None
    max_vbus_mv: int
    epr: bool
    latency_ns: int | None
    """At most so many; longer than 70 ns is given as None for a passive cable."""
    vconn_needed: bool
    optical: bool = False
    retimer: bool = False
    two_lanes: bool | None = None
    usb2: bool = True
    usb4: bool | None = None
    usb3: bool | None = None
    asymmetric: bool | None = None
    """USB4 with three lanes one way. Source: table 6-44, bit 1."""
    isolated: bool | None = None
    hub_hops: int | None = None
    """How many USB 2.0 hubs it stands for. Source: table 6-44, bits 7 to 6."""
    sideband: bool | None = None
    """It has SBU wires. Source: table 6-43, bit 8."""
    far_plug_answers: bool | None = None
    """Its far plug answers too (SOP''). Source: table 6-43, bit 3."""
    working_c: int | None = None
    """The temperature of its plug up to which it works."""
    shutdown_c: int | None = None
    """The temperature of its plug at which it ends."""

    @property
    def most_w(self) -> float | None:
        """What it may carry: at its highest voltage in the extended range, else at 20 V. USB PD R3.1, 10.3."""
        if self.current_ma is None:
            return None
        volts = 48.0 if self.epr and self.max_vbus_mv >= 50_000 and self.current_ma >= 5000 else 20.0
        return volts * self.current_ma / 1000


@dataclass(frozen=True)
class PartnerIdentity:
    """What a partner could do on USB. Source: table 6-37 (UFP VDO)."""

    usb2: bool
    usb3: bool
    usb4: bool
    billboard: bool
    speed: LaneSpeed | None


@dataclass(frozen=True)
class HostIdentity:
    """What a partner could be as a host, and which of its ports this is. Source: table 6-38 (DFP VDO)."""

    usb2: bool
    usb3: bool
    usb4: bool
    port: int


@dataclass(frozen=True)
class Identity:
    """Everything that an identity says; `raw` are the VDOs as they came."""

    header: IdHeader
    sort: Sort
    test_id: int
    """The number of its test at the USB-IF; 0 for none."""
    pid: int
    release: str
    cable: CableIdentity | None = None
    partner: PartnerIdentity | None = None
    host: HostIdentity | None = None
    reserved: tuple[str, ...] = ()
    """Values in it that the standard keeps for later, in words."""
    raw: tuple[int, ...] = ()


def decode_identity(
    id_header: int, cert_stat: int, product: int, types: tuple[int, ...], *, of_cable: bool
) -> Identity | None:
    """The identity of three VDOs and up to three of its product type; None while it was not discovered.

    Who was asked has to be known: the same three bits are a power bank for a partner and a passive cable for a plug.
    Never raises; more than 32 bits are cut off.
    """
    header_word = id_header & 0xFFFFFFFF
    if header_word == _UNDISCOVERED:
        return None
    header = _header(header_word)
    sort = _CABLE_SORTS.get(bits(header_word, 29, 27), Sort.UNKNOWN_PLUG) if of_cable else Sort.PARTNER
    first, second = (*types, 0)[0], (types[1] if len(types) > 1 else 0) or None
    cable = partner = None
    if sort is Sort.PASSIVE and first:
        cable = _passive(first)
    elif sort is Sort.ACTIVE and first:
        cable = _active(first, second)
    elif sort is Sort.PARTNER and header.partner_type in ("hub", "peripheral") and first:
        partner = _partner(first)
    host = _host(header, types) if sort is Sort.PARTNER else None
    reserved = (*_reserved_in_header(header_word, of_cable=of_cable), *_reserved_in_cable(first, sort))
    return Identity(
        header, sort, cert_stat & 0xFFFFFFFF, bits(product, 31, 16), version_of(bits(product, 15, 0)), cable, partner,
        host, reserved,
        (header_word, cert_stat & 0xFFFFFFFF, product & 0xFFFFFFFF, *(each & 0xFFFFFFFF for each in types)),
    )  # fmt: skip


def _header(word: int) -> IdHeader:
    return IdHeader(
        vid=bits(word, 15, 0), usb_host=bit(word, 31), usb_device=bit(word, 30), modal=bit(word, 26),
        partner_type=_PARTNER_TYPES.get(bits(word, 29, 27), ""), dfp_type=_DFP_TYPES.get(bits(word, 25, 23), ""),
        connector=_CONNECTORS.get(bits(word, 22, 21), ""),
    )  # fmt: skip


def _passive(word: int) -> CableIdentity:
    latency = bits(word, 16, 13)
    return CableIdentity(
        active=False, end=_CABLE_ENDS.get(bits(word, 19, 18), ""), speed=LANE_SPEEDS.get(bits(word, 2, 0)),
        current_ma=_CURRENTS_MA.get(bits(word, 6, 5)), max_vbus_mv=_VBUS_MV[bits(word, 10, 9)], epr=bit(word, 17),
        latency_ns=latency * 10 if 1 <= latency <= 7 else None, vconn_needed=bits(word, 12, 11) == 1,
    )  # fmt: skip


def _active(first: int, second: int | None) -> CableIdentity:
    """Its second object says what it carries; without it, or where it is empty as the kernel shows a missing one,
    nothing of that is known."""
    told = second or 0
    latency = {8: 1000, 9: 2000, 10: 3000}.get(bits(first, 16, 13))
    return CableIdentity(
        active=True, end=_CABLE_ENDS.get(bits(first, 19, 18), ""), speed=LANE_SPEEDS.get(bits(first, 2, 0)),
        current_ma=_CURRENTS_MA.get(bits(first, 6, 5)) if bit(first, 4) else 0,
        max_vbus_mv=_VBUS_MV[bits(first, 10, 9)], epr=bit(first, 17),
        latency_ns=latency or (bits(first, 16, 13) * 10 or None), vconn_needed=True, optical=bit(told, 10),
        retimer=bit(told, 9), usb2=not bit(told, 5), sideband=not bit(first, 8), far_plug_answers=bit(first, 3),
        two_lanes=None if second is None else bit(told, 3), usb4=None if second is None else not bit(told, 8),
        usb3=None if second is None else not bit(told, 4), asymmetric=None if second is None else bit(told, 1),
        isolated=None if second is None else bit(told, 2), hub_hops=None if second is None else bits(told, 7, 6),
        working_c=bits(told, 31, 24) or None, shutdown_c=bits(told, 23, 16) or None,
    )  # fmt: skip


def _partner(word: int) -> PartnerIdentity:
    return PartnerIdentity(
        bit(word, 24), bit(word, 26), bit(word, 27), bit(word, 25), LANE_SPEEDS.get(bits(word, 2, 0))
    )


def _host(header: IdHeader, types: tuple[int, ...]) -> HostIdentity | None:
    """A device and host in one has the object of a device, an empty one, then this. Source: 6.4.4.3.1.3."""
    at = 2 if header.partner_type in ("hub", "peripheral") else 0
    if not header.dfp_type or len(types) <= at:
        return None
    word = types[at]
    return HostIdentity(bit(word, 24), bit(word, 25), bit(word, 26), bits(word, 4, 0))


def _reserved_in_header(word: int, *, of_cable: bool) -> Iterator[str]:
    kind, dfp = bits(word, 29, 27), bits(word, 25, 23)
    if of_cable and kind and kind not in _CABLE_SORTS:
        yield f"cable type {kind}"
    if not of_cable and kind and kind not in _PARTNER_TYPES:
        yield f"device type {kind}"
    if not of_cable and dfp > _LAST_DFP_TYPE:
        yield f"host type {dfp}"


def _reserved_in_cable(word: int, sort: Sort) -> Iterator[str]:
    """Codes of a marker without a meaning. Source: tables 6-42 and 6-43."""
    if sort not in (Sort.PASSIVE, Sort.ACTIVE) or not word:
        return
    latency, ends = bits(word, 16, 13), bits(word, 12, 11)
    if bits(word, 2, 0) not in LANE_SPEEDS:
        yield f"cable speed {bits(word, 2, 0)}"
    if bits(word, 6, 5) not in _CURRENTS_MA:
        yield f"cable current {bits(word, 6, 5)}"
    if bits(word, 19, 18) not in _CABLE_ENDS:
        yield f"cable plug {bits(word, 19, 18)}"
    if not 1 <= latency <= (_LONGEST_PASSIVE_LATENCY if sort is Sort.PASSIVE else _LONGEST_ACTIVE_LATENCY):
        yield f"cable latency {latency}"
    if (ends > 1) is (sort is Sort.PASSIVE):
        yield f"cable termination {ends}"


def limits_in_words(cable: CableIdentity) -> str:
    """What a cable allows: ``5 A at up to 50 V (240 W), USB4 Gen 3``."""
    parts = []
    if cable.current_ma is not None and cable.most_w is not None:
        volts = cable.max_vbus_mv // 1000
        parts.append(f"{cable.current_ma / 1000:g} A at up to {volts} V ({cable.most_w:g} W)")
    if cable.speed is not None:
        parts.append(cable.speed.name)
    parts += [word for word, so in (("active", cable.active), ("optical", cable.optical)) if so]
    return ", ".join(parts)


def identity_in_words(identity: Identity) -> str:
    """``passive cable of 1f6e: 5 A at up to 50 V (240 W), USB4 Gen 3``."""
    what = str(identity.sort) if identity.sort is not Sort.PARTNER else identity.header.partner_type or "partner"
    limits = f": {limits_in_words(identity.cable)}" if identity.cable is not None else ""
    return f"{what} of {identity.header.vid:04x}{limits}"
