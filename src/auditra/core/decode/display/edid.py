"""EDID 1.3 and 1.4 with its extensions: who made the display, what it takes, and every mode that it names.

A block that does not add up is told and not heeded: one changed bit makes another mode of it.

Source: VESA E-EDID Standard Release A2 (EDID 1.4), 3; block map and extensions: 2.2.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.decode.display.base_block import decode_base
from auditra.core.decode.display.cta import CtaExtension, decode_cta, override_of
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.displayid import DisplayIdSection, decode_displayid
from auditra.core.decode.display.timing import DisplayTiming, Source
from auditra.core.decode.problem import Code, Problems
from auditra.core.sanitize import sanitize

BLOCK_BYTES = 128
MAX_BLOCKS = 256
_MAGIC = bytes.fromhex("00ffffffffffff00")
_CTA, _DISPLAYID = 0x02, 0x70
_OTHER_KINDS = frozenset({0x10, 0x20, 0x30, 0x40, 0x50, 0x60, 0xF0, 0xFF})
"""Extensions that are known and hold nothing that is read here: timing, display information, strings, panel data, block
maps and makers' own. Source: VESA E-EDID A2, table 2.2."""
_OVERRIDE_AT = 4
_EDID_2_BYTES = 256


def decode_edid(data: bytes) -> Edid:
    """A description of one or more blocks of 128 bytes. Never raises; what is missing is not reported."""
    problems = Problems()
    if len(data) > BLOCK_BYTES * MAX_BLOCKS:
        problems.add(BLOCK_BYTES * MAX_BLOCKS, Code.LONG, f"{len(data)} bytes; {BLOCK_BYTES * MAX_BLOCKS} were read")
        data = data[: BLOCK_BYTES * MAX_BLOCKS]
    if data[:1] and data[0] >> 4 in (1, 2) and not _is_edid_2(data):
        return _displayid_alone(data)
    if not _is_readable(data, problems):
        return Edid(is_readable=False, problems=tuple(problems))
    return _with_extensions(decode_base(data[:BLOCK_BYTES], problems), data, problems)


def _is_edid_2(data: bytes) -> bool:
    """Version 2 was one block of 256 bytes that began with its version, as a DisplayID section does."""
    whole = len(data) == _EDID_2_BYTES and sum(data) % 256 == 0
    return whole and sum(data[: data[1] + 5]) % 256 != 0


def _displayid_alone(data: bytes) -> Edid:
    section = decode_displayid(data)
    if not section.version:
        return Edid(is_readable=False, problems=section.problems)
    return Edid(f"DisplayID {section.version}", name=sanitize(section.name, 40), timings=section.timings,
                displayid=(section,), digital=True, problems=section.problems)  # fmt: skip


def _is_readable(data: bytes, problems: Problems) -> bool:
    """Whether a base block is there, whole, and of a version that is known; else why not."""
    if len(data) < BLOCK_BYTES:
        problems.add(len(data), Code.SHORT, f"{len(data)} bytes where {BLOCK_BYTES} belong")
    elif _is_edid_2(data):
        problems.add(0, Code.RESERVED, "EDID 2.0 is not supported")
    elif data[: len(_MAGIC)] != _MAGIC:
        problems.add(0, Code.ORDER, "the EDID header is missing")
    elif not _adds_up(data[:BLOCK_BYTES], 0, problems):
        pass
    elif data[18] != 1:
        problems.add(18, Code.RESERVED, f"EDID version {data[18]}.{data[19]} is not supported")
    else:
        return True
    return False


def _adds_up(block: bytes, at: int, problems: Problems) -> bool:
    left = sum(block) % 256
    if left:
        words = f"the block checksum is {left}, expected 0: block ignored"
        problems.add(at + BLOCK_BYTES - 1, Code.CHECKSUM, words)
    return not left


def _with_extensions(base: Edid, data: bytes, problems: Problems) -> Edid:
    blocks = list(_extensions(data, problems))
    cta = tuple(decode_cta(block, at) for at, block in blocks if block[0] == _CTA)
    sections = tuple(decode_displayid(block[1:], at + 1) for at, block in blocks if block[0] == _DISPLAYID)
    parts: tuple[CtaExtension | DisplayIdSection, ...] = (*cta, *sections)
    for problem in (problem for part in parts for problem in part.problems):
        problems.add(problem.offset, problem.code, problem.words)
    more = [timing for part in parts for timing in part.timings]
    return replace(
        base, name=base.name or next((sanitize(each.name, 40) for each in sections if each.name), ""),
        timings=_marked(base.timings, more, cta[0].native_count if cta else 0), cta=cta, displayid=sections,
        extension_tags=tuple(block[0] for _, block in blocks), problems=tuple(problems),
    )  # fmt: skip


def _extensions(data: bytes, problems: Problems) -> Iterator[tuple[int, bytes]]:
    """The blocks that are declared and add up, each once, with their places."""
    there = -(-(len(data) - BLOCK_BYTES) // BLOCK_BYTES)
    told = _declared(data)
    if told != there:
        problems.add(126, Code.COUNT, f"{told} extensions are declared, {there} are there")
    seen: set[bytes] = set()
    for number in range(1, min(told, there) + 1):
        at = number * BLOCK_BYTES
        block = data[at : at + BLOCK_BYTES]
        if len(block) < BLOCK_BYTES:
            problems.add(at + len(block), Code.SHORT, f"a block of {len(block)} bytes")
        elif not _adds_up(block, at, problems):
            continue
        elif block in seen:
            problems.add(at, Code.ORDER, "duplicate of an earlier block: ignored")
        else:
            seen.add(block)
            if block[0] not in (_CTA, _DISPLAYID, *_OTHER_KINDS):
                problems.add(at, Code.RESERVED, f"unknown extension type {block[0]:#04x}: ignored")
            yield at, block


def _declared(data: bytes) -> int:
    """How many extensions there should be: by the base block, or by the first of them where that overrides it.

    Source: HDMI 2.1, 10.3.6 (HDMI Forum EDID extension override): first of the data blocks of the first extension.
    """
    told, first = data[126], data[BLOCK_BYTES : 2 * BLOCK_BYTES]
    is_whole = len(first) == BLOCK_BYTES and not sum(first) % 256
    if told and is_whole and first[0] == _CTA and first[1] >= 3 and first[2] > _OVERRIDE_AT:
        return override_of(first[_OVERRIDE_AT:]) or told
    return told


def _marked(base: tuple[DisplayTiming, ...], more: list[DisplayTiming], native_count: int) -> tuple[DisplayTiming, ...]:
    """What an extension prefers comes before what the base block does; as many detailed timings are native, from the
    first on, as the extension counts. Source: CTA-861-I, 7.3.3."""
    told_by_extension = any(each.preferred for each in more)
    own = [replace(each, preferred=False) if told_by_extension else each for each in base]
    marked, left = [], native_count
    for timing in (*own, *more):
        is_next = left > 0 and timing.source is Source.DETAILED
        marked.append(replace(timing, native=True) if is_next else timing)
        left -= is_next
    return tuple(marked)
