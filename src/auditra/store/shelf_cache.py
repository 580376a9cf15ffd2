"""The shelf's rows, kept to be shown before the library is opened; a throw-away that is checked before it is shown.

Each row has a digest of what stands in it: a row that was damaged, or written by hand, is left out and judged again.
"""

from __future__ import annotations

import json
import zlib
from contextlib import suppress
from dataclasses import asdict, fields
from pathlib import Path
from typing import Any

from auditra import __version__
from auditra.workflows.shelf import ShelfRow

FILE = "shelf.json"
MAX_BYTES = 64 << 20
_TEXTS = frozenset(each.name for each in fields(ShelfRow) if each.type == "str")
_IN_ORDER = tuple(each.name for each in fields(ShelfRow) if each.name != "marks")
_COUNTS = frozenset(each.name for each in fields(ShelfRow) if each.type == "int")


def read_rows(folder: Path) -> dict[str, ShelfRow]:
    """Rows by audit, as they were last written; without those that are damaged, none that another version wrote."""
    try:
        with (folder / FILE).open("rb") as file:
            kept = json.loads(file.read(MAX_BYTES))
        rows = kept["rows"] if kept["version"] == __version__ else []
        return {row.name: row for each in rows if (row := _row(each)) is not None}
    except (OSError, ValueError, KeyError, TypeError, RecursionError):
        return {}


def write_rows(folder: Path, rows: tuple[ShelfRow, ...]) -> None:
    """Keep the rows; a disk that refuses costs only time at the next start."""
    from auditra.workflows.output_files import write_atomically  # not needed before the first paint

    kept = [asdict(row) | {"digest": _digest(asdict(row))} for row in rows]
    text = json.dumps({"version": __version__, "rows": kept}, ensure_ascii=False)
    with suppress(OSError, UnicodeEncodeError):
        write_atomically(folder / FILE, text.encode())


def _row(kept: Any) -> ShelfRow | None:
    """None where something in it is not what it should be."""
    if not isinstance(kept, dict):
        return None
    values = {key: value for key, value in kept.items() if key != "digest"}
    sound = (
        values.keys() == {each.name for each in fields(ShelfRow)}
        and all(type(values[name]) is str for name in _TEXTS)
        and all(type(values[name]) is int for name in _COUNTS)
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
