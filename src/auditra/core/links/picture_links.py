"""What the cables of displays carry as picture, once their coding is paid for, and the names that links go by."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from enum import Enum

from auditra.core.errors import AmbiguousName, QuantityError


class Chroma(Enum):
    """How many samples of colour go with each pixel. Source: CTA-861-H, 5.1 "Default Encoding Parameters"."""

    FULL = ("4:4:4", 3.0)
    HALF = ("4:2:2", 2.0)
    QUARTER = ("4:2:0", 1.5)

    def __init__(self, words: str, samples_a_pixel: float) -> None:
        self.words, self.samples_a_pixel = words, samples_a_pixel

    def bits_a_pixel(self, depth_bits: int) -> float:
        """Bits a pixel at so many bits a sample."""
        return self.samples_a_pixel * depth_bits


DEPTHS = (8, 10, 12)


class Coding(Enum):
    """How a link writes its bits, and the part of them that is left for pictures."""

    DISPLAYPORT_8B = ("8b/10b", 8 / 10, 63 / 64, 1 - 0.024)
    DISPLAYPORT_128B = ("128b/132b", 128 / 132 * 383 / 384, 63 / 64, 1.0)
    HDMI_CHARACTERS = ("8 bits in 10", 8 / 10, 1.0, 1.0)
    HDMI_FIXED = ("16b/18b", 16 / 18, 1.0, 1.0)

    def __init__(self, words: str, share: float, streams: float, compressed: float) -> None:
        self.words, self.share, self.streams, self.compressed = words, share, streams, compressed


"""`streams` is what is left where several pictures share a link, `compressed` where error correction is switched on.

