"""Files written whole or not at all: onto the disk under a passing name, then under their own."""

from __future__ import annotations

import os
import secrets
from contextlib import suppress
from pathlib import Path


def write_atomically(path: Path, data: bytes) -> Path:
    """Once this returns, the file is on disk; a link that lies in the way is replaced, never followed.

    Raises: OSError.
    """
    passing = path.with_name(f".{path.name[:40]}.{os.getpid()}.{secrets.token_hex(4)}")
    handle = os.open(passing, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW, 0o666)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.replace(passing, path)
        sync_folder(path.parent)
    finally:
        with suppress(FileNotFoundError):
            os.unlink(passing)
    return path


def make_folder(folder: Path) -> None:
    """The folder with its parents, their names on disk too. Raises: OSError."""
    if folder.is_dir():
        return
    make_folder(folder.parent)
    folder.mkdir(exist_ok=True)
    sync_folder(folder.parent)


def sync_folder(folder: Path) -> None:
    """The names in a folder are on disk; some file systems cannot do that for a folder, and do not need it."""
    with suppress(PermissionError, IsADirectoryError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            with suppress(OSError):
                os.fsync(handle)
        finally:
            os.close(handle)
