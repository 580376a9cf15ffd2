"""The CTA-861 extension: video codes, sound, HDMI's blocks, colorimetry, HDR, and what may go with 4:2:0 colour.

Source: CTA-861-I, 7.2.3 (extension version 3), 7.5 "CTA Data Block Collection"; HDMI 1.4b, 8.3.2 (HDMI vendor block);
HDMI 2.1, 10.3.2 (HDMI Forum block).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace

from auditra.core.decode.bits import bit, bits
from auditra.core.decode.display.timing import DisplayTiming, decode_detailed
from auditra.core.decode.display.video_codes import timing_of_code, timing_of_hdmi_code
from auditra.core.decode.problem import Code, Problem, Problems

BLOCK_BYTES = 128
_AUDIO, _VIDEO, _VENDOR, _SPEAKERS, _EXTENDED = 1, 2, 3, 4, 7
_COLORIMETRY, _HDR_STATIC, _PREFERENCE, _ONLY_420, _MAP_420, _FORUM = 5, 6, 13, 14, 15, 0x79
_HDMI, _HDMI_FORUM = 0x000C03, 0xC45DD8
_REFRESH_RANGE = 0x00001A
"""The registered number of a maker of display controllers: version, flags, and between which rates its displays follow.
Source: no standard; the layout that displays which carry it have in common."""
_OVERRIDE = 0x78
_FIXED_RATES = {
    0: None, 1: (3, 3_000), 2: (3, 6_000), 3: (4, 6_000), 4: (4, 8_000), 5: (4, 10_000), 6: (4, 12_000),
    7: (4, 16_000), 8: (4, 20_000), 9: (4, 24_000),
}  # fmt: skip
"""Lanes and Mb/s a lane. Source: HDMI 2.1, table 10-7 (Max_FRL_Rate); 7 to 9 since HDMI 2.2."""
_AUDIO_FORMATS = {
    1: "LPCM", 2: "AC-3", 3: "MPEG-1", 4: "MP3", 5: "MPEG-2", 6: "AAC", 7: "DTS", 8: "ATRAC", 9: "One Bit Audio",
    10: "Enhanced AC-3", 11: "DTS-HD", 12: "MAT", 13: "DST", 14: "WMA Pro", 15: "extended",
}  # fmt: skip
_RATES_HZ = (32_000, 44_100, 48_000, 88_200, 96_000, 176_400, 192_000)
_SPEAKERS_NAMED = ("front left and right", "LFE", "front centre", "back left and right", "back centre",
                   "front left and right of centre", "back left and right of centre")  # fmt: skip
_COLORIMETRIES = (
    "xvYCC 601", "xvYCC 709", "sYCC 601", "opYCC 601", "opRGB", "BT.2020 cYCC", "BT.2020 YCC", "BT.2020 RGB",
)  # fmt: skip
_EOTFS = ("SDR", "traditional HDR gamma", "SMPTE ST 2084", "HLG")


@dataclass(frozen=True)
class AudioFormat:
    """One format of sound. `bits` are of LPCM alone, `most_kbps` of the others."""

    name: str
    channels: int
    rates_hz: tuple[int, ...]
    bits: tuple[int, ...] = ()
    most_kbps: int | None = None


@dataclass(frozen=True)
class HdmiBlock:
    """What HDMI's own block says. The physical address is four numbers, as ``1.0.0.0``."""

    physical_address: str
    most_tmds_khz: int | None = None
    depths_bits: tuple[int, ...] = ()
    """Bits a sample beyond 8, with RGB."""
    deep_ycbcr_444: bool = False
    """The same depths with YCbCr 4:4:4 too."""


@dataclass(frozen=True)
class HdmiForumBlock:
    """What the HDMI Forum's block says; rates of HDMI 2.0 and later."""

    version: int
    most_character_khz: int | None
    fixed_rate_lanes: int | None = None
    fixed_rate_mbps_a_lane: int | None = None
    depths_420_bits: tuple[int, ...] = ()
    vrr_least_hz: int | None = None
    vrr_most_hz: int | None = None
    """None where the most is the rate of the mode itself."""
    auto_low_latency: bool = False
    compresses: bool = False
    compression_lanes: int | None = None
    compression_mbps_a_lane: int | None = None
    compression_depths_bits: tuple[int, ...] = ()
    control_channel: bool = False


