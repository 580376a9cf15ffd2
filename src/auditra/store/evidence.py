"""Evidence: untouched bytes, each under the SHA-256 of what is in it, beside the library."""

from __future__ import annotations

import errno
import hashlib
import re
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import Protocol

from auditra.core.errors import InputError, LibraryFull, StoreError
from auditra.core.journal.facts import EvidenceKept, Fact
from auditra.core.sanitize import sanitize
from auditra.workflows.input_files import read_plain
from auditra.workflows.output_files import make_folder, write_atomically

FOLDER = "evidence"
MAX_BYTES = 64 << 20
_SHA256 = re.compile(r"[0-9a-f]{64}")


class EvidenceStore(Protocol):
    """Keeps bytes under their SHA-256; the same bytes once, however often they are kept."""

    def keep(self, data: bytes) -> str:
        """Once this returns, they are safe. The SHA-256. Raises: LibraryFull, StoreError."""
        ...

    def read(self, sha256: str) -> bytes:
        """The bytes. Raises: StoreError where they are missing, or are not what they were."""
        ...


def digest_of(data: bytes) -> str:
    """What a piece of evidence is kept under. Raises: StoreError where it is too large."""
    if len(data) > MAX_BYTES:
        why = f"it has {len(data)} bytes; {MAX_BYTES} are the most"
        raise StoreError("a piece of evidence", why=why, do="Keep a shorter part of it")
    return hashlib.sha256(data).hexdigest()


def require_digest(sha256: str) -> None:
    """Raises: StoreError for what names no piece of evidence."""
    if not _SHA256.fullmatch(sha256):
        raise StoreError("a piece of evidence", why="this is no SHA-256", do="Name it by its 64 digits")


class EvidenceFolder:
    """A file for each."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def keep(self, data: bytes) -> str:
        """Once this returns, they are on disk. The SHA-256. Raises: LibraryFull, StoreError."""
        sha256 = digest_of(data)
        path = self._path(sha256)
        if self._is_there(path, sha256):
            return sha256
        try:
            make_folder(path.parent)
            write_atomically(path, data)
        except OSError as error:
            if error.errno in (errno.ENOSPC, errno.EDQUOT):
                why = "the disk has no room for it"
                raise LibraryFull(f"{path}", why=why, do="Make room, then do it again") from error
            raise StoreError(f"{path}", why=error.strerror or str(error), do="Check the folder") from error
        return sha256

    def read(self, sha256: str) -> bytes:
        """The bytes. Raises: StoreError where they are missing, or are not what they were."""
        require_digest(sha256)
        path = self._path(sha256)
        try:
            data = read_plain(path, MAX_BYTES, follow=False)
        except InputError as error:
            raise StoreError(f"{path}", why=error.why, do="Restore it from a copy") from error
        if hashlib.sha256(data).hexdigest() != sha256:
            raise StoreError(f"{path}", why="it was changed after it was kept", do="Restore it from a copy")
        return data

    def _is_there(self, path: Path, sha256: str) -> bool:
        """Whether the bytes are there already, as they should be: what is corrupt is written again."""
        try:
            return path.exists() and hashlib.sha256(read_plain(path, MAX_BYTES, follow=False)).hexdigest() == sha256
        except InputError:
            return False

    def _path(self, sha256: str) -> Path:
        return self._folder / sha256[:2] / sha256


def problems_of_evidence(facts: Iterable[Fact], kept_in: EvidenceStore) -> Iterator[str]:
    """What facts name and is missing, or is not what it was; in words."""
    kept = {fact.sha256: fact.name for fact in facts if isinstance(fact, EvidenceKept)}
    for sha256, name in kept.items():
        try:
            kept_in.read(sha256)
        except StoreError as error:
            yield f"evidence {sanitize(name, 60)} ({sha256[:12]}): {error.why}"


def copy_evidence(facts: Iterable[Fact], read: Callable[[str], bytes], here: EvidenceStore) -> Iterator[str]:
    """Keep here what facts name and `read` gives; in words, what could not be. Raises: LibraryFull, StoreError."""
    for sha256 in dict.fromkeys(fact.sha256 for fact in facts if isinstance(fact, EvidenceKept)):
        try:
            data = read(sha256)
        except (StoreError, InputError) as error:
            yield f"evidence {sha256[:12]}: {error.why}"
            continue
        here.keep(data)
