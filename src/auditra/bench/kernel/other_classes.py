"""Displays, networks, power supplies, sensors, disks and the host itself. Source: Linux, Documentation/ABI."""

from __future__ import annotations

import os
import re

from auditra.bench.kernel.attributes import Attributes
from auditra.core.host.snapshot import (
    BlockDevice,
    DisplayConnector,
    Maker,
    NetworkInterface,
    PowerSource,
    Sensor,
)
from auditra.core.sanitize import sanitize

DISPLAYS, NETWORK, POWER, SENSORS, BLOCKS, MAKER = (
    "class/drm", "class/net", "class/power_supply", "class/hwmon", "block", "class/dmi/id",
)  # fmt: skip
MAX_EDID_BYTES = 128 * 256
_CONNECTOR = re.compile(r"card[0-9]{1,3}-[A-Za-z][A-Za-z0-9_-]{0,30}-[0-9]{1,3}")
_USB_DEVICE = re.compile(r"[0-9]{1,3}-[0-9]{1,3}(?:\.[0-9]{1,3}){0,6}")
_VALUE = re.compile(r"(temp|in|curr|power|energy|humidity|fan)([0-9]{1,3})_(input|average)")
_UNITS = {
    "temp": ("C", 1e-3), "in": ("mV", 1.0), "curr": ("mA", 1.0), "power": ("mW", 1e-3), "energy": ("mJ", 1e-3),
    "humidity": ("%", 1e-3), "fan": ("1/min", 1.0),
}  # fmt: skip
_COUNTERS = (
    "rx_bytes", "tx_bytes", "rx_errors", "tx_errors", "rx_dropped", "tx_dropped", "rx_crc_errors", "collisions",
)  # fmt: skip
_SECTOR_BYTES = 512
_NO_DISK = re.compile(r"(?:loop|ram|zram|dm-|md|nbd|fd|sr)[0-9]*")


def usb_above(place: str) -> str | None:
    """The USB device that a folder is part of, by name; the nearest where there are several."""
    parts = reversed(place.split(os.sep))
    return next((part for part in parts if _USB_DEVICE.fullmatch(part)), None)


def read_maker(files: Attributes) -> Maker:
    """Which machine this is, as its firmware says."""
    home = f"{files.root}/{MAKER}"
    if files.has(MAKER):
        words = (
            files.text(home, each, 80) or ""
            for each in ("sys_vendor", "product_name", "product_family", "bios_version")
        )
        return Maker(*words)
    return Maker()


def read_displays(files: Attributes) -> tuple[DisplayConnector, ...]:
    names = [name for name in files.entries(DISPLAYS) if _CONNECTOR.fullmatch(name)]
    return tuple(_display(files, name, place) for name in names if (place := files.home(DISPLAYS, name)) is not None)


def _display(files: Attributes, name: str, place: str) -> DisplayConnector:
    enabled = files.text(place, "enabled")
    return DisplayConnector(
        name=name, status=files.text(place, "status") or None,
        enabled={"enabled": True, "disabled": False}.get(enabled or ""), power=files.text(place, "dpms") or None,
        modes=files.lines(place, "modes"), edid_hex=(files.raw(place, "edid", MAX_EDID_BYTES) or b"").hex(),
        connector_id=files.integer(place, "connector_id"), type_c=files.points_to(place, "typec_connector"),
    )  # fmt: skip


def read_network(files: Attributes) -> tuple[NetworkInterface, ...]:
    return tuple(
        _interface(files, sanitize(name, 40), place)
        for name in files.entries(NETWORK)
        if (place := files.home(NETWORK, name)) is not None
    )


def _interface(files: Attributes, name: str, place: str) -> NetworkInterface:
    state = files.text(place, "operstate") or None
    carrier = files.flag(place, "carrier")
    speed = files.rate(place, "speed") if state == "up" or carrier else None
    counters = {each: value for each in _COUNTERS if (value := files.integer(f"{place}/statistics", each)) is not None}
    device = files.points_to(place, "device")
    return NetworkInterface(
        name=name, state=state, speed_mbps=None if speed is None else round(speed),
        duplex=files.word(place, "duplex"), mtu_bytes=files.integer(place, "mtu"),
        carrier=carrier, carrier_changes=files.integer(place, "carrier_changes"),
        driver=files.points_to(f"{place}/device", "driver") if device else None,
        usb=usb_above(os.path.dirname(place)) or _usb_of_function(device), virtual=device is None, counters=counters,
        wireless=files.points_to(place, "phy80211") is not None,
    )  # fmt: skip


def _usb_of_function(device: str | None) -> str | None:
    """``2-3.1:1.0`` is a function of ``2-3.1``."""
    name = (device or "").partition(":")[0]
    return name if _USB_DEVICE.fullmatch(name) else None


def read_power(files: Attributes) -> tuple[PowerSource, ...]:
    return tuple(
        _source(files, sanitize(name, 60), place)
        for name in files.entries(POWER)
        if (place := files.home(POWER, name)) is not None
    )


def _source(files: Attributes, name: str, place: str) -> PowerSource:
    return PowerSource(
        name=name, kind=files.text(place, "type") or None, online=files.integer(place, "online"),
        status=files.text(place, "status") or None, usb_kind=files.chosen(place, "usb_type"),
        voltage_mv=files.thousandths(place, "voltage_now"), current_ma=files.thousandths(place, "current_now"),
        most_current_ma=files.thousandths(place, "current_max"), power_mw=files.thousandths(place, "power_now"),
        capacity_percent=files.integer(place, "capacity"), scope=files.text(place, "scope") or None,
    )  # fmt: skip


def read_sensors(files: Attributes) -> tuple[Sensor, ...]:
    found: list[Sensor] = []
    for name in files.entries(SENSORS):
        place = files.home(SENSORS, name)
        if place is None:
            continue
        chip = files.text(place, "name", 40) or sanitize(name, 40)
        found += (each for file in files.entries(place) if (each := _sensor(files, place, chip, file)) is not None)
    return tuple(found)


def _sensor(files: Attributes, place: str, chip: str, file: str) -> Sensor | None:
    match = _VALUE.fullmatch(file)
    value = files.decimal(place, file) if match is not None else None
    if match is None or value is None or files.flag(place, f"{match[1]}{match[2]}_fault"):
        return None
    unit, factor = _UNITS[match[1]]
    label = files.text(place, f"{match[1]}{match[2]}_label", 40) or ""
    return Sensor(chip, match[1] + match[2], label, round(value * factor, 3), unit)


def read_blocks(files: Attributes) -> tuple[BlockDevice, ...]:
    """Disks and cards; not what is made of them or of memory."""
    names = [name for name in files.entries(BLOCKS) if not _NO_DISK.fullmatch(name)]
    return tuple(_block(files, name, place) for name in names if (place := files.home(BLOCKS, name)) is not None)


def _block(files: Attributes, name: str, place: str) -> BlockDevice:
    sectors = files.integer(place, "size")
    return BlockDevice(
        name=sanitize(name, 40), size_bytes=None if sectors is None else sectors * _SECTOR_BYTES,
        removable=files.flag(place, "removable"), rotational=files.flag(f"{place}/queue", "rotational"),
        model=files.text(f"{place}/device", "model", 60) or "", usb=usb_above(place),
    )  # fmt: skip
