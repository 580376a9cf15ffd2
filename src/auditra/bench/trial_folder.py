"""The folder that a trial makes on a drive: known by its own marker, and the only thing there that is ever removed.

A reviewer's folder may have any name, a link may lie under ours, and a drive may be another one than a moment ago. So
everything is done relative to the open folder, no link is followed, and only the two files that a trial writes are
taken away.
"""

from __future__ import annotations

import errno
import fcntl
import json
import os
import secrets
import stat
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path

PREFIX = "auditra-trial-"
DATA, MARKER = "data.bin", "made-by-auditra.json"
_MAX_MARKER_BYTES = 4096
_FOLDER_FLAGS = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC


_NOT_OPEN = -1
_OURS: set[TrialFolder] = set()
"""What this process has made, or is about to make."""


class TrialFolder:
    """A new folder with its marker, held open. Raises: OSError."""

    def __init__(self, place: Path) -> None:
        token = secrets.token_hex(8)
        self.path, self.handle = place / f"{PREFIX}{token}", _NOT_OPEN
        _OURS.add(self)  # first of all: a signal may end the process between any two of these lines
        try:
            os.mkdir(self.path, 0o700)
            self.handle = os.open(self.path, _FOLDER_FLAGS)
            self._write_marker(token)
        except OSError:
            self.remove()
            raise

    def open_data(self) -> tuple[int, bool]:
        """The data file, new, and whether reads and writes go past the host's memory. Raises: OSError."""
        flags = os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
        direct = getattr(os, "O_DIRECT", 0)
        try:
            return os.open(DATA, flags | direct, 0o600, dir_fd=self.handle), bool(direct)
        except OSError as error:
            if not direct or error.errno != errno.EINVAL:  # this file system has no direct I/O
                raise
        with suppress(FileNotFoundError):
            os.unlink(DATA, dir_fd=self.handle)
        return os.open(DATA, flags, 0o600, dir_fd=self.handle), False

    def remove(self) -> None:
        """Remove what was written, and the folder. A drive that is gone has nothing left to remove."""
        if self in _OURS:
            _OURS.discard(self)
            if self.handle == _NOT_OPEN:
                with suppress(OSError):  # it was never made, or never opened, and then it is empty
                    os.rmdir(self.path)
            else:
                _remove(self.path, self.handle)

    def _write_marker(self, token: str) -> None:
        body = {"made_by": "auditra", "token": token, "process": os.getpid(), "at": time.time()}
        flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
        file = os.open(MARKER, flags, 0o600, dir_fd=self.handle)
        try:
            os.write(file, json.dumps(body).encode())
            os.fsync(file)
        finally:
            os.close(file)


def remove_all() -> None:
    """Remove every folder that this process still has on a drive: it is about to end."""
    for folder in tuple(_OURS):
        folder.remove()


@dataclass(frozen=True)
class Leftover:
    """What an interrupted trial left on a drive."""

    path: Path
    size_bytes: int


def leftovers(place: Path) -> tuple[Leftover, ...]:
    """Leftover folders of trials that no process holds any more, known by marker and device, not by name."""
    with suppress(OSError):
        return tuple(found for path in sorted(place.glob(f"{PREFIX}*")) if (found := _leftover(path)) is not None)
    return ()


def remove_leftover(left: Leftover) -> bool:
    """Remove one, if it still is what it was; whether it is gone."""
    with suppress(OSError):
        with _checked(left.path) as handle:
            if handle is None or not _is_free(handle):
                return False
            _remove(left.path, os.dup(handle))
        return not left.path.exists()
    return False


def _leftover(path: Path) -> Leftover | None:
    with suppress(OSError), _checked(path) as handle:
        if handle is not None and _is_free(handle):
            return Leftover(path, _data_size(handle))
    return None


@contextmanager
def _checked(path: Path) -> Iterator[int | None]:
    """The open folder; None where it is not a trial's own: its marker must name it, and lie on the same device."""
    handle = os.open(path, _FOLDER_FLAGS)
    try:
        status = os.fstat(handle)
        token = path.name.removeprefix(PREFIX)
        marker = _read_marker(handle)
        names = set(os.listdir(handle))
        same_drive = status.st_dev == os.stat(path.parent).st_dev  # nothing is mounted over it
        ours = marker.get("made_by") == "auditra" and marker.get("token") == token and status.st_uid == os.geteuid()
        yield handle if ours and same_drive and names <= {DATA, MARKER} else None
    finally:
        os.close(handle)


def _read_marker(handle: int) -> dict[str, object]:
    file = os.open(MARKER, os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC, dir_fd=handle)
    try:
        if not stat.S_ISREG(os.fstat(file).st_mode):
            return {}
        read = json.loads(os.read(file, _MAX_MARKER_BYTES))
    except ValueError:
        return {}
    finally:
        os.close(file)
    return read if isinstance(read, dict) else {}


def _is_free(handle: int) -> bool:
    """No running trial holds its data file."""
    try:
        file = os.open(DATA, os.O_RDWR | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC, dir_fd=handle)
    except FileNotFoundError:
        return True
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    finally:
        os.close(file)
    return True


def _data_size(handle: int) -> int:
    with suppress(OSError):
        status = os.stat(DATA, dir_fd=handle, follow_symlinks=False)
        return status.st_size if stat.S_ISREG(status.st_mode) else 0
    return 0


def _remove(path: Path, handle: int) -> None:
    """The two files of an open folder, then the folder, if it still is the one that lies there; closes the handle."""
    try:
        for name in (DATA, MARKER):
            with suppress(OSError):
                if stat.S_ISREG(os.stat(name, dir_fd=handle, follow_symlinks=False).st_mode):
                    os.unlink(name, dir_fd=handle)
        with suppress(OSError):
            there, held = os.lstat(path), os.fstat(handle)
            if (there.st_dev, there.st_ino) == (held.st_dev, held.st_ino):
                os.rmdir(path)
    finally:
        with suppress(OSError):
            os.close(handle)
