"""The claims of a library as a table that other programs read: CSV, JSON lines or Parquet, by the file's ending."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Sequence
from dataclasses import asdict, fields
from pathlib import Path

from auditra.core.errors import InputError, StoreError
from auditra.workflows.audits.claim_rows import ClaimRow
from auditra.workflows.output_files import make_folder, write_atomically

COLUMNS = tuple(field.name for field in fields(ClaimRow))
_RISKY = ("=", "+", "-", "@", "\t", "\r")
"""How a cell begins that a spreadsheet takes for a formula."""


def write_claims_table(rows: Sequence[ClaimRow], path: Path) -> Path:
    """Raises: InputError for another ending, or where Parquet's package is missing; StoreError."""
    made = _FORMATS.get(path.suffix.lower())
    if made is None:
        raise InputError(f'"{path.name}"', why="the ending says no format", do=f"Known: {', '.join(_FORMATS)}")
    data = made(rows)
    try:
        make_folder(path.parent)
        return write_atomically(path, data)
    except OSError as error:
        raise StoreError(f"{path}", why=error.strerror or str(error), do="Choose another file") from error


def _csv(rows: Sequence[ClaimRow]) -> bytes:
    table = io.StringIO()
    writer = csv.writer(table, lineterminator="\n")
    writer.writerow(COLUMNS)
    writer.writerows([_harmless(getattr(row, column)) for column in COLUMNS] for row in rows)
    return table.getvalue().encode()


def _harmless(cell: str) -> str:
    """Names come from outside: what would be a formula is text."""
    return f"'{cell}" if cell.startswith(_RISKY) else cell


def _json_lines(rows: Sequence[ClaimRow]) -> bytes:
    return b"".join(json.dumps(asdict(row), ensure_ascii=False).encode() + b"\n" for row in rows)


def _parquet(rows: Sequence[ClaimRow]) -> bytes:
    try:
        import pyarrow as arrow
        from pyarrow import parquet
    except ImportError:
        do = "Install it: pip install 'auditra[parquet]', or name a .csv or .jsonl file"
        raise InputError("Parquet", why="it needs the package pyarrow", do=do) from None
    schema = arrow.schema([(column, arrow.string()) for column in COLUMNS])
    columns = {column: [getattr(row, column) for row in rows] for column in COLUMNS}
    table = io.BytesIO()
    parquet.write_table(arrow.table(columns, schema=schema), table)
    return table.getvalue()


_FORMATS: dict[str, Callable[[Sequence[ClaimRow]], bytes]] = {
    ".csv": _csv, ".jsonl": _json_lines, ".parquet": _parquet,
}  # fmt: skip
