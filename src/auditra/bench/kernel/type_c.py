"""C sockets, what is attached to them, and what was offered. Source: Linux, Documentation/ABI (sysfs-class-typec,
sysfs-class-usb_power_delivery, sysfs-bus-thunderbolt)."""

from __future__ import annotations

import re

from auditra.bench.kernel.attributes import Attributes
from auditra.core.decode.identity import Identity, decode_identity
from auditra.core.host.snapshot import (
    AlternateMode,
    PowerObject,
    PowerOffer,
    Router,
    TypeCCable,
    TypeCPartner,
    TypeCPort,
)

FOLDER, MODES, OFFERS, ROUTERS = (
    "class/typec", "bus/typec/devices", "class/usb_power_delivery", "bus/thunderbolt/devices",
)  # fmt: skip
_PORT = re.compile(r"port\d{1,3}")
_USB_PORT = re.compile(r"(?:usb\d{1,3}|\d{1,3}-[\d.]{1,30})-port\d{1,3}")
_OBJECT = re.compile(r"(\d{1,2}):([a-z_]{1,30})")
_ROUTER = re.compile(r"\d{1,3}-[0-9a-f]{1,16}")
_PIN = re.compile(r"\[([A-F])\]")
_MAX_OBJECTS = 32


def read_type_c(files: Attributes) -> tuple[TypeCPort, ...]:
    """Every C socket that the kernel knows."""
    names = [name for name in files.entries(FOLDER) if _PORT.fullmatch(name)]
    return tuple(_port(files, name, place) for name in names if (place := files.home(FOLDER, name)) is not None)


def _port(files: Attributes, name: str, place: str) -> TypeCPort:
    inside = files.entries(place)
    partner, cable = f"{name}-partner", f"{name}-cable"
    return TypeCPort(
        name=name, data_role=files.chosen(place, "data_role"), power_role=files.chosen(place, "power_role"),
        operation=files.text(place, "power_operation_mode") or None,
        orientation=files.text(place, "orientation") or None,
        vconn_source=files.flag(place, "vconn_source"), type_c_revision=files.text(place, "usb_typec_revision") or None,
        power_delivery_revision=_revision(files, place), modes=_modes_in(files, place, name),
        offer=_offer(files, place),
        partner=_partner(files, f"{place}/{partner}", partner) if partner in inside else None,
        cable=_cable(files, f"{place}/{cable}", name) if cable in inside else None,
        display=files.points_to(place, "drm_connector"),
        usb_ports=tuple(each for each in inside if _USB_PORT.fullmatch(each)),
    )  # fmt: skip


def _revision(files: Attributes, place: str) -> str | None:
    """None where there is no power delivery, which the kernel writes 0.0."""
    words = files.text(place, "usb_power_delivery_revision")
    return None if words in (None, "", "0.0") else words


def _partner(files: Attributes, place: str, name: str) -> TypeCPartner:
    return TypeCPartner(
        power_delivery=files.flag(place, "supports_usb_power_delivery"), revision=_revision(files, place),
        kind=files.text(place, "type") or None, accessory=files.text(place, "accessory_mode") or None,
        identity=_identity(files, place, of_cable=False), modes=_modes_in(files, place, name),
        offer=_offer(files, place),
    )  # fmt: skip


def _cable(files: Attributes, place: str, port: str) -> TypeCCable:
    plugs = [entry for entry in files.entries(place) if re.fullmatch(rf"{port}-plug[01]", entry)]
    return TypeCCable(
        kind=files.text(place, "type") or None, plug=files.text(place, "plug_type") or None,
        revision=_revision(files, place), identity=_identity(files, place, of_cable=True),
        plug_modes=tuple(mode for plug in plugs for mode in _modes_in(files, f"{place}/{plug}", plug)),
    )  # fmt: skip


