"""A folder of small files that a team shares: the same on every machine, through the database."""

from __future__ import annotations

import hashlib
import json
import re
from collections.abc import Iterable
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import bindparam, select
from sqlalchemy.dialects.postgresql import insert

from auditra.core.errors import InputError, StoreError
from auditra.store.dialects.dialect import Dialect
from auditra.store.schema import SHARED_TEXTS
from auditra.workflows.input_files import read_plain
from auditra.workflows.output_files import make_folder, write_atomically

BASE = ".shared.json"
"""What each file was when it was last the same here and in the database, by its SHA-256."""
MINE = ".mine"
"""Behind the name of a file that was changed here and elsewhere: what was here."""
MAX_BYTES, MAX_FILES = 1 << 20, 400
_NAME = re.compile(r"[a-z0-9][\w.-]{0,70}\.(toml|json|j2|css)")
_ALL = select(SHARED_TEXTS.c.name, SHARED_TEXTS.c.text).where(SHARED_TEXTS.c.kind == bindparam("wanted"))
_PUT = insert(SHARED_TEXTS)
_PUT = _PUT.on_conflict_do_update(
    index_elements=["kind", "name"],
    set_={column: _PUT.excluded[column] for column in ("text", "writer", "at")},
)


class SharedFolder:
    """One sort of files, such as rigs or profiles. What is only here goes there, and what is newer there comes here."""

    def __init__(self, dialect: Dialect, folder: Path, kind: str, writer: str) -> None:
        self._dialect, self._folder, self._kind, self._writer = dialect, folder, kind, writer

    def sync(self) -> None:
        """Make both the same. Where both were changed, the database's counts, and what was here is kept beside it.

        Raises: StoreError.
        """
        with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            there = {str(name): str(text) for name, text in db.execute(_ALL, {"wanted": self._kind})}
        there = {name: text for name, text in there.items() if _NAME.fullmatch(name)}
        here, base = self._here(), self._base()
        try:
            for name in sorted(there):
                self._take(name, there[name], here.get(name), base.get(name))
        except OSError as error:
            raise StoreError(f"{self._folder}", why=error.strerror or str(error), do="Check the folder") from error
        ours = {
            name: text for name, text in here.items()
            if name not in there or (there[name] != text and _digest(there[name]) == base.get(name))
        }  # fmt: skip
        if ours and self._dialect.writable:
            self._put(ours)
            there |= ours
        self._note({name: _digest(text) for name, text in there.items()})

    def _take(self, name: str, theirs: str, ours: str | None, base: str | None) -> None:
        if ours == theirs or (ours is not None and _digest(theirs) == base):
            return
        make_folder(self._folder)
        if ours is not None and _digest(ours) != base:
            write_atomically(self._folder / f"{name}{MINE}", ours.encode())
        write_atomically(self._folder / name, theirs.encode())

    def _put(self, texts: dict[str, str]) -> None:
        at = datetime.now(UTC).isoformat()
        rows = [
            {"kind": self._kind, "name": name, "text": text, "writer": self._writer, "at": at}
            for name, text in texts.items()
        ]
        with self._dialect.translate_errors(), self._dialect.writing(f"shared {self._kind}") as db:
            db.execute(_PUT, rows)

    def _here(self) -> dict[str, str]:
        found: dict[str, str] = {}
        for path in self._files():
            with suppress(InputError, UnicodeDecodeError):
                found[path.name] = read_plain(path, MAX_BYTES).decode()
        return found

    def _files(self) -> Iterable[Path]:
        try:
            files = sorted(path for path in self._folder.iterdir() if _NAME.fullmatch(path.name))
        except OSError:
            return ()
        return files[:MAX_FILES]

    def _base(self) -> dict[str, str]:
        try:
            kept = json.loads(read_plain(self._folder / BASE, MAX_BYTES))
        except (InputError, ValueError, RecursionError):
            return {}
        return {str(name): str(digest) for name, digest in kept.items()} if isinstance(kept, dict) else {}

    def _note(self, base: dict[str, str]) -> None:
        """A disk that refuses costs a question next time: nothing is lost."""
        if base and base != self._base():
            with suppress(OSError):
                make_folder(self._folder)
                write_atomically(self._folder / BASE, json.dumps(base).encode())


def _digest(text: str) -> str:
    return hashlib.sha256(text.encode("utf-8", "surrogatepass")).hexdigest()
