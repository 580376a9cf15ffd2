"""A snapshot for a person: each device with its chain from the host, aligned, with units; then everything else."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from enum import Enum
from functools import partial
from typing import TypeVar

from auditra.core.host.limits import lane_limits, power_limits
from auditra.core.host.link import link_state, other_half
from auditra.core.host.max_rate import HIGH_SPEED_MBPS
from auditra.core.host.routers import Retimer, Router
from auditra.core.host.snapshot import (
    BlockDevice,
    DisplayConnector,
    NetworkInterface,
    PowerSource,
    Sensor,
    Snapshot,
    TypeCPort,
    UsbDevice,
)
from auditra.core.model.link_answer import LINK_ANSWER_TEXT, LinkAnswer
from auditra.core.quantities.display import bit_rate

Part = TypeVar("Part")
_ABSENT_WORDS = {
    "usb": "USB devices", "type_c": "USB-C ports", "routers": "USB4 routers", "displays": "display connectors",
    "network": "network interfaces", "power": "power supplies", "sensors": "sensors", "blocks": "disks",
}  # fmt: skip
_MAX_FLAWS_LISTED = 20
_MAX_NAME_WIDTH = 36
_INDENT = "  "


class Weight(Enum):
    """How a line of the report stands out."""

    PLAIN = "plain"
    HEADING = "heading"
    DETAIL = "detail"
    """It belongs to the line above it."""
    SHORT = "short"
    """Something gives less than it could."""


@dataclass(frozen=True)
class ReportLine:
    """A line of the report, indented as it is to stand."""

    text: str = ""
    weight: Weight = Weight.PLAIN


_MARKS = {LinkAnswer.BEST: "=", LinkAnswer.SLOWER: "<", LinkAnswer.UNKNOWN: "?"}
"""As a verdict on a claim is marked: what was shown against what could be."""


def report_lines(snapshot: Snapshot) -> Iterator[ReportLine]:
    """Line by line. Parts that this host has none of are named once, at the end."""
    yield ReportLine(snapshot.host.words + (f", {snapshot.host.system}" if snapshot.host.system else ""))
    parts = (
        ("USB", usb_lines(snapshot)),
        ("USB-C ports", (line for port in snapshot.type_c for line in _type_c(port))),
        ("USB4", _routers(snapshot)), ("displays", _each(_display, snapshot.displays)),
        ("network", _each(partial(_interface, snapshot=snapshot), snapshot.network)),
        ("power", _each(_source, snapshot.power)), ("sensors", _each(_sensor, snapshot.sensors)),
        ("disks", _each(_block, snapshot.blocks)),
    )  # fmt: skip
    for name, lines in parts:
        yield from _section(name, lines)
    if snapshot.absent:
        yield ReportLine()
        yield ReportLine(f"this host shows no {', no '.join(_ABSENT_WORDS[each] for each in snapshot.absent)}")
    yield from _section(f"could not be read ({len(snapshot.flaws)})", _flaws(snapshot))


def _section(name: str, lines: Iterable[ReportLine]) -> Iterator[ReportLine]:
    """A heading with its lines below it; nothing where there are none."""
    for number, line in enumerate(lines):
        if number == 0:
            yield ReportLine()
            yield ReportLine(name, Weight.HEADING)
        yield replace(line, text=f"{_INDENT}{line.text}")


def _each(show: Callable[[Part], str], parts: Iterable[Part]) -> Iterator[ReportLine]:
    return (ReportLine(show(part)) for part in parts)


def _detail(text: str) -> ReportLine:
    return ReportLine(f"{_INDENT}{_INDENT}{text}", Weight.DETAIL)


def _flaws(snapshot: Snapshot) -> Iterator[ReportLine]:
    yield from (ReportLine(f"{each.path}: {each.why}") for each in snapshot.flaws[:_MAX_FLAWS_LISTED])
    if len(snapshot.flaws) > _MAX_FLAWS_LISTED:
        yield ReportLine(f"and {len(snapshot.flaws) - _MAX_FLAWS_LISTED} more: --json has all")


def usb_lines(snapshot: Snapshot) -> Iterator[ReportLine]:
    """Each device with how its link stands, then its chain from the host; a hub's two halves are listed as one."""
    width = max((len(each.words) for each in snapshot.usb), default=0)
    for device in snapshot.usb:
        half = other_half(device, snapshot)
        if device.is_root or (half is not None and (device.speed_mbps or 0) <= HIGH_SPEED_MBPS):
            continue
        yield from _device(device, half, snapshot, min(width, _MAX_NAME_WIDTH))


