"""A value change dump as edges. Source: IEEE 1364-2005, 18.2 (four-state VCD).

Text is read in pieces of any size, so that a capture of any length needs no more room than its edges. Two ways lead
through a piece: where time stamps have as many digits as each other and one wire changes at each, the text is a matrix
of characters; else it is taken token by token. Both work on whole arrays.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from auditra.core.decode.cc_line.decimals import MAX_DIGITS, decimals, decimals_of_columns
from auditra.core.decode.cc_line.edges import Capture, Line
from auditra.core.decode.problem import Code, Problems
from auditra.core.sanitize import sanitize

Bytes = npt.NDArray[np.uint8]
Ticks = npt.NDArray[np.int64]

MAX_HEADER_BYTES = 1 << 20
MAX_WIRES = 256
MAX_TOKEN_BYTES = 1 << 16
"""A token that is longer than this is none: what follows is not looked at."""
_UNITS = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9, "ps": 1e-12, "fs": 1e-15}
_TIMESCALE = re.compile(rb"\$timescale\s+(\d{1,6})\s*([munpf]?s)\s+\$end")
_DECLARATION = re.compile(
    rb"\$(scope\s+\S+\s+(\S+)|upscope|var\s+(\S+)\s+(\d{1,6})\s+(\S+)\s+(.*?))\s*\$end", re.DOTALL
)
_COMMENT = re.compile(rb"\$comment\b.*?(?:\$end|$)", re.DOTALL)
_ENDS_HEADER = re.compile(rb"\$enddefinitions\b\s*\$end")
_HASH, _ZERO, _ONE, _SPACE = ord("#"), ord("0"), ord("1"), 32
_STEP_BYTES = 1 << 16
"""So much of one wire's text is taken by words where it is no matrix, such as where a digit is added; then a matrix is
tried again."""
_LEAST_ROWS = 8
"""Fewer records of one layout are not worth a matrix."""
_UNKNOWN = 2
_OF_VECTOR = np.zeros(256, dtype=bool)
_OF_VECTOR[[ord(letter) for letter in "bBrR"]] = True
"""What a value of several bits, or a real one, begins with; its identifier is the next word."""
_LEVELS = np.full(256, 255, dtype=np.uint8)
_LEVELS[[_ZERO, _ONE]] = (0, 1)
_LEVELS[[ord(letter) for letter in "xXzZ"]] = _UNKNOWN


def begins_like_vcd(data: bytes) -> bool:
    """Whether a file is a value change dump, by its first word."""
    return re.match(rb"\s*\$(?:date|version|comment|timescale|scope|var|enddefinitions)\b", data[:4096]) is not None


@dataclass
class _Wire:
    name: str
    identifier: bytes
    times: list[Ticks] = field(default_factory=list)
    levels: list[Bytes] = field(default_factory=list)


@dataclass
class _Reading:
    """What has been read so far."""

    problems: Problems = field(default_factory=Problems)
    wires: dict[bytes, list[_Wire]] = field(default_factory=dict)
    tick_s: float = 1e-9
    now: int = 0
    """The last time stamp."""
    offset: int = 0
    """The byte at which the piece begins."""
    unknown: int = 0


def read_vcd(pieces: Iterable[bytes]) -> Capture:
    """The wires of one bit, with their edges. Never raises for what is in the text."""
    reading = _Reading()
    rest = b""
    is_header, is_cut = True, False
    for piece in pieces:
        rest += piece
        if is_header:
            ends = _ENDS_HEADER.search(rest)
            if ends is None and len(rest) < MAX_HEADER_BYTES:
                continue
            _header(reading, rest[: ends.end() if ends else 0])
            reading.offset, rest, is_header = (ends.end(), rest[ends.end() :], False) if ends else (0, rest, False)
        cut = _last_break(rest)
        if cut == 0 and len(rest) > MAX_TOKEN_BYTES:
            reading.problems.add(reading.offset, Code.LONG, f"a word of more than {MAX_TOKEN_BYTES} bytes")
            rest, is_cut = b"", True
            break
        _body(reading, rest[:cut])
        reading.offset, rest = reading.offset + cut, rest[cut:]
    if is_header:
        reading.problems.add(len(rest), Code.SHORT, "it ends before $enddefinitions")
    elif rest.strip():
        _body(reading, rest + b"\n")
    return _capture(reading, is_cut)


def _last_break(text: bytes) -> int:
    """Where a piece can be cut: behind the last line that is followed by a time stamp, so that no pair is torn."""
    at = text.rfind(b"\n#")
    return at + 1 if at >= 0 else max(text.rfind(b"\n"), text.rfind(b" ")) + 1 if len(text) > MAX_TOKEN_BYTES else 0


def _header(reading: _Reading, text: bytes) -> None:
    scale = _TIMESCALE.search(text)
    if scale is None:
        reading.problems.add(0, Code.SHORT, "no $timescale: nanoseconds are assumed")
    else:
        reading.tick_s = int(scale[1]) * _UNITS[scale[2].decode("ascii")]
    scopes: list[str] = []
    count = 0
    for match in _DECLARATION.finditer(_COMMENT.sub(b"", text)):
        if match[2] is not None:
            scopes.append(_words(match[2]))
        elif match[3] is None:
            scopes = scopes[:-1]
        elif match[4] == b"1" and count < MAX_WIRES:
            count += 1
            name = ".".join((*scopes[1:], _words(re.sub(rb"\s*\[0\]$", b"", match[6].strip()))))
            reading.wires.setdefault(match[5], []).append(_Wire(name, match[5]))
    if not reading.wires:
        reading.problems.add(0, Code.COUNT, "no wire of one bit is declared")


def _words(text: bytes) -> str:
    return sanitize(text.decode("utf-8", "replace"), 60)


def _body(reading: _Reading, text: bytes) -> None:
    """Value changes of whole lines."""
    if b"$comment" in text:
        text = _COMMENT.sub(lambda match: b" " * len(match[0]), text)
    at = 0
    while at < len(text):
        taken = _matrix(reading, text, at)
        if not taken:
            taken = _tokens(reading, text[at : at + _STEP_BYTES] if len(reading.wires) == 1 else text[at:], at)
        at += taken


def _matrix(reading: _Reading, text: bytes, at: int) -> int:
    """How many bytes were read as rows of one length: ``#``, digits, a line end, a level, the identifier, a line
    end."""
    if len(reading.wires) != 1 or text[at : at + 1] != b"#":
        return 0
    length = text.find(b"#", at + 1) - at
    identifier, wires = next(iter(reading.wires.items()))
    line_end = 2 if text[at + length - 2 : at + length - 1] == b"\r" else 1
    digits = length - 2 - 2 * line_end - len(identifier)
    rows = (len(text) - at) // length if length > 0 else 0
    if rows < _LEAST_ROWS or not 0 < digits <= MAX_DIGITS:
        return 0
    matrix = np.frombuffer(text, dtype=np.uint8, count=rows * length, offset=at).reshape(rows, length)
    times, wrong = decimals_of_columns(matrix[:, 1 : 1 + digits])
    level = 1 + digits + line_end
    fits = (matrix[:, 0] == _HASH) & ((matrix[:, level] | 1) == _ONE)
    for column in (*range(1 + digits, level), *range(level + 1, length)):
        fits &= matrix[:, column] == text[at + column]
    if text[at + level + 1 : at + level + 1 + len(identifier)] != identifier:
        return 0
    fits &= ~wrong
    good = rows if fits.all() else int(fits.argmin())
    if good < _LEAST_ROWS:
        return 0
    _keep(reading, wires, _in_order(reading, times[:good], at), matrix[:good, level] - _ZERO)
    return good * length


def _tokens(reading: _Reading, text: bytes, at: int) -> int:
    """Everything up to the last line end, by words; how many bytes that were."""
    cut = text.rfind(b"\n#") + 1 if len(text) >= _STEP_BYTES else len(text)
    cut = cut or len(text)
    letters = np.frombuffer(text, dtype=np.uint8, count=cut)
    blank = letters <= _SPACE
    changes = np.diff(np.concatenate(([True], blank, [True])).view(np.int8))
    starts, ends = np.flatnonzero(changes == -1), np.flatnonzero(changes == 1)
    if not len(starts):
        return cut
    first = letters[starts]
    is_identifier = np.concatenate(([False], _OF_VECTOR[first[:-1]]))
    is_time = (first == _HASH) & (ends - starts > 1) & ~is_identifier
    times = _in_order(reading, _numbers(reading, letters, starts[is_time] + 1, ends[is_time], at), at, keep=False)
    passed = np.cumsum(is_time)
    clock = np.concatenate(([reading.now], times))[passed]
    reading.now = int(clock[-1])
    level = _LEVELS[first]
    is_scalar = (level != 255) & (ends - starts > 1) & ~is_identifier
    scalars, identifiers = np.flatnonzero(is_scalar), np.flatnonzero(is_identifier)
    for identifier, wires in reading.wires.items():
        here = scalars[_is_called(letters, starts[scalars] + 1, ends[scalars], identifier)]
        named = identifiers[_is_called(letters, starts[identifiers], ends[identifiers], identifier)]
        where, values = here, level[here]
        if len(named):
            where = np.concatenate((here, named))
            values = np.concatenate((values, _LEVELS[letters[ends[named - 1] - 1]]))
            order = np.argsort(where)
            where, values = where[order], values[order]
        _keep(reading, wires, clock[where], values)
    return cut


def _is_called(letters: Bytes, starts: Ticks, ends: Ticks, identifier: bytes) -> npt.NDArray[np.bool_]:
    found: npt.NDArray[np.bool_] = ends - starts == len(identifier)
    for n, letter in enumerate(identifier):
        found &= letters[np.minimum(starts + n, len(letters) - 1)] == letter
    return found


def _numbers(reading: _Reading, letters: Bytes, starts: Ticks, ends: Ticks, at: int) -> Ticks:
    """Time stamps; one that is no number repeats the one before it."""
    lengths = ends - starts
    numbers, wrong = decimals(letters, ends, lengths)
    wrong |= lengths > MAX_DIGITS
    if wrong.any():
        place = reading.offset + at + int(starts[wrong.argmax()])
        words = f"{int(wrong.sum())} time stamps that are no numbers of up to {MAX_DIGITS} digits"
        reading.problems.add(place, Code.LENGTH, words)
        numbers[wrong] = -1
    return numbers


def _in_order(reading: _Reading, times: Ticks, at: int, *, keep: bool = True) -> Ticks:
    """Never back in time: what goes back is told, and taken for the latest that was seen."""
    risen = np.maximum.accumulate(np.concatenate(([reading.now], times)))[1:]
    back = (risen != times) & (times >= 0)
    if back.any():
        words = f"{int(back.sum())} time stamps go back in time"
        reading.problems.add(reading.offset + at, Code.ORDER, words)
    if keep and len(risen):
        reading.now = int(risen[-1])
    return risen


def _keep(reading: _Reading, wires: list[_Wire], times: Ticks, levels: Bytes) -> None:
    unknown = levels > _ONE - _ZERO
    if unknown.any():
        reading.unknown += int(unknown.sum())
        times, levels = times[~unknown], levels[~unknown]
    for wire in wires:
        wire.times.append(times)
        wire.levels.append(levels)


def _capture(reading: _Reading, is_cut: bool) -> Capture:
    if reading.unknown:
        words = f"{reading.unknown} changes to an unknown or floating level, which are left out"
        reading.problems.add(0, Code.CONTRADICTION, words)
    return Capture(tuple(_lines(reading)), tuple(reading.problems), not is_cut)


def _lines(reading: _Reading) -> Iterator[Line]:
    for wires in reading.wires.values():
        for wire in wires:
            times = np.concatenate(wire.times) if wire.times else np.zeros(0, dtype=np.int64)
            levels = np.concatenate(wire.levels) if wire.levels else np.zeros(0, dtype=np.uint8)
            changed = np.flatnonzero(np.diff(levels)) + 1
            yield Line(wire.name, times[changed].astype(np.float64) * reading.tick_s)
