"""How a table of numbers is written: what parts its cells, which mark is decimal, what each column is called.

Told from the beginning of the file alone, by its columns and never by who wrote it. A person confirms it before
anything is read by it.
"""

from __future__ import annotations

import csv
import json
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from auditra.core.errors import InputError
from auditra.core.quantities.units import find_unit
from auditra.core.sanitize import sanitize

LOOKED_AT_BYTES = 1 << 16
MAX_COLUMNS = 256
_MOST_ROWS = 0.9
"""Of the rows that are looked at; what the others have there is a fault of theirs."""
_MOST_HEADING = 40
"""Lines before the first row of numbers: remarks, names, units."""
_DELIMITERS = ("\t", ";", ",", "|", " ")
_NUMBER = r"[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?"
_IS_NUMBER = re.compile(rf"{_NUMBER}|[Nn]a[Nn]|[+-]?[Ii]nf")
_DECIMAL_COMMA = re.compile(r"[+-]?\d*,\d+(?:[eE][+-]?\d+)?")
_MOMENT = re.compile(r"\d{4}-\d\d-\d\d[T ]\d\d:\d\d(?::\d\d(?:[.,]\d{1,9})?)?(?:Z|[+-]\d\d:?\d\d)?")
_CLOCK = re.compile(r"(?:\d{1,3}:)?\d{1,2}:\d{1,2}(?:[.,]\d{1,9})?")
_NAMED_TIME = re.compile(r"(?i)\b(?:time|timestamp|elapsed|t|zeit|temps|tiempo|seconds?|date)\b|^t(?=_|$)")
_UNIT_BEHIND = re.compile(r"^(.*?)\s*(?:[(\[{]\s*([^()\[\]{}]{1,12})\s*[)\]}]|/\s*([A-Za-zµμ°%Ω]{1,6}))\s*$")
_UNIT_WORD = re.compile(r"^(.*[A-Za-z0-9])[_ ]([A-Za-zµμ°%Ω]{1,6})$")
_SPELLED = {
    "volt": "V", "amp": "A", "ampere": "A", "amperes": "A", "watt": "W", "second": "s", "secs": "s", "msec": "ms",
    "usec": "us", "µs": "us", "μs": "us", "°c": "C", "degc": "C", "deg c": "C", "celsius": "C", "mbps": "Mb/s",
    "gbps": "Gb/s", "kbps": "kb/s",
    "v": "V", "a": "A", "w": "W", "mv": "mV", "ma": "mA", "mw": "mW", "kw": "kW",
}  # fmt: skip
"""What tables write besides the spellings that people type."""
_TIME_UNITS = {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9, "min": 60.0, "h": 3600.0}


class TimeForm(StrEnum):
    """How a column of time is written."""

    NUMBER = "number"
    CLOCK = "clock"
    """``12:30:05.250``, or minutes and seconds."""
    MOMENT = "moment"
    """A date with its time. Source: ISO 8601-1."""


@dataclass(frozen=True)
class Column:
    """One column. `unit` is as written, empty where none is named; `in_si` is what one of it is in SI, if
    that is known."""

    number: int
    """From 0."""
    name: str
    unit: str = ""
    in_si: float | None = None
    dimension: str = ""
    key: str = ""
    """Of an object a line: what it is called there, untouched."""


@dataclass(frozen=True)
class Layout:
    """Everything that reading the rest takes."""

    delimiter: str
    decimal_comma: bool
    first_row: int
    """The line of the first row of numbers, from 1."""
    columns: tuple[Column, ...]
    time: int | None = None
    """Which column is time; None where there is none, and rows are counted."""
    time_form: TimeForm = TimeForm.NUMBER
    time_factor: float = 1.0
    """Seconds in one of the column's unit."""
    is_json: bool = False
    encoding: str = "utf-8"


