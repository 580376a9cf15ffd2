"""Evidence: untouched bytes, each under the SHA-256 of what is in it, beside the library."""

from __future__ import annotations

import errno
import hashlib
import os
import re
from collections.abc import Iterable, Iterator
from pathlib import Path

from auditra.core.audit.facts import EvidenceKept, Fact
from auditra.core.errors import LibraryFull, StoreError

FOLDER = "evidence"
MOST_BYTES = 64 << 20
_SHA256 = re.compile(r"[0-9a-f]{64}")


class EvidenceFolder:
    """Keeps bytes; the same bytes once, however often they are kept."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def keep(self, data: bytes) -> str:
        """Once this returns, they are on disk. The SHA-256. Raises: LibraryFull, StoreError."""
        if len(data) > MOST_BYTES:
            why = f"it has {len(data)} bytes; {MOST_BYTES} are the most"
            raise StoreError("a piece of evidence", why=why, do="Keep a shorter part of it")
        sha256 = hashlib.sha256(data).hexdigest()
        path = self._path(sha256)
        if path.exists():
            return sha256
        try:
            _write(path, data)
        except OSError as error:
            if error.errno in (errno.ENOSPC, errno.EDQUOT):
                why = "the disk has no room for it"
                raise LibraryFull(f"{path}", why=why, do="Make room, then do it again") from error
            raise StoreError(f"{path}", why=error.strerror or str(error), do="Check the folder") from error
        return sha256

    def read(self, sha256: str) -> bytes:
        """The bytes. Raises: StoreError where they are missing, or are not what they were."""
        if not _SHA256.fullmatch(sha256):
            raise StoreError("a piece of evidence", why="this is no SHA-256", do="Name it by its 64 digits")
        path = self._path(sha256)
        try:
            with path.open("rb") as file:
                data = file.read(MOST_BYTES + 1)
        except OSError as error:
            raise StoreError(f"{path}", why=error.strerror or str(error), do="Restore it from a copy") from error
        if hashlib.sha256(data).hexdigest() != sha256:
            raise StoreError(f"{path}", why="it was changed since it was kept", do="Restore it from a copy")
        return data

    def _path(self, sha256: str) -> Path:
        return self._folder / sha256[:2] / sha256


def copy_evidence(facts: Iterable[Fact], there: EvidenceFolder, here: EvidenceFolder) -> Iterator[str]:
    """Copy what facts name from one folder to another; in words, what could not be. Raises: LibraryFull, StoreError."""
    for sha256 in dict.fromkeys(fact.sha256 for fact in facts if isinstance(fact, EvidenceKept)):
        try:
            data = there.read(sha256)
        except StoreError as error:
            yield f"evidence {sha256[:12]}: {error.why}"
            continue
        here.keep(data)


def _write(path: Path, data: bytes) -> None:
    """All of it or nothing, and on the disk before it has its name."""
    path.parent.mkdir(parents=True, exist_ok=True)
    passing = path.with_name(f".{path.name}.{os.getpid()}")
    try:
        with passing.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        passing.replace(path)
        folder = os.open(path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    finally:
        passing.unlink(missing_ok=True)
