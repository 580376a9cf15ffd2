"""Timings as displays tell them: detailed ones with every blank, and those that are a size and a rate alone."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from auditra.core.decode.bits import bit, bits, u16
from auditra.core.links.display import Mode


class Source(StrEnum):
    """Where in a description a timing stands."""

    DETAILED = "detailed timing"
    ESTABLISHED = "established timing"
    STANDARD = "standard timing"
    CVT = "CVT code"
    VIDEO_CODE = "CTA-861 video code"
    HDMI_CODE = "HDMI video code"
    DISPLAYID = "DisplayID timing"


@dataclass(frozen=True)
class Blanking:
    """What stands between the lines and the pictures: front porches and sync pulses, and whether a pulse is positive.

    None where the description has another kind of sync than two pulses of their own.
    """

    front_porch_pixels: int
    sync_pixels: int
    front_porch_lines: int
    sync_lines: int
    positive_across: bool | None = None
    positive_down: bool | None = None


@dataclass(frozen=True)
class DisplayTiming:
    """A timing. The clock and totals are None where the description has a size and a rate alone.

    `height` is of the whole picture; an interlaced one shows two fields a picture, and `refresh_millihz` counts fields.
    """

    width: int
    height: int
    refresh_millihz: int
    source: Source
    pixel_clock_khz: int | None = None
    total_width: int | None = None
    total_height: int | None = None
    interlaced: bool = False
    preferred: bool = False
    native: bool = False
    code: int | None = None
    """The video code, where it has one."""
    chroma_420_too: bool = False
    """May be sent with 4:2:0 colour besides."""
    chroma_420_only: bool = False
    blanking: Blanking | None = None

    @property
    def name(self) -> str:
        """``3840x2160@60``, ``1920x1080i@60``."""
        return f"{self.width}x{self.height}{'i' if self.interlaced else ''}@{self.refresh_millihz / 1000:.4g}"

    @property
    def mode(self) -> Mode:
        return Mode(self.width, self.height, self.refresh_millihz / 1000)

    @property
    def is_possible(self) -> bool:
        return self.width > 0 and self.height > 0 and self.refresh_millihz > 0


def refresh_millihz(clock_khz: int, total_width: int, total_height: int, *, interlaced: bool = False) -> int:
    """What a clock gives: pictures, or fields of an interlaced one, in thousandths a second; 0 for no totals."""
    pixels = total_width * total_height
    return round(clock_khz * 1_000_000 * (2 if interlaced else 1) / pixels) if pixels else 0


def decode_detailed(data: bytes) -> DisplayTiming | None:
    """The 18 bytes of a detailed timing; None for those of something else.

    Source: VESA E-EDID A2, 3.10.2 "Detailed Timing Descriptor".
    """
    clock_khz = u16(data, 0) * 10
    if len(data) < 18 or clock_khz == 0:
        return None
    width, blank_x = data[2] | bits(data[4], 7, 4) << 8, data[3] | bits(data[4], 3, 0) << 8
    height, blank_y = data[5] | bits(data[7], 7, 4) << 8, data[6] | bits(data[7], 3, 0) << 8
    interlaced = bit(data[17], 7)
    total_y = 2 * (height + blank_y) + 1 if interlaced else height + blank_y
    return DisplayTiming(
        width, height * 2 if interlaced else height,
        refresh_millihz(clock_khz, width + blank_x, total_y, interlaced=interlaced), Source.DETAILED, clock_khz,
        width + blank_x, total_y, interlaced, blanking=_blanking(data),
    )  # fmt: skip


_SEPARATE_SYNC = 3


def _blanking(data: bytes) -> Blanking:
    """Source: VESA E-EDID A2, tables 3.21 and 3.22."""
    high, flags = data[11], data[17]
    separate = bits(flags, 4, 3) == _SEPARATE_SYNC
    return Blanking(
        data[8] | bits(high, 7, 6) << 8, data[9] | bits(high, 5, 4) << 8,
        bits(data[10], 7, 4) | bits(high, 3, 2) << 4, bits(data[10], 3, 0) | bits(high, 1, 0) << 4,
        bit(flags, 1) if separate else None, bit(flags, 2) if separate else None,
    )  # fmt: skip


def decode_standard(data: bytes, *, square: bool = False) -> DisplayTiming | None:
    """The two bytes of a standard timing; None where they are unused. `square` is the old meaning of the first shape.

    Source: VESA E-EDID A2, 3.9 "Standard Timings".
    """
    if len(data) < 2 or data[:2] in (b"\x01\x01", b"\x00\x00", b"\x20\x20") or data[0] == 0:
        return None
    width = (data[0] + 31) * 8
    across, down = ((1, 1) if square else (16, 10), (4, 3), (5, 4), (16, 9))[bits(data[1], 7, 6)]
    return DisplayTiming(width, width * down // across, (bits(data[1], 5, 0) + 60) * 1000, Source.STANDARD)


_CVT_RATES = ((4, 50), (3, 60), (2, 75), (1, 85), (0, 60))


def decode_cvt(data: bytes) -> tuple[DisplayTiming, ...]:
    """A three-byte code: one size at several rates. Source: VESA E-EDID A2, 3.10.3.8 "CVT 3 Byte Code"."""
    if len(data) < 3 or not any(data[:3]):
        return ()
    height = ((data[0] | bits(data[1], 7, 4) << 8) + 1) * 2
    across, down = ((4, 3), (16, 9), (16, 10), (15, 9))[bits(data[1], 3, 2)]
    width = height * across // down // 8 * 8
    told = [hz for place, hz in _CVT_RATES if bit(data[2], place)]
    return tuple(DisplayTiming(width, height, hz * 1000, Source.CVT) for hz in dict.fromkeys(told))


_ESTABLISHED = (
    (720, 400, 28_320, 900, 449), (720, 400, 35_500, 900, 449), (640, 480, 25_175, 800, 525),
    (640, 480, 30_240, 864, 525), (640, 480, 31_500, 832, 520), (640, 480, 31_500, 840, 500),
    (800, 600, 36_000, 1024, 625), (800, 600, 40_000, 1056, 628), (800, 600, 50_000, 1040, 666),
    (800, 600, 49_500, 1056, 625), (832, 624, 57_284, 1152, 667), (1024, 768, 44_900, 1264, 817),
    (1024, 768, 65_000, 1344, 806), (1024, 768, 75_000, 1328, 806), (1024, 768, 78_750, 1312, 800),
    (1280, 1024, 135_000, 1688, 1066), (1152, 870, 100_000, 1456, 915),
)  # fmt: skip
"""Width, height, clock in kHz and totals, from the first bit on. Source: VESA E-EDID A2, 3.8; VESA DMT 1.0 rev. 13."""
_INTERLACED_ESTABLISHED = 11


def decode_established(data: bytes) -> tuple[DisplayTiming, ...]:
    """Three bytes of 17 bits. Source: VESA E-EDID A2, 3.8 "Established Timings"."""
    word = int.from_bytes(data[:3].ljust(3, b"\0"), "big") >> 7
    return tuple(_established(n) for n in range(17) if bit(word, 16 - n))


def _established(n: int) -> DisplayTiming:
    width, height, clock, across, down = _ESTABLISHED[n]
    interlaced = n == _INTERLACED_ESTABLISHED
    rate = refresh_millihz(clock, across, down, interlaced=interlaced)
    return DisplayTiming(width, height, rate, Source.ESTABLISHED, clock, across, down, interlaced)


_ESTABLISHED_III = (
    "640x350@85 640x400@85 720x400@85 640x480@85 848x480@60 800x600@85 1024x768@85 1152x864@75 "
    "1280x768@60 1280x768@60 1280x768@75 1280x768@85 1280x960@60 1280x960@85 1280x1024@60 1280x1024@85 "
    "1360x768@60 1440x900@60 1440x900@60 1440x900@75 1440x900@85 1400x1050@60 1400x1050@60 1400x1050@75 "
    "1400x1050@85 1680x1050@60 1680x1050@60 1680x1050@75 1680x1050@85 1600x1200@60 1600x1200@65 1600x1200@70 "
    "1600x1200@75 1600x1200@85 1792x1344@60 1792x1344@75 1856x1392@60 1856x1392@75 1920x1200@60 1920x1200@60 "
    "1920x1200@75 1920x1200@85 1920x1440@60 1920x1440@75"
)  # fmt: skip
"""From the first bit on; a size and rate that stands twice has reduced blanking first. Source: E-EDID A2, 3.10.3.9."""
_SIZES_III = tuple(tuple(int(part) for part in each.replace("@", "x").split("x")) for each in _ESTABLISHED_III.split())


def decode_established_iii(data: bytes) -> tuple[DisplayTiming, ...]:
    """Six bytes of 44 bits. Source: VESA E-EDID A2, 3.10.3.9 "Established Timings III"."""
    word = int.from_bytes(data[:6].ljust(6, b"\0"), "big")
    found = (_SIZES_III[n] for n in range(len(_SIZES_III)) if bit(word, 47 - n))
    return tuple(DisplayTiming(w, h, hz * 1000, Source.ESTABLISHED) for w, h, hz in dict.fromkeys(found))
