"""A library in one SQLite file. WAL with synchronous FULL: what was committed survives a crash of the machine."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager, suppress
from pathlib import Path

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.engine import URL
from sqlalchemy.exc import DBAPIError, OperationalError

from auditra.core.errors import LibraryBusy, LibraryFull, LibraryReadOnly, LibraryTooNew, StoreError
from auditra.core.sanitize import sanitize
from auditra.store.dialects.addition import Addition
from auditra.store.evidence import FOLDER as EVIDENCE
from auditra.store.evidence import EvidenceFolder
from auditra.store.locks import held_for_trials
from auditra.store.schema import FIRST_WITH_TRACES, FIRST_WITH_WRITERS, FOLDER_VERSION, JOURNAL, METADATA

FILE = "library.sqlite"
BUSY_TIMEOUT_S = 5.0
_LEFT_BY_USE = ("shelf.jsonl", "shelf.json", "evidence", "heads", f"{FILE}-wal")
"""What a library leaves in its folder: an empty database beside these was not always empty."""


class SqliteDialect:
    """One file in a folder. `writable` is False where it can only be read.

    Raises: LibraryTooNew, or StoreError when the file cannot be used.
    """

    def __init__(self, folder: Path) -> None:
        self.folder, self.file = folder, folder / FILE
        self.adds_at_once = False
        self.writable = self.has_traces = self.has_writers = True
        self._refuse_emptied(folder)
        self.engine = _open_engine(self.file)
        with self.translate_errors():
            try:
                with self.engine.connect() as db:
                    self._prepare(db)
            except OperationalError as error:
                if not self.file.is_file() or not _refuses_writing(str(error.orig)):
                    raise
                self._open_read_only()

    @property
    def evidence(self) -> EvidenceFolder:
        """A folder beside the file."""
        return EvidenceFolder(self.folder / EVIDENCE)

    def held_for_trials(self, audit: str) -> AbstractContextManager[None]:
        """A lock of the operating system."""
        return held_for_trials(self.folder, audit)

    def growth_of(self, audit: str) -> None:
        """To look costs little."""
        return

    @property
    def seems_away(self) -> bool:
        return False

    def doubt(self) -> None:
        """A file is never away."""

    def close(self) -> None:
        self.engine.dispose()

    @contextmanager
    def writing(self, audit: str) -> Iterator[Connection]:
        """A transaction that holds the write lock from its start, so that two writers cannot chain to one entry."""
        if not self.writable:
            raise LibraryReadOnly(f"{self.file}", why="it can only be read", do="Copy the folder, and use --library")
        with self.engine.connect() as db:
            db.exec_driver_sql("BEGIN IMMEDIATE")
            try:
                yield db
            except BaseException:
                with suppress(OperationalError):  # on a full disk SQLite has rolled back already
                    db.exec_driver_sql("ROLLBACK")
                raise
            db.exec_driver_sql("COMMIT")

    def add(self, db: Connection, addition: Addition) -> bool:
        """In a transaction of `writing`."""
        return addition.write(db)

    @contextmanager
    def translate_errors(self) -> Iterator[None]:
        """The database's errors become ours."""
        try:
            yield
        except OperationalError as error:
            raise self._in_our_words(str(error.orig)) from error
        except DBAPIError as error:
            why = sanitize(str(error.orig))
            raise StoreError(f"{self.file}", why=why, do="This may be no library; choose another") from error

    def _in_our_words(self, words: str) -> StoreError:
        if "locked" in words or "busy" in words:
            why = "another Auditra is writing to it"
            return LibraryBusy(f"{self.file}", why=why, do="Try again in a moment")
        if "full" in words or "disk I/O" in words:
            why = f"the disk does not accept it ({sanitize(words)})"
            return LibraryFull(f"{self.file}", why=why, do="Make room, then do it again")
        if _refuses_writing(words):
            return LibraryReadOnly(f"{self.file}", why="it can only be read", do="Copy the folder, and use --library")
        do = "Check the folder's permissions, or choose another with --library"
        return StoreError(f"{self.file}", why=sanitize(words), do=do)

    def _refuse_emptied(self, folder: Path) -> None:
        """An empty file is a new library only where nothing says that there has been one. Raises: StoreError."""
        if self.file.is_file() and self.file.stat().st_size == 0:
            left = [name for name in _LEFT_BY_USE if (folder / name).exists()]
            if left:
                why = f"it is empty, though {' and '.join(left)} beside it show that it held audits"
                do = "Restore it from a copy, or move these files away to start a new library"
                raise StoreError(f"{self.file}", why=why, do=do)

    def _prepare(self, db: Connection) -> None:
        version = db.exec_driver_sql("PRAGMA user_version").scalar_one()
        self.has_traces = self.writable or version >= FIRST_WITH_TRACES
        self.has_writers = self.writable or version >= FIRST_WITH_WRITERS
        if version > FOLDER_VERSION:
            why = f"it is of version {version}; this Auditra knows versions up to {FOLDER_VERSION}"
            raise LibraryTooNew(f"{self.file}", why=why, do="Use a newer Auditra, or another --library")
        if version < FOLDER_VERSION and self.writable:
            with self.writing("") as writer:
                self._bring_up_to_date(writer)

    def _bring_up_to_date(self, writer: Connection) -> None:
        """A new library is made whole at once; an older one goes step by step, unless another process was first."""
        version = writer.exec_driver_sql("PRAGMA user_version").scalar_one()
        if version == 0:
            METADATA.create_all(writer, tables=JOURNAL)
        elif version < FOLDER_VERSION:
            from auditra.store.migrations import upgrade

            upgrade(writer, version)
        writer.exec_driver_sql(f"PRAGMA user_version = {FOLDER_VERSION}")

    def _open_read_only(self) -> None:
        """SQLite reads a WAL database in a folder that it may not write to only when told that no process writes to it.

        Source: sqlite.org, "Write-Ahead Logging", read-only databases.
        """
        self.engine.dispose()
        self.writable = False
        self.engine = create_engine(
            "sqlite://", creator=lambda: sqlite3.connect(
                f"{self.file.resolve().as_uri()}?mode=ro&immutable=1", uri=True, check_same_thread=False
            ),
            isolation_level="AUTOCOMMIT",
        )  # fmt: skip
        with self.engine.connect() as db:
            self._prepare(db)


def _refuses_writing(words: str) -> bool:
    return "readonly" in words or "unable to open" in words


def _open_engine(file: Path) -> Engine:
    engine = create_engine(
        URL.create("sqlite", database=str(file)),
        isolation_level="AUTOCOMMIT",
        connect_args={"timeout": BUSY_TIMEOUT_S, "check_same_thread": False},
    )

    @event.listens_for(engine, "connect")
    def _keep_safe(connection: object, _: object) -> None:
        cursor = connection.cursor()  # type: ignore[attr-defined]
        cursor.execute("PRAGMA journal_mode = WAL")
        cursor.execute("PRAGMA synchronous = FULL")
        cursor.close()

    return engine
