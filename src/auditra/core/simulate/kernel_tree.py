"""The simulated host's kernel attributes, as files and links below a root, laid out as Linux does."""

from __future__ import annotations

import posixpath
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache

from auditra.core.decode.display.video_codes import KNOWN_CODES, timing_of_code
from auditra.core.links.display import Mode, parse_mode
from auditra.core.links.timings import reduced_blanking_timing
from auditra.core.model.rig import Display
from auditra.core.simulate import descriptors
from auditra.core.simulate import display_description as description
from auditra.core.simulate.displays import DisplayNode
from auditra.core.simulate.power import TypeCNode
from auditra.core.simulate.traffic import NetworkNode
from auditra.core.simulate.usb import UsbNode
from auditra.core.simulate.world import World


@dataclass(frozen=True)
class Link:
    """A relative symbolic link."""

    to: str


Tree = dict[str, bytes | Link]
_HOME = "devices/pci0"
_ROOT_PORTS = 6
_BUSES = {"1": (480.0, " 2.00", "2"), "2": (10_000.0, " 3.10", "1")}
"""The two buses of one controller: rate in Mb/s, version, and the other half."""
_SUPERSPEED_MBPS = 5000.0
_FASTEST_KHZ = 655_350
"""The most that a detailed timing can hold."""


def kernel_tree(world: World) -> Tree:
    """Paths below the root with what stands there. Values end in a newline, as the kernel's do."""
    tree: Tree = {"class/dmi/id/sys_vendor": b"Demo\n", "class/dmi/id/product_name": b"simulated host\n"}
    for bus, (speed, version, _) in _BUSES.items():
        root = UsbNode(f"usb{bus}", speed, f"1d6b:000{bus}", True, version, "", speed, _ROOT_PORTS)
        tree |= _usb(root)
    for usb in world.usb.nodes():
        tree |= _usb(usb)
    for number, node in enumerate(world.power.type_c()):
        tree |= _type_c(number, node)
    for net in world.traffic.network():
        tree |= _network(net)
    for number, display in enumerate(world.displays.nodes(), 1):
        tree |= _display(number, display)
    return tree


def _lines(home: str, attributes: Mapping[str, object]) -> Tree:
    return {f"{home}/{name}": f"{value}\n".encode() for name, value in attributes.items()}


def _link(tree: Tree, path: str, to: str) -> None:
    tree[path] = Link(posixpath.relpath(to, posixpath.dirname(path)))


def home_of(name: str) -> str:
    """Where a USB device stands: each in the folder of what it is plugged into."""
    if name.startswith("usb"):
        return f"{_HOME}/{name}"
    bus, _, path = name.partition("-")
    parts = path.split(".")
    steps = [f"{bus}-{'.'.join(parts[: n + 1])}" for n in range(len(parts))]
    return posixpath.join(_HOME, f"usb{bus}", *steps)


@lru_cache(maxsize=1 << 8)
def _usb(usb: UsbNode) -> Tree:
    """Kept, for the host is looked at many times while it stays as it is; nobody changes what is kept."""
    home = home_of(usb.name)
    vendor, product = usb.usb_id.split(":")
    tree = _lines(home, {
        "speed": f"{usb.speed_mbps:g}", "version": usb.version, "idVendor": vendor, "idProduct": product,
        "bDeviceClass": "09" if usb.is_hub else "00", "maxchild": usb.ports, "bMaxPower": f"{usb.power_ma}mA",
        "bmAttributes": "a0", "rx_lanes": 1, "tx_lanes": 1,
    } | ({"product": usb.product} if usb.product else {}))  # fmt: skip
    if usb.could_mbps >= _SUPERSPEED_MBPS:
        tree[f"{home}/bos_descriptors"] = _capabilities(usb)
    _link(tree, f"bus/usb/devices/{usb.name}", home)
    for path, other in _ports(usb):
        tree |= _lines(path, {"connect_type": "hotplug"})
        _link(tree, f"{path}/peer", other)
    return tree


def _capabilities(usb: UsbNode) -> bytes:
    parts = [descriptors.usb2_extension(), descriptors.superspeed()]
    if usb.could_mbps > _SUPERSPEED_MBPS:
        lanes = 2 if usb.could_mbps > 10_000 else 1
        parts.append(descriptors.superspeed_plus(10, lanes=lanes))
    if usb.container:
        parts.append(descriptors.container(usb.container))
    return descriptors.capabilities(*parts)


def _ports(usb: UsbNode) -> Iterator[tuple[str, str]]:
    """Each socket of a hub, with the same socket on the other bus."""
    bus = usb.name.removeprefix("usb")[0]
    other = _BUSES[bus][2] if bus in _BUSES else bus
    twin = f"usb{other}" if usb.name.startswith("usb") else other + usb.name[1:]
    for number in range(1, usb.ports + 1):
        yield _port(usb.name, number), _port(twin, number)


def _port(hub: str, number: int) -> str:
    inner = f"{hub.removeprefix('usb')}-0:1.0" if hub.startswith("usb") else f"{hub}:1.0"
    return f"{home_of(hub)}/{inner}/{hub}-port{number}"


