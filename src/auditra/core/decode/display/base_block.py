"""The first block of a description: who made the display, when, of what size, and the timings that it names itself.

Source: VESA E-EDID Standard Release A2 (EDID 1.4), 3; what 1.3 and older versions mean otherwise: 3.1 and the tables.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.decode.bits import bit, bits, u16, u32
from auditra.core.decode.display.description import (
    RGB,
    YCBCR_422,
    YCBCR_444,
    Chromaticity,
    Edid,
    Ranges,
)
from auditra.core.decode.display.timing import (
    DisplayTiming,
    decode_cvt,
    decode_detailed,
    decode_established,
    decode_established_iii,
    decode_standard,
)
from auditra.core.decode.problem import Code, Problems
from auditra.core.sanitize import sanitize

_SERIAL, _TEXT, _RANGES, _NAME, _STANDARD, _CVT, _ESTABLISHED_III = 0xFF, 0xFE, 0xFD, 0xFC, 0xFA, 0xF8, 0xF7
_DESCRIPTORS = (54, 72, 90, 108)
_INTERFACES = {1: "DVI", 2: "HDMI-a", 3: "HDMI-b", 4: "MDDI", 5: "DisplayPort"}
_DEPTHS = {1: 6, 2: 8, 3: 10, 4: 12, 5: 14, 6: 16}
_COLOURS = ((RGB,), (RGB, YCBCR_444), (RGB, YCBCR_422), (RGB, YCBCR_444, YCBCR_422))
"""Source: VESA E-EDID A2, table 3.14, bits 4 and 3."""
_MODEL_YEAR, _LAST_WEEK, _FIRST_YEAR = 0xFF, 54, 1990
_NEWEST_REVISION, _FIRST_PREFERRED = 4, 3
_OLD_FORMULAS, _ALL_OFFSETS = (0, 2), 0x0F
_FORMULAS = {0: "GTF", 1: "ranges alone", 2: "secondary GTF", 4: "CVT"}


def decode_base(block: bytes, problems: Problems) -> Edid:
    """The base block: 128 bytes that begin and add up as they should."""
    made = Edid(
        version=f"{block[18]}.{block[19]}", maker=_maker(u16(block[9:7:-1], 0)), product=u16(block, 10),
        serial=u32(block, 12) or None, digital=bit(block[20], 7),
    )  # fmt: skip
    modern = _is_modern(block)
    made = replace(
        made, interface=_INTERFACES.get(bits(block[20], 3, 0), "") if modern and made.digital else "",
        depth_bits=_DEPTHS.get(bits(block[20], 6, 4)) if modern and made.digital else None,
        width_cm=block[21] if all(block[21:23]) else None, height_cm=block[22] if all(block[21:23]) else None,
        gamma=None if block[23] == _MODEL_YEAR else (block[23] + 100) / 100, srgb=bit(block[24], 2),
        chromaticity=_chromaticity(block), continuous=modern and bit(block[24], 0),
        base_colour_formats=_COLOURS[bits(block[24], 4, 3)] if modern and made.digital else (),
    )  # fmt: skip
    if block[19] > _NEWEST_REVISION:
        problems.add(19, Code.RESERVED, f"version {made.version} is not known; it is read as 1.4")
    return _descriptors(_dated(made, block, problems), block, problems)


def _is_modern(block: bytes) -> bool:
    """Since 1.4 bytes have a meaning that had none before."""
    return block[19] >= _NEWEST_REVISION


def _dated(made: Edid, block: bytes, problems: Problems) -> Edid:
    """When it was made; or, since 1.4, of which year its model is. Source: VESA E-EDID A2, 3.4.4."""
    week, year = block[16], block[17] + _FIRST_YEAR if block[17] else None
    if week == _MODEL_YEAR and _is_modern(block):
        return replace(made, model_year=year)
    if week > _LAST_WEEK:
        problems.add(16, Code.RESERVED, f"invalid week {week}")
    return replace(made, year=year, week=week if 1 <= week <= _LAST_WEEK else None)


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
            made = replace(made, ranges=_ranges(piece, place, problems, modern=_is_modern(block)))
        elif piece[3] in (_NAME, _SERIAL, _TEXT):
            made = _text(made, piece)
        else:
            others += _more_timings(piece)
    if detailed and decode_detailed(block[54:72]) is not None:
        detailed[0] = _marked(detailed[0], block)
    if detailed and not bit(block[24], 1) and made.version == "1.3":
        problems.add(24, Code.CONTRADICTION, "EDID 1.3 requires the first detailed timing to be the preferred one")
    if not detailed and made.digital:
        problems.add(54, Code.CONTRADICTION, "it has no detailed timing")
    return replace(made, timings=(*detailed, *(each for each in others if each.is_possible)))


def _marked(first: DisplayTiming, block: bytes) -> DisplayTiming:
    """The first detailed timing is the preferred one; up to version 1.2 only if a bit is set, which in 1.4 means that
    it is the native timing too. Source: VESA E-EDID A2, 3.6.4, table 3.14, bit 1."""
    said, revision = bit(block[24], 1), block[19]
    return replace(first, preferred=revision >= _FIRST_PREFERRED or said, native=_is_modern(block) and said)


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


def _ranges(piece: bytes, place: int, problems: Problems, *, modern: bool) -> Ranges:
    """Since 1.4 with offsets of 255 for what a byte cannot hold. Source: VESA E-EDID A2, tables 3.26 to 3.30."""
    add = piece[4] if modern else 0
    vertical, horizontal = bits(add, 1, 0), bits(add, 3, 2)
    least_hz, most_hz = piece[5] + (255 if vertical == 3 else 0), piece[6] + (255 if vertical >= 2 else 0)
    least_khz, most_khz = piece[7] + (255 if horizontal == 3 else 0), piece[8] + (255 if horizontal >= 2 else 0)
    clock = piece[9] * 10_000
    formula = _FORMULAS.get(piece[10], "") if modern or piece[10] in _OLD_FORMULAS else ""
    if piece[4] != add or 1 in (vertical, horizontal) or add > _ALL_OFFSETS:
        problems.add(place + 4, Code.RESERVED, f"invalid range offsets {piece[4]:#04x}")
    if formula == "CVT":
        clock -= bits(piece[12], 7, 2) * 250
    if least_hz > most_hz or least_khz > most_khz:
        problems.add(place + 5, Code.CONTRADICTION, "a range whose least is more than its most")
    return Ranges(least_hz, most_hz, least_khz, most_khz, clock or None, formula)
