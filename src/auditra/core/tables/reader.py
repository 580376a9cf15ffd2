"""The columns of a table, by its layout: NumPy reads what is well written, and lines that are not are named.

The text is read in pieces, so that no more room is needed than the columns take and one piece.
"""

from __future__ import annotations

import codecs
import json
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime

import numpy as np
import numpy.typing as npt

from auditra.core.sanitize import sanitize
from auditra.core.tables.layout import Layout, TimeForm, cells_of

Values = npt.NDArray[np.float64]

MAX_ROWS = 20_000_000
_MAX_BAD_ROWS_TOLD = 20
_PIECE_CHARACTERS = 1 << 20
"""Enough for NumPy to be fast, and little beside the columns of a long table."""
_FEW_LINES = 256
_CLOCK_PARTS = (1.0, 60.0, 3600.0)


@dataclass(frozen=True)
class BadRow:
    """A line that is no row of the table, counted from 1."""

    line: int
    why: str


@dataclass(frozen=True, eq=False)
class Table:
    """The columns that were wanted, in SI where the unit is known; `time_s` counts from the first row."""

    time_s: Values
    columns: dict[int, Values]
    bad_rows: tuple[BadRow, ...] = ()
    """The first of them."""
    left_out: int = 0
    """How many lines are no rows."""
    is_cut: bool = False
    """It has more rows than are read."""
    goes_back: int = 0
    """How often the time goes back."""

    def __len__(self) -> int:
        return len(self.time_s)


@dataclass
class _Reading:
    layout: Layout
    wanted: tuple[int, ...]
    times: list[Values] = field(default_factory=list)
    columns: list[list[Values]] = field(default_factory=list)
    """Of each wanted column its pieces, which are joined one column after the other: that takes the least room."""
    bad: list[BadRow] = field(default_factory=list)
    left_out: int = 0
    rows: int = 0
    origin: datetime | None = None
    """The moment of the first row."""
    line: int = 1
    """The number of the line that comes next."""


def read_table(pieces: Iterable[bytes], layout: Layout, wanted: Sequence[int]) -> Table:
    """The wanted columns, by number. Never raises for what is in the text."""
    reading = _Reading(layout, tuple(wanted), columns=[[] for _ in wanted])
    for text in _lines_of(pieces, layout.encoding):
        _take(reading, text)
        if reading.rows >= MAX_ROWS:
            break
    return _table(reading)


def _lines_of(pieces: Iterable[bytes], encoding: str) -> Iterator[str]:
    """Whole lines, in pieces of a good size, however large those are that come."""
    decoder = codecs.getincrementaldecoder(encoding)("replace")
    gathered: list[str] = []
    size = 0
    for piece in _small(pieces):
        gathered.append(decoder.decode(piece))
        size += len(gathered[-1])
        if size >= _PIECE_CHARACTERS:
            text = "".join(gathered)
            cut = text.rfind("\n") + 1 or len(text)
            yield text[:cut]
            gathered, size = [text[cut:]], len(text) - cut
    text = "".join(gathered) + decoder.decode(b"", True)
    if text:
        yield text


def _small(pieces: Iterable[bytes]) -> Iterator[bytes]:
    for piece in pieces:
        for at in range(0, len(piece), _PIECE_CHARACTERS):
            yield piece[at : at + _PIECE_CHARACTERS]


def _take(reading: _Reading, text: str) -> None:
    if reading.layout.decimal_comma:
        text = text.replace(",", ".")
    lines = text.splitlines()
    skip = max(0, reading.layout.first_row - reading.line)
    first_line = reading.line + skip
    reading.line += len(lines)
    if len(lines) > skip:
        _rows(reading, lines[skip:] if skip else lines, first_line)


def _rows(reading: _Reading, lines: list[str], first_line: int) -> None:
    """Quickly where all lines are alike; else by halves, until what is odd is among few."""
    block = _quickly(reading, lines)
    if block is None and len(lines) > _FEW_LINES and _may_be_quick(reading.layout):
        half = len(lines) // 2
        _rows(reading, lines[:half], first_line)
        _rows(reading, lines[half:], first_line + half)
        return
    times, values = block if block is not None else _row_by_row(reading, lines, first_line)
    reading.times.append(times)
    for pieces, column in zip(reading.columns, values.T, strict=True):
        pieces.append(column.copy())
    reading.rows += len(times)


def _may_be_quick(layout: Layout) -> bool:
    return not layout.is_json and layout.time_form is TimeForm.NUMBER and layout.delimiter != " "


