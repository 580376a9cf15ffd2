"""The shelf's rows, kept to be shown before the library is opened; a throw-away that is checked before it is shown.

A first line with the names and a digest of all that follows, then a line a row. Where that digest fits, a row is read
once it is looked at; else each row is compared with a digest of its own, and one that was damaged is judged again.
"""

from __future__ import annotations

import json
import zlib
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import asdict, fields
from pathlib import Path
from typing import Any, overload

from auditra import __version__
from auditra.store.kept_lines import read_lines, write_lines
from auditra.workflows.audits.shelf import ShelfRow, row_in_trouble

FILE = "shelf.jsonl"
_FORMER_FILE = "shelf.json"
MAX_BYTES = 64 << 20
_TEXTS = frozenset(field.name for field in fields(ShelfRow) if field.type == "str")
_IN_ORDER = tuple(each.name for each in fields(ShelfRow) if each.name != "marks")
_COUNTS = frozenset(each.name for each in fields(ShelfRow) if each.type == "int")
_TRUTHS = frozenset(each.name for each in fields(ShelfRow) if each.type == "bool")


class KeptRows(Sequence[ShelfRow]):
    """Rows as they were last written; each is made when it is looked at."""

    def __init__(
        self, names: tuple[str, ...] = (), lines: tuple[bytes, ...] = (), archived: frozenset[str] = frozenset()
    ) -> None:
        self.names, self._lines, self._archived = names, lines, archived

    @property
    def in_use(self) -> KeptRows:
        """Those that are not put away."""
        if not self._archived:
            return self
        pairs = [pair for pair in zip(self.names, self._lines, strict=True) if pair[0] not in self._archived]
        return KeptRows(tuple(name for name, _ in pairs), tuple(line for _, line in pairs))

    def __len__(self) -> int:
        return len(self._lines)

    @overload
    def __getitem__(self, index: int) -> ShelfRow: ...
    @overload
    def __getitem__(self, index: slice) -> tuple[ShelfRow, ...]: ...
    def __getitem__(self, index: int | slice) -> ShelfRow | tuple[ShelfRow, ...]:
        if isinstance(index, slice):
            return tuple(self[each] for each in range(*index.indices(len(self))))
        return decode_row(self._lines[index]) or row_in_trouble(self.names[index], "", "not judged yet")


def kept_rows(folder: Path) -> KeptRows:
    """The rows as they were last written; without those that are damaged, none that another version wrote."""
    kept = read_lines(folder / FILE, MAX_BYTES)
    names, archived = kept.head.get("names"), kept.head.get("archived")
    if kept.is_whole and isinstance(names, list) and isinstance(archived, list) and len(names) == len(kept.lines):
        return KeptRows(tuple(map(str, names)), kept.lines, frozenset(map(str, archived)))
    sound = [(row.name, line) for line in kept.lines if (row := decode_row(line)) is not None]
    return KeptRows(tuple(name for name, _ in sound), tuple(line for _, line in sound))


def read_rows(folder: Path) -> dict[str, ShelfRow]:
    """All of them that are sound, by audit."""
    return {row.name: row for row in kept_rows(folder) if row.head}


def write_rows(folder: Path, rows: tuple[ShelfRow, ...]) -> None:
    """Keep the rows; a disk that refuses costs only time at the next start."""
    names, archived = [row.name for row in rows], [row.name for row in rows if row.archived]
    write_lines(folder / FILE, map(encode_row, rows), {"names": names, "archived": archived})
    with suppress(OSError):
        (folder / _FORMER_FILE).unlink(missing_ok=True)


def encode_row(row: ShelfRow) -> str:
    """As JSON, with a digest of its own."""
    values = asdict(row)
    return json.dumps(values | {"digest": _digest(values)})


def decode_row(line: bytes | str) -> ShelfRow | None:
    """None where something in it is not what it should be."""
    try:
        kept = json.loads(line)
    except (ValueError, RecursionError):
        return None
    if not isinstance(kept, dict):
        return None
    values = {key: value for key, value in kept.items() if key != "digest"}
    sound = (
        values.keys() == {field.name for field in fields(ShelfRow)}
        and all(type(values[name]) is str for name in _TEXTS)
        and all(type(values[name]) is int for name in _COUNTS)
        and all(type(values[name]) is bool for name in _TRUTHS)
        and _are_pairs(values["marks"])
        and kept.get("digest") == _digest(values)
    )
    return ShelfRow(**(values | {"marks": tuple(map(tuple, values["marks"]))})) if sound else None


def _are_pairs(marks: Any) -> bool:
    return isinstance(marks, list) and all(
        isinstance(mark, list) and len(mark) == 2 and all(type(part) is str for part in mark) for mark in marks
    )


def _digest(values: dict[str, Any]) -> int:
    """Of a row as it is written; marks are lists there, and tuples here. It finds damage and a careless hand, no more:
    whoever can write this file can write the library, whose chain is what is believed."""
    marks = ";".join(f"{port}={word}" for port, word in values["marks"])
    parts = [f"{values[name]}" for name in _IN_ORDER]
    return zlib.crc32("\x1f".join((__version__, *parts, marks)).encode("utf-8", "surrogatepass"))