Source: VESA DisplayPort 2.1, 3.5.1 (8b/10b; 128b/132b with one link-layer symbol in 384), 2.6 (one of 64 slots is the
packet header), 3.5.1.5 (error correction costs 2.4 %); HDMI 1.4b, 5.4.2; HDMI 2.1, 6.4.2.
"""


@dataclass(frozen=True)
class PictureLink:
    """A display link: lanes at a rate each, in bits per second, and how it is coded."""

    name: str
    lane_bps: float
    lanes: int
    coding: Coding

    @property
    def is_hdmi(self) -> bool:
        return self.coding in (Coding.HDMI_CHARACTERS, Coding.HDMI_FIXED)

    @property
    def compresses(self) -> bool:
        """Compression is defined for every DisplayPort rate, and for HDMI on fixed-rate links alone."""
        return self.coding is not Coding.HDMI_CHARACTERS

    @property
    def payload_bps(self) -> float:
        """Picture data that it carries at most, in bits per second."""
        return self.lane_bps * self.lanes * self.coding.share

    def payload_for(self, pictures: int, *, compressed: bool) -> float:
        """The same for so many pictures, compressed or not."""
        streams = self.coding.streams if pictures > 1 else 1.0
        return self.payload_bps * streams * (self.coding.compressed if compressed else 1.0)

    def over(self, lanes: int) -> PictureLink:
        """The same with another number of lanes, such as the two that USB-C leaves beside fast data."""
        name = re.sub(r"a lane.*|, \d lanes", "", self.name).strip()
        return replace(self, name=f"{name} a lane, {lanes} lanes", lanes=lanes)

    def bits_a_pixel(self, chroma: Chroma, depth_bits: int) -> float:
        """HDMI sends 4:2:2 in 24 bits a pixel at any depth up to 12. Source: HDMI 1.4b, 6.2.3 "YCBCR 4:2:2"."""
        if self.is_hdmi and chroma is Chroma.HALF:
            return 24.0
        return chroma.bits_a_pixel(depth_bits)

    def character_rate_hz(self, pixel_clock_hz: float, chroma: Chroma, depth_bits: int) -> float | None:
        """Characters a second on each channel of an HDMI link that sends a clock; None on any other.

        Source: HDMI 1.4b, 6.5 "Color Depth Requirements" (a character is 8 bits of a sample); HDMI 2.0, 7.1 (4:2:0).
        """
        if self.coding is not Coding.HDMI_CHARACTERS:
            return None
        return pixel_clock_hz * self.bits_a_pixel(chroma, depth_bits) / _BITS_OF_THREE_CHARACTERS

    def sum(self) -> str:
        """Lanes, rate and coding as a product."""
        lanes = f"{self.lanes} lanes x {self.lane_bps / 1e9:g} Gb/s"
        return f"{lanes} x {self.coding.words} = {self.payload_bps / 1e9:.2f} Gb/s"


_BITS_OF_THREE_CHARACTERS = 24.0
SCRAMBLED_ABOVE_HZ = 340e6
"""Characters a second above which they are scrambled. Source: HDMI 2.0, 6.1.2."""


def _displayport(rate_gbps: float) -> PictureLink:
    coding = Coding.DISPLAYPORT_8B if rate_gbps < 10 else Coding.DISPLAYPORT_128B
    return PictureLink(f"DisplayPort {rate_gbps:g} Gb/s a lane", rate_gbps * 1e9, 4, coding)


DISPLAYPORT_LINKS = tuple(_displayport(rate) for rate in (1.62, 2.7, 5.4, 8.1, 10, 13.5, 20))
"""Source: VESA DisplayPort 2.1, 3.5 (link rates; 8b/10b, and 128b/132b from 10 Gb/s)."""
HDMI_FIXED_RATE_LINKS = tuple(
    PictureLink(f"HDMI {rate} Gb/s, {lanes} lanes", rate * 1e9, lanes, Coding.HDMI_FIXED)
    for rate, lanes in ((3, 3), (6, 3), (6, 4), (8, 4), (10, 4), (12, 4))
)
"""Source: HDMI 2.1, 6.4 (fixed rate link, 16b/18b)."""
HDMI_CHARACTER_RATE_LINKS = tuple(
    PictureLink(f"HDMI {rate} Mcsc", rate * 1e7, 3, Coding.HDMI_CHARACTERS) for rate in (165, 340, 600)
)
"""Three channels of ten bits a character. Source: HDMI 1.4b, 4.2.1; HDMI 2.0, 6.1.1 (characters a second a channel)."""
PICTURE_LINKS = (*DISPLAYPORT_LINKS, *HDMI_CHARACTER_RATE_LINKS, *HDMI_FIXED_RATE_LINKS)

_D = {f"{link.lane_bps / 1e9:g}": link for link in DISPLAYPORT_LINKS}
_TEN_AND_MORE = (_D["10"], _D["13.5"], _D["20"])
_NAMES: dict[str, tuple[PictureLink, ...]] = {
    **{f"displayport {rate}": (link,) for rate, link in _D.items()},
    "displayport 1.0": (_D["2.7"],), "displayport 1.1": (_D["2.7"],), "displayport 1.2": (_D["5.4"],),
    "displayport 1.3": (_D["8.1"],), "displayport 1.4": (_D["8.1"],), "displayport 1.4a": (_D["8.1"],),
    "displayport 2.0": _TEN_AND_MORE, "displayport 2.1": _TEN_AND_MORE,
    "rbr": (_D["1.62"],), "hbr": (_D["2.7"],), "hbr2": (_D["5.4"],), "hbr3": (_D["8.1"],),
    "uhbr10": (_D["10"],), "uhbr13.5": (_D["13.5"],), "uhbr20": (_D["20"],),
    "hdmi 1.0": (HDMI_CHARACTER_RATE_LINKS[0],), "hdmi 1.2": (HDMI_CHARACTER_RATE_LINKS[0],),
    "hdmi 1.3": (HDMI_CHARACTER_RATE_LINKS[1],), "hdmi 1.4": (HDMI_CHARACTER_RATE_LINKS[1],),
    "hdmi 2.0": (HDMI_CHARACTER_RATE_LINKS[2],),
    "hdmi 2.1": (HDMI_CHARACTER_RATE_LINKS[2], *HDMI_FIXED_RATE_LINKS),
    "hdmi 165": (HDMI_CHARACTER_RATE_LINKS[0],), "hdmi 340": (HDMI_CHARACTER_RATE_LINKS[1],),
    "hdmi 600": (HDMI_CHARACTER_RATE_LINKS[2],),
    **{f"hdmi {link.lane_bps / 1e9:g}x{link.lanes}": (link,) for link in HDMI_FIXED_RATE_LINKS},
    **{f"hdmi {link.lane_bps * link.lanes / 1e9:g}g": (link,) for link in HDMI_FIXED_RATE_LINKS},
}  # fmt: skip
"""Version names of the standards, at the fastest rate of each, in `_plain` writing; several: the name says nothing."""
_LANES = re.compile(r"(.+?),? x?([124])(?: lanes?)?")


def _plain(name: str) -> str:
    text = re.sub(r"\s+", " ", name.strip().lower())
    text = re.sub(r"^dp(?=[\s\d])\s*", "displayport ", text)
    text = re.sub(r"\s*(?:gb/s|gbps|gbit/s)(?: a lane)?", "g" if text.startswith("hdmi") else "", text)
    return re.sub(r"\s*mcsc", "", text)


def find_picture_link(name: str) -> PictureLink:
    """The display link that a name stands for, such as ``displayport 8.1``, ``hdmi 600`` or ``displayport 8.1 x2``.

    Raises: AmbiguousName where several rates go by that name, QuantityError where none does.
    """
    by_own_name = next((link for link in PICTURE_LINKS if link.name.lower() == name.strip().lower()), None)
    if by_own_name is not None:
        return by_own_name
    found = _NAMES.get(_plain(name))
    if not found and (match := _LANES.fullmatch(_plain(name))) and match[1] in _NAMES:
        links = _NAMES[match[1]]
        found = tuple(link.over(int(match[2])) for link in links if not link.is_hdmi)
    if not found:
        do = "Write one such as displayport 8.1, displayport 8.1 x2, hdmi 600 or hdmi 12x4"
        raise QuantityError(f'"{name[:60]}"', why="unknown display link", do=do)
    if len(found) > 1:
        raise AmbiguousName(name, tuple(link.name for link in found))
    return found[0]
