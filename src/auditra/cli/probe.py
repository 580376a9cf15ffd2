"""``auditra probe``: what the kernel tells of this machine's links, and plainly what it does not."""

from __future__ import annotations

from pathlib import Path

import typer
from pydantic import BaseModel

from auditra.bench.kernel import KernelTree
from auditra.core.inert import inert
from auditra.core.links.usb import link_at
from auditra.core.quantities import bit_rate


class UsbTold(BaseModel):
    """A USB device by its place; `speed_bps` is null where the kernel does not say."""

    name: str
    usb_id: str
    product: str
    is_hub: bool
    speed_bps: float | None


class ConnectorTold(BaseModel):
    """A display connector, with the description that the display sent, in hex."""

    name: str
    connected: bool
    edid_hex: str


class InterfaceTold(BaseModel):
    """A network interface; `speed_bps` is null without a link, or where the kernel does not say."""

    name: str
    speed_bps: float | None


class ProbeFile(BaseModel):
    """What the kernel tells. A list is null where this kernel has no such class at all."""

    format: str = "auditra probe"
    version: int = 1
    root: str
    usb: tuple[UsbTold, ...] | None
    displays: tuple[ConnectorTold, ...] | None
    network: tuple[InterfaceTold, ...] | None


def look(root: Path) -> ProbeFile:
    """Read the attributes below a root."""
    tree = KernelTree(root)
    links, classes = tree.links(), tree.classes()
    usb = tuple(
        UsbTold(name=d.name, usb_id=d.usb_id, product=d.product, is_hub=d.is_hub, speed_bps=_bps(d.speed_mbps))
        for d in links.usb
    )
    displays = tuple(ConnectorTold(name=c.name, connected=c.connected, edid_hex=c.edid.hex()) for c in links.connectors)
    network = tuple(InterfaceTold(name=n.name, speed_bps=_bps(n.speed_mbps)) for n in links.network)
    return ProbeFile(
        root=str(root),
        usb=usb if classes.usb else None,
        displays=displays if classes.displays else None,
        network=network if classes.network else None,
    )


def _bps(mbps: float | None) -> float | None:
    return None if mbps is None else mbps * 1e6


def tell(probe: ProbeFile) -> None:
    """In words, a line a link."""
    _section("USB", "bus/usb/devices", None if probe.usb is None else [_usb_line(each) for each in probe.usb])
    connectors = None if probe.displays is None else [
        f"{each.name}: {'connected' if each.connected else 'nothing connected'}"
        + (f", its description has {len(each.edid_hex) // 2} bytes" if each.edid_hex else "")
        for each in probe.displays
    ]  # fmt: skip
    _section("displays", "class/drm", connectors)
    interfaces = None if probe.network is None else [
        f"{each.name}: {'no link, or its speed is not told' if each.speed_bps is None else bit_rate(each.speed_bps)}"
        for each in probe.network
    ]  # fmt: skip
    _section("network", "class/net", interfaces)


def _usb_line(each: UsbTold) -> str:
    link = link_at(each.speed_bps) if each.speed_bps is not None else None
    speed = "speed not told" if each.speed_bps is None else bit_rate(each.speed_bps)
    named = f" ({link.name})" if link else ""
    return f"{each.name}: {each.usb_id} {each.product}{', a hub' if each.is_hub else ''}: {speed}{named}"


def _section(name: str, folder: str, lines: list[str] | None) -> None:
    typer.echo(name)
    if lines is None:
        typer.echo(f"  this kernel shows none: {folder} is not there")
    for line in lines or []:
        typer.echo(f"  {inert(line, 200)}")
    if lines == []:
        typer.echo("  nothing")