@dataclass(frozen=True)
class HdrStatic:
    """What HDR a display takes, with the luminances that it wishes for, in cd/m2; None where it says none."""

    transfer_functions: tuple[str, ...]
    most_cd_m2: float | None = None
    most_frame_average_cd_m2: float | None = None
    least_cd_m2: float | None = None


@dataclass(frozen=True)
class OwnRefresh:
    """Between which rates a display follows its source, in Hz, by a display controller maker's own block."""

    least_hz: int
    most_hz: int


@dataclass(frozen=True)
class CtaExtension:
    """One extension block, and what is wrong with it."""

    revision: int
    underscans: bool = False
    basic_audio: bool = False
    ycbcr_444: bool = False
    ycbcr_422: bool = False
    native_count: int = 0
    timings: tuple[DisplayTiming, ...] = ()
    audio: tuple[AudioFormat, ...] = ()
    speakers: tuple[str, ...] = ()
    hdmi: HdmiBlock | None = None
    hdmi_forum: HdmiForumBlock | None = None
    colorimetries: tuple[str, ...] = ()
    hdr: HdrStatic | None = None
    preferred_codes: tuple[int, ...] = ()
    own_refresh: OwnRefresh | None = None
    declared_extensions: int | None = None
    """How many extensions there are in all, where it overrides what the base block says."""
    vendors: tuple[str, ...] = ()
    """Identifiers of vendor blocks that are not read here."""
    problems: tuple[Problem, ...] = field(default=())


@dataclass
class _Found:
    """What has been read of an extension so far."""

    problems: Problems
    timings: list[DisplayTiming] = field(default_factory=list)
    places: dict[int, int] = field(default_factory=dict)
    """Of a timing, by its place in the list: which of the video codes it is, reserved ones counted."""
    coded: int = 0
    audio: list[AudioFormat] = field(default_factory=list)
    speakers: tuple[str, ...] = ()
    hdmi: HdmiBlock | None = None
    forum: HdmiForumBlock | None = None
    colorimetries: tuple[str, ...] = ()
    hdr: HdrStatic | None = None
    preferred: tuple[int, ...] = ()
    vendors: list[str] = field(default_factory=list)
    map_420: bytes | None = None
    own_refresh: OwnRefresh | None = None
    override: int | None = None


def decode_cta(block: bytes, at: int = 0) -> CtaExtension:
    """One block of 128 bytes, which stands at a place of the whole description. Never raises."""
    found = _Found(Problems())
    block = block[:BLOCK_BYTES].ljust(BLOCK_BYTES, b"\0")
    revision, detailed_at, flags = block[1], block[2], block[3]
    if detailed_at and not 4 <= detailed_at <= BLOCK_BYTES - 1:
        found.problems.add(at + 2, Code.LENGTH, f"detailed timings are declared to begin at byte {detailed_at}")
        detailed_at = BLOCK_BYTES - 1
    if revision >= 3:
        for place, tag, payload in data_blocks(block[: detailed_at or 4], 4, found.problems, at):
            _take(tag, payload, at + place, found)
    detailed = tuple(_detailed(block, detailed_at)) if detailed_at else ()
    has_flags = revision >= 2
    return CtaExtension(
        revision, has_flags and bit(flags, 7), has_flags and bit(flags, 6), has_flags and bit(flags, 5),
        has_flags and bit(flags, 4), bits(flags, 3, 0) if has_flags else 0,
        (*_with_420(found), *detailed), tuple(found.audio), found.speakers, found.hdmi, found.forum,
        found.colorimetries, found.hdr, found.preferred, found.own_refresh, found.override, tuple(found.vendors),
        tuple(found.problems),
    )  # fmt: skip


def data_blocks(data: bytes, start: int, problems: Problems, at: int = 0) -> Iterator[tuple[int, int, bytes]]:
    """Place, tag and payload of each data block."""
    place = start
    while place < len(data):
        tag, length = bits(data[place], 7, 5), bits(data[place], 4, 0)
        if place + 1 + length > len(data):
            problems.add(at + place, Code.SHORT, f"a block of {length} bytes, {len(data) - place - 1} are there")
            return
        yield place, tag, data[place + 1 : place + 1 + length]
        place += 1 + length


