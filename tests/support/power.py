"""Messages of USB Power Delivery, put together as the standard lays them out, and logs of them."""

from __future__ import annotations

import zlib
from collections.abc import Sequence

CONTROL = {"GoodCRC": 1, "Accept": 3, "Reject": 4, "PS_RDY": 6, "Wait": 12, "Soft_Reset": 13, "Not_Supported": 16}
DATA = {"offer": 1, "request": 2, "wish": 4, "epr request": 9, "epr mode": 10, "info": 11, "revision": 12, "vendor": 15}
EPR_OFFER = 17


def fixed(volts: float, amperes: float, traits: int = 0) -> int:
    return traits << 23 | round(volts * 20) << 10 | round(amperes * 100)


def pps(least: float, most: float, amperes: float) -> int:
    return 0b1100 << 28 | round(most * 10) << 17 | round(least * 10) << 8 | round(amperes * 20)


def epr_avs(least: float, most: float, watts: int) -> int:
    return 0b1101 << 28 | round(most * 10) << 17 | round(least * 10) << 8 | watts


def spr_avs(low_a: float, high_a: float) -> int:
    return 0b1110 << 28 | round(low_a * 100) << 10 | round(high_a * 100)


def battery(least: float, most: float, watts: float) -> int:
    return 1 << 30 | round(most * 20) << 20 | round(least * 20) << 10 | round(watts * 4)


def variable(least: float, most: float, amperes: float) -> int:
    return 2 << 30 | round(most * 20) << 20 | round(least * 20) << 10 | round(amperes * 100)


def ask(position: int, amperes: float, *, mismatch: bool = False, epr: bool = False) -> int:
    steps = round(amperes * 100)
    return position << 28 | mismatch << 26 | epr << 22 | steps << 10 | steps


def ask_pps(position: int, volts: float, amperes: float) -> int:
    return position << 28 | round(volts * 50) << 9 | round(amperes * 20)


def header(kind: int, count: int = 0, *, source: bool = False, identifier: int = 0, extended: bool = False) -> bytes:
    word = extended << 15 | count << 12 | identifier << 9 | source << 8 | 2 << 6 | kind
    return word.to_bytes(2, "little")


def control(name: str, *, source: bool = True) -> bytes:
    return header(CONTROL[name], source=source)


def data(name: str, *words: int, source: bool = True) -> bytes:
    body = b"".join((word & 0xFFFFFFFF).to_bytes(4, "little") for word in words)
    return header(DATA[name], len(words), source=source) + body


def chunk(kind: int, whole: bytes, number: int, *, source: bool = True) -> bytes:
    piece = whole[26 * number : 26 * number + 26]
    word = 1 << 15 | number << 11 | len(whole)
    padded = piece + bytes(-(2 + len(piece)) % 4)
    count = (2 + len(padded)) // 4
    return header(kind, count, source=source, extended=True) + word.to_bytes(2, "little") + padded


def vendor(svid: int, command: int, *words: int, answer: int = 1, cable: bool = False, source: bool = False) -> bytes:
    """`answer` is 0 asked, 1 answered, 2 refused."""
    first = svid << 16 | 1 << 15 | 1 << 13 | answer << 6 | command
    return data("vendor", first, *words, source=source or cable)


def with_crc(message: bytes) -> bytes:
    return message + zlib.crc32(message).to_bytes(4, "little")


def log(*said: tuple[str, bytes], crc: bool = False) -> list[str]:
    """A line a message, a millisecond apart."""
    lines = ["# a made-up conversation"]
    for number, (start, message) in enumerate(said):
        told = with_crc(message) if crc else message
        lines.append(f"{number / 1000:.6f} {start} {told.hex(' ')}")
    return lines


def conversation(
    offers: Sequence[int] = (fixed(5, 3), fixed(9, 3), fixed(15, 3), fixed(20, 5)),
    request: int = ask(4, 4.5),
    *,
    cable: Sequence[int] | None = (0x18001F6E, 0, 0x05010100, 0x00082042),
) -> list[tuple[str, bytes]]:
    """A source that asks the cable, offers, is asked, grants, and is ready."""
    said = [("SOP'", vendor(0xFF00, 1, answer=0))]
    if cable is not None:
        said.append(("SOP'", vendor(0xFF00, 1, *cable, cable=True)))
    said += [("SOP", data("offer", *offers)), ("SOP", control("GoodCRC", source=False))]
    said += [("SOP", data("request", request, source=False)), ("SOP", control("Accept")), ("SOP", control("PS_RDY"))]
    return said
