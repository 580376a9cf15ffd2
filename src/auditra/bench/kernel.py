"""Kernel attributes, read from a root folder: ``/sys``, a copy of it, or the simulator's tree.

Every file may be absent, refuse, vanish, or hold anything; what cannot be read is None, never a guess.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from pathlib import Path

from auditra.core.inert import inert
from auditra.workflows.ports import Connector, Links, NetworkInterface, UsbDevice

LONGEST_ATTRIBUTE = 4096
LONGEST_EDID = 128 * 256
MOST_ENTRIES = 1024
_NUMBER = re.compile(r"\d{1,7}(?:\.\d{1,3})?")
_ID = re.compile(r"[0-9a-fA-F]{4}")
_USB_DEVICE = re.compile(r"\d+-\d+(?:\.\d+)*")
_HUB_CLASS = "09"


@dataclass(frozen=True)
class Classes:
    """Which of its classes this kernel shows at all: nothing in one is not the same as no such class."""

    usb: bool
    displays: bool
    network: bool


class KernelTree:
    """The host's own word on its links. A link that leaves the root is not followed."""

    def __init__(self, root: Path) -> None:
        self._root = root.resolve()

    def links(self) -> Links:
        return Links(
            usb=tuple(
                self._usb(folder) for folder in self._folders("bus/usb/devices") if _USB_DEVICE.fullmatch(folder.name)
            ),
            network=tuple(
                NetworkInterface(inert(folder.name), self._speed(folder)) for folder in self._folders("class/net")
            ),
            connectors=tuple(
                self._connector(folder) for folder in self._folders("class/drm") if (folder / "status").is_file()
            ),
        )

    def classes(self) -> Classes:
        """What could be asked for here."""
        places = ("bus/usb/devices", "class/drm", "class/net")
        return Classes(*((self._root / place).is_dir() for place in places))

    def _usb(self, folder: Path) -> UsbDevice:
        vendor, product = self._id(folder, "idVendor"), self._id(folder, "idProduct")
        is_hub = self._text(folder / "bDeviceClass") == _HUB_CLASS
        words = inert(self._text(folder / "product") or "", 60)
        return UsbDevice(inert(folder.name), self._number(folder / "speed"), f"{vendor}:{product}", is_hub, words)

    def _connector(self, folder: Path) -> Connector:
        connected = self._text(folder / "status") == "connected"
        return Connector(inert(folder.name), connected, self._bytes(folder / "edid", LONGEST_EDID) or b"")

    def _speed(self, folder: Path) -> float | None:
        """Mb/s; None while the kernel says -1, refuses, or the interface is not up."""
        return self._number(folder / "speed") if self._text(folder / "operstate") == "up" else None

    def _id(self, folder: Path, name: str) -> str:
        text = self._text(folder / name) or ""
        return text.lower() if _ID.fullmatch(text) else "????"

    def _number(self, path: Path) -> float | None:
        text = self._text(path) or ""
        return float(text) if _NUMBER.fullmatch(text) else None

    def _text(self, path: Path) -> str | None:
        data = self._bytes(path, LONGEST_ATTRIBUTE)
        return None if data is None else data.decode("utf-8", "replace").strip()

    def _bytes(self, path: Path, limit: int) -> bytes | None:
        try:
            with path.open("rb") as file:
                return file.read(limit)
        except OSError:
            return None

    def _folders(self, below: str) -> list[Path]:
        """The entries of a class or bus, in order, each resolved inside the root."""
        try:
            names = sorted(entry.name for entry in (self._root / below).iterdir())[:MOST_ENTRIES]
        except OSError:
            return []
        return [folder for name in names if self._is_inside(folder := self._root / below / name)]

    def _is_inside(self, folder: Path) -> bool:
        try:
            return folder.resolve().is_relative_to(self._root) and folder.is_dir()
        except (OSError, RuntimeError):
            return False
