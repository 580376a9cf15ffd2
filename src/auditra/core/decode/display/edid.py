"""EDID 1.3 and 1.4 with its extensions: who made the display, what it takes, and every mode that it names.

Source: VESA E-EDID Standard Release A2 (EDID 1.4), 3; block map and extensions: 2.2.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace

from auditra.core.decode.bits import bit, bits, u16, u32
from auditra.core.decode.display.cta import CtaExtension, decode_cta
from auditra.core.decode.display.displayid import DisplayIdSection, decode_displayid
from auditra.core.decode.display.timing import (
    DisplayTiming,
    decode_cvt,
    decode_detailed,
    decode_established,
    decode_established_iii,
    decode_standard,
)
from auditra.core.decode.problem import DAMAGE, Code, Problem, Problems
from auditra.core.sanitize import sanitize

BLOCK_BYTES = 128
MAX_BLOCKS = 256
_MAGIC = bytes.fromhex("00ffffffffffff00")
_CTA, _DISPLAYID = 0x02, 0x70
_SERIAL, _TEXT, _RANGES, _NAME, _STANDARD, _CVT, _ESTABLISHED_III = 0xFF, 0xFE, 0xFD, 0xFC, 0xFA, 0xF8, 0xF7
_DESCRIPTORS = (54, 72, 90, 108)
_INTERFACES = {1: "DVI", 2: "HDMI-a", 3: "HDMI-b", 4: "MDDI", 5: "DisplayPort"}
_DEPTHS = {1: 6, 2: 8, 3: 10, 4: 12, 5: 14, 6: 16}
_MODEL_YEAR = 0xFF


@dataclass(frozen=True)
class Ranges:
    """Between which rates a display runs: vertical in Hz, horizontal in kHz."""

    least_hz: int
    most_hz: int
    least_khz: int
    most_khz: int
    most_pixel_clock_khz: int | None
    formula: str


@dataclass(frozen=True)
class Chromaticity:
    """Where red, green, blue and white lie, x and y of CIE 1931."""

    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]


@dataclass(frozen=True)
class Edid:
    """A display's description, as far as it could be read, and what is wrong with the rest."""

    version: str = ""
    maker: str = ""
    """Three letters, as registered with the UEFI Forum's PNP ids."""
    product: int | None = None
    serial: int | None = None
    serial_text: str = ""
    name: str = ""
    texts: tuple[str, ...] = ()
    year: int | None = None
    week: int | None = None
    digital: bool = False
    interface: str = ""
    depth_bits: int | None = None
    width_cm: int | None = None
    height_cm: int | None = None
    gamma: float | None = None
    chromaticity: Chromaticity | None = None
    srgb: bool = False
    continuous: bool = False
    """Takes any rate within its ranges."""
    ranges: Ranges | None = None
    timings: tuple[DisplayTiming, ...] = ()
    """Every timing of all blocks, in order, those of the base block first."""
    cta: tuple[CtaExtension, ...] = ()
    displayid: tuple[DisplayIdSection, ...] = ()
    extension_tags: tuple[int, ...] = ()
    problems: tuple[Problem, ...] = field(default=())

    @property
    def is_whole(self) -> bool:
        """Whether all of it was read: what is missing from one that was cut or damaged may just not have been read."""
        return not any(problem.code in DAMAGE for problem in self.problems)

    @property
    def preferred(self) -> DisplayTiming | None:
        """What the display would rather have: the first detailed timing, or one that says so of itself."""
        said = next((timing for timing in self.timings if timing.preferred), None)
        return said or next(iter(self.timings), None)

    @property
    def native(self) -> tuple[DisplayTiming, ...]:
        """Timings that are shown to be the panel's own; the preferred one where none is given."""
        told = tuple(timing for timing in self.timings if timing.native)
        return told or ((self.preferred,) if self.preferred is not None else ())

    @property
    def modes(self) -> tuple[DisplayTiming, ...]:
        """Each size and rate once, the best first: the largest picture, then the highest rate."""
        best: dict[tuple[int, int, int, bool], DisplayTiming] = {}
        for timing in self.timings:
            key = (timing.width, timing.height, round(timing.refresh_millihz / 100), timing.interlaced)
            known = best.get(key)
            if known is None or (known.pixel_clock_khz is None and timing.pixel_clock_khz is not None):
                best[key] = timing
            elif known is not None and (timing.chroma_420_too or timing.native) and known.pixel_clock_khz is not None:
                best[key] = replace(
                    known,
                    chroma_420_too=known.chroma_420_too or timing.chroma_420_too,
                    native=known.native or timing.native,
                )
        order = sorted(best.values(), key=lambda e: (e.width * e.height, e.refresh_millihz, not e.interlaced))
        return tuple(reversed(order))

    @property
    def adaptive(self) -> tuple[int, int | None] | None:
        """Between which rates it follows its source, in Hz, and None for "up to the mode's own"; None for not told."""
        for section in self.displayid:
            if section.adaptive is not None and section.adaptive.seamless:
                return section.adaptive.least_hz, section.adaptive.most_hz
        for each in self.cta:
            forum = each.hdmi_forum
            if forum is not None and forum.vrr_least_hz is not None:
                return forum.vrr_least_hz, forum.vrr_most_hz
        return None

    @property
    def hdr(self) -> bool:
        """Takes a picture of more than the standard range."""
        functions = (name for each in self.cta if each.hdr is not None for name in each.hdr.transfer_functions)
        return any(name != "SDR" for name in functions)

    @property
    def depths_bits(self) -> tuple[int, ...]:
        """Bits a sample that it says it takes, in order."""
        found = {8, *(depth for each in self.cta if each.hdmi for depth in each.hdmi.depths_bits)}
        found |= {depth for each in self.displayid if each.interface for depth in each.interface.rgb_bits}
        if self.depth_bits is not None:
            found |= {depth for depth in (6, 8, 10, 12, 14, 16) if 8 <= depth <= self.depth_bits}
        return tuple(sorted(found))


