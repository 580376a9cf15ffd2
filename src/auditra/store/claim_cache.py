"""What was last said of each claim, kept so that a search judges nothing again; a throw-away like the shelf's rows."""

from __future__ import annotations

import json
import zlib
from collections.abc import Iterable, Mapping
from contextlib import suppress
from dataclasses import astuple, fields
from pathlib import Path

from auditra import __version__
from auditra.workflows.audits.claim_rows import ClaimRow
from auditra.workflows.output_files import write_atomically

FILE = "claims.jsonl"
MAX_BYTES = 512 << 20
_FIELDS = len(fields(ClaimRow))
ByAudit = Mapping[str, tuple[str, tuple[ClaimRow, ...]]]
"""By audit: the link that its journal ended in, and its claims."""


def read_claims(folder: Path) -> dict[str, tuple[str, tuple[ClaimRow, ...]]]:
    """All that is sound; nothing that another version wrote, nothing of a file that was damaged."""
    try:
        with (folder / FILE).open("rb") as file:
            head, body = json.loads(file.readline(1 << 16)), file.read(MAX_BYTES)
        if head["version"] != __version__ or head["digest"] != zlib.crc32(body):
            return {}
        lines = (json.loads(line) for line in body.splitlines())
        return {str(name): (str(link), tuple(_row(row) for row in rows)) for name, link, rows in lines}
    except (OSError, ValueError, KeyError, TypeError, RecursionError):
        return {}


def write_claims(folder: Path, kept: ByAudit) -> None:
    """A disk that refuses costs only time at the next search."""
    body = b"".join(_line(name, link, rows) for name, (link, rows) in kept.items())
    head = {"version": __version__, "digest": zlib.crc32(body)}
    with suppress(OSError):
        write_atomically(folder / FILE, json.dumps(head).encode() + b"\n" + body)


def _line(name: str, link: str, rows: Iterable[ClaimRow]) -> bytes:
    return json.dumps([name, link, [astuple(row) for row in rows]]).encode() + b"\n"


def _row(values: list[object]) -> ClaimRow:
    """Raises: ValueError for what is none."""
    if len(values) != _FIELDS or not all(type(value) is str for value in values):
        raise ValueError("no row of a claim")
    return ClaimRow(*map(str, values))
