"""The slowest links that something fits through: what a measured rate, or a picture, needs at least."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.links.carriage import Answer, Carriage, Picture, carries
from auditra.core.links.ethernet import slowest_rate_bps, tcp_ceiling_bps
from auditra.core.links.picture_links import (
    DISPLAYPORT_LINKS,
    HDMI_CHARACTER_RATE_LINKS,
    HDMI_FIXED_RATE_LINKS,
    PictureLink,
)
from auditra.core.links.usb import slowest_usb_link
from auditra.core.links.usb_c import plain_way

KINDS: dict[str, tuple[PictureLink, ...]] = {
    "HDMI": (*HDMI_CHARACTER_RATE_LINKS, *HDMI_FIXED_RATE_LINKS), "DisplayPort": DISPLAYPORT_LINKS,
}  # fmt: skip
"""Each from the slowest on."""


@dataclass(frozen=True)
class Slowest:
    """Of one kind of link the slowest that will do, with the most that it carries; nothing where none does."""

    kind: str
    link: str | None
    most_bps: float | None = None


@dataclass(frozen=True)
class SlowestPicture:
    """Of one kind of display link the slowest that carries some pictures whole, and the sum; None where none does."""

    kind: str
    link: PictureLink | None
    carriage: Carriage | None


def slowest_for_payload(payload_bps: float) -> tuple[Slowest, ...]:
    """What such a payload can have come over at least: a drive over USB, TCP over Ethernet. In bits per second."""
    link, rate = slowest_usb_link(payload_bps), slowest_rate_bps(payload_bps)
    return (
        Slowest("USB", link.name if link is not None else None, link.bulk_ceiling_bps if link is not None else None),
        Slowest("Ethernet", None if rate is None else f"Ethernet {rate / 1e6:g} Mb/s" if rate < 1e9
                else f"Ethernet {rate / 1e9:g} Gb/s", None if rate is None else tcp_ceiling_bps(rate)),
    )  # fmt: skip


def slowest_for_pictures(pictures: Sequence[Picture]) -> tuple[SlowestPicture, ...]:
    """Which display link of each kind carries them with nothing given up."""
    return tuple(_slowest(kind, links, pictures) for kind, links in KINDS.items())


def _slowest(kind: str, links: Sequence[PictureLink], pictures: Sequence[Picture]) -> SlowestPicture:
    for link in links:
        carriage = carries(plain_way(link), pictures)
        if carriage.answer is Answer.YES:
            return SlowestPicture(kind, link, carriage)
    return SlowestPicture(kind, None, None)
