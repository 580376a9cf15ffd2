"""What the cables of displays carry as picture, once their coding is paid for."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum


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


@dataclass(frozen=True)
class PictureLink:
    """A display link: lanes at a rate each, in bits per second, and what coding leaves of it."""

    name: str
    lane_bps: float
    lanes: int
    coding: float

    @property
    def payload_bps(self) -> float:
        """Picture data that it carries at most, in bits per second."""
        return self.lane_bps * self.lanes * self.coding

    def over(self, lanes: int) -> PictureLink:
        """The same with another number of lanes, such as the two that USB-C leaves beside fast data."""
        return PictureLink(self.name, self.lane_bps, lanes, self.coding)


_8B_10B = 8 / 10
_128B_132B = 128 / 132
_16B_18B = 16 / 18
DISPLAYPORT_LINKS = (
    PictureLink("DisplayPort 1.62 Gb/s a lane", 1.62e9, 4, _8B_10B),
    PictureLink("DisplayPort 2.7 Gb/s a lane", 2.7e9, 4, _8B_10B),
    PictureLink("DisplayPort 5.4 Gb/s a lane", 5.4e9, 4, _8B_10B),
    PictureLink("DisplayPort 8.1 Gb/s a lane", 8.1e9, 4, _8B_10B),
    PictureLink("DisplayPort 10 Gb/s a lane", 10e9, 4, _128B_132B),
    PictureLink("DisplayPort 13.5 Gb/s a lane", 13.5e9, 4, _128B_132B),
    PictureLink("DisplayPort 20 Gb/s a lane", 20e9, 4, _128B_132B),
)
"""Source: VESA DisplayPort 2.1, 3.5 (link rates; 8b/10b, and 128b/132b from 10 Gb/s)."""
HDMI_FIXED_RATE_LINKS = (
    PictureLink("HDMI 3 Gb/s, 3 lanes", 3e9, 3, _16B_18B),
    PictureLink("HDMI 6 Gb/s, 3 lanes", 6e9, 3, _16B_18B),
    PictureLink("HDMI 6 Gb/s, 4 lanes", 6e9, 4, _16B_18B),
    PictureLink("HDMI 8 Gb/s, 4 lanes", 8e9, 4, _16B_18B),
    PictureLink("HDMI 10 Gb/s, 4 lanes", 10e9, 4, _16B_18B),
    PictureLink("HDMI 12 Gb/s, 4 lanes", 12e9, 4, _16B_18B),
)
"""Source: HDMI 2.1, 6.4 (fixed rate link, 16b/18b)."""
HDMI_CHARACTER_RATE_LINKS = (
    PictureLink("HDMI 340 Mcsc", 3.4e9, 3, _8B_10B),
    PictureLink("HDMI 600 Mcsc", 6e9, 3, _8B_10B),
)
"""Three channels of ten bits a character. Source: HDMI 1.4b, 4.2.1; HDMI 2.0, 6.1.1 (characters a second a channel)."""
