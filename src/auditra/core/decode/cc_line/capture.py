"""A capture file, of whatever form, as what was said on its CC line."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import chain

import numpy as np

from auditra.core.decode.cc_line.biphase import FASTEST_BPS
from auditra.core.decode.cc_line.conversation import CcLine, as_log, spoken_line
from auditra.core.decode.cc_line.edges import Capture
from auditra.core.decode.cc_line.samples import columns_of_volts, read_samples
from auditra.core.decode.cc_line.waveform import begins_like_vcd, read_vcd
from auditra.core.decode.power_delivery import log
from auditra.core.decode.power_delivery.conversation import Conversation
from auditra.core.decode.power_delivery.hearing import MAX_TURNS, hold_conversation
from auditra.core.decode.power_delivery.messages import Start
from auditra.core.decode.problem import Problem
from auditra.core.errors import InputError
from auditra.core.tables.layout import LOOKED_AT_BYTES, Layout, detect_layout
from auditra.core.tables.reader import read_table

MAX_CAPTURE_BYTES = 1 << 30
_LOOK_BYTES = 4096


@dataclass(frozen=True)
class CapturedPacket:
    """One packet of a capture. Times are seconds from its beginning; `data` is in hexadecimal, from the header on, with
    the CRC. `start` is None where no ordered set can be made out."""

    number: int
    start_s: float
    end_s: float
    start: Start | None
    name: str
    data: str
    bit_rate_bps: float
    is_sound: bool
    answered: bool | None
    """Whether a GoodCRC followed in time; None for what none is due to."""
    problems: tuple[Problem, ...] = ()


@dataclass(frozen=True)
class Captured:
    """What a capture comes to."""

    wire: str
    wires: tuple[str, ...]
    edges: int
    glitches: int
    """Edges that were left out because they are too close together to be data."""
    packets: int
    sound: int
    """Packets that a receiver would take."""
    unanswered: int
    conversation: Conversation = field(default_factory=Conversation)
    heard: tuple[CapturedPacket, ...] = ()
    problems: tuple[Problem, ...] = ()
    """Of the file; their offsets are bytes, or lines of a table."""


def is_capture(head: bytes) -> bool:
    """Whether a file that begins so is a capture, and no log of messages."""
    return begins_like_vcd(head) or _layout_of(head) is not None


def _layout_of(head: bytes) -> Layout | None:
    """Of a table of times and volts; None for what is none, or a log of messages."""
    if any(
        isinstance(line, log.Line) for line in log.read_log(head[:_LOOK_BYTES].decode("utf-8", "replace").splitlines())
    ):
        return None
    try:
        layout = detect_layout(head)
    except InputError:
        return None
    return layout if columns_of_volts(layout) and _is_fast_enough(head, layout) else None


def _is_fast_enough(head: bytes, layout: Layout) -> bool:
    """Half a bit is the shortest level: a log of volts at a slower pace holds no message, whatever its values."""
    if layout.time is None:
        return False
    times = read_table([head[:LOOKED_AT_BYTES]], layout, ()).time_s
    return len(times) > 1 and float(np.median(np.diff(times))) <= 1 / (2 * FASTEST_BPS)


def read_capture(pieces: Iterable[bytes], wire: str = "") -> Captured:
    """The conversation on a wire, or on the one that most was said on. Never raises for what is in the file."""
    pieces = iter(pieces)
    head = b""
    for piece in pieces:
        head += piece
        if len(head) >= LOOKED_AT_BYTES:
            break
    whole = chain([head], pieces)
    if begins_like_vcd(head):
        return _told(read_vcd(whole), wire)
    layout = _layout_of(head)
    return _told(read_samples(whole, layout) if layout is not None else Capture(()), wire)


def _told(capture: Capture, wire: str) -> Captured:
    names = tuple(line.name for line in capture.lines)
    line = spoken_line(capture, wire)
    if line is None:
        return Captured("", names, 0, 0, 0, 0, 0, problems=capture.problems)
    return Captured(
        line.name, names, line.edges, line.glitches, len(line.said), line.sound, len(line.unanswered),
        hold_conversation(as_log(line), place="message"), tuple(_packets(line)), capture.problems,
    )  # fmt: skip


def _packets(line: CcLine) -> Iterable[CapturedPacket]:
    for number, each in enumerate(line.said[:MAX_TURNS], 1):
        packet, message = each.packet, each.message
        yield CapturedPacket(
            number, round(packet.start_s, 9), round(packet.end_s, 9), packet.start,
            message.name if message is not None else "unreadable", packet.data.hex(), round(packet.bit_rate_bps, 1),
            each.is_sound, each.answered, message.problems if message is not None else packet.problems,
        )  # fmt: skip
