"""Files that a command is given: read up to a length, from a path or from standard input."""

from __future__ import annotations

import sys
from pathlib import Path

from auditra.core.errors import InputError
from auditra.workflows.input_files import read_plain

STANDARD_INPUT = Path("-")


def read_bounded(path: Path, most: int, *, do: str = "Name a file that can be read") -> bytes:
    """All of it. Raises: InputError for one that cannot be read, or has more than so many bytes."""
    if path != STANDARD_INPUT:
        return read_plain(path, most, do=do)
    try:
        data = sys.stdin.buffer.read(most + 1)
    except OSError as error:
        raise InputError(f"{path}", why=error.strerror or str(error), do=do) from error
    if len(data) > most:
        raise InputError(f"{path}", why=f"it is longer than {most} bytes", do="Cut it to what is wanted")
    return data
