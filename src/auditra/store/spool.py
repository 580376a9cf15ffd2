"""What was taken while a database did not answer: a file of this machine for each audit, until it is appended."""

from __future__ import annotations

import errno
import fcntl
import hashlib
import json
import os
from collections import Counter
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from datetime import datetime
from pathlib import Path

from auditra.core.errors import InputError, LibraryFull, StoreError
from auditra.core.journal.facts import Entry
from auditra.core.sanitize import sanitize
from auditra.documents.facts import canonical, encode_fact, read_body
from auditra.store.evidence import FOLDER as EVIDENCE
from auditra.store.evidence import EvidenceFolder
from auditra.workflows.output_files import make_folder, sync_folder, write_atomically

FOLDER = "waiting"
MAX_BYTES = 256 << 20
_FLAGS = os.O_WRONLY | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC


class Spool:
    """Entries in the order in which they were taken; their numbers are those that they had here."""

    def __init__(self, folder: Path, audit: str) -> None:
        self._folder = folder / FOLDER
        digest = hashlib.sha256(audit.encode("utf-8", "surrogatepass")).hexdigest()[:32]
        self.file = self._folder / f"{digest}.jsonl"
        self.evidence = EvidenceFolder(self._folder / EVIDENCE)

    def add(self, entries: Iterable[Entry]) -> None:
        """Once this returns, they are on disk. Raises: LibraryFull, StoreError."""
        lines = b"".join(map(_line, entries))
        try:
            make_folder(self._folder)
            with self._locked():
                is_new = not self._has_whole_lines()
                handle = os.open(self.file, _FLAGS | os.O_APPEND, 0o600)
                with os.fdopen(handle, "ab") as file:
                    file.write(lines)
                    file.flush()
                    os.fsync(file.fileno())
                if is_new:
                    sync_folder(self._folder)
        except OSError as error:
            sort = LibraryFull if error.errno in (errno.ENOSPC, errno.EDQUOT) else StoreError
            raise sort(f"{self.file}", why=error.strerror or str(error), do="Make room, then do it again") from error

    def entries(self) -> tuple[Entry, ...]:
        """All that wait. A last line that was cut off was never said to be taken. Raises: StoreError."""
        try:
            if self.file.stat().st_size > MAX_BYTES:
                raise StoreError(f"{self.file}", why="it is too large to be a spool", do="Move it away")
            data = self.file.read_bytes()
        except FileNotFoundError:
            return ()
        except OSError as error:
            raise StoreError(f"{self.file}", why=error.strerror or str(error), do="Check its rights") from error
        whole, _, _ = data.rpartition(b"\n")
        return tuple(self._read(whole.split(b"\n") if whole else []))

    def drop(self, entries: Iterable[Entry]) -> None:
        """These are in the database. What another window has let wait since stays. Raises: StoreError."""
        done = Counter(map(_line, entries))
        try:
            with self._locked():
                lines = self.file.read_bytes().splitlines(keepends=True) if self.file.exists() else []
                left = []
                for line in lines:
                    if done[line] > 0:
                        done[line] -= 1
                    elif line.endswith(b"\n"):
                        left.append(line)
                if left:
                    write_atomically(self.file, b"".join(left))
                else:
                    self.file.unlink(missing_ok=True)
                    sync_folder(self._folder)
        except OSError as error:
            raise StoreError(f"{self.file}", why=error.strerror or str(error), do="Check its rights") from error

    def _has_whole_lines(self) -> bool:
        """Whether there is a file; a last line that was cut off is taken away, so that the next one is whole."""
        try:
            data = self.file.read_bytes()
        except FileNotFoundError:
            return False
        if cut_off := len(data) - data.rfind(b"\n") - 1:
            os.truncate(self.file, len(data) - cut_off)
        return True

    @contextmanager
    def _locked(self) -> Iterator[None]:
        """No other process changes the file meanwhile."""
        handle = os.open(self.file.with_suffix(".lock"), _FLAGS, 0o600)
        with os.fdopen(handle, "w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            yield

    def put_aside(self) -> Path:
        """What does not fit any more is kept under another name."""
        number = 1
        while (aside := self.file.with_suffix(f".refused-{number}.jsonl")).exists():
            number += 1
        with suppress(FileNotFoundError):
            self.file.rename(aside)
        return aside

    def _read(self, lines: Iterable[bytes]) -> Iterator[Entry]:
        for number, line in enumerate(lines, start=1):
            try:
                said = json.loads(line)
                moment = datetime.fromisoformat(said["at"])
                fact = read_body(said["fact"], said["body"])
                yield Entry(said["number"], moment, said["action"], fact, said["writer"])
            except (ValueError, TypeError, KeyError, InputError, RecursionError) as error:
                why = f"line {number} is none ({sanitize(str(error), 120)})"
                raise StoreError(f"{self.file}", why=why, do="Move it away, and report it") from error


def _line(entry: Entry) -> bytes:
    encoded = encode_fact(entry.fact)
    line = {
        "fact": encoded.kind, "number": entry.number, "at": entry.at.isoformat(), "action": entry.action,
        "writer": entry.writer,
    }  # fmt: skip
    return f'{canonical(line)[:-1]},"body":{encoded.whole()}}}\n'.encode()