def _type_c(number: int, node: TypeCNode) -> Tree:
    name = f"port{number}"
    home = f"{_HOME}/typec/{name}"
    takes_power = bool(node.offers)
    operation = "usb_power_delivery" if takes_power else "3.0A"
    tree = _lines(home, {
        "data_role": "[host] device", "power_role": "source [sink]" if takes_power else "[source] sink",
        "power_operation_mode": operation if node.attached else "default", "usb_typec_revision": "2.0",
        "usb_power_delivery_revision": "3.1", "vconn_source": "yes",
    })  # fmt: skip
    _link(tree, f"class/typec/{name}", home)
    if node.attached:
        tree |= _partner(f"{home}/{name}-partner", node, number)
    if node.cable_a is not None:
        cable = f"{home}/{name}-cable"
        tree |= _lines(cable, {"type": "passive", "plug_type": "type-c", "usb_power_delivery_revision": "3.1"})
        tree |= _lines(f"{cable}/identity", _PASSIVE_5_A)
    return tree


_PASSIVE_5_A = {
    "id_header": "0x18001f6e", "cert_stat": "0x00000000", "product": "0x05010100", "product_type_vdo1": "0x00082042",
}  # fmt: skip
"""A passive cable, 5 A at up to 20 V, USB 3.2 Gen 2. Source: USB PD R3.1, tables 6-33 and 6-42."""


def _partner(home: str, node: TypeCNode, number: int) -> Tree:
    tree = _lines(home, {"supports_usb_power_delivery": "yes", "type": "hub", "accessory_mode": "none"})
    if node.pins:
        mode = f"{home}/port{number}-partner.0"
        tree |= _lines(mode, {"svid": "ff01", "mode": 1, "active": "yes", "description": "DisplayPort"})
        tree |= _lines(f"{mode}/displayport", {"pin_assignment": f"C [{node.pins}]", "configuration": "USB [sink]"})
    if node.offers:
        offer = f"{_HOME}/pd/pd{number}"
        tree |= _lines(offer, {"revision": "3.1"})
        for position, step in enumerate(node.offers, 1):
            place = f"{offer}/source-capabilities/{position}:fixed_supply"
            values = {"voltage": f"{step.volts * 1000:.0f}mV", "maximum_current": f"{step.amperes * 1000:.0f}mA"}
            tree |= _lines(place, values)
        _link(tree, f"class/usb_power_delivery/pd{number}", offer)
        _link(tree, f"{home}/usb_power_delivery", offer)
    return tree


def _network(net: NetworkNode) -> Tree:
    home = f"{_HOME}/net/{net.name}"
    up = net.speed_mbps is not None
    tree = _lines(home, {
        "speed": f"{net.speed_mbps:g}" if up else "-1", "operstate": "up" if up else "down",
        "duplex": "full" if up else "unknown", "carrier": int(up), "mtu": 1500,
    })  # fmt: skip
    _link(tree, f"class/net/{net.name}", home)
    on = home_of("2-1") if net.name.startswith("usb") else f"{_HOME}/0000:01:00.0"
    tree |= _lines(f"{_HOME}/0000:01:00.0", {"vendor": "0x1f6e"})
    _link(tree, f"{home}/device", on)
    return tree


def _display(number: int, display: DisplayNode) -> Tree:
    home = f"{_HOME}/drm/card0/{display.name}"
    up = display.mode is not None and display.display is not None
    tree = _lines(home, {"status": "connected" if up else "disconnected", "enabled": "enabled" if up else "disabled"})
    tree |= _lines(home, {"connector_id": number})
    tree[f"{home}/edid"] = edid_of(display.display) if up and display.display else b""
    _link(tree, f"class/drm/{display.name}", home)
    return tree


@lru_cache(maxsize=1 << 6)
def edid_of(display: Display) -> bytes:
    """Two blocks: its name, its best mode with reduced blanking, its ranges, and every mode that has a code."""
    modes = [parse_mode(mode) for mode in display.modes]
    best = reduced_blanking_timing(modes[0])
    clock_khz = min(_FASTEST_KHZ, round(best.pixel_clock_hz / 1000))
    rates = [round(each.refresh_hz) for each in modes]
    base = description.base(
        description.detailed(
            modes[0].width, modes[0].height, clock_khz, best.total_width - modes[0].width,
            best.total_height - modes[0].height,
        ),
        description.text(0xFC, display.name), description.ranges(min(24, *rates), max(rates), 15, 255, 600),
        extensions=1, depth=10,
    )  # fmt: skip
    forum = [description.hdmi_forum(vrr=(48, max(rates)))] if display.vrr is True else []
    codes = description.video(*filter(None, map(_code_of, modes)))
    return base + description.cta(codes, description.hdmi(deep=(10,)), *forum, description.hdr())


def _code_of(mode: Mode) -> int | None:
    """The first video code of a mode; most modes have none."""
    wanted = (mode.width, mode.height, round(mode.refresh_hz))
    found = (timing for code in sorted(KNOWN_CODES) if (timing := timing_of_code(code)) and not timing.interlaced)
    return next((e.code for e in found if (e.width, e.height, round(e.refresh_millihz / 1000)) == wanted), None)
