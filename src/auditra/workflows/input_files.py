"""Files that somebody names: read up to a length, and only where they are plain files.

Reading a pipe without a writer would block, and a device may never end.
"""

from __future__ import annotations

import os
import stat
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import BinaryIO

from auditra.core.errors import InputError
from auditra.core.sanitize import sanitize


@contextmanager
def open_plain(path: Path, *, do: str = "Name a file that can be read", follow: bool = True) -> Iterator[BinaryIO]:
    """A plain file, open for reading; without `follow`, a link in its place is refused.

    Raises: InputError for anything else.
    """
    flags = os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC | (0 if follow else os.O_NOFOLLOW)
    try:
        handle = os.open(path, flags)
    except (OSError, ValueError) as error:
        raise _refused(path, getattr(error, "strerror", None) or str(error), do) from error
    try:
        if not stat.S_ISREG(os.fstat(handle).st_mode):
            raise _refused(path, "not a regular file", do)
        file = os.fdopen(handle, "rb")
    except BaseException:
        os.close(handle)
        raise
    with file:
        yield file


def read_plain(path: Path, most: int, *, do: str = "Name a file that can be read", follow: bool = True) -> bytes:
    """All of a plain file. Raises: InputError for anything else, and for one of more than so many bytes."""
    with open_plain(path, do=do, follow=follow) as file:
        try:
            data = file.read(most + 1)
        except OSError as error:
            raise _refused(path, error.strerror or str(error), do) from error
    if len(data) > most:
        raise _refused(path, f"it is longer than {most} bytes", "Cut it to what is wanted")
    return data


def _refused(path: Path, why: str, do: str) -> InputError:
    return InputError(sanitize(str(path), 200), why=sanitize(why, 120), do=do)
