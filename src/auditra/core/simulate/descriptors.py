"""USB descriptors of made-up devices, put together byte by byte as the standards lay them out.

Source: USB 2.0, 9.6; USB 3.2, 9.6.2; USB Billboard Device Class 1.2.2, 3.1.6.
"""

from __future__ import annotations

import uuid


def device(
    version: int = 0x0320, *, vid: int = 0x1F6E, pid: int = 0x0601, class_code: int = 0, count: int = 1
) -> bytes:
    packet = 9 if version >= 0x0300 else 64
    head = bytes((18, 1)) + version.to_bytes(2, "little") + bytes((class_code, 0, 0, packet))
    return head + vid.to_bytes(2, "little") + pid.to_bytes(2, "little") + bytes((0x10, 0x02, 1, 2, 3, count))


def configuration(*parts: bytes, interfaces: int = 1, power: int = 112, traits: int = 0x80) -> bytes:
    body = b"".join(parts)
    return bytes((9, 2)) + (9 + len(body)).to_bytes(2, "little") + bytes((interfaces, 1, 0, traits, power)) + body


def interface(number: int = 0, *, endpoints: int = 2, codes: tuple[int, int, int] = (8, 6, 0x50)) -> bytes:
    return bytes((9, 4, number, 0, endpoints, *codes, 0))


def endpoint(address: int, *, attributes: int = 2, packet: int = 1024, burst: int | None = 15) -> bytes:
    plain = bytes((7, 5, address, attributes)) + packet.to_bytes(2, "little") + b"\0"
    return plain if burst is None else plain + bytes((6, 48, burst, 0, 0, 0))


def disk(version: int = 0x0320) -> bytes:
    """A drive with one bulk pipe each way."""
    fast = version >= 0x0300
    pipes = [endpoint(each, packet=1024 if fast else 512, burst=15 if fast else None) for each in (0x81, 0x02)]
    return device(version) + configuration(interface(), *pipes)


def capabilities(*parts: bytes, count: int | None = None) -> bytes:
    body = b"".join(parts)
    return (
        bytes((5, 15)) + (5 + len(body)).to_bytes(2, "little") + bytes((len(parts) if count is None else count,)) + body
    )


def superspeed(speeds: int = 0b1110) -> bytes:
    return bytes((10, 16, 3, 0)) + speeds.to_bytes(2, "little") + bytes((1, 10, 0xFF, 7))


def superspeed_plus(lane_gbps: int = 10, lanes: int = 1) -> bytes:
    word = (lane_gbps << 16) | (1 << 14) | (3 << 4)
    links = word.to_bytes(4, "little") + (word | 0x80).to_bytes(4, "little")
    wanted = (lanes << 8 | lanes << 12).to_bytes(2, "little")
    return bytes((12 + len(links), 16, 10, 0)) + (1).to_bytes(4, "little") + wanted + b"\0\0" + links


def container(of: str) -> bytes:
    return bytes((20, 16, 4, 0)) + uuid.UUID(of).bytes_le


def usb2_extension() -> bytes:
    return bytes((7, 16, 2, 2, 0, 0, 0))


def billboard(*modes: tuple[int, int], states: int = 0b11) -> bytes:
    told = b"".join(svid.to_bytes(2, "little") + bytes((mode, 0)) for svid, mode in modes)
    head = bytes((44 + len(told), 16, 13, 0, len(modes), 0, 0, 0x80)) + states.to_bytes(32, "little")
    return head + bytes((0x22, 0x01, 0, 0)) + told
