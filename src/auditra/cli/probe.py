"""``auditra probe``: what the kernel reports about this machine's links, what changed, and what changes now."""

from __future__ import annotations

import platform
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from pathlib import Path

import typer
from pydantic import BaseModel

from auditra.bench.kernel.events import KernelEvents
from auditra.bench.kernel.modes import open_modes
from auditra.bench.kernel.tree import KernelTree
from auditra.cli.input_file import read_bounded
from auditra.core.errors import InputError
from auditra.core.host.difference import Change, differences
from auditra.core.host.report import report_lines
from auditra.core.host.snapshot import Snapshot
from auditra.core.sanitize import escaped_json, sanitize
from auditra.documents.probe import ProbeFile, probe_file, read_probe_file

SYS = Path("/sys")
MAX_FILE_BYTES = 64 << 20
_LOOKS_EVERY_S, _SETTLES_IN_S = 0.5, 0.4
"""After one event more follow: a hub brings its devices."""


class DifferenceFile(BaseModel):
    """What changed between two snapshots."""

    format: str = "auditra probe difference"
    version: int = 1
    changes: tuple[Change, ...]


def look(root: Path) -> ProbeFile:
    """What the tree below a root says now. Raises: InputError where there is no such folder."""
    require_tree(root)
    return probe_file(snapshot_of(root), str(root))


def require_tree(root: Path) -> None:
    """Raises: InputError where a root is not a folder with a kernel's attributes in it."""
    if not root.is_dir():
        raise InputError(f"{root}", why="there is no such folder", do="Name /sys, or a copy of it")
    if not any((root / folder).is_dir() for folder in ("bus", "class", "devices")):
        why = "it has none of the folders bus, class and devices"
        raise InputError(f"{root}", why=why, do="Name /sys, or a copy of it")


def snapshot_of(root: Path) -> Snapshot:
    """Of this machine the kernel's release is known, and the modes that run; of a copy they are not."""
    if root != SYS:
        return KernelTree(root).snapshot()
    with open_modes() as running:
        snapshot = KernelTree(root, running).snapshot()
    return replace(snapshot, host=replace(snapshot.host, system=f"{platform.system()} {platform.release()}"))


def tell(probe: ProbeFile) -> None:
    """For a person."""
    for line in report_lines(probe.snapshot):
        typer.echo(sanitize(line.text, 300) if line.text else "")


def load(path: Path) -> Snapshot:
    """A snapshot from a file of `probe --json`, or of a copied tree. Raises: InputError."""
    if path.is_dir():
        require_tree(path)
        return KernelTree(path).snapshot()
    data = read_bounded(path, MAX_FILE_BYTES, do="Name a file of probe --json")
    return read_probe_file(data, str(path))


def compare(before: Path, after: Path) -> DifferenceFile:
    return DifferenceFile(changes=differences(load(before), load(after)))


def tell_changes(changes: tuple[Change, ...], stamp: str = "") -> None:
    for change in changes:
        typer.echo(sanitize(f"{stamp}{change.sentence}", 300))


def watch(
    root: Path,
    seconds: float | None,
    *,
    as_json: bool,
    now: Callable[[], float] = time.monotonic,
    sleep: Callable[[float], None] = time.sleep,
) -> None:
    """Say every change as it happens, until so many seconds are over or somebody stops it."""
    require_tree(root)
    tree, events = KernelTree(root), KernelEvents()
    heard = events.are_heard and root == SYS
    typer.echo(f"watching {root}, {'as the kernel says it' if heard else 'looking twice a second'}", err=True)
    before, ends = tree.snapshot(), None if seconds is None else now() + seconds
    try:
        while ends is None or now() < ends:
            if heard:
                if not events.wait(_LOOKS_EVERY_S):
                    continue
                sleep(_SETTLES_IN_S)
            else:
                sleep(_LOOKS_EVERY_S)
            after = tree.snapshot()
            changes = differences(before, after)
            before = after
            if as_json:
                for change in changes:
                    typer.echo(escaped_json(DifferenceFile(changes=(change,)).model_dump_json()))
            else:
                tell_changes(changes, f"{datetime.now():%H:%M:%S}  ")
    except KeyboardInterrupt:
        typer.echo("", err=True)
    finally:
        events.close()
