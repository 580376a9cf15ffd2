"""A file on a real drive as a data target: past the host's memory where the file system allows."""

from __future__ import annotations

import errno
import fcntl
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from auditra.bench.path import same_device
from auditra.core.errors import TargetError

FOLDER_PREFIX = "auditra-trial-"
FILE = "data.bin"
_SPARE_BYTES = 64 << 20
"""Left free on the drive, so that a trial never fills it."""


class FileTarget:
    """Room in a folder of its own on the drive, which is removed again at the end.

    `direct` says whether reads and writes go past the host's memory.
    """

    def __init__(self, folder: Path, room_bytes: int, device: str | None = None) -> None:
        """`device` is the major and minor number that the folder was traced to, as ``8:1``.

        Raises: TargetError when the folder is missing or refuses, lies elsewhere by now, or the drive has no room.
        """
        self._place = folder
        try:
            status = os.statvfs(folder)
            if status.f_bavail * status.f_frsize < room_bytes + _SPARE_BYTES:
                raise TargetError(
                    f"{folder}", why=f"it has no room for {room_bytes} bytes", do="Make room, or try less"
                )
            _sweep(folder)
            self._place = Path(tempfile.mkdtemp(prefix=FOLDER_PREFIX, dir=folder))
            self._file, self.direct = _open(self._place / FILE)
            fcntl.flock(self._file, fcntl.LOCK_SH | fcntl.LOCK_NB)
            if not same_device(self._file, device):
                self.close()
                why = "it is on another drive than it was a moment ago"
                raise TargetError(f"{folder}", why=why, do="Name a folder that is no link")
        except OSError as error:
            raise TargetError(
                f"{folder}", why=error.strerror or str(error), do="See to the drive and try again"
            ) from error

    @property
    def note(self) -> str:
        """What a reader of its figures must know."""
        return "" if self.direct else "through the host's memory: this file system has no direct reads and writes"

    def write(self, offset: int, block: memoryview) -> None:
        with _told(self._place):
            if os.pwrite(self._file, block, offset) != len(block):
                raise TargetError(f"{self._place}", why="the drive took only part of a block", do="Make room on it")

    def read_into(self, offset: int, block: memoryview) -> None:
        with _told(self._place):
            if os.preadv(self._file, [block], offset) != len(block):
                raise TargetError(f"{self._place}", why="the file is shorter than what was written", do="Try again")

    def flush(self) -> None:
        with _told(self._place):
            os.fsync(self._file)
            if not self.direct:
                os.posix_fadvise(self._file, 0, 0, os.POSIX_FADV_DONTNEED)

    def close(self) -> None:
        """Remove what was written. A drive that is gone has nothing left to remove."""
        with suppress(OSError):
            os.close(self._file)
        with suppress(OSError):
            (self._place / FILE).unlink(missing_ok=True)
        with suppress(OSError):
            self._place.rmdir()


@contextmanager
def _told(place: Path) -> Iterator[None]:
    """Turns the system's word on a drive into ours."""
    try:
        yield
    except OSError as error:
        gone = error.errno in (errno.ENODEV, errno.ENXIO, errno.EIO)
        why = "the drive is gone" if gone else error.strerror or str(error)
        raise TargetError(f"{place}", why=why, do="Plug it again and repeat the trial") from error


def _sweep(folder: Path) -> None:
    """Remove what a trial left behind that was killed. A file that a running trial holds is let be."""
    for place in folder.glob(f"{FOLDER_PREFIX}*"):
        left = place / FILE
        with suppress(OSError):
            file = os.open(left, os.O_RDWR | os.O_NOFOLLOW)
            try:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                left.unlink()
                place.rmdir()
            finally:
                os.close(file)


def _open(path: Path) -> tuple[int, bool]:
    """A new file, for direct I/O where the file system has it."""
    flags = os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW
    try:
        return os.open(path, flags | getattr(os, "O_DIRECT", 0), 0o600), hasattr(os, "O_DIRECT")
    except OSError as error:
        if error.errno != errno.EINVAL:
            raise
        path.unlink(missing_ok=True)
        return os.open(path, flags, 0o600), False
