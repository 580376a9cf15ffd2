"""macOS: what `system_profiler -json`, `ifconfig` and `networksetup` print.

Keys and words are those that these commands print; USB rates are told as names of speeds (USB 2.0, 5.2; USB 3.2, 3.1)
or, by newer systems, as rates.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import pairwise

from auditra.core.host.other_systems.told import MAX_DEPTH, Table, flag, rate_mbps, tables, text, whole
from auditra.core.host.routers import Router, RouterPort
from auditra.core.host.snapshot import (
    DisplayConnector,
    Maker,
    NetworkInterface,
    PowerSource,
    RunningMode,
    Snapshot,
    UsbDevice,
)
from auditra.core.sanitize import sanitize

DATA_TYPES = (
    "SPHardwareDataType", "SPUSBDataType", "SPUSBHostDataType", "SPThunderboltDataType", "SPDisplaysDataType",
    "SPPowerDataType",
)  # fmt: skip
_SPEEDS = {
    "low_speed": 1.5, "full_speed": 12.0, "high_speed": 480.0, "super_speed": 5000.0, "super_speed_plus": 10000.0,
    "super_speed_plus_by2": 20000.0,
}  # fmt: skip
_RESOLUTION = re.compile(r"(\d{2,5}) x (\d{2,5})(?: @ (\d{1,3}(?:\.\d{1,3})?)\s*Hz)?")
_MEDIA = re.compile(r"\((\d{1,5}(?:\.\d)?)(G?)base[^<\s)]*(?:\s*<([^>]{1,60})>)?", re.IGNORECASE)
_INTERFACE = re.compile(r"^([a-z]+\d{1,4}): flags=[0-9a-fA-F]+<([^>]*)>(?:.*\bmtu (\d{1,6}))?", re.MULTILINE)
_PORTS = re.compile(r"^receptacle_(\d{1,2})_tag$")
_MADE_BY_SOFTWARE = ("lo", "gif", "stf", "utun", "awdl", "llw", "bridge", "anpi", "ap", "vmenet")


def snapshot_of_mac(told: Table, ifconfig: str, hardware_ports: str = "") -> Snapshot:
    """The snapshot of what the commands printed; `hardware_ports` is the list of `networksetup`."""
    return Snapshot(
        host=_maker(told), usb=tuple(_usb(told)), routers=tuple(_routers(told)), displays=tuple(_displays(told)),
        network=tuple(_network(ifconfig, _wireless(hardware_ports))), power=tuple(_power(told)),
        absent=("type_c", "sensors", "blocks"),
    )  # fmt: skip


def _maker(told: Table) -> Maker:
    for table in tables(told.get("SPHardwareDataType")):
        return Maker(
            "Apple", text(table, "machine_name"), text(table, "machine_model"), text(table, "boot_rom_version")
        )
    return Maker()


def _usb(told: Table) -> Iterator[UsbDevice]:
    for kind in ("SPUSBDataType", "SPUSBHostDataType"):
        for number, bus in enumerate(tables(told.get(kind))):
            name = text(bus, "_name", limit=40) or f"bus {number}"
            root = f"{name} {number}"
            yield UsbDevice(root, None, None, None, None, product=name)
            yield from _below(bus, root, 0)


def _below(table: Table, parent: str, depth: int) -> Iterator[UsbDevice]:
    for number, each in enumerate(tables(table.get("_items"))):
        place = text(each, "location_id", "USBKeyLocationID", limit=40).split(" ")[0]
        name = place or f"{parent}.{number + 1}"
        device = UsbDevice(
            name, parent, _speed(each), whole(each, "vendor_id", "USBDeviceKeyVendorID"),
            whole(each, "product_id", "USBDeviceKeyProductID"), product=text(each, "_name"),
            manufacturer=text(each, "manufacturer", "USBDeviceKeyVendorName"),
            serial=text(each, "serial_num", "USBDeviceKeySerialNumber"),
            max_power_ma=whole(each, "bus_power_used", "USBDeviceKeyPowerAllocation"),
        )  # fmt: skip
        yield device
        if depth < MAX_DEPTH:
            yield from _below(each, name, depth + 1)


def _speed(table: Table) -> float | None:
    words = text(table, "device_speed", "USBDeviceKeyLinkSpeed")
    return _SPEEDS.get(words) or rate_mbps(words)


def _routers(told: Table) -> Iterator[Router]:
    for number, bus in enumerate(tables(told.get("SPThunderboltDataType"))):
        yield from _router(bus, f"{number}-0", 0)


def _router(table: Table, name: str, depth: int) -> Iterator[Router]:
    ports = []
    for key, value in table.items():
        if (match := _PORTS.match(key)) and isinstance(value, dict):
            status = text(value, "receptacle_status_key")
            link = "none" if "no_devices" in status else None
            ports.append(RouterPort(int(match[1]), link=link))
    generation = {"usb4": 4, "usb_four": 4, "thunderbolt_three": 3}.get(text(table, "mode_key"))
    yield Router(name, text(table, "device_name_key"), text(table, "vendor_name_key"), generation, ports=tuple(ports))
    for number, each in enumerate(tables(table.get("_items")) if depth < MAX_DEPTH else ()):
        yield from _router(each, f"{name}.{number + 1}", depth + 1)


def _displays(told: Table) -> Iterator[DisplayConnector]:
    for card in tables(told.get("SPDisplaysDataType")):
        for each in tables(card.get("spdisplays_ndrvs")):
            resolution = _RESOLUTION.search(
                text(each, "_spdisplays_pixels") + " " + text(each, "_spdisplays_resolution")
            )
            refresh = _RESOLUTION.search(text(each, "_spdisplays_resolution"))
            hertz = float(refresh[3]) if refresh is not None and refresh[3] else None
            running = None
            if resolution is not None and hertz is not None:
                running = RunningMode(int(resolution[1]), int(resolution[2]), round(hertz * 1000))
            offline = text(each, "spdisplays_online") == "spdisplays_no"
            yield DisplayConnector(
                text(each, "_name", limit=60) or "display", "disconnected" if offline else "connected",
                edid_hex=_edid(each), running=running,
            )  # fmt: skip


def _edid(table: Table) -> str:
    words = text(table, "_spdisplays_edid", "spdisplays_edid", limit=2100).removeprefix("0x")
    return words.lower() if re.fullmatch(r"(?:[0-9a-fA-F]{256}){1,8}", words) else ""


def _power(told: Table) -> Iterator[PowerSource]:
    for each in tables(told.get("SPPowerDataType")):
        match text(each, "_name"):
            case "sppower_ac_charger_information":
                watts = whole(each, "sppower_ac_charger_watts")
                connected = flag(each, "sppower_battery_charger_connected")
                yield PowerSource(
                    "charger", "Mains", None if connected is None else int(connected),
                    power_mw=watts * 1000 if watts is not None else None,
                )  # fmt: skip
            case "spbattery_information":
                charge = next(tables(each.get("sppower_battery_charge_info")), {})
                charging = flag(charge, "sppower_battery_is_charging")
                yield PowerSource(
                    "battery", "Battery", status={True: "Charging", False: "Discharging", None: None}[charging],
                    capacity_percent=whole(charge, "sppower_battery_state_of_charge"),
                )  # fmt: skip


def _wireless(hardware_ports: str) -> frozenset[str]:
    """The interfaces of wireless ports: a port's name, then its device."""
    told = [line.partition(": ")[2].strip() for line in hardware_ports.splitlines() if ": " in line]
    return frozenset(device for port, device in pairwise(told) if port.lower() in ("wi-fi", "airport"))


def _network(ifconfig: str, wireless: frozenset[str]) -> Iterator[NetworkInterface]:
    found = list(_INTERFACE.finditer(ifconfig))
    for number, match in enumerate(found):
        end = found[number + 1].start() if number + 1 < len(found) else len(ifconfig)
        block = ifconfig[match.end() : end]
        media = _MEDIA.search(block)
        status = re.search(r"\bstatus: (active|inactive)\b", block)
        carrier = None if status is None else status[1] == "active"
        speed = int(float(media[1]) * (1000 if media[2] else 1)) if media is not None and carrier else None
        options = media[3] or "" if media is not None else ""
        duplex = "full" if "full-duplex" in options else "half" if "half-duplex" in options else None
        yield NetworkInterface(
            sanitize(match[1], 20), "up" if carrier else "down", speed, duplex if carrier else None,
            int(match[3]) if match[3] else None, carrier,
            virtual=match[1].rstrip("0123456789") in _MADE_BY_SOFTWARE, wireless=match[1] in wireless,
        )  # fmt: skip
