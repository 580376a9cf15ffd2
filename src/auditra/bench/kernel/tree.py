"""The host's own word on its links, read from a root folder: ``/sys``, a copy of it, or the simulator's tree."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from auditra.bench.kernel import other_classes, routers, type_c, usb
from auditra.bench.kernel.attributes import Attributes
from auditra.core.host.snapshot import HUB_CLASS, DisplayConnector, RunningMode, Sensor, Snapshot
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Connector, Links, NetworkInterface, UsbDevice

CLASSES = {
    "usb": usb.FOLDER, "type_c": type_c.FOLDER, "routers": routers.FOLDER, "displays": other_classes.DISPLAYS,
    "network": other_classes.NETWORK, "power": other_classes.POWER, "sensors": other_classes.SENSORS,
    "blocks": other_classes.BLOCKS,
}  # fmt: skip
"""What a snapshot has, by the folder that it comes from."""
_USB_DEVICE = re.compile(r"[0-9]{1,3}-[0-9]{1,3}(?:\.[0-9]{1,3}){0,6}")
RunningModes = Callable[[], dict[int, RunningMode]]
"""The modes that outputs run now, by connector id."""


class KernelTree:
    """A tree of attributes. Nothing that is wrong with one file costs more than that file."""

    def __init__(self, root: Path, running: RunningModes | None = None) -> None:
        self._root, self._running = root, running

    def snapshot(self) -> Snapshot:
        """Everything at this moment, with what could not be read."""
        files = Attributes(self._root)
        return Snapshot(
            host=other_classes.read_maker(files), usb=usb.read_usb(files), type_c=type_c.read_type_c(files),
            routers=routers.read_routers(files), domains=routers.read_domains(files),
            retimers=routers.read_retimers(files), displays=self._displays(files),
            network=other_classes.read_network(files), power=other_classes.read_power(files),
            sensors=other_classes.read_sensors(files), blocks=other_classes.read_blocks(files),
            absent=tuple(name for name, folder in CLASSES.items() if not files.has(folder)), flaws=files.flaws,
        )  # fmt: skip

    def connectors(self) -> tuple[DisplayConnector, ...]:
        """The display connectors alone, with the modes that run."""
        return self._displays(Attributes(self._root))

    def sensors(self) -> tuple[Sensor, ...]:
        """The sensor chips alone."""
        return other_classes.read_sensors(Attributes(self._root))

    def _displays(self, files: Attributes) -> tuple[DisplayConnector, ...]:
        found = other_classes.read_displays(files)
        running = self._running() if self._running is not None and any(each.connected for each in found) else {}
        return tuple(replace(each, running=running.get(each.connector_id or -1)) for each in found)

    def links(self) -> Links:
        """What changes while a trial waits: devices, interfaces and connectors, and nothing else."""
        files = Attributes(self._root)
        homes = {
            below: [(sanitize(name), place) for name in files.entries(below) if (place := files.home(below, name))]
            for below in (usb.FOLDER, other_classes.NETWORK, other_classes.DISPLAYS)
        }
        return Links(
            usb=tuple(_usb(files, name, place) for name, place in homes[usb.FOLDER] if _USB_DEVICE.fullmatch(name)),
            network=tuple(_interface(files, name, place) for name, place in homes[other_classes.NETWORK]),
            connectors=tuple(
                Connector(name, status == "connected", files.raw(place, "edid", other_classes.MAX_EDID_BYTES) or b"")
                for name, place in homes[other_classes.DISPLAYS]
                if (status := files.text(place, "status")) is not None
            ),
        )


def _usb(files: Attributes, name: str, place: str) -> UsbDevice:
    vid, pid = (files.hexadecimal(place, each, 4) for each in ("idVendor", "idProduct"))
    usb_id = ":".join("????" if each is None else f"{each:04x}" for each in (vid, pid))
    is_hub = files.hexadecimal(place, "bDeviceClass", 2) == HUB_CLASS
    return UsbDevice(name, files.rate(place, "speed"), usb_id, is_hub, files.text(place, "product", 60) or "")


def _interface(files: Attributes, name: str, place: str) -> NetworkInterface:
    """Without a link there is no speed; the kernel says -1, or refuses."""
    has_link = files.text(place, "operstate") == "up" or files.flag(place, "carrier")
    return NetworkInterface(name, files.rate(place, "speed") if has_link else None)
