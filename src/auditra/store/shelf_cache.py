"""The shelf's rows, kept to be shown before the library is opened; a throw-away, always made anew."""

from __future__ import annotations

import json
import os
from dataclasses import asdict
from pathlib import Path

from auditra import __version__
from auditra.workflows.shelf import ShelfRow

FILE = "shelf.json"


def read_rows(folder: Path) -> dict[str, ShelfRow]:
    """Rows by audit, as they were last written; nothing where they were written by another version, or are damaged."""
    try:
        kept = json.loads((folder / FILE).read_text(encoding="utf-8"))
        if kept["version"] != __version__:
            return {}
        return {row["name"]: ShelfRow(**(row | {"marks": tuple(map(tuple, row["marks"]))})) for row in kept["rows"]}
    except (OSError, ValueError, KeyError, TypeError):
        return {}


def write_rows(folder: Path, rows: tuple[ShelfRow, ...]) -> None:
    """Keep the rows; a disk that refuses costs only time at the next start."""
    passing = folder / f"{FILE}.{os.getpid()}"
    try:
        text = json.dumps({"version": __version__, "rows": [asdict(row) for row in rows]}, ensure_ascii=False)
        passing.write_text(text, encoding="utf-8")
        passing.replace(folder / FILE)
    except OSError:
        passing.unlink(missing_ok=True)
