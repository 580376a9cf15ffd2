"""The simulated host's kernel attributes, as files and links below a root, laid out as Linux does."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.audit.rig import Display
from auditra.core.links.display import parse_mode
from auditra.core.simulate.world import World


@dataclass(frozen=True)
class Link:
    """A relative symbolic link."""

    to: str


Tree = dict[str, bytes | Link]


def kernel_tree(world: World) -> Tree:
    """Paths below the root with what stands there. Values end in a newline, as the kernel's do."""
    tree: Tree = {}
    for usb in world.usb():
        vendor, product = usb.usb_id.split(":")
        attributes = {
            "speed": f"{usb.speed_mbps:g}", "version": usb.version, "idVendor": vendor, "idProduct": product,
            "bDeviceClass": "09" if usb.is_hub else "00", "product": usb.product,
        }  # fmt: skip
        home = f"devices/pci0/usb{usb.name[0]}/{usb.name}"
        tree |= {f"{home}/{name}": f"{value}\n".encode() for name, value in attributes.items()}
        tree[f"bus/usb/devices/{usb.name}"] = Link(f"../../../{home}")
    for net in world.network():
        home = f"devices/pci0/net/{net.name}"
        speed = "-1" if net.speed_mbps is None else f"{net.speed_mbps:g}"
        tree[f"{home}/speed"] = f"{speed}\n".encode()
        tree[f"{home}/operstate"] = b"down\n" if net.speed_mbps is None else b"up\n"
        tree[f"class/net/{net.name}"] = Link(f"../../{home}")
    for display in world.displays():
        home = f"devices/pci0/drm/card0/{display.name}"
        up = display.mode is not None and display.display is not None
        tree[f"{home}/status"] = b"connected\n" if up else b"disconnected\n"
        tree[f"{home}/edid"] = edid_of(display.display) if up and display.display else b""
        tree[f"class/drm/{display.name}"] = Link(f"../../{home}")
    return tree


def edid_of(display: Display) -> bytes:
    """A base block that names the display and its preferred size. VESA E-EDID 1.4, 3."""
    mode = parse_mode(display.modes[0])
    block = bytearray(128)
    block[0:8] = bytes.fromhex("00ffffffffffff00")
    block[8:10] = (0b0_00001_10100_00100).to_bytes(2, "big")
    block[16:20] = bytes((1, 36, 1, 4))
    block[54:72] = _preferred_timing(mode.width, mode.height, mode.refresh_hz)
    block[72:90] = b"\x00\x00\x00\xfc\x00" + display.name.encode("ascii", "replace")[:13].ljust(13, b"\n")
    for start in (90, 108):
        block[start : start + 18] = b"\x00\x00\x00\x10\x00".ljust(18, b"\x00")
    block[127] = -sum(block[:127]) % 256
    return bytes(block)


def _preferred_timing(width: int, height: int, refresh_hz: float) -> bytes:
    """A detailed timing descriptor with reduced blanking. VESA E-EDID 1.4, 3.10.2."""
    across, down = 160, 62
    clock = min(65535, round((width + across) * (height + down) * refresh_hz / 10_000))
    return bytes((
        clock & 255, clock >> 8, width & 255, across, (width >> 8) << 4, height & 255, down, (height >> 8) << 4,
        48, 32, 0x36, 0, 0, 0, 0, 0, 0, 0x1A,
    ))  # fmt: skip
