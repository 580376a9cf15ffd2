"""A file of lines that may be thrown away at any time: another version's are not read, and damage is noticed."""

from __future__ import annotations

import json
import zlib
from collections.abc import Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from auditra import __version__


@dataclass(frozen=True)
class KeptLines:
    """Its first line is the head; `is_whole` where the digest that stands there is that of all which follows."""

    head: Mapping[str, Any]
    lines: tuple[bytes, ...]
    is_whole: bool


NONE = KeptLines({}, (), is_whole=False)


def read_lines(file: Path, most_bytes: int) -> KeptLines:
    """What was kept; `NONE` where there is nothing that this version wrote."""
    try:
        with file.open("rb") as opened:
            head, body = json.loads(opened.readline(most_bytes)), opened.read(most_bytes)
        if head["version"] != __version__:
            return NONE
        return KeptLines(head, tuple(body.splitlines()), head["digest"] == zlib.crc32(body))
    except (OSError, ValueError, KeyError, TypeError, RecursionError):
        return NONE


def write_lines(file: Path, lines: Iterable[str], head: Mapping[str, Any] | None = None) -> None:
    """A disk that refuses costs only time at the next start."""
    from auditra.workflows.output_files import write_atomically  # not needed before the first paint

    with suppress(OSError, UnicodeEncodeError):
        body = b"".join(line.encode() + b"\n" for line in lines)
        first = {"version": __version__, "digest": zlib.crc32(body), **(head or {})}
        write_atomically(file, json.dumps(first).encode() + b"\n" + body)
