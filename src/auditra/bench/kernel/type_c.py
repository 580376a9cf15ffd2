"""C sockets, what is attached to them, and what was offered. Source: Linux, Documentation/ABI (sysfs-class-typec,
sysfs-class-usb_power_delivery)."""

from __future__ import annotations

import re

from auditra.bench.kernel.attributes import Attributes
from auditra.core.decode.identity import Identity, decode_identity
from auditra.core.host.snapshot import (
    AlternateMode,
    PowerObject,
    PowerOffer,
    TypeCCable,
    TypeCPartner,
    TypeCPort,
)
from auditra.core.sanitize import sanitize

FOLDER, OFFERS = "class/typec", "class/usb_power_delivery"
_PORT = re.compile(r"port[0-9]{1,3}")
_USB_PORT = re.compile(r"(?:usb[0-9]{1,3}|[0-9]{1,3}-[0-9.]{1,30})-port[0-9]{1,3}")
_OBJECT = re.compile(r"([0-9]{1,3}):(.{1,60})")
_PIN = re.compile(r"\[([A-F])\]")
_MAX_OBJECTS = 32
_IDENTITY = ("id_header", "cert_stat", "product")


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
        orientation=files.word(place, "orientation"),
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
    header, test, product = (files.hexadecimal(f"{place}/identity", each) or 0 for each in _IDENTITY)
    types = _types(files, f"{place}/identity")
    return decode_identity(header, test, product, types, of_cable=of_cable)


def _types(files: Attributes, place: str) -> tuple[int, ...]:
    """The objects of its product type, up to the first that is not reported: older kernels have none."""
    found: list[int] = []
    for number in (1, 2, 3):
        word = files.hexadecimal(place, f"product_type_vdo{number}")
        if word is None:
            break
        found.append(word)
    return tuple(found)


def _modes_in(files: Attributes, place: str, owner: str) -> tuple[AlternateMode, ...]:
    """The modes inside their owner's folder: ``port0.0``, ``port0-partner.1``."""
    names = [entry for entry in files.entries(place) if re.fullmatch(rf"{re.escape(owner)}\.[0-9]{{1,2}}", entry)]
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
    home = files.home(OFFERS, name) if name is not None else None
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
        position, sanitize(kind).removesuffix("_supply").replace("_", " "), files.integer(place, "voltage", "mV"),
        files.integer(place, "minimum_voltage", "mV"), files.integer(place, "maximum_voltage", "mV"),
        current if current is not None else files.integer(place, "operational_current", "mA"),
        power if power is not None else files.integer(place, "operational_power", "mW"),
        files.flag(place, "pps_power_limited"),
    )  # fmt: skip
