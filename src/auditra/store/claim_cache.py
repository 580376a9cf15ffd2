"""What was last said of each claim, kept so that a search judges nothing again; a throw-away like the shelf's rows."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import astuple, fields
from pathlib import Path

from auditra.store.kept_lines import read_lines, write_lines
from auditra.workflows.audits.claim_rows import ClaimRow

FILE = "claims.jsonl"
MAX_BYTES = 512 << 20
_FIELDS = len(fields(ClaimRow))
ByAudit = Mapping[str, tuple[str, tuple[ClaimRow, ...]]]
"""By audit: the link that its journal ended in, and its claims."""


def read_claims(folder: Path) -> dict[str, tuple[str, tuple[ClaimRow, ...]]]:
    """All that is sound; nothing that another version wrote, nothing of a file that was damaged."""
    kept = read_lines(folder / FILE, MAX_BYTES)
    if not kept.is_whole:
        return {}
    try:
        lines = (json.loads(line) for line in kept.lines)
        return {str(name): (str(link), _claims(rows)) for name, link, rows in lines}
    except (ValueError, TypeError, RecursionError):
        return {}


def write_claims(folder: Path, kept: ByAudit) -> None:
    """A disk that refuses costs only time at the next search."""
    lines = (json.dumps([name, link, _values(rows)]) for name, (link, rows) in kept.items())
    write_lines(folder / FILE, lines)


def encode_claims(rows: Iterable[ClaimRow]) -> str:
    """As JSON."""
    return json.dumps(_values(rows))


def decode_claims(text: str) -> tuple[ClaimRow, ...] | None:
    """None where something in it is not what it should be."""
    try:
        return _claims(json.loads(text))
    except (ValueError, TypeError, RecursionError):
        return None


def _values(rows: Iterable[ClaimRow]) -> list[tuple[str, ...]]:
    return [astuple(row) for row in rows]


def _claims(rows: object) -> tuple[ClaimRow, ...]:
    """Raises: ValueError for what is none."""
    if not isinstance(rows, list):
        raise ValueError("no rows of claims")
    return tuple(_claim(row) for row in rows)


def _claim(values: object) -> ClaimRow:
    if not isinstance(values, list) or len(values) != _FIELDS or not all(type(value) is str for value in values):
        raise ValueError("no row of a claim")
    return ClaimRow(*values)