def _device(device: UsbDevice, half: UsbDevice | None, snapshot: Snapshot, width: int) -> Iterator[ReportLine]:
    state = link_state(device, snapshot)
    answer = f"{_MARKS[state.answer]} {LINK_ANSWER_TEXT[state.answer]}"
    weight = Weight.SHORT if state.answer is LinkAnswer.SLOWER else Weight.PLAIN
    yield ReportLine(f"{device.words:{width}}  {_rate(device.speed_mbps):>14}  {answer}", weight)
    yield _detail(_chain(device, snapshot))
    besides = [state.why, device.usb_id, f"at most {device.max_power_ma} mA" if device.max_power_ma else ""]
    besides.append(f"its USB 2.0 half is {half.name}" if half is not None else "")
    besides.append(_not_configured(device))
    yield _detail(", ".join(filter(None, besides)))


def _not_configured(device: UsbDevice) -> str:
    """``not configured; may draw 500 mA when configured``."""
    if device.configured is not False:
        return ""
    most = max((each.max_power_ma for each in device.configurations), default=None)
    return "not configured" + ("" if most is None else f"; may draw {most} mA when configured")


def _chain(device: UsbDevice, snapshot: Snapshot) -> str:
    """``usb2 10 Gb/s > 2-1 dock 10 Gb/s > 2-1.3 5 Gb/s``: every stage with its link, from the host outwards."""
    way = snapshot.way_to(device.name)
    stages = [f"{each.name} {_rate(each.speed_mbps)}" for each in way]
    return " > ".join(stages)


def _rate(mbps: float | None) -> str:
    return "rate unknown" if mbps is None else bit_rate(mbps * 1e6)


def _type_c(port: TypeCPort) -> Iterator[ReportLine]:
    roles = ", ".join(filter(None, (port.data_role, port.power_role, (port.operation or "").replace("_", " "))))
    attached = "nothing attached" if port.partner is None else port.partner.kind or "something attached"
    yield ReportLine(f"{port.name}  {attached}{f' ({roles})' if roles else ''}")
    if port.partner is not None:
        yield from map(_detail, (*power_limits(port), *lane_limits(port)))


def _routers(snapshot: Snapshot) -> Iterator[ReportLine]:
    for domain in snapshot.domains:
        yield ReportLine(f"{domain.name}  security: {domain.security or 'not reported'}")
    for each in snapshot.routers:
        yield ReportLine(_router(each))
        if each.authorized is False:
            yield _detail("not authorized: carries no data until the host authorizes it")
        for port in each.ports:
            if port.link not in (None, "none"):
                where = f", at {port.type_c}" if port.type_c else ""
                yield _detail(f"port {port.number}: {_LINKS.get(port.link, port.link)}{where}")
        yield from (_detail(_retimer(other)) for other in snapshot.retimers if other.router == each.name)


_LINKS = {"usb4": "a USB4 link", "tbt": "a Thunderbolt link"}


def _router(each: Router) -> str:
    """One rate where both directions are alike, else each with its own."""
    if each.name.endswith("-0"):
        return f"{each.name}  {each.device_name or 'the host'}"
    words = " ".join(filter(None, (each.vendor_name, each.device_name))) or "unnamed router"
    to_it, from_it = (
        _over_lanes(*side) for side in ((each.rx_mbps_a_lane, each.rx_lanes), (each.tx_mbps_a_lane, each.tx_lanes))
    )
    link = to_it if to_it == from_it else f"{to_it} downstream, {from_it} upstream"
    return f"{each.name}  {words}  {link}"


