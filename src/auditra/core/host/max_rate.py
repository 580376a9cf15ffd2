"""The fastest link that a USB device says it can make, whatever link it has."""

from __future__ import annotations

from auditra.core.decode.usb_capabilities import Capabilities

LOW_SPEED_MBPS = 1.5
FULL_SPEED_MBPS, HIGH_SPEED_MBPS, SUPERSPEED_MBPS = 12.0, 480.0, 5000.0


def could_mbps(version: str | None, speed_mbps: float | None, told: Capabilities | None) -> tuple[float | None, str]:
    """The rate in Mb/s with its source; None if the device reports none.

    A version is what a device claims at the speed that it has: 2.10 proves nothing by itself, and 3.10 or 3.20 no more
    than 5 Gb/s. A low-speed device shows by its wires that it is one, and knows no other speed.
    Source: USB 3.2, 9.2.6.6 and 9.6.2; bcdUSB: USB 2.0, 9.6.1; low speed: USB 2.0, 7.1.5.1.
    """
    if speed_mbps == LOW_SPEED_MBPS:
        return LOW_SPEED_MBPS, "its wires"
    if told is not None and told.most_mbps is not None:
        return max(told.most_mbps, speed_mbps or 0.0), "its capabilities"
    major, _, minor = (version or "").strip().partition(".")
    if not major.isdigit():
        return None, ""
    if int(major) >= 3:
        return max(SUPERSPEED_MBPS, speed_mbps or 0.0), "its version"
    if int(major) == 1:
        return FULL_SPEED_MBPS, "its version"
    told_nothing_more = told is not None or not minor.startswith("1")
    if told_nothing_more and speed_mbps is not None and speed_mbps >= HIGH_SPEED_MBPS:
        return HIGH_SPEED_MBPS, "its version"
    return None, ""
