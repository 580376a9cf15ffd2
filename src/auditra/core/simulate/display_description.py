"""Descriptions of made-up displays, put together byte by byte: base block, CTA-861 extension, DisplayID section.

Source: VESA E-EDID A2, 3; CTA-861-I, 7.5; HDMI 2.1, 10.3.2; VESA DisplayID 2.0, 2 and 4.
"""

from __future__ import annotations

from collections.abc import Sequence

MAGIC = bytes.fromhex("00ffffffffffff00")
UNUSED = bytes((0, 0, 0, 0x10, 0)).ljust(18, b"\0")


def closed(block: bytes) -> bytes:
    """127 bytes with the one that makes them add up to nothing."""
    body = block[:127].ljust(127, b"\0")
    return body + bytes((-sum(body) % 256,))


def detailed(width: int, height: int, clock_khz: int, blank_x: int, blank_y: int, *, interlaced: bool = False) -> bytes:
    """A detailed timing; the height of an interlaced one is a field's."""
    clock = clock_khz // 10
    return bytes((
        clock & 255, clock >> 8, width & 255, blank_x & 255, (width >> 8) << 4 | blank_x >> 8,
        height & 255, blank_y & 255, (height >> 8) << 4 | blank_y >> 8,
        48, 32, 0x36, 0, 0, 0, 0, 0, 0, 0x9A if interlaced else 0x1A,
    ))  # fmt: skip


def text(tag: int, words: str) -> bytes:
    return bytes((0, 0, 0, tag, 0)) + words.encode("cp437", "replace")[:13].ljust(13, b"\n")


def ranges(least_hz: int, most_hz: int, least_khz: int, most_khz: int, clock_mhz: int) -> bytes:
    """With offsets where a byte is too small."""
    add = (2 if most_hz > 255 else 0) | (8 if most_khz > 255 else 0)
    return bytes((
        0, 0, 0, 0xFD, add, least_hz, most_hz - (255 if most_hz > 255 else 0), least_khz,
        most_khz - (255 if most_khz > 255 else 0), -(-clock_mhz // 10), 1,
    )).ljust(18, b"\x20")  # fmt: skip


def base(
    *pieces: bytes, extensions: int = 0, established: bytes = b"\0\0\0", standard: bytes = b"", depth: int = 8
) -> bytes:
    """A base block of version 1.4, digital, with up to four pieces of 18 bytes."""
    block = bytearray(MAGIC)
    block += (0b0_00001_10100_00100).to_bytes(2, "big") + bytes((0x34, 0x12, 1, 0, 0, 0, 12, 36, 1, 4))
    block += bytes((0x80 | {8: 2, 10: 3, 12: 4}[depth] << 4 | 5, 60, 34, 120, 0x06))
    block += bytes.fromhex("ee91a3544c99260f5054") + established
    block += standard.ljust(16, b"\x01")
    for piece in [*pieces, *[UNUSED] * 4][:4]:
        block += piece
    block.append(extensions)
    return closed(bytes(block))


def block_of(tag: int, payload: bytes) -> bytes:
    return bytes((tag << 5 | len(payload),)) + payload


def extended(tag: int, payload: bytes) -> bytes:
    return block_of(7, bytes((tag,)) + payload)


def video(*codes: int) -> bytes:
    return block_of(2, bytes(codes))


def hdmi(*, most_mhz: int = 300, deep: Sequence[int] = (10, 12), codes: Sequence[int] = ()) -> bytes:
    """HDMI's own block."""
    flags = sum(1 << {10: 4, 12: 5, 16: 6}[each] for each in deep)
    tail = bytes((0x20, 0, len(codes) << 5, *codes)) if codes else b""
    return block_of(3, bytes.fromhex("030c00") + bytes((0x10, 0x00, flags, most_mhz // 5)) + tail)


def hdmi_forum(
    *, most_mhz: int = 600, fixed: int = 0, vrr: tuple[int, int] | None = None, compresses: int = 0, deep_420: int = 0
) -> bytes:
    """The HDMI Forum's block; `fixed` and `compresses` are codes of fixed rates."""
    least, most = vrr or (0, 0)
    payload = bytes((
        1, most_mhz // 5, 0x80, fixed << 4 | deep_420, 2 if vrr else 0, least | (most >> 8) << 6, most & 255,
        0x83 if compresses else 0, compresses << 4 | 3, 0,
    ))  # fmt: skip
    return block_of(3, bytes.fromhex("d85dc4") + payload)


def hdr(functions: int = 0b0101, most: int = 138, average: int = 90, least: int = 20) -> bytes:
    return extended(6, bytes((functions, 1, most, average, least)))


def cta(*blocks: bytes, timings: Sequence[bytes] = (), native: int = 1, traits: int = 0x70) -> bytes:
    """An extension block of version 3."""
    body = b"".join(blocks)
    head = bytes((2, 3, 4 + len(body), traits | native))
    return closed(head + body + b"".join(timings))


def displayid(*blocks: bytes, version: int = 0x20, product: int = 4) -> bytes:
    """An extension block with a DisplayID section."""
    body = b"".join(blocks)
    section = bytes((version, len(body), product, 0)) + body
    section += bytes((-sum(section) % 256,))
    return closed(bytes((0x70,)) + section)


def displayid_block(tag: int, payload: bytes, revision: int = 0) -> bytes:
    return bytes((tag, revision, len(payload))) + payload


def type_7(width: int, height: int, clock_khz: int, blank_x: int, blank_y: int, *, preferred: bool = True) -> bytes:
    """A detailed timing of DisplayID 2.0, in steps of 1 kHz."""
    parts = (width - 1, blank_x - 1, 47, 31, height - 1, blank_y - 1, 2, 5)
    head = (clock_khz - 1).to_bytes(3, "little") + bytes((0x84 if preferred else 0x04,))
    return head + b"".join(part.to_bytes(2, "little") for part in parts)