def _over_lanes(mbps_a_lane: float | None, lanes: int | None) -> str:
    """``40 Gb/s (2 x 20 Gb/s)``."""
    if mbps_a_lane is None:
        return "rate unknown"
    lane = bit_rate(mbps_a_lane * 1e6)
    if not lanes:
        return f"{lane} per lane, lane count unknown"
    return f"{bit_rate(mbps_a_lane * lanes * 1e6)} ({lanes} x {lane})"


def _retimer(each: Retimer) -> str:
    maker = "" if each.vendor is None else f" of {each.vendor:04x}"
    return f"retimer {each.name}{maker}" + (f", firmware {each.firmware}" if each.firmware else "")


def _display(each: DisplayConnector) -> str:
    if not each.connected:
        return f"{each.name}  {each.status or 'status unknown'}"
    running = "" if each.running is None else (
        f", runs {each.running.width}x{each.running.height} at {each.running.refresh_millihz / 1000:g} Hz"
    )  # fmt: skip
    return f"{each.name}  connected{running}{_described(each.edid_hex)}"


def _described(edid_hex: str) -> str:
    """Its name and what it would rather show, from its own description."""
    if not edid_hex:
        return ", no description"
    from auditra.core.decode.display.edid import decode_edid  # its tables are loaded once they are wanted

    edid = decode_edid(bytes.fromhex(edid_hex))
    if not edid.is_readable:
        first = edid.problems[0]
        return f", EDID unreadable (byte {first.offset}: {first.words})"
    preferred = f", prefers {edid.preferred.name}" if edid.preferred is not None else ""
    damaged = "" if edid.is_whole else "; EDID partly damaged"
    more = [name for name, has in (("hdr", edid.hdr), ("vrr", edid.adaptive is not None)) if has]
    return f": {edid.name or 'a display'}{preferred}, {', '.join([*map(_bits, edid.depths_bits), *more])}{damaged}"


def _bits(depth: int) -> str:
    return f"{depth} bit"


def _interface(each: NetworkInterface, snapshot: Snapshot) -> str:
    link = network_link(each)
    duplex = f" {each.duplex} duplex" if each.speed_mbps is not None and each.duplex else ""
    where = f", on {each.usb}{_narrower(each, snapshot)}" if each.usb else ""
    flaps = f", link changed {each.carrier_changes} times" if (each.carrier_changes or 0) > 2 else ""
    kind = "virtual" if each.virtual and each.speed_mbps is None else f"{link}{', wireless' if each.wireless else ''}"
    return f"{each.name}  {kind}{duplex}{where}{flaps}"


def network_link(each: NetworkInterface) -> str:
    """Its rate; without one, whether there is a link at all, as far as the kernel says."""
    if each.speed_mbps is not None:
        return bit_rate(each.speed_mbps * 1e6)
    if each.carrier or (each.carrier is None and each.state == "up"):
        return "a link, rate unknown"
    return "link unknown" if each.carrier is None and each.state in (None, "unknown") else "no link"


def _narrower(each: NetworkInterface, snapshot: Snapshot) -> str:
    """A USB link on its way that is slower than its own."""
    way = [(stage.speed_mbps, stage.name) for stage in snapshot.way_to(each.usb or "") if stage.speed_mbps is not None]
    if each.speed_mbps is None or not way or min(way)[0] >= each.speed_mbps:
        return ""
    speed, name = min(way)
    return f", limited by the {bit_rate(speed * 1e6)} USB link of {name}"


def _source(each: PowerSource) -> str:
    volts = "" if each.voltage_mv is None else f" {each.voltage_mv / 1000:g} V"
    amperes = "" if each.current_ma is None else f" {each.current_ma / 1000:g} A"
    percent = "" if each.capacity_percent is None else f" {each.capacity_percent} %"
    return f"{each.name}  {each.kind or 'power supply'}{percent} {each.status or ''}{volts}{amperes}".rstrip()


def _sensor(each: Sensor) -> str:
    return f"{each.chip}  {each.label or each.name}  {each.value:g} {each.unit}"


def _block(each: BlockDevice) -> str:
    size = "" if each.size_bytes is None else f"  {each.size_bytes / 1e9:.1f} GB"
    return f"{each.name}  {each.model or 'disk'}{size}{f', on {each.usb}' if each.usb else ''}"