def _detailed(block: bytes, start: int) -> Iterator[DisplayTiming]:
    for place in range(start, BLOCK_BYTES - 18, 18):
        timing = decode_detailed(block[place : place + 18])
        if timing is None:
            return
        if timing.is_possible:
            yield timing


def _with_420(found: _Found) -> Iterator[DisplayTiming]:
    """Which of the video codes may be sent with 4:2:0 besides: a bit each in the map, or all where it is empty.

    A code that is kept for later has its bit too. Source: CTA-861-I, 7.5.11.
    """
    told = found.map_420
    for index, timing in enumerate(found.timings):
        place = found.places.get(index)
        marked = told is not None and place is not None and (not told or _has_bit(told, place))
        yield replace(timing, chroma_420_too=True) if marked else timing


def _has_bit(told: bytes, place: int) -> bool:
    return place // 8 < len(told) and bit(told[place // 8], place % 8)


def _take(tag: int, payload: bytes, at: int, found: _Found) -> None:
    if tag == _VIDEO:
        _take_codes(payload, at, found)
    elif tag == _AUDIO:
        found.audio += (_audio(payload[n : n + 3]) for n in range(0, len(payload) - 2, 3))
    elif tag == _SPEAKERS and payload:
        found.speakers = tuple(name for n, name in enumerate(_SPEAKERS_NAMED) if bit(payload[0], n))
    elif tag == _VENDOR:
        _vendor(payload, at, found)
    elif tag == _EXTENDED and payload:
        reader = _EXTENDED_READERS.get(payload[0])
        if reader is not None:
            reader(payload[1:], at, found)


def _take_codes(payload: bytes, at: int, found: _Found) -> None:
    for place, timing in _codes(payload, at, found.problems):
        found.places[len(found.timings)] = found.coded + place
        found.timings.append(timing)
    found.coded += len(payload)


def _codes(payload: bytes, at: int, problems: Problems) -> Iterator[tuple[int, DisplayTiming]]:
    """Each code that is known, with its place among all."""
    for place, byte in enumerate(payload):
        native = 129 <= byte <= 192
        timing = timing_of_code(byte & 0x7F if native else byte, native=native)
        if timing is None:
            problems.add(at + 1 + place, Code.RESERVED, f"video code {byte} is kept for later")
        else:
            yield place, timing


def _audio(data: bytes) -> AudioFormat:
    number = bits(data[0], 6, 3)
    rates = tuple(hz for n, hz in enumerate(_RATES_HZ) if bit(data[1], n))
    depths = tuple(depth for n, depth in enumerate((16, 20, 24)) if bit(data[2], n)) if number == 1 else ()
    most = data[2] * 8 if 2 <= number <= 8 else None
    return AudioFormat(_AUDIO_FORMATS.get(number, f"format {number}"), bits(data[0], 2, 0) + 1, rates, depths, most)


def _vendor(payload: bytes, at: int, found: _Found) -> None:
    if len(payload) < 3:
        found.problems.add(at, Code.SHORT, f"a vendor block of {len(payload)} bytes")
        return
    vendor = int.from_bytes(payload[:3], "little")
    if vendor == _HDMI:
        found.hdmi = _hdmi(payload)
        found.timings += _hdmi_codes(payload)
    elif vendor == _HDMI_FORUM:
        found.forum = _forum(payload[3:])
    elif vendor == _REFRESH_RANGE and len(payload) > 6 and 0 < payload[5] < payload[6]:
        found.own_refresh = OwnRefresh(payload[5], payload[6])
    else:
        found.vendors.append(f"{vendor:06x}")


def _hdmi(payload: bytes) -> HdmiBlock:
    address = ".".join(str(part) for byte in payload[3:5].ljust(2, b"\0") for part in (byte >> 4, byte & 15))
    flags = payload[5] if len(payload) > 5 else 0
    depths = tuple(depth for place, depth in ((4, 10), (5, 12), (6, 16)) if bit(flags, place))
    most = payload[6] * 5000 if len(payload) > 6 and payload[6] else None
    return HdmiBlock(address, most, depths, bool(depths) and bit(flags, 3))


