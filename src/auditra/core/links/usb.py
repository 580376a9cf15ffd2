"""What a USB link carries once its line coding is paid for, and one name for each of its many."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum

from auditra.core.errors import AmbiguousName, QuantityError

HIGH_SPEED_BPS = 480e6
_8B_10B, _64B_66B, _128B_132B = 8 / 10, 64 / 66, 128 / 132


class Transfer(Enum):
    """The transfer types of USB 2.0, with the bytes that each packet costs beside its payload at full and high speed.

    Source: USB 2.0, 5.5.4, 5.6.4, 5.7.4 and 5.8.4, "Data Transfer Limits" tables (protocol overhead).
    """

    CONTROL = ("control", 45, 64, 173, 64)
    ISOCHRONOUS = ("isochronous", 9, 1023, 38, 1024)
    INTERRUPT = ("interrupt", 13, 64, 55, 1024)
    BULK = ("bulk", 13, 64, 55, 512)

    def __init__(self, words: str, full_cost: int, full_bytes: int, high_cost: int, high_bytes: int) -> None:
        self.words = words
        self.full_cost, self.full_bytes, self.high_cost, self.high_bytes = full_cost, full_bytes, high_cost, high_bytes


_FULL_FRAME_BYTES, _FRAMES_A_SECOND = 1500, 1000
_HIGH_FRAME_BYTES, _MICROFRAMES_A_SECOND = 7500, 8000


def packets_a_frame(transfer: Transfer, *, high_speed: bool) -> int:
    """How many of the largest packets go into a frame (1 ms), or at high speed into a microframe (125 us)."""
    if high_speed:
        return _HIGH_FRAME_BYTES // (transfer.high_bytes + transfer.high_cost)
    return _FULL_FRAME_BYTES // (transfer.full_bytes + transfer.full_cost)


def packet_ceiling_bps(transfer: Transfer, *, high_speed: bool) -> float:
    """The most payload of a transfer type on a bus of its own, in bits per second."""
    packets = packets_a_frame(transfer, high_speed=high_speed)
    if high_speed:
        return packets * transfer.high_bytes * 8.0 * _MICROFRAMES_A_SECOND
    return packets * transfer.full_bytes * 8.0 * _FRAMES_A_SECOND


@dataclass(frozen=True)
class UsbLink:
    """A signalling rate, all lanes together, with the part of it that is left after line coding."""

    name: str
    rate_bps: float
    coding: float
    coding_words: str
    lanes: int = 1

    @property
    def ceiling_bps(self) -> float:
        """Payload ceiling after line coding, in bits per second."""
        return self.rate_bps * self.coding

    @property
    def bulk_ceiling_bps(self) -> float:
        """The same less what packets cost, in bits per second; what a drive can never exceed.

        Source: USB 3.2, 7.2.1 "Packet" (20 symbols of header packet, 4 of framing before 1,024 bytes, 4 of CRC and 4
        of framing behind them). Tunnelled links carry the same packets.
        """
        if self.rate_bps <= HIGH_SPEED_BPS:
            return self.ceiling_bps
        return self.ceiling_bps * _SUPER_BYTES / (_SUPER_BYTES + _SUPER_COST)


_SUPER_BYTES, _SUPER_COST = 1024, 20 + 4 + 4 + 4
LOW_SPEED = UsbLink(
    "USB 2.0 low speed", 1.5e6, 6 * 8 * 8 * _FRAMES_A_SECOND / 1.5e6, "6 interrupt packets of 8 B a frame"
)
FULL_SPEED = UsbLink(
    "USB 2.0 full speed",
    12e6,
    packet_ceiling_bps(Transfer.BULK, high_speed=False) / 12e6,
    "19 bulk packets of 64 B a frame",
)
HIGH_SPEED = UsbLink(
    "USB 2.0 high speed", HIGH_SPEED_BPS, packet_ceiling_bps(Transfer.BULK, high_speed=True) / HIGH_SPEED_BPS,
    "13 bulk packets of 512 B a microframe",
)  # fmt: skip
GEN_1X1 = UsbLink("USB 3.2 Gen 1x1", 5e9, _8B_10B, "8b/10b")
GEN_2X1 = UsbLink("USB 3.2 Gen 2x1", 10e9, _128B_132B, "128b/132b")
GEN_1X2 = UsbLink("USB 3.2 Gen 1x2", 10e9, _8B_10B, "8b/10b", lanes=2)
GEN_2X2 = UsbLink("USB 3.2 Gen 2x2", 20e9, _128B_132B, "128b/132b", lanes=2)
USB4_20 = UsbLink("USB4 20 Gb/s", 20e9, _64B_66B, "64b/66b", lanes=2)
USB4_40 = UsbLink("USB4 40 Gb/s", 40e9, _128B_132B, "128b/132b", lanes=2)
USB4_80 = UsbLink(
    "USB4 80 Gb/s", 80e9, 1.0, "named after its coding (11 bits in 7 symbols at 25.6 GBd a lane)", lanes=2
)
LINKS = (
    LOW_SPEED, FULL_SPEED, HIGH_SPEED, GEN_1X1, GEN_2X1, GEN_1X2, GEN_2X2, USB4_20, USB4_40, USB4_80,
)  # fmt: skip
"""Source: USB 2.0, 5.7.4 and 5.8.4 (packets a frame); USB 3.2, 6.3.1 "Line Coding"; USB4 2.0, 4.2 "Logical Layer"."""
_NAMES: dict[str, tuple[UsbLink, ...]] = {
    "low speed": (LOW_SPEED,),
    "full speed": (FULL_SPEED,),
    "usb 1.0": (LOW_SPEED, FULL_SPEED),
    "usb 1.1": (LOW_SPEED, FULL_SPEED),
    "high speed": (HIGH_SPEED,),
    "hi-speed": (HIGH_SPEED,),
    "usb 2.0": (HIGH_SPEED, FULL_SPEED),
    "usb 2": (HIGH_SPEED, FULL_SPEED),
    "superspeed": (GEN_1X1,),
    "usb 3.0": (GEN_1X1,),
    "usb 3": (GEN_1X1, GEN_2X1, GEN_2X2),
    "usb 3.1": (GEN_1X1, GEN_2X1),
    "usb 3.1 gen 1": (GEN_1X1,),
    "usb 3.1 gen 2": (GEN_2X1,),
    "usb 3.2": (GEN_1X1, GEN_2X1, GEN_1X2, GEN_2X2),
    "usb 3.2 gen 1": (GEN_1X1,),
    "usb 3.2 gen 2": (GEN_2X1,),
    "superspeed+": (GEN_2X1, GEN_1X2, GEN_2X2),
    "superspeedplus": (GEN_2X1, GEN_1X2, GEN_2X2),
    "gen 1": (GEN_1X1,),
    "gen 2": (GEN_2X1,),
    "gen 1x1": (GEN_1X1,),
    "gen 2x1": (GEN_2X1,),
    "gen 1x2": (GEN_1X2,),
    "gen 2x2": (GEN_2X2,),
    "usb4": (USB4_20, USB4_40, USB4_80),
    "usb4 1.0": (USB4_20, USB4_40),
    "usb4 2.0": (USB4_20, USB4_40, USB4_80),
    "usb4 gen 2x2": (USB4_20,),
    "usb4 gen 3x2": (USB4_40,),
    "usb4 gen 4": (USB4_80,),
    "usb 1.5m": (LOW_SPEED,),
    "usb 12m": (FULL_SPEED,),
    "usb 480m": (HIGH_SPEED,),
    "usb 5g": (GEN_1X1,),
    "usb 10g": (GEN_2X1,),
    "usb 20g": (GEN_2X2, USB4_20),
    "usb 40g": (USB4_40,),
    "usb 80g": (USB4_80,),
    "usb4 20g": (USB4_20,),
    "usb4 40g": (USB4_40,),
    "usb4 80g": (USB4_80,),
    "superspeed 5g": (GEN_1X1,),
    "superspeed 10g": (GEN_2X1,),
    "superspeed 20g": (GEN_2X2,),
}
"""Names that stood on boxes over the years, in `_plain` writing; one with several links behind it says nothing yet."""


def _plain(name: str) -> str:
    """Lower case, one space between words, ``10Gbps`` and ``10 Gb/s`` as ``10g``."""
    text = re.sub(r"\s+", " ", name.strip().lower())
    text = re.sub(r"(\d)\s*([mg])(?:b/s|bps|bit/s|bits/s)\b", r"\1\2", text)
    text = re.sub(r"\bgen\s*(\d)\s*(?:x|×)\s*(\d)", r"gen \1x\2", text)
    text = re.sub(r"\bgen\s*(\d)", r"gen \1", text)
    text = re.sub(r"^usb\s*(?=[1-3](\.\d)?\b)", "usb ", text)
    text = re.sub(r"^usb 4\b", "usb4", text)
    return re.sub(r"^superspeed\s*(\+?)\s*(?:usb\s*)?(?=\d|$)", lambda found: f"superspeed{found[1]} ", text).strip()


def find_link(name: str) -> UsbLink:
    """The one link that a name stands for, whatever name of it was printed.

    Raises: AmbiguousName where several links go by that name, QuantityError where none does.
    """
    for link in LINKS:
        if _plain(link.name) == _plain(name) or _plain(link.name.removeprefix("USB 3.2 ")) == _plain(name):
            return link
    found = _NAMES.get(_plain(name)) or _NAMES.get(_plain(name).replace("superspeed+ ", "superspeed "))
    if not found:
        known = "Write a generation such as Gen 2x1, or the rate such as 10 Gb/s"
        raise QuantityError(f'"{name[:60]}"', why="unknown USB link", do=known)
    if len(found) > 1:
        raise AmbiguousName(name, tuple(f"{link.name} ({link.rate_bps / 1e9:g} Gb/s)" for link in found))
    return found[0]


def link_at(rate_bps: float) -> UsbLink | None:
    """The link of that signalling rate, the plainer one where two share it; None where there is no such USB link."""
    return next((link for link in LINKS if link.rate_bps == rate_bps), None)


def payload_ceiling_bps(rate_bps: float) -> float:
    """The most payload that a link of that signalling rate carries; the rate itself where no coding is known."""
    link = link_at(rate_bps)
    return link.ceiling_bps if link else rate_bps


def slowest_usb_link(payload_bps: float) -> UsbLink | None:
    """The slowest link that such a rate can have come over, the plainer of two; None where none is fast enough."""
    fit = (link for link in LINKS if link.bulk_ceiling_bps >= payload_bps)
    return min(fit, key=lambda link: (link.rate_bps, link.lanes), default=None)
