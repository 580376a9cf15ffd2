"""USB devices and the sockets of their hubs. Source: Linux, Documentation/ABI (sysfs-bus-usb)."""

from __future__ import annotations

import os
import re

from auditra.bench.kernel.attributes import Attributes
from auditra.core.decode.usb_capabilities import Capabilities, decode_capabilities
from auditra.core.decode.usb_descriptors import MAX_BYTES, Configuration, decode_descriptors
from auditra.core.host.max_rate import could_mbps
from auditra.core.host.snapshot import HubPort, UsbConfiguration, UsbDevice, UsbFunction
from auditra.core.sanitize import sanitize

FOLDER = "bus/usb/devices"
_DEVICE = re.compile(r"usb[0-9]{1,3}|[0-9]{1,3}-[0-9]{1,3}(?:\.[0-9]{1,3}){0,6}")
_NOT_CONFIGURED = ("", "0")
"""Source: USB 2.0, 9.4.7: a value of zero puts a device back into the address state."""
_VALUES = frozenset(map(str, range(1, 256)))
_CODES = ("Class", "SubClass", "Protocol")
_FUNCTION = re.compile(r"(.+):[0-9]{1,3}\.([0-9]{1,3})")
_PORT = re.compile(r"(?:usb[0-9]{1,3}|[0-9]{1,3}-[0-9.]{1,30})-port([0-9]{1,3})")


def read_usb(files: Attributes) -> tuple[UsbDevice, ...]:
    """Every device on every bus, in order of name, root hubs too."""
    names = files.entries(FOLDER)
    functions: dict[str, list[str]] = {}
    for name in names:
        if (found := _FUNCTION.fullmatch(name)) is not None:
            owner = f"usb{found[1][:-2]}" if found[1].endswith("-0") else found[1]
            functions.setdefault(owner, []).append(name)
    devices = (
        _device(files, name, place, functions.get(name, []))
        for name in names
        if _DEVICE.fullmatch(name) and (place := files.home(FOLDER, name)) is not None
    )
    return tuple(sorted(devices, key=lambda each: _in_order(each.name)))


def _in_order(name: str) -> tuple[int, ...]:
    """By bus, the root hub first, then by the numbers of the ports."""
    bus, _, rest = name.removeprefix("usb").partition("-")
    return (int(bus), *(int(each) for each in rest.split(".") if each))


def parent_of(name: str) -> str | None:
    """``1-2.3`` hangs on ``1-2``, and that on ``usb1``."""
    if name.startswith("usb"):
        return None
    above, dot, _ = name.rpartition(".")
    return above if dot else f"usb{name.partition('-')[0]}"


def _device(files: Attributes, name: str, place: str, functions: list[str]) -> UsbDevice:
    speed, version = files.rate(place, "speed"), files.text(place, "version") or None
    told = _capabilities(files, place)
    could, told_by = could_mbps(version, speed, told)
    traits = files.hexadecimal(place, "bmAttributes")
    ports = files.integer(place, "maxchild")
    value = files.text(place, "bConfigurationValue")
    return UsbDevice(
        name=name, parent=parent_of(name), speed_mbps=speed,
        vid=files.hexadecimal(place, "idVendor", 4),
        pid=files.hexadecimal(place, "idProduct", 4),
        product=files.text(place, "product", 80) or "", manufacturer=files.text(place, "manufacturer", 80) or "",
        serial=files.text(place, "serial", 80) or "", usb_version=version,
        class_code=files.hexadecimal(place, "bDeviceClass", 2),
        rx_lanes=files.integer(place, "rx_lanes"), tx_lanes=files.integer(place, "tx_lanes"),
        max_power_ma=files.integer(place, "bMaxPower", "mA"),
        self_powered=None if traits is None else bool(traits & 0x40), port_count=ports,
        could_mbps=could, could_from=told_by, container_id=told.container_id if told else None,
        billboard_modes=_modes(told), functions=tuple(_function(files, each) for each in functions),
        ports=_ports(files, place, name) if ports else (),
        controller=sanitize(os.path.basename(os.path.dirname(place)), 60) if name.startswith("usb") else None,
        configuration_value=int(value) if value in _VALUES else None,
        configured=None if value is None else value not in _NOT_CONFIGURED,
        configurations=_configurations(files, place),
    )  # fmt: skip


def _capabilities(files: Attributes, place: str) -> Capabilities | None:
    data = files.raw(place, "bos_descriptors", MAX_BYTES)
    if not data:
        return None
    told, end = decode_capabilities(data)
    if end < len(data):
        files.flaw(f"{place}/bos_descriptors", f"byte {end}: {len(data) - end} bytes beyond the declared length")
    for problem in told.problems:
        files.flaw(f"{place}/bos_descriptors", f"byte {problem.offset}: {problem.words}")
    return told


def _configurations(files: Attributes, place: str) -> tuple[UsbConfiguration, ...]:
    data = files.raw(place, "descriptors", MAX_BYTES)
    if not data:
        return ()
    told = decode_descriptors(data)
    for problem in told.problems:
        files.flaw(f"{place}/descriptors", f"byte {problem.offset}: {problem.words}")
    return tuple(map(_configuration, told.configurations))


def _configuration(each: Configuration) -> UsbConfiguration:
    classes = {interface.number: interface.class_code for interface in reversed(each.interfaces)}
    return UsbConfiguration(
        each.value, each.max_power_ma, each.self_powered, tuple(classes[number] for number in sorted(classes))
    )


def _modes(told: Capabilities | None) -> tuple[str, ...]:
    board = told.billboard if told is not None else None
    return tuple(f"{mode.svid:04x} mode {mode.mode}: {mode.state}" for mode in board.modes) if board else ()


def _function(files: Attributes, name: str) -> UsbFunction:
    place = files.home(FOLDER, name)
    if place is None:
        return UsbFunction(sanitize(name, 40))
    whole, part, protocol = (files.hexadecimal(place, f"bInterface{each}", 2) for each in _CODES)
    return UsbFunction(name, whole, part, protocol, files.points_to(place, "driver"))


def _ports(files: Attributes, place: str, name: str) -> tuple[HubPort, ...]:
    """The sockets of a hub, which stand in the folder of its interface."""
    bus = name.removeprefix("usb")
    inner = f"{bus}-0:1.0" if name.startswith("usb") else f"{name}:1.0"
    folder = f"{place}/{inner}"
    found = []
    for entry in files.entries(folder):
        match = _PORT.fullmatch(entry)
        if match is None or match[0].rpartition("-port")[0] != name:
            continue
        port = f"{folder}/{entry}"
        found.append(
            HubPort(
                entry, int(match[1]), files.points_to(port, "device"), files.points_to(port, "peer"),
                files.word(port, "connect_type"), files.text(port, "location") or None,
                files.points_to(port, "connector"), files.integer(port, "over_current_count"),
            )
        )  # fmt: skip
    return tuple(sorted(found, key=lambda port: port.number))