def cells_of(line: str, delimiter: str) -> list[str]:
    """The cells of a line, without quotes and blanks around them; several blanks are one."""
    if delimiter == " ":
        return line.split()
    if '"' not in line:
        return [cell.strip() for cell in line.split(delimiter)]
    try:
        cells = next(csv.reader([line], delimiter=delimiter, skipinitialspace=True), [])
    except csv.Error:  # a cell that is too long, or a line end within one
        cells = line.split(delimiter)
    return [cell.strip() for cell in cells]


def encoding_of(head: bytes) -> str:
    """By its mark; text that is no UTF-8 is read byte by byte."""
    if head[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return "utf-16"
    try:
        head.decode("utf-8")
    except UnicodeDecodeError as error:
        return "utf-8-sig" if error.start >= len(head) - 4 else "latin-1"
    return "utf-8-sig"


def detect_layout(head: bytes, name: str = "the table") -> Layout:
    """From the first bytes of a file, however many come. Raises: InputError where it has no rows of numbers."""
    head = head[:LOOKED_AT_BYTES]
    encoding = encoding_of(head)
    lines = head.decode(encoding, "replace").splitlines()
    if len(head) >= LOOKED_AT_BYTES:
        lines = lines[:-1]  # the last may be cut
    if lines and lines[0].lstrip().startswith("{") and (of_json := _of_json(lines, encoding)) is not None:
        return of_json
    found = [each for each in (_with(delimiter, lines, encoding) for delimiter in _DELIMITERS) if each is not None]
    if not found:
        why = "no rows of numbers were found in it"
        raise InputError(sanitize(name, 80), why=why, do="Name a table with a row a line, such as CSV")
    return max(found, key=lambda each: each[0])[1]


def _of_json(lines: Sequence[str], encoding: str) -> Layout | None:
    """An object a line: its numbers are the columns, by their keys."""
    rows: list[dict[str, object]] = []
    for line in lines[:_MOST_HEADING]:
        try:
            told = json.loads(line)
        except (ValueError, RecursionError):
            continue
        if isinstance(told, dict):
            rows.append(told)
    names = [str(name) for name in rows[0]][:MAX_COLUMNS] if rows else []
    body = [[str(row.get(name, "")) for name in names] for row in rows]
    if not any(_is_number(cell, ";") for row in body for cell in row):
        return None
    columns = tuple(_json_column(number, name) for number, name in enumerate(names))
    time, form, factor = _time_of(columns, body)
    return Layout("", False, 1, columns, time, form, factor, is_json=True, encoding=encoding)


def _json_column(number: int, key: str) -> Column:
    symbol, in_si, dimension = _unit_of(_parted(key)[1])
    return Column(number, sanitize(key, 40), symbol, in_si, dimension, key)


def _with(delimiter: str, lines: Sequence[str], encoding: str) -> tuple[tuple[float, int], Layout] | None:
    """The layout if cells are parted so, with how many rows fit (each as far as its cells are numbers), and columns."""
    rows = [cells_of(line, delimiter) for line in lines]
    first = next((n for n, row in enumerate(rows[: _MOST_HEADING + 1]) if _is_row(row, delimiter)), None)
    if first is None or len(rows[first]) > MAX_COLUMNS:
        return None
    width = len(rows[first])
    body = [row for row in rows[first:] if len(row) == width and _is_row(row, delimiter)]
    if width < 2 and delimiter != _DELIMITERS[0]:
        return None
    comma = delimiter != "," and any(_DECIMAL_COMMA.fullmatch(cell) for row in body for cell in row)
    columns = tuple(_columns(rows[:first], width))
    time, form, factor = _time_of(columns, body)
    layout = Layout(delimiter, comma, first + 1, columns, time, form, factor, encoding=encoding)
    told = [cell for row in body for cell in row if cell]
    share = sum(_is_number(cell, delimiter) or _is_moment(cell) for cell in told) / len(told)
    return (len(body) * share, width), layout


def _is_row(row: Sequence[str], delimiter: str) -> bool:
    """Whether half the cells or more are numbers or moments, and at least one is a number."""
    told = [cell for cell in row if cell]
    numbers = sum(_is_number(cell, delimiter) for cell in told)
    moments = sum(_is_moment(cell) for cell in told)
    return numbers > 0 and 2 * (numbers + moments) >= len(row)


def _is_moment(cell: str) -> bool:
    return _MOMENT.fullmatch(cell) is not None or _CLOCK.fullmatch(cell) is not None


def _is_number(cell: str, delimiter: str) -> bool:
    return _IS_NUMBER.fullmatch(cell) is not None and not (delimiter == "," and "," in cell)


def _columns(heading: Sequence[Sequence[str]], width: int) -> Iterator[Column]:
    """By the last line above the numbers that has as many cells; a line of units alone goes with the one above it."""
    fitting = [row for row in heading if len(row) == width and any(row)]
    units: Sequence[str] = ()
    if len(fitting) > 1 and all(not cell or _unit_of(cell.strip("()[] "))[0] for cell in fitting[-1]):
        units = [cell.strip("()[] ") for cell in fitting[-1]]
        fitting = fitting[:-1]
    names = fitting[-1] if fitting else ()
    for number in range(width):
        words = names[number] if names else ""
        name, unit = (words, units[number]) if units else _parted(words)
        symbol, in_si, dimension = _unit_of(unit)
        yield Column(
            number, sanitize(name or f"column {number + 1}", 40), sanitize(symbol or unit, 12), in_si, dimension
        )


def _parted(words: str) -> tuple[str, str]:
    """``Voltage (V)``, ``U/V``, ``bus_mA``: name and unit."""
    behind = _UNIT_BEHIND.match(words)
    if behind is not None:
        return behind[1] or words, behind[2] or behind[3]
    word = _UNIT_WORD.match(words)
    if word is not None and _unit_of(word[2])[0]:
        return word[1], word[2]
    return words, words if len(words) > 1 and _unit_of(words)[0] else ""


def _unit_of(written: str) -> tuple[str, float | None, str]:
    """Its symbol as this product writes it, its size in SI and its dimension; nothing for what is no unit."""
    if not written:
        return "", None, ""
    symbol = written if find_unit(written) is not None else _SPELLED.get(written.lower(), written)
    if symbol in _TIME_UNITS:
        return symbol, _TIME_UNITS[symbol], "s"
    unit = find_unit(symbol)
    return (unit.symbol, unit.in_si, str(unit.dimension)) if unit is not None else ("", None, "")


def _time_of(columns: Sequence[Column], body: Sequence[Sequence[str]]) -> tuple[int | None, TimeForm, float]:
    """The column that says when: a moment, a clock, a number that is called so, or a first column that only rises."""
    for form, pattern in ((TimeForm.MOMENT, _MOMENT), (TimeForm.CLOCK, _CLOCK)):
        for column in columns:
            told = sum(pattern.fullmatch(row[column.number]) is not None for row in body)
            if body and told >= _MOST_ROWS * len(body):
                return column.number, form, 1.0
    for column in columns:
        is_time = column.unit in _TIME_UNITS or (not column.unit and _NAMED_TIME.search(column.name))
        if is_time and _rises(body, column.number):
            return column.number, TimeForm.NUMBER, _TIME_UNITS.get(column.unit, 1.0)
    if columns and not columns[0].unit and len(body) > 2 and len(columns) > 1 and _rises(body, 0):
        return 0, TimeForm.NUMBER, 1.0
    return None, TimeForm.NUMBER, 1.0


def _rises(body: Sequence[Sequence[str]], number: int) -> bool:
    values = [_float(row[number]) for row in body]
    known = [value for value in values if value is not None]
    return len(known) >= max(1.0, _MOST_ROWS * len(values)) and all(a <= b for a, b in pairwise(known))


def _float(cell: str) -> float | None:
    try:
        return float(cell.replace(",", "."))
    except ValueError:
        return None
