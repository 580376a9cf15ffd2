"""Locks of the operating system: a process that dies lets go of them, however it dies."""

from __future__ import annotations

import fcntl
import hashlib
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from auditra.core.errors import LibraryBusy, StoreError
from auditra.core.sanitize import sanitize


@contextmanager
def held_for_trials(folder: Path, name: str) -> Iterator[None]:
    """No other Auditra runs trials of this audit meanwhile. Raises: LibraryBusy when one does, StoreError."""
    path = folder / f"running-{hashlib.sha256(name.encode('utf-8', 'surrogatepass')).hexdigest()[:16]}.lock"
    try:
        handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC, 0o666)
    except OSError as error:
        why = f"its lock cannot be taken ({error.strerror or error})"
        raise StoreError(f"{path}", why=why, do="Check the folder, or choose another with --library") from error
    with os.fdopen(handle, "r+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            holder = sanitize(lock.read(20)) or "unknown"
            why = f"another Auditra (process {holder}) is running its trials"
            raise LibraryBusy(f'audit "{sanitize(name)}"', why=why, do="Wait until it is done, or stop it") from error
        lock.seek(0)
        lock.truncate(0)
        lock.write(str(os.getpid()))
        lock.flush()
        yield