def decode_edid(data: bytes) -> Edid:
    """A description of one or more blocks of 128 bytes. Never raises; what is missing is not reported."""
    problems = Problems()
    if len(data) > BLOCK_BYTES * MAX_BLOCKS:
        problems.add(BLOCK_BYTES * MAX_BLOCKS, Code.LONG, f"{len(data)} bytes; {BLOCK_BYTES * MAX_BLOCKS} were read")
        data = data[: BLOCK_BYTES * MAX_BLOCKS]
    if data[:1] and data[0] >> 4 in (1, 2) and data[:8] != _MAGIC:
        section = decode_displayid(data)
        return Edid(f"DisplayID {section.version}", name=sanitize(section.name, 40), timings=section.timings,
                    displayid=(section,), digital=True, problems=section.problems)  # fmt: skip
    if len(data) < BLOCK_BYTES:
        problems.add(len(data), Code.SHORT, f"{len(data)} bytes where {BLOCK_BYTES} belong")
        if len(data) < 20:
            return Edid(problems=tuple(problems))
    if data[:8] != _MAGIC:
        problems.add(0, Code.ORDER, "it does not begin as a description does")
        return Edid(problems=tuple(problems))
    base = _base(data[:BLOCK_BYTES].ljust(BLOCK_BYTES, b"\0"), problems)
    if len(data) >= BLOCK_BYTES:
        _check_sum(data[:BLOCK_BYTES], 0, problems)
    return _with_extensions(base, data, problems)


def _check_sum(block: bytes, at: int, problems: Problems) -> None:
    left = sum(block) % 256
    if left:
        problems.add(at + BLOCK_BYTES - 1, Code.CHECKSUM, f"the block adds up to {left}, not to 0")


def _base(block: bytes, problems: Problems) -> Edid:
    made = Edid(
        version=f"{block[18]}.{block[19]}", maker=_maker(u16(block[9:7:-1], 0)), product=u16(block, 10),
        serial=u32(block, 12) or None, digital=bit(block[20], 7),
    )  # fmt: skip
    modern = block[18] == 1 and block[19] >= 4
    week, year = block[16], block[17] + 1990
    made = replace(
        made, year=year if block[17] else None, week=week if 1 <= week <= 54 else None,
        interface=_INTERFACES.get(bits(block[20], 3, 0), "") if modern and made.digital else "",
        depth_bits=_DEPTHS.get(bits(block[20], 6, 4)) if modern and made.digital else None,
        width_cm=block[21] if all(block[21:23]) else None, height_cm=block[22] if all(block[21:23]) else None,
        gamma=None if block[23] == _MODEL_YEAR else (block[23] + 100) / 100, srgb=bit(block[24], 2),
        chromaticity=_chromaticity(block), continuous=modern and bit(block[24], 0),
    )  # fmt: skip
    if not (1 <= block[18] <= 1 and block[19] <= 4):
        problems.add(18, Code.RESERVED, f"version {made.version} is not known; it is read as 1.4")
    return _descriptors(made, block, problems)


def _maker(word: int) -> str:
    """Three letters of five bits; a letter that is none is a question mark."""
    letters = (bits(word, 14, 10), bits(word, 9, 5), bits(word, 4, 0))
    return "".join(chr(ord("A") + each - 1) if 1 <= each <= 26 else "?" for each in letters)


def _chromaticity(block: bytes) -> Chromaticity:
    low = block[25] << 8 | block[26]
    values = [(block[27 + n] << 2 | bits(low, 15 - 2 * n, 14 - 2 * n)) / 1024 for n in range(8)]
    pairs = [(round(values[n], 4), round(values[n + 1], 4)) for n in range(0, 8, 2)]
    return Chromaticity(*pairs)


