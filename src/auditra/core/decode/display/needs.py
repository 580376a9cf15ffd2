"""Which link a display's mode takes: the slowest HDMI and the slowest DisplayPort, four lanes, that carry it whole."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.decode.display.timing import DisplayTiming
from auditra.core.links.carriage import Answer, Picture, carries
from auditra.core.links.picture_links import (
    DISPLAYPORT_LINKS,
    HDMI_CHARACTER_RATE_LINKS,
    HDMI_FIXED_RATE_LINKS,
    Chroma,
    PictureLink,
)
from auditra.core.links.usb_c import plain_way


@dataclass(frozen=True)
class LinkNeed:
    """By name; None where no link of that kind carries it uncompressed."""

    mode: str
    hdmi: str | None
    displayport: str | None


def links_for(timing: DisplayTiming, depth_bits: int = 8, chroma: Chroma = Chroma.FULL) -> LinkNeed:
    """With its own clock where the description has one, else with the timing that is usual on that link."""
    chroma = Chroma.QUARTER if timing.chroma_420_only else chroma
    hdmi = (*HDMI_CHARACTER_RATE_LINKS, *HDMI_FIXED_RATE_LINKS)
    names = []
    for links in (hdmi, DISPLAYPORT_LINKS):
        found = next((link for link in links if _carries(link, timing, depth_bits, chroma)), None)
        names.append(found.name if found is not None else None)
    return LinkNeed(timing.name, names[0], names[1])


def _carries(link: PictureLink, timing: DisplayTiming, depth_bits: int, chroma: Chroma) -> bool:
    if timing.pixel_clock_khz is None:
        picture = Picture(timing.mode, depth_bits, chroma, None)
        return carries(plain_way(link), [picture]).answer is Answer.YES
    return timing.pixel_clock_khz * 1000 * link.bits_a_pixel(chroma, depth_bits) <= link.payload_bps