def _hdmi_codes(payload: bytes) -> Iterator[DisplayTiming]:
    """Behind latencies, which may be there once or twice. Source: HDMI 1.4b, 8.3.2, table 8-16."""
    if len(payload) < 9 or not bit(payload[7], 5):
        return
    place = 8 + (2 if bit(payload[7], 7) else 0) + (2 if bit(payload[7], 6) else 0)
    if place + 1 >= len(payload):
        return
    count = bits(payload[place + 1], 7, 5)
    for code in payload[place + 2 : place + 2 + count]:
        timing = timing_of_hdmi_code(code)
        if timing is not None:
            yield timing


def _forum(data: bytes) -> HdmiForumBlock:
    """Both as a vendor block and as an extended one, from the version on. Source: HDMI 2.1, table 10-6."""
    data = data.ljust(10, b"\0")
    fixed, squeezed = _FIXED_RATES.get(bits(data[3], 7, 4)), _FIXED_RATES.get(bits(data[8], 7, 4))
    least, most = bits(data[5], 5, 0), bits(data[5], 7, 6) << 8 | data[6]
    compresses = bit(data[7], 7)
    return HdmiForumBlock(
        data[0], data[1] * 5000 or None, fixed[0] if fixed else None, fixed[1] if fixed else None,
        depths_420_bits=tuple(depth for n, depth in enumerate((10, 12, 16)) if bit(data[3], n)),
        vrr_least_hz=least or None, vrr_most_hz=most or None, auto_low_latency=bit(data[4], 1), compresses=compresses,
        compression_lanes=squeezed[0] if squeezed and compresses else None,
        compression_mbps_a_lane=squeezed[1] if squeezed and compresses else None,
        compression_depths_bits=tuple(depth for n, depth in enumerate((10, 12, 16)) if compresses and bit(data[7], n)),
        control_channel=bit(data[2], 7),
    )  # fmt: skip


def _take_forum(payload: bytes, _: int, found: _Found) -> None:
    """The same as an extended block has two reserved bytes first. Source: HDMI 2.1, 10.3.6."""
    found.forum = _forum(payload[2:])


def _take_colorimetry(payload: bytes, _: int, found: _Found) -> None:
    if payload:
        named = [name for n, name in enumerate(_COLORIMETRIES) if bit(payload[0], n)]
        found.colorimetries = (*named, *(("DCI-P3",) if len(payload) > 1 and bit(payload[1], 7) else ()))


def _take_hdr(payload: bytes, _: int, found: _Found) -> None:
    """Luminances are coded as powers. Source: CTA-861-I, 7.5.13, tables 91 to 93."""
    if not payload:
        return
    functions = tuple(name for n, name in enumerate(_EOTFS) if bit(payload[0], n))
    most, average, least = ((payload[n] if len(payload) > n and payload[n] else None) for n in (2, 3, 4))
    most_cd = None if most is None else round(50 * 2 ** (most / 32), 2)
    average_cd = None if average is None else round(50 * 2 ** (average / 32), 2)
    least_cd = None if least is None or most_cd is None else round(most_cd * (least / 255) ** 2 / 100, 4)
    found.hdr = HdrStatic(functions, most_cd, average_cd, least_cd)


def _take_preference(payload: bytes, _: int, found: _Found) -> None:
    found.preferred = tuple(payload)


def _take_only_420(payload: bytes, at: int, found: _Found) -> None:
    found.timings += (replace(each, chroma_420_only=True) for _, each in _codes(payload, at, found.problems))


def _take_map_420(payload: bytes, _: int, found: _Found) -> None:
    found.map_420 = payload


def _take_override(payload: bytes, _: int, found: _Found) -> None:
    found.override = payload[0] if payload and payload[0] else None


def override_of(data: bytes) -> int | None:
    """The count of extensions in a first data block that overrides that of the base block; None for any other."""
    is_one = len(data) > 2 and data[0] >> 5 == _EXTENDED and bits(data[0], 4, 0) >= 2 and data[1] == _OVERRIDE
    return data[2] or None if is_one else None


_EXTENDED_READERS: dict[int, Callable[[bytes, int, _Found], None]] = {
    _COLORIMETRY: _take_colorimetry, _HDR_STATIC: _take_hdr, _PREFERENCE: _take_preference, _ONLY_420: _take_only_420,
    _MAP_420: _take_map_420, _FORUM: _take_forum, _OVERRIDE: _take_override,
}  # fmt: skip
