"""What changed on a host between two moments, in plain words: what came, what went, what is slower than before."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import TypeVar

from auditra.core.host.link import other_half
from auditra.core.host.max_rate import HIGH_SPEED_MBPS
from auditra.core.host.report import network_link
from auditra.core.host.routers import Router
from auditra.core.host.snapshot import (
    BlockDevice,
    DisplayConnector,
    NetworkInterface,
    PowerSource,
    Snapshot,
    TypeCPort,
    UsbDevice,
)
from auditra.core.quantities.display import bit_rate

Thing = TypeVar("Thing", UsbDevice, DisplayConnector, NetworkInterface, TypeCPort, Router, BlockDevice, PowerSource)


class ChangeKind(StrEnum):
    """What happened to a thing."""

    CAME = "came"
    WENT = "went"
    SLOWER = "slower"
    FASTER = "faster"
    CHANGED = "changed"


UNLIKE_THE_SHEET = "unlike the sheet"
FOUND_BY_HOST = frozenset({*map(str, ChangeKind), UNLIKE_THE_SHEET})
"""What events are called that the host's own report shows; any other was noted by a person."""


@dataclass(frozen=True)
class Change:
    """One thing that is not as it was. `name` is the kernel's, or the port's where that is known."""

    kind: ChangeKind
    name: str
    words: str
    part: str
    """Which part of the snapshot: usb, display, network, type-c, router, disk or power."""

    @property
    def sentence(self) -> str:
        return f"{self.name}: {self.words}"


def differences(
    before: Snapshot, after: Snapshot, *, names: Mapping[str, str] | None = None, since: str = ""
) -> tuple[Change, ...]:
    """Every change, in the order of the parts. `names` calls things by their port; `since` says what was done between.

    Counters and sensors change all the time and are left out.
    """
    known = names or {}
    changes = [
        *_usb(before, after), *_displays(before, after), *_network(before, after), *_type_c(before, after),
        *_routers(before, after), *_blocks(before, after), *_power(before, after),
    ]  # fmt: skip
    tail = f"; since {since}" if since else ""
    return tuple(Change(e.kind, known.get(e.name, e.name), f"{e.words}{tail}", e.part) for e in changes)