def _descriptors(made: Edid, block: bytes, problems: Problems) -> Edid:
    """Four places of 18 bytes: detailed timings first, then what else there is to say."""
    detailed: list[DisplayTiming] = []
    others: list[DisplayTiming] = [*decode_established(block[35:38])]
    old = made.version in ("1.0", "1.1", "1.2")
    others += (each for n in range(38, 54, 2) if (each := decode_standard(block[n : n + 2], square=old)) is not None)
    for place in _DESCRIPTORS:
        piece = block[place : place + 18]
        timing = decode_detailed(piece)
        if timing is not None:
            if timing.is_possible:
                detailed.append(timing)
            else:
                problems.add(place, Code.CONTRADICTION, "a detailed timing without a picture")
        elif piece[3] == _RANGES:
            made = replace(made, ranges=_ranges(piece, place, problems))
        elif piece[3] in (_NAME, _SERIAL, _TEXT):
            made = _text(made, piece)
        else:
            others += _more_timings(piece)
    if detailed and not bit(block[24], 1) and made.version == "1.3":
        problems.add(24, Code.CONTRADICTION, "EDID 1.3 requires the first detailed timing to be the preferred one")
    if not detailed and made.digital:
        problems.add(54, Code.CONTRADICTION, "it has no detailed timing")
    return replace(made, timings=(*detailed, *(each for each in others if each.is_possible)))


def _more_timings(piece: bytes) -> Iterator[DisplayTiming]:
    if piece[3] == _STANDARD:
        found = (decode_standard(piece[n : n + 2]) for n in range(5, 17, 2))
        yield from (each for each in found if each is not None)
    elif piece[3] == _CVT:
        for n in range(6, 18, 3):
            yield from decode_cvt(piece[n : n + 3])
    elif piece[3] == _ESTABLISHED_III:
        yield from decode_established_iii(piece[6:12])


def _text(made: Edid, piece: bytes) -> Edid:
    """Up to thirteen characters, ended by a line feed. What they are, they do not do."""
    words = sanitize(piece[5:18].split(b"\n")[0].decode("cp437", "replace").rstrip(), 20)
    if piece[3] == _NAME:
        return replace(made, name=words)
    return replace(made, serial_text=words) if piece[3] == _SERIAL else replace(made, texts=(*made.texts, words))


def _ranges(piece: bytes, place: int, problems: Problems) -> Ranges:
    """With offsets of 255 for what a byte cannot hold. Source: VESA E-EDID A2, 3.10.3.3, tables 3.26 to 3.30."""
    add = piece[4]
    vertical, horizontal = bits(add, 1, 0), bits(add, 3, 2)
    least_hz, most_hz = piece[5] + (255 if vertical == 3 else 0), piece[6] + (255 if vertical >= 2 else 0)
    least_khz, most_khz = piece[7] + (255 if horizontal == 3 else 0), piece[8] + (255 if horizontal >= 2 else 0)
    clock = piece[9] * 10_000
    formula = {0: "GTF", 1: "ranges alone", 2: "secondary GTF", 4: "CVT"}.get(piece[10], "")
    if piece[10] == 4:
        clock -= bits(piece[12], 7, 2) * 250
    if least_hz > most_hz or least_khz > most_khz:
        problems.add(place + 5, Code.CONTRADICTION, "a range whose least is more than its most")
    return Ranges(least_hz, most_hz, least_khz, most_khz, clock or None, formula)


def _with_extensions(base: Edid, data: bytes, problems: Problems) -> Edid:
    told, there = data[126] if len(data) > 126 else 0, max(0, -(-(len(data) - BLOCK_BYTES) // BLOCK_BYTES))
    if told != there:
        problems.add(126, Code.COUNT, f"{told} extensions are declared, {there} are there")
    blocks = [(at, data[at : at + BLOCK_BYTES]) for at in range(BLOCK_BYTES, len(data), BLOCK_BYTES)]
    for at, block in blocks:
        if len(block) < BLOCK_BYTES:
            problems.add(at + len(block), Code.SHORT, f"a block of {len(block)} bytes")
        else:
            _check_sum(block, at, problems)
    cta = tuple(decode_cta(block, at) for at, block in blocks if block[0] == _CTA)
    sections = tuple(decode_displayid(block[1:], at + 1) for at, block in blocks if block[0] == _DISPLAYID)
    parts: tuple[CtaExtension | DisplayIdSection, ...] = (*cta, *sections)
    found = [problem for part in parts for problem in part.problems]
    for problem in found:
        problems.add(problem.offset, problem.code, problem.words)
    more = [timing for part in parts for timing in part.timings]
    return replace(
        base, name=base.name or next((sanitize(each.name, 40) for each in sections if each.name), ""),
        timings=_marked(base.timings, more, sum(each.native_count for each in cta)), cta=cta, displayid=sections,
        extension_tags=tuple(block[0] for _, block in blocks), problems=tuple(problems),
    )  # fmt: skip


def _marked(base: tuple[DisplayTiming, ...], more: list[DisplayTiming], native_count: int) -> tuple[DisplayTiming, ...]:
    """The first timing is preferred where none says so; as many detailed ones are native as the extension counts."""
    own = list(base)
    if own and not any(each.preferred for each in (*own, *more)):
        own[0] = replace(own[0], preferred=True)
    for index in range(min(native_count, len(own))):
        if own[index].total_width is not None:
            own[index] = replace(own[index], native=True)
    return (*own, *more)
