"""A second witness of where each journal ends: small files beside the database.

Whoever can change the database can make its chain fit again, head and all. These files then say otherwise. They are no
proof against somebody who changes both; that is why a mismatch is shown as what it is.
"""

from __future__ import annotations

import hashlib
import os
import re
from contextlib import suppress
from pathlib import Path

FOLDER = "heads"
_LINE = re.compile(r"(\d{1,18}) ([0-9a-f]{64})\n")


class HeadWitness:
    """Notes the head of one audit's journal after each write. It may lag behind: a process can die between the two."""

    def __init__(self, folder: Path, audit: str) -> None:
        self.file = folder / FOLDER / hashlib.sha256(audit.encode("utf-8", "surrogatepass")).hexdigest()[:32]

    def note(self, entries: int, link: str) -> None:
        """Write in place: a line of the same length each time. A disk that refuses costs only the witness."""
        line = f"{entries:018d} {link}\n".encode()
        flags = os.O_WRONLY | os.O_CREAT | os.O_NOFOLLOW
        with suppress(OSError):
            try:
                file = os.open(self.file, flags, 0o666)
            except FileNotFoundError:
                self.file.parent.mkdir(exist_ok=True)
                file = os.open(self.file, flags, 0o666)
            try:
                os.pwrite(file, line, 0)
            finally:
                os.close(file)

    def read(self) -> tuple[int, str] | None:
        """The number and link of the entry that was last noted; None where none was."""
        try:
            with self.file.open("rb") as file:
                match = _LINE.fullmatch(file.read(200).decode("ascii", "replace"))
        except OSError:
            return None
        return (int(match[1]), match[2]) if match else None