def _usb(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    went, came, both = _sides(before.usb, after.usb)
    moved = _moved(went, came)
    for old, new in moved:
        yield _usb_moved(old, new, after)
    for old, new in both:
        if old.usb_id != new.usb_id:
            words = f"{old.words} ({old.usb_id}) removed, {new.words} ({new.usb_id}) in its place"
            yield Change(ChangeKind.CHANGED, new.name, words, "usb")
        elif old.speed_mbps != new.speed_mbps:
            words = f"{_rate(old.speed_mbps)} to {_rate(new.speed_mbps)}"
            yield Change(_faster(old.speed_mbps, new.speed_mbps), new.name, words, "usb")
    taken = {id(each) for pair in moved for each in pair}
    yield from (_gone(each, "usb", _of_usb(each)) for each in went if id(each) not in taken)
    for each in came:
        if id(each) not in taken:
            words = f"{_of_usb(each)} at {_rate(each.speed_mbps)}{_place(each, after)}"
            yield Change(ChangeKind.CAME, each.name, words, "usb")


def _moved(went: list[UsbDevice], came: list[UsbDevice]) -> list[tuple[UsbDevice, UsbDevice]]:
    """The same device elsewhere: alike in everything that it says, and only one on each side."""
    pairs = []
    for old in went:
        twins = [each for each in went if _identity(each) == _identity(old)]
        news = [each for each in came if _identity(each) == _identity(old)]
        if len(twins) == len(news) == 1 and old.vid is not None:
            pairs.append((old, news[0]))
    return pairs


def _identity(device: UsbDevice) -> tuple[object, ...]:
    return device.vid, device.pid, device.serial, device.product


def _usb_moved(old: UsbDevice, new: UsbDevice, after: Snapshot) -> Change:
    """``5 Gb/s to 480 Mb/s; now behind the hub's USB 2.0 half``."""
    kind = _faster(old.speed_mbps, new.speed_mbps)
    rates = "" if old.speed_mbps == new.speed_mbps else f"{_rate(old.speed_mbps)} to {_rate(new.speed_mbps)}; "
    return Change(kind, old.name, f"{rates}now {new.name}{_place(new, after)}", "usb")


def _place(device: UsbDevice, snapshot: Snapshot) -> str:
    """What it hangs on, in words; nothing for a hub's own two halves."""
    above = snapshot.device(device.parent)
    if above is None or above.is_root:
        return ""
    half = other_half(above, snapshot)
    slow = (above.speed_mbps or 0.0) <= HIGH_SPEED_MBPS
    if half is not None and slow:
        return f", behind the USB 2.0 half of {above.words}"
    return f", behind {above.words}"


def _of_usb(device: UsbDevice) -> str:
    return f"{device.words} ({device.usb_id})"


def _displays(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    went, came, both = _sides(before.displays, after.displays)
    yield from (_gone(each, "display", "the connector is gone") for each in went)
    for each in came:
        words = "connected" if each.connected else "a connector without a display"
        yield Change(ChangeKind.CAME, each.name, words, "display")
    for old, new in both:
        if old.connected != new.connected:
            kind = ChangeKind.CAME if new.connected else ChangeKind.WENT
            yield Change(kind, new.name, f"a display {kind}", "display")
        elif old.edid_hex != new.edid_hex:
            yield Change(ChangeKind.CHANGED, new.name, "the description of its display changed", "display")
        if old.running is not None and new.running is not None and old.running != new.running:
            words = f"{_mode(old)} to {_mode(new)}"
            yield Change(ChangeKind.CHANGED, new.name, words, "display")


def _mode(connector: DisplayConnector) -> str:
    running = connector.running
    return "no mode" if running is None else f"{running.width}x{running.height}@{running.refresh_millihz / 1000:g}"


def _network(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    went, came, both = _sides(before.network, after.network)
    yield from (_gone(each, "network", "the interface is gone") for each in went)
    yield from (Change(ChangeKind.CAME, each.name, network_link(each), "network") for each in came)
    for old, new in both:
        if old.speed_mbps != new.speed_mbps:
            kind = _faster(old.speed_mbps, new.speed_mbps)
            yield Change(kind, new.name, f"{network_link(old)} to {network_link(new)}", "network")
        elif old.state != new.state:
            yield Change(ChangeKind.CHANGED, new.name, f"{old.state} to {new.state}", "network")
        if old.duplex != new.duplex and None not in (old.duplex, new.duplex):
            yield Change(ChangeKind.CHANGED, new.name, f"{old.duplex} to {new.duplex} duplex", "network")


def _type_c(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    _, __, both = _sides(before.type_c, after.type_c)
    for old, new in both:
        if (old.partner is None) != (new.partner is None):
            kind = ChangeKind.CAME if new.partner is not None else ChangeKind.WENT
            yield Change(kind, new.name, f"partner {kind}", "type-c")
        if (old.cable is None) != (new.cable is None):
            words = "a cable answers" if new.cable is not None else "the cable no longer answers"
            yield Change(ChangeKind.CHANGED, new.name, words, "type-c")
        for name in ("data_role", "power_role", "operation", "orientation"):
            one, other = getattr(old, name), getattr(new, name)
            if one != other and None not in (one, other):
                words = f"{name.replace('_', ' ')} {one} to {other}"
                yield Change(ChangeKind.CHANGED, new.name, words, "type-c")
        pins = [_pins(each) for each in (old, new)]
        if pins[0] != pins[1]:
            words = f"DisplayPort pin assignment {pins[0] or 'none'} to {pins[1] or 'none'}"
            yield Change(ChangeKind.CHANGED, new.name, words, "type-c")


def _pins(port: TypeCPort) -> str:
    modes = port.partner.modes if port.partner is not None else ()
    return next((mode.pin_assignment for mode in modes if mode.active and mode.pin_assignment), "")


def _routers(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    went, came, both = _sides(before.routers, after.routers)
    yield from (_gone(each, "router", each.device_name or "a router") for each in went)
    yield from (Change(ChangeKind.CAME, each.name, each.device_name or "a router", "router") for each in came)
    for old, new in both:
        yield from _router_rates(old, new)
        if old.authorized != new.authorized and None not in (old.authorized, new.authorized):
            yield Change(ChangeKind.CHANGED, new.name, "authorized" if new.authorized else "not authorized", "router")


def _router_rates(old: Router, new: Router) -> Iterator[Change]:
    """A direction is named where the other did otherwise."""
    to_it, from_it = (old.to_it_mbps, new.to_it_mbps), (old.from_it_mbps, new.from_it_mbps)
    alike = to_it == from_it or (None, None) in (to_it, from_it)
    changed = {pair: way for pair, way in ((to_it, " downstream"), (from_it, " upstream")) if pair[0] != pair[1]}
    for (one, other), way in changed.items():
        words = f"{_rate(one)} to {_rate(other)}{'' if alike else way}"
        yield Change(_faster(one, other), new.name, words, "router")


def _blocks(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    went, came, _ = _sides(before.blocks, after.blocks)
    yield from (_gone(each, "disk", each.model or "a disk") for each in went)
    yield from (Change(ChangeKind.CAME, each.name, each.model or "a disk", "disk") for each in came)


def _power(before: Snapshot, after: Snapshot) -> Iterator[Change]:
    _, __, both = _sides(before.power, after.power)
    for old, new in both:
        if old.status != new.status and None not in (old.status, new.status):
            yield Change(ChangeKind.CHANGED, new.name, f"{old.status} to {new.status}", "power")
        if old.online != new.online and None not in (old.online, new.online):
            words = "power on" if new.online else "power off"
            yield Change(ChangeKind.CHANGED, new.name, words, "power")


def _sides(
    before: Iterable[Thing], after: Iterable[Thing]
) -> tuple[list[Thing], list[Thing], list[tuple[Thing, Thing]]]:
    """What went, what came, and what is on both sides, by name."""
    old, new = ({each.name: each for each in side} for side in (before, after))
    went = [each for name, each in old.items() if name not in new]
    came = [each for name, each in new.items() if name not in old]
    return went, came, [(each, new[name]) for name, each in old.items() if name in new]


def _gone(each: Thing, part: str, words: str) -> Change:
    return Change(ChangeKind.WENT, each.name, f"{words} went" if part in ("usb", "router", "disk") else words, part)


def _faster(one: float | None, other: float | None) -> ChangeKind:
    if one is None or other is None or one == other:
        return ChangeKind.CHANGED
    return ChangeKind.FASTER if other > one else ChangeKind.SLOWER


def _rate(mbps: float | None) -> str:
    return "an unknown rate" if mbps is None else bit_rate(mbps * 1e6)
