"""What a USB link carries once its line coding is paid for."""

from __future__ import annotations

from dataclasses import dataclass

HIGH_SPEED_BPS = 480e6
_BULK_PACKETS_A_MICROFRAME, _BULK_PACKET_BYTES, _MICROFRAMES_A_SECOND = 13, 512, 8000


@dataclass(frozen=True)
class UsbLink:
    """A signalling rate with the part of it that is left after line coding."""

    name: str
    rate_bps: float
    coding: float

    @property
    def ceiling_bps(self) -> float:
        """Payload ceiling after line coding, in bits per second."""
        return self.rate_bps * self.coding


LINKS = (
    UsbLink("USB 2.0 high speed", HIGH_SPEED_BPS,
            _BULK_PACKETS_A_MICROFRAME * _BULK_PACKET_BYTES * 8 * _MICROFRAMES_A_SECOND / HIGH_SPEED_BPS),
    UsbLink("USB 3.2 Gen 1x1", 5e9, 8 / 10),
    UsbLink("USB 3.2 Gen 2x1", 10e9, 128 / 132),
    UsbLink("USB 3.2 Gen 2x2", 20e9, 128 / 132),
)  # fmt: skip
"""Source: USB 2.0, 5.8.4 (13 bulk packets a microframe); USB 3.2, 6.3.1 "Line Coding" (8b/10b, 128b/132b)."""


def link_at(rate_bps: float) -> UsbLink | None:
    """The link of that signalling rate; None where there is no such USB link."""
    return next((link for link in LINKS if link.rate_bps == rate_bps), None)


def payload_ceiling_bps(rate_bps: float) -> float:
    """The most payload that a link of that signalling rate carries; the rate itself where no coding is known."""
    link = link_at(rate_bps)
    return link.ceiling_bps if link else rate_bps
