"""A file on a real drive as a data target: past the host's memory where the file system allows."""

from __future__ import annotations

import errno
import fcntl
import os
from contextlib import suppress
from pathlib import Path

from auditra.bench.path import same_device
from auditra.bench.trial_folder import TrialFolder, remove_all
from auditra.core.errors import TargetError

_SPARE_BYTES = 64 << 20
"""Left free on the drive, so that a trial never fills it."""
_OPEN: set[FileTarget] = set()
"""What this process has on drives now."""


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
            if free_bytes(folder) < room_bytes + _SPARE_BYTES:
                raise TargetError(
                    f"{folder}", why=f"it has no room for {room_bytes} bytes", do="Make room, or try less"
                )
            self._own = TrialFolder(folder)
        except OSError as error:
            raise TargetError(f"{folder}", why=error.strerror or str(error), do="Check the drive") from error
        try:
            self._file, self.direct = self._own.open_data()
        except OSError as error:
            self._own.remove()
            raise TargetError(f"{folder}", why=error.strerror or str(error), do="Check the drive") from error
        _OPEN.add(self)
        with suppress(OSError):  # a file system without locks: then only the marker tells
            fcntl.flock(self._file, fcntl.LOCK_SH | fcntl.LOCK_NB)
        if not same_device(self._file, device):
            self.close()
            why = "it is on another drive than it was a moment ago"
            raise TargetError(f"{folder}", why=why, do="Name a folder that is no link")

    @property
    def note(self) -> str:
        """What a reader of its figures must know."""
        return "" if self.direct else "through the host's memory: this file system has no direct reads and writes"

    def write(self, offset: int, block: memoryview) -> None:
        try:
            taken = os.pwrite(self._file, block, offset)
        except OSError as error:
            raise _in_our_words(self._place, error) from error
        if taken != len(block):
            raise TargetError(f"{self._place}", why="the drive took only part of a block", do="Make room on it")

    def read_into(self, offset: int, block: memoryview) -> None:
        try:
            given = os.preadv(self._file, [block], offset)
        except OSError as error:
            raise _in_our_words(self._place, error) from error
        if given != len(block):
            raise TargetError(f"{self._place}", why="the file is shorter than what was written", do="Try again")

    def flush(self) -> None:
        try:
            os.fsync(self._file)
            if not self.direct:
                os.posix_fadvise(self._file, 0, 0, os.POSIX_FADV_DONTNEED)
        except OSError as error:
            raise _in_our_words(self._place, error) from error

    def close(self) -> None:
        """Remove what was written. A drive that is gone has nothing left to remove."""
        if self in _OPEN:
            _OPEN.discard(self)
            with suppress(OSError):
                os.close(self._file)
            self._own.remove()


def free_bytes(folder: Path) -> int:
    """What may still be written to the drive of a folder. Raises: OSError."""
    status = os.statvfs(folder)
    return status.f_bavail * status.f_frsize


def close_all() -> None:
    """Remove what running trials have on drives: the process is about to end without them."""
    for target in tuple(_OPEN):
        target.close()
    remove_all()  # a folder whose target was still being made


def _in_our_words(place: Path, error: OSError) -> TargetError:
    """The system's error on a drive as ours."""
    gone = error.errno in (errno.ENODEV, errno.ENXIO, errno.EIO)
    why = "the drive is gone" if gone else error.strerror or str(error)
    return TargetError(f"{place}", why=why, do="Plug it again and repeat the trial")
