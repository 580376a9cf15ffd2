"""Kernel trees with a drive in them, for folders of this machine: what a real host would show."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

HUB, DRIVE = "1f6e:0601", "1f6e:5501"


@dataclass(frozen=True)
class Machine:
    """Where a kernel's attributes and its mount table are."""

    sys_root: Path
    mounts: Path


def machine_with(folder: Path, place: Path, *steps: tuple[str, str, str, bool], speed: str = "5000") -> Machine:
    """A host on which a folder hangs behind these USB steps: name, ids, product, hub or not; the last is the drive."""
    number = os.stat(folder).st_dev
    device = f"{os.major(number)}:{os.minor(number)}"
    home = place / "sys" / "devices" / "pci0" / "usb2"
    for name, ids, product, hub in steps:
        home = home / name
        vendor, number_of_product = ids.split(":")
        write(home, idVendor=vendor, idProduct=number_of_product, product=product, speed="10000" if hub else speed,
              bDeviceClass="09" if hub else "00")  # fmt: skip
        link(place / "sys/bus/usb/devices" / name, home)
    block = home / "host0" / "block" / "sdb" / "sdb1"
    block.mkdir(parents=True, exist_ok=True)
    link(place / "sys/dev/block" / device, block)
    return Machine(place / "sys", mount_table(place / "mounts", (device, str(folder))))


def mount_table(path: Path, *mounts: tuple[str, str]) -> Path:
    """A mount table with these devices at these places, beside a root of its own."""
    lines = ["1 0 0:1 / / rw - tmpfs none rw"]
    lines += [
        f"{n} 1 {device} / {_escaped(point)} rw - ext4 /dev/sdb1 rw" for n, (device, point) in enumerate(mounts, 2)
    ]
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text("\n".join([*lines, "nonsense", ""]))
    return path


def _escaped(text: str) -> str:
    return text.replace(" ", "\\040")


def write(folder: Path, **attributes: str) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    for name, value in attributes.items():
        (folder / name).write_text(f"{value}\n")


def link(place: Path, to: Path) -> None:
    place.parent.mkdir(parents=True, exist_ok=True)
    place.unlink(missing_ok=True)
    place.symlink_to(os.path.relpath(to, place.parent))
