"""Test packets for delay and loss, so that any reflector of the standard serves.

Source: RFC 8762 (Simple Two-Way Active Measurement Protocol), 4.2.1 and 4.3.1, unauthenticated mode; timestamps as in
RFC 5905, 6 (NTP): seconds since 1900 and their fraction.
"""

from __future__ import annotations

import struct
from dataclasses import dataclass

PACKET_BYTES = 44
MAX_PACKET_BYTES = 65_507
"""Source: RFC 768 and RFC 791: 65,535 less the headers."""
_SENT = struct.Struct(">IIIH30x")
_REFLECTED = struct.Struct(">IIIH2xIIIIIH2xB3x")
_NTP_S = 2_208_988_800
"""Between the beginnings of the two clocks: 1900 and 1970."""
_FRACTION = 1 << 32
_UNSYNCHRONIZED_ERROR = 0x0001
"""Source: RFC 4656, 4.1.2: S is 0, for a clock that is not synchronised; a multiplier of 1."""


@dataclass(frozen=True)
class Reflected:
    """A packet that came back: which one, and when the reflector had it, by its own clock, in seconds since 1970."""

    number: int
    sent_s: float
    received_s: float
    returned_s: float


def encode_sent(number: int, now_s: float, size: int = PACKET_BYTES) -> bytes:
    """A sender's packet of so many bytes, 44 at least; what is more is zeros."""
    seconds, fraction = _ntp(now_s)
    packet = _SENT.pack(number & 0xFFFFFFFF, seconds, fraction, _UNSYNCHRONIZED_ERROR)
    return packet + bytes(max(0, size - PACKET_BYTES))


def encode_reflected(packet: bytes, number: int, received_s: float, now_s: float, ttl: int = 255) -> bytes | None:
    """The answer to a sender's packet, as long as that; None for what is none."""
    if not PACKET_BYTES <= len(packet) <= MAX_PACKET_BYTES:
        return None
    sequence, seconds, fraction, error = _SENT.unpack_from(packet)
    answer = _REFLECTED.pack(
        number & 0xFFFFFFFF, *_ntp(now_s), _UNSYNCHRONIZED_ERROR, *_ntp(received_s), sequence, seconds, fraction, error,
        ttl & 0xFF,
    )  # fmt: skip
    return answer + bytes(len(packet) - PACKET_BYTES)


def decode_reflected(packet: bytes) -> Reflected | None:
    """What came back; None for bytes that are no such packet."""
    if len(packet) < PACKET_BYTES:
        return None
    fields = _REFLECTED.unpack_from(packet)
    _, returned, returned_part, _, received, received_part, number, sent, sent_part, _, _ = fields
    return Reflected(number, _unix(sent, sent_part), _unix(received, received_part), _unix(returned, returned_part))


def _ntp(now_s: float) -> tuple[int, int]:
    seconds = int(now_s)
    return (seconds + _NTP_S) & 0xFFFFFFFF, min(_FRACTION - 1, int((now_s - seconds) * _FRACTION))


def _unix(seconds: int, fraction: int) -> float:
    return seconds - _NTP_S + fraction / _FRACTION
