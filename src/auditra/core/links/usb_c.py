"""What one USB-C plug leaves for data while it carries pictures: lanes shared out, or pictures tunnelled."""

from __future__ import annotations

import re
from dataclasses import dataclass

from auditra.core.errors import QuantityError
from auditra.core.links.picture_links import DISPLAYPORT_LINKS, PictureLink, find_picture_link
from auditra.core.links.usb import HIGH_SPEED, UsbLink, find_link

_MAX_TUNNELLED = 0.9
"""The part of a tunnelled link that pictures may reserve. Source: USB4 Connection Manager Guide 1.0, "Bandwidth"."""


@dataclass(frozen=True)
class Arrangement:
    """One way to use a plug: a display link, the USB data beside it, and in words what goes where."""

    picture: PictureLink | None
    data_bps: float
    words: str
    budget_bps: float | None = None
    """Where both come out of one budget, all that it is; None where each has its own lanes."""


@dataclass(frozen=True)
class Way:
    """Something that pictures and data go over, with the ways in which it can be used, most data first."""

    name: str
    arrangements: tuple[Arrangement, ...]


def plain_way(link: PictureLink) -> Way:
    """A display cable: pictures and nothing else."""
    return Way(link.name, (Arrangement(link, 0.0, link.name),))


def data_way(link: UsbLink) -> Way:
    """A USB link without pictures."""
    return Way(link.name, (Arrangement(None, link.ceiling_bps, link.name),))


def alternate_mode(lane: PictureLink, data: UsbLink) -> Way:
    """A C plug in alternate mode: two of its four lanes stay with fast data, or all go to the picture.

    Source: VESA DisplayPort Alt Mode on USB Type-C 2.1, table 3-2 (pin assignments C and E: four lanes; D: two).
    """
    data_bps = data.ceiling_bps / max(1, data.lanes)
    two, four = lane.over(2), lane.over(4)
    return Way(
        f"USB-C, alternate mode at {lane.lane_bps / 1e9:g} Gb/s a lane",
        (
            Arrangement(None, data.ceiling_bps, f"no picture; {data.name}"),
            Arrangement(
                two, data_bps, f"two lanes for the picture, two for data ({data.rate_bps / data.lanes / 1e9:g} Gb/s)"
            ),
            Arrangement(four, HIGH_SPEED.ceiling_bps, "four lanes for the picture, the USB 2.0 pair for data"),
        ),
    )


def tunnelled(link: UsbLink, display: PictureLink = DISPLAYPORT_LINKS[3]) -> Way:
    """A USB4 link: pictures and data are packets in one budget, of which pictures may take nine tenths."""
    words = f"{link.name}, pictures and data in one budget"
    return Way(f"{link.name}, tunnelled", (Arrangement(display, link.ceiling_bps, words, link.ceiling_bps),))


def most_for_pictures(arrangement: Arrangement) -> float:
    """What pictures may take of an arrangement with one budget, in bits per second."""
    return _MAX_TUNNELLED * arrangement.budget_bps if arrangement.budget_bps is not None else float("inf")


_ALTERNATE = re.compile(r"(?:usb-?c|c)\b[ ,:+]*(?:displayport|dp)?\s*([\d.]+)(?:\s*[+,]\s*(.+))?")


def find_way(name: str) -> Way:
    """What a name stands for: a display link, a USB link, ``usb-c 8.1 + Gen 2x1`` (alternate mode), ``USB4 40 Gb/s``.

    Raises: AmbiguousName, QuantityError.
    """
    text = name.strip().lower()
    if match := _ALTERNATE.fullmatch(text):
        return alternate_mode(find_picture_link(f"displayport {match[1]}"), find_link(match[2] or "gen 2x1"))
    if text.startswith(("hdmi", "displayport", "dp", "hbr", "uhbr", "rbr")):
        return plain_way(find_picture_link(name))
    try:
        link = find_link(name)
    except QuantityError as error:
        do = "Write one such as usb-c 8.1 + gen 2x1, usb4 40 Gb/s, gen 2x1, displayport 8.1 or hdmi 600"
        raise QuantityError(error.what, why="unknown link", do=do) from None
    return tunnelled(link) if link.name.startswith("USB4") else data_way(link)
