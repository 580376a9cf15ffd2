"""DisplayID 1.3 and 2.0 sections, by themselves or inside an EDID: timings, ranges, adaptive refresh, interfaces.

Source: VESA DisplayID 1.3, 2.2 (section) and 4 (data blocks); DisplayID 2.0, 2 and 4; adaptive refresh: 2.1a, 4.14.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from auditra.core.decode.bits import bit, bits, u16
from auditra.core.decode.display.timing import Blanking, DisplayTiming, Source, refresh_millihz
from auditra.core.decode.display.video_codes import timing_of_code
from auditra.core.decode.problem import Code, Problem, Problems

_HEADER_BYTES = 4
_VERSIONS = (1, 2)
_MAX_BLOCKS = 128
_DETAILED_1, _SHORT_1, _ENUMERATED_1, _RANGES_1 = 0x03, 0x05, 0x07, 0x09
_PRODUCT_2, _DETAILED_2, _ENUMERATED_2, _FORMULA_2, _RANGES_2 = 0x20, 0x22, 0x23, 0x24, 0x25
_INTERFACE_2, _ADAPTIVE_2 = 0x26, 0x2B
_DETAILED_BYTES, _SHORT_BYTES, _FORMULA_BYTES = 20, 3, 6
_VIDEO_CODES = 1
"""Which list the codes of an enumerated block are of: 0 VESA DMT, 1 CTA-861, 2 HDMI."""


@dataclass(frozen=True)
class AdaptiveRefresh:
    """Between which rates a display follows its source, in Hz."""

    least_hz: int
    most_hz: int
    seamless: bool


@dataclass(frozen=True)
class InterfaceFeatures:
    """Bits a sample that the interface takes, by how colour is written. Source: DisplayID 2.0, 4.8."""

    rgb_bits: tuple[int, ...]
    ycbcr_444_bits: tuple[int, ...]
    ycbcr_422_bits: tuple[int, ...]
    ycbcr_420_bits: tuple[int, ...]


@dataclass(frozen=True)
class DisplayIdSection:
    """What a section says, and what is wrong with it."""

    version: str
    product_type: int
    timings: tuple[DisplayTiming, ...] = ()
    adaptive: AdaptiveRefresh | None = None
    interface: InterfaceFeatures | None = None
    name: str = ""
    block_tags: tuple[int, ...] = ()
    problems: tuple[Problem, ...] = field(default=())


@dataclass
class _Found:
    problems: Problems
    timings: list[DisplayTiming] = field(default_factory=list)
    adaptive: AdaptiveRefresh | None = None
    interface: InterfaceFeatures | None = None
    name: str = ""
    tags: list[int] = field(default_factory=list)


def decode_displayid(data: bytes, at: int = 0) -> DisplayIdSection:
    """A section from its version byte on, which stands at a place of the whole description. Never raises."""
    found = _Found(Problems())
    if len(data) < _HEADER_BYTES + 1:
        found.problems.add(at, Code.SHORT, f"{len(data)} bytes where {_HEADER_BYTES + 1} belong")
        return DisplayIdSection("", 0, problems=tuple(found.problems))
    version, length, product = data[0], data[1], data[2]
    end = _HEADER_BYTES + length
    if not _is_whole(data, end, at, found.problems):
        return DisplayIdSection("", 0, problems=tuple(found.problems))
    for place, tag, revision, payload in _blocks(data[:end], found.problems, at):
        found.tags.append(tag)
        _take(tag, revision, payload, at + place, found)
    return DisplayIdSection(
        f"{version >> 4}.{version & 15}", product, tuple(found.timings), found.adaptive, found.interface, found.name,
        tuple(found.tags), tuple(found.problems),
    )  # fmt: skip


def _is_whole(data: bytes, end: int, at: int, problems: Problems) -> bool:
    """Whether a section is all there, adds up, and is of a version that is known; else why nothing of it is read."""
    if end + 1 > len(data):
        there = len(data) - _HEADER_BYTES - 1
        problems.add(at + 1, Code.SHORT, f"{end - _HEADER_BYTES} bytes are declared, {there} are there")
    elif left := sum(data[: end + 1]) % 256:
        problems.add(at + end, Code.CHECKSUM, f"the section checksum is {left}, expected 0: section ignored")
    elif data[0] >> 4 not in _VERSIONS:
        problems.add(at, Code.RESERVED, f"DisplayID version {data[0] >> 4}.{data[0] & 15} is not supported")
    else:
        return True
    return False


def _blocks(data: bytes, problems: Problems, at: int) -> Iterator[tuple[int, int, int, bytes]]:
    """Place, tag, revision and payload; zeros fill what is left."""
    place = _HEADER_BYTES
    for _ in range(_MAX_BLOCKS):
        if place + 3 > len(data) or not any(data[place : place + 3]):
            return
        tag, revision, length = data[place], data[place + 1], data[place + 2]
        if place + 3 + length > len(data):
            problems.add(at + place + 2, Code.SHORT, f"a block of {length} bytes, {len(data) - place - 3} are there")
            return
        yield place, tag, revision, data[place + 3 : place + 3 + length]
        place += 3 + length


def _take(tag: int, revision: int, payload: bytes, at: int, found: _Found) -> None:
    if tag in (_DETAILED_1, _DETAILED_2):
        step = 10 if tag == _DETAILED_1 else 1
        found.timings += _each(payload, _DETAILED_BYTES, lambda piece: _detailed(piece, step))
    elif tag == _SHORT_1:
        found.timings += _each(payload, _SHORT_BYTES, _short)
    elif tag == _FORMULA_2:
        found.timings += _each(payload, _FORMULA_BYTES, _formula)
    elif tag in (_ENUMERATED_1, _ENUMERATED_2):
        found.timings += _enumerated(tag, revision, payload)
    elif tag == _RANGES_2 and len(payload) >= 9:
        most = payload[7] | (bits(payload[8], 1, 0) << 8 if revision & 7 else 0)
        found.adaptive = found.adaptive or AdaptiveRefresh(payload[6], most, bit(payload[8], 7))
    elif tag == _RANGES_1 and len(payload) >= 10:
        found.adaptive = found.adaptive or AdaptiveRefresh(payload[8], payload[9], seamless=False)
    elif tag == _INTERFACE_2 and len(payload) >= 4:
        found.interface = InterfaceFeatures(*(_depths(payload[n], n) for n in range(4)))
    elif tag == _ADAPTIVE_2:
        _adaptive(revision, payload, at, found)
    elif tag == _PRODUCT_2 and len(payload) >= 12:
        found.name = payload[12 : 12 + payload[11]].decode("utf-8", "replace")


def _each(payload: bytes, size: int, decode: object) -> Iterator[DisplayTiming]:
    assert callable(decode)
    for place in range(0, len(payload) - size + 1, size):
        timing: DisplayTiming = decode(payload[place : place + size])
        if timing.is_possible:
            yield timing


def _detailed(data: bytes, step_khz: int) -> DisplayTiming:
    """Type I in steps of 10 kHz, type VII of 1 kHz. Source: DisplayID 1.3, 4.4.1; 2.0, 4.3.1."""
    clock = (int.from_bytes(data[:3], "little") + 1) * step_khz
    width, blank_x, height, blank_y = (u16(data, at) + 1 for at in (4, 6, 12, 14))
    interlaced = bit(data[3], 4)
    total_y = 2 * (height + blank_y) + 1 if interlaced else height + blank_y
    rate = refresh_millihz(clock, width + blank_x, total_y, interlaced=interlaced)
    return DisplayTiming(
        width, height * 2 if interlaced else height, rate, Source.DISPLAYID, clock, width + blank_x, total_y,
        interlaced, preferred=bit(data[3], 7), blanking=_blanking(data),
    )  # fmt: skip


def _blanking(data: bytes) -> Blanking:
    """The highest bit of a front porch is the polarity of its sync. Source: DisplayID 2.0, table 4-14."""
    across, down = u16(data, 8), u16(data, 16)
    return Blanking(
        bits(across, 14, 0) + 1, u16(data, 10) + 1, bits(down, 14, 0) + 1, u16(data, 18) + 1,
        bit(across, 15), bit(down, 15),
    )  # fmt: skip


def _short(data: bytes) -> DisplayTiming:
    """Type III: a size in eights, a shape and a rate. Source: DisplayID 1.3, 4.4.3."""
    width = (data[1] + 1) * 8
    across, down = _SHAPES.get(bits(data[0], 3, 0), (16, 9))
    return DisplayTiming(
        width, width * down // across, (bits(data[2], 6, 0) + 1) * 1000, Source.DISPLAYID,
        interlaced=bit(data[2], 7), preferred=bit(data[0], 7),
    )  # fmt: skip


_SHAPES = {0: (1, 1), 1: (5, 4), 2: (4, 3), 3: (15, 9), 4: (16, 9), 5: (16, 10), 6: (64, 27), 7: (256, 135)}


def _formula(data: bytes) -> DisplayTiming:
    """Type IX: a size and a rate; blanking by formula. Source: DisplayID 2.0, 4.3.3."""
    return DisplayTiming(u16(data, 1) + 1, u16(data, 3) + 1, (data[5] + 1) * 1000, Source.DISPLAYID)


def _enumerated(tag: int, revision: int, payload: bytes) -> Iterator[DisplayTiming]:
    """Codes of a list; those of CTA-861 are read. Source: DisplayID 2.0, 4.3.2."""
    if tag == _ENUMERATED_2 and bits(revision, 7, 6) == _VIDEO_CODES and not bit(revision, 3):
        found = (timing_of_code(code, source=Source.DISPLAYID) for code in payload)
        yield from (each for each in found if each is not None)


def _depths(byte: int, kind: int) -> tuple[int, ...]:
    """RGB and 4:4:4 begin at 6 bits, the others at 8."""
    first = (6, 8, 10, 12, 14, 16) if kind < 2 else (8, 10, 12, 14, 16)
    return tuple(depth for n, depth in enumerate(first) if bit(byte, n))


def _adaptive(revision: int, payload: bytes, at: int, found: _Found) -> None:
    """One or more descriptors of six bytes and what the revision adds. Source: DisplayID 2.1a, 4.14."""
    size = 6 + bits(revision, 6, 4)
    if len(payload) < size:
        found.problems.add(at, Code.SHORT, f"adaptive refresh has {len(payload)} bytes, {size} belong")
        return
    most = (payload[3] | bits(payload[4], 1, 0) << 8) + 1
    found.adaptive = AdaptiveRefresh(payload[2], most, seamless=not bit(payload[0], 2))