def _identity(files: Attributes, place: str, *, of_cable: bool) -> Identity | None:
    words = [
        files.hexadecimal(f"{place}/identity", each) or 0
        for each in ("id_header", "cert_stat", "product", "product_type_vdo1", "product_type_vdo2", "product_type_vdo3")
    ]
    return decode_identity(words[0], words[1], words[2], tuple(words[3:]), of_cable=of_cable)


def _modes_in(files: Attributes, place: str, owner: str) -> tuple[AlternateMode, ...]:
    """The modes inside their owner's folder: ``port0.0``, ``port0-partner.1``."""
    names = [entry for entry in files.entries(place) if re.fullmatch(rf"{re.escape(owner)}\.\d{{1,2}}", entry)]
    return tuple(_mode(files, f"{place}/{name}", name) for name in names)


def _mode(files: Attributes, place: str, name: str) -> AlternateMode:
    pins = files.text(f"{place}/displayport", "pin_assignment") or ""
    used = _PIN.search(pins)
    return AlternateMode(
        name=name, svid=files.hexadecimal(place, "svid"), mode=files.integer(place, "mode"),
        active=files.flag(place, "active"), description=files.text(place, "description", 60) or "",
        pin_assignment=used[1] if used else None, pin_assignments=pins.replace("[", "").replace("]", ""),
        configuration=files.chosen(f"{place}/displayport", "configuration"),
        hot_plug_detect=files.flag(f"{place}/displayport", "hpd"),
    )  # fmt: skip


def _offer(files: Attributes, place: str) -> PowerOffer | None:
    name = files.points_to(place, "usb_power_delivery")
    home = files.home(OFFERS, name) if name is not None and re.fullmatch(r"pd\d{1,4}", name) else None
    if name is None or home is None:
        return None
    return PowerOffer(
        name, files.text(home, "revision") or None, _objects(files, f"{home}/source-capabilities"),
        _objects(files, f"{home}/sink-capabilities"),
    )  # fmt: skip


def _objects(files: Attributes, place: str) -> tuple[PowerObject, ...]:
    found = [match for entry in files.entries(place) if (match := _OBJECT.fullmatch(entry)) is not None]
    found.sort(key=lambda match: int(match[1]))
    return tuple(_object(files, f"{place}/{match[0]}", int(match[1]), match[2]) for match in found[:_MAX_OBJECTS])


def _object(files: Attributes, place: str, position: int, kind: str) -> PowerObject:
    current = files.integer(place, "maximum_current", "mA")
    power = files.integer(place, "maximum_power", "mW")
    return PowerObject(
        position, kind.removesuffix("_supply").replace("_", " "), files.integer(place, "voltage", "mV"),
        files.integer(place, "minimum_voltage", "mV"), files.integer(place, "maximum_voltage", "mV"),
        current if current is not None else files.integer(place, "operational_current", "mA"),
        power if power is not None else files.integer(place, "operational_power", "mW"),
    )  # fmt: skip


def read_routers(files: Attributes) -> tuple[Router, ...]:
    """USB4 and Thunderbolt routers with the link towards the host."""
    names = [name for name in files.entries(ROUTERS) if _ROUTER.fullmatch(name)]
    return tuple(_router(files, name, place) for name in names if (place := files.home(ROUTERS, name)) is not None)


def _router(files: Attributes, name: str, place: str) -> Router:
    authorized = files.integer(place, "authorized")
    return Router(
        name, files.text(place, "device_name", 80) or "", files.text(place, "vendor_name", 80) or "",
        files.integer(place, "generation"), _mbps(files, place, "rx_speed"), _mbps(files, place, "tx_speed"),
        files.integer(place, "rx_lanes"), files.integer(place, "tx_lanes"),
        None if authorized is None else authorized > 0,
    )  # fmt: skip


def _mbps(files: Attributes, place: str, name: str) -> float | None:
    """``20.0 Gb/s`` in Mb/s."""
    gbps = files.decimal(place, name, "Gb/s")
    return None if gbps is None else gbps * 1000
