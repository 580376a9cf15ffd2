"""A log of messages as text: a line a message, with its time, who is spoken to, and its bytes in hexadecimal.

    # anything behind a # is a remark
    0.000000 SOP  a1 61 2c 91 01 0a
    0.001240 SOP  41 00
    0.500000 Hard_Reset

The bytes begin with the header; a CRC may stand behind them, and is then checked. See docs/decoders.md.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from auditra.core.decode.power_delivery.messages import MAX_MESSAGE_LENGTH, Message, Start, decode_message
from auditra.core.sanitize import sanitize

MAX_LINE_LENGTH = 4096
_LINE = re.compile(
    r"\s*(\d{1,12}(?:\.\d{1,9})?)\s+(?:(SOP'{0,2}|SOP'{1,2}_Debug)\s+((?:[0-9a-fA-F]{2}\s*)+)|(Hard_Reset|Cable_Reset))",
    re.ASCII,
)


@dataclass(frozen=True)
class Line:
    """A message in its place; times are seconds."""

    number: int
    time_s: float
    message: Message


@dataclass(frozen=True)
class TornLine:
    """A line that is no message, counted from 1."""

    number: int
    why: str


def read_log(lines: Iterable[str]) -> Iterator[Line | TornLine]:
    """Line by line, so that a log of any length can be read. Never raises."""
    for number, line in enumerate(lines, 1):
        said = line.partition("#")[0].strip()
        if not said:
            continue
        if len(line) > MAX_LINE_LENGTH:
            yield TornLine(number, f"it has {len(line)} characters; {MAX_LINE_LENGTH} are the most")
            continue
        match = _LINE.fullmatch(said)
        if match is None:
            yield TornLine(number, f'"{sanitize(said, 40)}" is no time, start and bytes')
            continue
        if match[4]:
            yield Line(number, float(match[1]), decode_message(b"", Start(match[4])))
            continue
        data = bytes.fromhex("".join(match[3].split()))
        if len(data) > MAX_MESSAGE_LENGTH:
            yield TornLine(number, f"it has {len(data)} bytes; {MAX_MESSAGE_LENGTH} are the most of a message")
            continue
        yield Line(number, float(match[1]), decode_message(data, Start(match[2])))
