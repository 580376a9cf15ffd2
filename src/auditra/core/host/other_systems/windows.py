"""Windows: what its management classes (CIM) say, asked in one go and printed as JSON.

The query is ours, so that its keys are the properties of the classes: Win32_ComputerSystem, Win32_PnPEntity,
MSFT_NetAdapter, Win32_VideoController, WmiMonitorID, Win32_Battery. No class tells the rate of a USB link.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.host.other_systems.told import Table, flag, tables, text, whole
from auditra.core.host.snapshot import (
    DisplayConnector,
    Maker,
    NetworkInterface,
    PowerSource,
    RunningMode,
    Snapshot,
    UsbDevice,
)

QUERY = r"""
$ErrorActionPreference = 'SilentlyContinue'
$parents = @{}
$usb = Get-CimInstance Win32_PnPEntity | Where-Object { $_.PNPDeviceID -like 'USB\*' }
foreach ($each in $usb) {
  $id = $each.PNPDeviceID
  $parents[$id] = (Get-PnpDeviceProperty -InstanceId $id -KeyName 'DEVPKEY_Device_Parent').Data
}
@{
  host = Get-CimInstance Win32_ComputerSystem | Select-Object Manufacturer, Model, SystemFamily
  firmware = Get-CimInstance Win32_BIOS | Select-Object SMBIOSBIOSVersion
  usb = @($usb | Select-Object Name, Manufacturer, PNPDeviceID, Service, @{n='Parent';e={$parents[$_.PNPDeviceID]}})
  network = @(Get-NetAdapter -IncludeHidden | Select-Object Name, Status, ReceiveLinkSpeed, FullDuplex, MtuSize,
    PhysicalMediaType, Virtual, DriverProvider, PnPDeviceID)
  statistics = @(Get-NetAdapterStatistics | Select-Object Name, ReceivedBytes, SentBytes, ReceivedPacketErrors,
    OutboundPacketErrors, ReceivedDiscardedPackets, OutboundDiscardedPackets)
  video = @(Get-CimInstance Win32_VideoController | Select-Object Name, CurrentHorizontalResolution,
    CurrentVerticalResolution, CurrentRefreshRate)
  monitors = @(Get-CimInstance -Namespace root/wmi WmiMonitorConnectionParams | Select-Object InstanceName, Active,
    VideoOutputTechnology | ForEach-Object {
      $path = 'HKLM:\SYSTEM\CurrentControlSet\Enum\' + ($_.InstanceName -replace '_0$', '') + '\Device Parameters'
      $hex = ((Get-ItemProperty $path).EDID | ForEach-Object { $_.ToString('x2') }) -join ''
      $_ | Add-Member -PassThru EDID $hex })
  battery = @(Get-CimInstance Win32_Battery | Select-Object Name, EstimatedChargeRemaining, BatteryStatus)
} | ConvertTo-Json -Depth 5 -Compress
"""
_USB_ID = re.compile(r"USB\\VID_([0-9A-F]{4})&PID_([0-9A-F]{4})", re.IGNORECASE)
_INTERFACE = re.compile(r"&MI_[0-9A-F]{2}", re.IGNORECASE)
_ROOT = re.compile(r"USB\\ROOT_HUB", re.IGNORECASE)
_OUTPUTS = {5: "HDMI", 10: "DisplayPort", 11: "DisplayPort", 6: "LVDS", 2147483648: "built in"}
"""D3DKMDT_VIDEO_OUTPUT_TECHNOLOGY, as WmiMonitorConnectionParams has it."""
_CHARGING = {1: "Discharging", 2: "Charging", 3: "Full", 6: "Charging", 7: "Charging", 8: "Charging", 9: "Charging"}
"""Win32_Battery.BatteryStatus; 2 means that it has mains."""
_COUNTERS = {
    "rx_bytes": "ReceivedBytes", "tx_bytes": "SentBytes", "rx_errors": "ReceivedPacketErrors",
    "tx_errors": "OutboundPacketErrors", "rx_dropped": "ReceivedDiscardedPackets",
    "tx_dropped": "OutboundDiscardedPackets",
}  # fmt: skip
_NO_RATE = 2**63 - 1
"""What an adapter without a link tells as its rate."""


def snapshot_of_windows(told: Table) -> Snapshot:
    """The snapshot of what the query printed."""
    return Snapshot(
        host=_maker(told), usb=tuple(_usb(told)), displays=tuple(_displays(told)), network=tuple(_network(told)),
        power=tuple(_power(told)), absent=("type_c", "routers", "sensors", "blocks"),
    )  # fmt: skip


def _maker(told: Table) -> Maker:
    host, firmware = (next(tables(told.get(key)), {}) for key in ("host", "firmware"))
    return Maker(
        text(host, "Manufacturer"), text(host, "Model"), text(host, "SystemFamily"), text(firmware, "SMBIOSBIOSVersion")
    )


def _usb(told: Table) -> Iterator[UsbDevice]:
    """Devices and root hubs; the interfaces of one device are no devices. Another parent than these is a controller."""
    listed = {text(each, "PNPDeviceID", limit=200): each for each in tables(told.get("usb"))}
    for name, each in listed.items():
        match = _USB_ID.match(name)
        is_root = _ROOT.match(name) is not None
        if (match is None and not is_root) or _INTERFACE.search(name):
            continue
        parent = text(each, "Parent", limit=200)
        yield UsbDevice(
            name, None if is_root else parent if parent in listed else "", None,
            int(match[1], 16) if match else None, int(match[2], 16) if match else None, product=text(each, "Name"),
            manufacturer=text(each, "Manufacturer"), class_code=9 if "HUB" in text(each, "Service").upper() else None,
        )  # fmt: skip


def _network(told: Table) -> Iterator[NetworkInterface]:
    counted = {text(each, "Name"): each for each in tables(told.get("statistics"))}
    for each in tables(told.get("network")):
        name = text(each, "Name")
        rate = whole(each, "ReceiveLinkSpeed")
        up = text(each, "Status").lower() == "up"
        duplex = flag(each, "FullDuplex")
        counters = {ours: whole(counted.get(name, {}), theirs) for ours, theirs in _COUNTERS.items()}
        yield NetworkInterface(
            name, "up" if up else "down", rate // 1_000_000 if up and rate and rate != _NO_RATE else None,
            {True: "full", False: "half", None: None}[duplex] if up else None, whole(each, "MtuSize"), up,
            driver=text(each, "DriverProvider") or None, virtual=bool(flag(each, "Virtual")),
            wireless="802.11" in text(each, "PhysicalMediaType"),
            counters={key: value for key, value in counters.items() if value is not None},
        )  # fmt: skip


def _displays(told: Table) -> Iterator[DisplayConnector]:
    """Which mode goes to which display is told only where there is one of each."""
    monitors, video = list(tables(told.get("monitors"))), list(tables(told.get("video")))
    shown = [mode for each in video if (mode := _mode(each)) is not None]
    for number, each in enumerate(monitors, start=1):
        output = _OUTPUTS.get(whole(each, "VideoOutputTechnology") or 0, "display")
        edid = text(each, "EDID", limit=2100).lower()
        yield DisplayConnector(
            f"{output}-{number}", "connected" if flag(each, "Active") is not False else "disconnected",
            edid_hex=edid if re.fullmatch(r"(?:[0-9a-f]{256}){1,8}", edid) else "",
            running=shown[0] if len(monitors) == len(shown) == 1 else None,
        )  # fmt: skip


def _mode(table: Table) -> RunningMode | None:
    width, height, hertz = (
        whole(table, key) for key in ("CurrentHorizontalResolution", "CurrentVerticalResolution", "CurrentRefreshRate")
    )
    return RunningMode(width, height, hertz * 1000) if width and height and hertz else None


def _power(told: Table) -> Iterator[PowerSource]:
    for each in tables(told.get("battery")):
        yield PowerSource(
            text(each, "Name") or "battery", "Battery", status=_CHARGING.get(whole(each, "BatteryStatus") or 0),
            capacity_percent=whole(each, "EstimatedChargeRemaining"),
        )  # fmt: skip