def _quickly(reading: _Reading, lines: list[str]) -> tuple[Values, npt.NDArray[np.float64]] | None:
    """By NumPy; None where a line is not as the others are."""
    layout = reading.layout
    if not _may_be_quick(layout):
        return None
    rows = _loaded(lines, layout.delimiter, None)
    if rows is not None and rows.shape[1] == len(layout.columns):
        values, times = rows[:, list(reading.wanted)], None if layout.time is None else rows[:, layout.time]
    else:  # some column is of words
        rows = _loaded(lines, layout.delimiter, (*reading.wanted, *(() if layout.time is None else (layout.time,))))
        if rows is None:
            return None
        values, times = (rows, None) if layout.time is None else (rows[:, :-1], rows[:, -1])
    if times is None:
        return np.arange(reading.rows, reading.rows + len(rows), dtype=np.float64), values
    return times * layout.time_factor, values


def _loaded(lines: Sequence[str], delimiter: str, columns: Sequence[int] | None) -> npt.NDArray[np.float64] | None:
    try:
        return np.loadtxt(lines, delimiter=delimiter, usecols=columns, ndmin=2, comments=None, dtype=np.float64)
    except (ValueError, IndexError):
        return None


def _row_by_row(reading: _Reading, lines: Sequence[str], first_line: int) -> tuple[Values, npt.NDArray[np.float64]]:
    times: list[float] = []
    rows: list[list[float]] = []
    for line, words in enumerate(lines, first_line):
        if not words.strip():
            continue
        try:
            when, values = _of_json(reading, words) if reading.layout.is_json else _of_cells(reading, words)
        except (ValueError, IndexError, KeyError, TypeError, OverflowError, RecursionError) as error:
            _left_out(reading, line, words, error)
            continue
        times.append(reading.rows + len(times) if when is None else when)
        rows.append(values)
    shaped = np.array(rows, dtype=np.float64).reshape(len(rows), len(reading.wanted))
    return np.array(times, dtype=np.float64), shaped


def _left_out(reading: _Reading, line: int, words: str, error: Exception) -> None:
    reading.left_out += 1
    if len(reading.bad) < _MAX_BAD_ROWS_TOLD:
        what = "a cell is missing" if isinstance(error, IndexError) else "a cell is no number"
        reading.bad.append(BadRow(line, f'{what} in "{sanitize(words, 60)}"'))


def _of_cells(reading: _Reading, words: str) -> tuple[float | None, list[float]]:
    """Raises: ValueError, IndexError for a line that is no row."""
    layout = reading.layout
    cells = cells_of(words, layout.delimiter)
    when = None if layout.time is None else _seconds(reading, cells[layout.time])
    return when, [_number(cells[column]) for column in reading.wanted]


def _of_json(reading: _Reading, words: str) -> tuple[float | None, list[float]]:
    """Raises: ValueError, KeyError for a line that is no object with these keys."""
    told = json.loads(words)
    layout = reading.layout
    values = [float(told[layout.columns[column].key]) for column in reading.wanted]
    return (None if layout.time is None else _seconds(reading, str(told[layout.columns[layout.time].key]))), values


def _number(cell: str) -> float:
    if not cell:
        return float("nan")  # an empty cell is no value, and no fault
    return float(cell)


def _seconds(reading: _Reading, cell: str) -> float:
    layout = reading.layout
    if layout.time_form is TimeForm.NUMBER:
        return _number(cell) * layout.time_factor
    cell = cell.replace(",", ".")  # seconds may have a comma of their own
    if layout.time_form is TimeForm.CLOCK:
        parts = [float(part) for part in cell.split(":")]
        return sum(part * factor for part, factor in zip(reversed(parts), _CLOCK_PARTS, strict=False))
    whole, _, part = re.sub(r"(?:Z|[+-]\d\d:?\d\d)$", "", cell).partition(".")
    moment = datetime.fromisoformat(whole)
    reading.origin = reading.origin or moment
    return (moment - reading.origin).total_seconds() + (float(f"0.{part}") if part else 0.0)


def _table(reading: _Reading) -> Table:
    times = _joined(reading.times)
    columns: dict[int, Values] = {}
    for number, pieces in zip(reading.wanted, reading.columns, strict=True):
        column = reading.layout.columns[number]
        values = _joined(pieces)
        if column.in_si is not None:
            values *= column.in_si
        columns[number] = values
    back = int((np.diff(times) < 0).sum())
    first = float(times[0]) if len(times) else 0.0
    times -= first
    return Table(times, columns, tuple(reading.bad), reading.left_out, reading.rows >= MAX_ROWS, back)


def _joined(pieces: list[Values]) -> Values:
    whole = np.concatenate(pieces) if pieces else np.zeros(0)
    pieces.clear()
    return whole
