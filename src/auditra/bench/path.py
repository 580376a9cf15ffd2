"""The way from a folder to its socket, as the kernel reports it: mount, block device, USB path, link."""

from __future__ import annotations

import os
import re
from dataclasses import dataclass
from pathlib import Path

from auditra.core.errors import TargetError
from auditra.core.model.storage_path import PathTrace, UsbStep
from auditra.core.sanitize import sanitize

SYS = Path("/sys")
MOUNTS = Path("/proc/self/mountinfo")
MAX_BYTES = 4 << 20
MAX_WAY_LENGTH = 64
_HUB_CLASS = "09"
_USB_DEVICE = re.compile(r"\d+-\d+(?:\.\d+)*")
_OCTAL = re.compile(r"\\([0-7]{3})")


@dataclass(frozen=True)
class Mount:
    """A line of the mount table. Source: proc_pid_mountinfo(5)."""

    device: str
    """Major and minor number, as ``8:1``."""
    point: str
    file_system: str
    source: str


def read_mounts(path: Path = MOUNTS) -> tuple[Mount, ...]:
    """What is mounted where; nothing where the kernel does not say."""
    try:
        with path.open("rb") as file:
            text = file.read(MAX_BYTES).decode("utf-8", "surrogateescape")
    except OSError:
        return ()
    return tuple(mount for line in text.splitlines() if (mount := _mount(line)) is not None)


def _mount(line: str) -> Mount | None:
    before, separator, after = line.partition(" - ")
    parts, more = before.split(" "), after.split(" ")
    if not separator or len(parts) < 6 or len(more) < 2:
        return None
    return Mount(parts[2], _unescaped(parts[4]), more[0], _unescaped(more[1]))


def _unescaped(text: str) -> str:
    return _OCTAL.sub(lambda match: chr(int(match[1], 8)), text)


def trace_folder(folder: Path, sys_root: Path = SYS, mounts: Path = MOUNTS) -> PathTrace:
    """The way of a folder, links in it followed first. Raises: TargetError where there is no such folder."""
    try:
        real = folder.resolve(strict=True)
    except (OSError, RuntimeError) as error:
        why = "its links lead in a circle" if isinstance(error, RuntimeError) else _strerror(error)
        raise TargetError(f"{folder}", why=why, do="Name a folder on the drive") from error
    if not real.is_dir():
        raise TargetError(f"{folder}", why="this is no folder", do="Name a folder on the drive")
    told = sanitize(str(real), 300)
    mount = max(
        (each for each in read_mounts(mounts) if real.is_relative_to(each.point)),
        key=lambda each: len(Path(each.point).parts),
        default=None,
    )
    if mount is None:
        return PathTrace(told, "", "", "", why_not="the mount table does not have it")
    source = sanitize(mount.source, 100)
    steps, why_not = _usb_way(mount.device, sys_root)
    return PathTrace(told, sanitize(mount.point, 300), sanitize(mount.file_system, 40), source, steps, why_not)


def device_of(folder: str, mounts: Path = MOUNTS) -> str | None:
    """Major and minor number of what a folder is mounted from; None where the mount table does not have it."""
    fitting = [each for each in read_mounts(mounts) if Path(folder).is_relative_to(each.point)]
    return max(fitting, key=lambda each: len(Path(each.point).parts)).device if fitting else None


def mounted_below(usb: str, sys_root: Path = SYS, mounts: Path = MOUNTS) -> tuple[Path, ...]:
    """Where drives on a USB device of that name are mounted."""
    found = (
        Path(each.point)
        for each in read_mounts(mounts)
        if (way := _usb_way(each.device, sys_root)[0]) and way[-1].name == usb
    )
    return tuple(dict.fromkeys(found))


def _usb_way(device: str, sys_root: Path) -> tuple[tuple[UsbStep, ...], str]:
    """The USB devices between host and block device, and why there are none."""
    root = sys_root.resolve()
    start = root / "dev" / "block" / device
    if not re.fullmatch(r"\d{1,10}:\d{1,10}", device) or device.startswith("0:"):
        return (), "it is on no block device"
    try:
        place = start.resolve(strict=True)
    except (OSError, RuntimeError):
        return (), "the kernel does not show its block device"
    if not place.is_relative_to(root):
        return (), "its block device leads out of the kernel's tree"
    place = _beneath(place)
    steps = [
        step
        for folder in reversed((place, *place.parents))
        if _USB_DEVICE.fullmatch(folder.name) and (step := _step(folder)) is not None
    ]
    return tuple(steps[:MAX_WAY_LENGTH]), "" if steps else "on no USB link"


def _beneath(place: Path) -> Path:
    """The one block device that a mapped one (encryption, volumes) stands on."""
    for _ in range(MAX_WAY_LENGTH):
        try:
            below = list((place / "slaves").iterdir())
        except OSError:
            return place
        if len(below) != 1:
            return place
        place = below[0].resolve()
    return place


def _step(folder: Path) -> UsbStep | None:
    vendor, product = _text(folder / "idVendor"), _text(folder / "idProduct")
    if vendor is None or product is None:
        return None
    try:
        speed = float(_text(folder / "speed") or "") * 1e6
    except ValueError:
        speed = None
    hub = _text(folder / "bDeviceClass") == _HUB_CLASS
    words = sanitize(_text(folder / "product") or "", 60)
    return UsbStep(sanitize(folder.name, 40), sanitize(f"{vendor}:{product}".lower(), 9), speed, words, hub)


def _text(path: Path) -> str | None:
    try:
        with path.open("rb") as file:
            return file.read(4096).decode("utf-8", "replace").strip()
    except OSError:
        return None


def _strerror(error: OSError | RuntimeError) -> str:
    return (error.strerror or str(error)) if isinstance(error, OSError) else str(error)


def same_device(file: int, device: str | None) -> bool:
    """Whether an open file is on the block device that its folder was traced to; unknown counts as yes."""
    number = os.fstat(file).st_dev
    return device is None or device.startswith("0:") or device == f"{os.major(number)}:{os.minor(number)}"
