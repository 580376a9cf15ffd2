"""What was said on a captured line: its packets as messages, and which of them was answered.

Source: USB PD R3.1, 6.3.1 (GoodCRC), 6.7.2 (retries), table 6-70 (tReceive).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from auditra.core.decode.cc_line.biphase import bursts_of
from auditra.core.decode.cc_line.edges import Capture, Line
from auditra.core.decode.cc_line.packets import Packet, packets_of
from auditra.core.decode.power_delivery import log
from auditra.core.decode.power_delivery.messages import Message, decode_message
from auditra.core.decode.problem import Code, Problem

ANSWERED_WITHIN_S = 1.1e-3
"""tReceive at most."""


@dataclass(frozen=True)
class Said:
    """One packet with the message that it carries; `message` is None where its beginning was lost."""

    packet: Packet
    message: Message | None
    answered: bool | None = None
    """Whether a GoodCRC with its number followed in time; None for what none is due to."""

    @property
    def is_sound(self) -> bool:
        """A receiver would take it: its CRC fits, whatever else is odd about it."""
        return self.message is not None and not self.message.is_damaged


@dataclass(frozen=True)
class CcLine:
    """What was said on one wire."""

    name: str
    edges: int
    glitches: int
    said: tuple[Said, ...]

    @property
    def sound(self) -> int:
        return sum(each.is_sound for each in self.said)

    @property
    def unanswered(self) -> tuple[Said, ...]:
        """Messages that came whole, and drew no GoodCRC that was captured."""
        return tuple(each for each in self.said if each.answered is False)


def read_line(line: Line) -> CcLine:
    """Every packet of a wire. Never raises."""
    bursts = bursts_of(line.edges_s)
    said = [_said(packet) for packet in packets_of(bursts)]
    return CcLine(line.name, len(line.edges_s), bursts.glitches, tuple(_with_answers(said)))


def spoken_line(capture: Capture, name: str = "") -> CcLine | None:
    """The wire of a name; without one, that with most sound messages. None where there is no such wire."""
    wanted = [line for line in capture.lines if not name or line.name == name or line.name.endswith(f".{name}")]
    read = [read_line(line) for line in wanted]
    return max(read, key=lambda each: (each.sound, len(each.said)), default=None)


def as_log(line: CcLine) -> Iterator[log.Line | log.TornLine]:
    """Packets as the lines of a log, numbered from 1; what is damaged stays so."""
    for number, each in enumerate(line.said, 1):
        if each.message is None:
            yield log.TornLine(number, each.packet.problems[0].words)
        else:
            yield log.Line(number, each.packet.start_s, each.message)


def _said(packet: Packet) -> Said:
    if packet.start is None:
        return Said(packet, None)
    message = decode_message(packet.data, packet.start)
    if not packet.start.is_reset and not message.has_crc and not message.is_damaged:
        # on the wire there is always a CRC; bytes without one are a log's alone
        lacks = Problem(len(packet.data), Code.SHORT, "no CRC")
        message = replace(message, problems=(*message.problems, lacks))
    return Said(packet, replace(message, problems=(*packet.problems, *message.problems)))


def _with_answers(said: Sequence[Said]) -> Iterator[Said]:
    for number, each in enumerate(said):
        message = each.message
        if message is None or not each.is_sound or message.start.is_reset or message.name == "GoodCRC":
            yield each
            continue
        following = said[number + 1] if number + 1 < len(said) else None
        yield replace(each, answered=following is not None and _answers(following, each))


def _answers(following: Said, before: Said) -> bool:
    answer, asked = following.message, before.message
    if answer is None or asked is None or answer.name != "GoodCRC" or not following.is_sound:
        return False
    in_time = following.packet.start_s - before.packet.end_s <= ANSWERED_WITHIN_S
    return in_time and answer.start is asked.start and answer.identifier == asked.identifier
