"""Made-up hosts as trees of kernel attributes, laid out with links as Linux does."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path

from auditra.core.simulate.kernel_tree import Link, Tree


def write_tree(root: Path, tree: Tree) -> Path:
    """The files and links of a tree below a root."""
    for name, value in tree.items():
        path = root / name
        path.parent.mkdir(parents=True, exist_ok=True)
        if isinstance(value, Link):
            path.symlink_to(value.to)
        else:
            path.write_bytes(value)
    return root


def add_device(root: Path, home: str, **attributes: object) -> Path:
    """A USB device at a place below ``devices/``, with its link on the bus."""
    folder = add_files(root, f"devices/{home}", attributes)
    add_link(root, f"bus/usb/devices/{folder.name}", f"devices/{home}")
    return folder


def add_files(root: Path, below: str, attributes: Mapping[str, object]) -> Path:
    folder = root / below
    folder.mkdir(parents=True, exist_ok=True)
    for name, value in attributes.items():
        data = value if isinstance(value, bytes) else f"{value}\n".encode()
        (folder / name).parent.mkdir(parents=True, exist_ok=True)
        (folder / name).write_bytes(data)
    return folder


def add_link(root: Path, place: str, to: str) -> None:
    path = root / place
    path.parent.mkdir(parents=True, exist_ok=True)
    path.symlink_to(os.path.relpath(root / to, path.parent))
