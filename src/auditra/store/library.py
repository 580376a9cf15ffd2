"""The library: every audit's journal in one SQLite file, append-only, each entry chained to the one before.

WAL with synchronous FULL: when `append` returns, the facts survive a crash of the program and of the machine.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from datetime import datetime
from pathlib import Path

from sqlalchemy import (
    Column,
    Connection,
    Engine,
    Integer,
    MetaData,
    String,
    Table,
    Text,
    UniqueConstraint,
    bindparam,
    create_engine,
    event,
    insert,
    select,
    update,
)  # fmt: skip
from sqlalchemy.engine import URL
from sqlalchemy.exc import DBAPIError, OperationalError

from auditra.core.audit.facts import Entry, Fact
from auditra.core.errors import (
    JournalDamaged,
    LibraryBusy,
    LibraryFull,
    LibraryTooNew,
    NoSuchAudit,
    StoreError,
)
from auditra.core.inert import inert
from auditra.store.encoding import decode_fact, encode_fact
from auditra.store.evidence import FOLDER as EVIDENCE
from auditra.store.evidence import EvidenceFolder

SCHEMA_VERSION = 1
FILE = "library.sqlite"
BUSY_TIMEOUT_S = 5.0
FIRST_LINK = "0" * 64
"""What the first entry of a journal is chained to."""

_METADATA = MetaData()
_AUDITS = Table(
    "audit",
    _METADATA,
    Column("id", Integer, primary_key=True),
    Column("name", String(64), nullable=False, unique=True),
    Column("entries", Integer, nullable=False, default=0),
    Column("head", String(64), nullable=False, default=FIRST_LINK),
)
_ENTRIES = Table(
    "entry",
    _METADATA,
    Column("audit", Integer, nullable=False),
    Column("number", Integer, nullable=False),
    Column("at", String(40), nullable=False),
    Column("action", String(40), nullable=False),
    Column("kind", String(40), nullable=False),
    Column("body", Text, nullable=False),
    Column("link", String(64), nullable=False),
    UniqueConstraint("audit", "number"),
)


_AUDIT_BY_NAME = select(_AUDITS).where(_AUDITS.c.name == bindparam("audit_name"))
_ADD_ENTRIES = insert(_ENTRIES)
_GROW = (
    update(_AUDITS)
    .where(_AUDITS.c.id == bindparam("audit_id"))
    .values(entries=bindparam("entries"), head=bindparam("head"))
)
"""Statements of every append, built once: building them took longer than the disk."""


def chain(previous: str, audit: str, number: int, at: str, action: str, kind: str, body: str) -> str:
    """The SHA-256 that ties an entry to the one before; fields are parted by a byte that none of them holds."""
    parts = (previous, audit, str(number), at, action, kind, body)
    return hashlib.sha256("\x1f".join(parts).encode()).hexdigest()


class Library:
    """A folder with a library in it, made when it is not there.

    Raises: LibraryTooNew, or StoreError when the folder cannot be used.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise StoreError(
                f"{folder}", why=error.strerror or str(error), do="Choose another with --library"
            ) from error
        self._engine = _open_engine(folder / FILE)
        with _told(folder / FILE), self._engine.connect() as db:
            self._prepare(db)

    def close(self) -> None:
        self._engine.dispose()

    def names(self) -> tuple[str, ...]:
        """The audits, as they were put on the shelf."""
        return tuple(name for name, _ in self.heads())

    def heads(self) -> tuple[tuple[str, str], ...]:
        """Each audit with the link that its journal ends in."""
        with _told(self.folder / FILE), self._engine.connect() as db:
            rows = db.execute(select(_AUDITS.c.name, _AUDITS.c.head).order_by(_AUDITS.c.id)).all()
        return tuple((row.name, row.head) for row in rows)

    def create(self, name: str, facts: Iterable[Fact], at: datetime) -> SqliteJournal:
        """A new audit that begins with these facts. Raises: StoreError when the name is taken."""
        with _told(self.folder / FILE), _writing(self._engine) as db:
            self._add_audit(db, name)
            _append(db, name, facts, action="made", at=at)
        return SqliteJournal(self._engine, self.folder, name)

    def restore(self, name: str, entries: Iterable[Entry]) -> SqliteJournal:
        """A new audit with these entries, all or none. Raises: StoreError when the name is taken."""
        with _told(self.folder / FILE), _writing(self._engine) as db:
            self._add_audit(db, name)
            _append_rows(db, name, ((entry.fact, entry.action, entry.at) for entry in entries))
        return SqliteJournal(self._engine, self.folder, name)

    def _add_audit(self, db: Connection, name: str) -> None:
        if db.execute(select(_AUDITS.c.id).where(_AUDITS.c.name == name)).first() is not None:
            raise StoreError(f'audit "{inert(name)}"', why="the shelf has one of this name", do="Choose another name")
        db.execute(insert(_AUDITS).values(name=name, entries=0, head=FIRST_LINK))

    def journal(self, name: str) -> SqliteJournal:
        """The journal of an audit. Raises: NoSuchAudit."""
        known = self.names()
        if name not in known:
            shelf = ", ".join(inert(each, 40) for each in known) or "nothing yet"
            raise NoSuchAudit(f'audit "{inert(name)}"', why="it is not on the shelf", do=f"The shelf has: {shelf}")
        return SqliteJournal(self._engine, self.folder, name)

    @contextmanager
    def held_for_trials(self, name: str) -> Iterator[None]:
        """No other Auditra runs trials of this audit meanwhile. Raises: LibraryBusy when one does.

        The operating system lets go of the lock when a process dies, however it dies.
        """
        path = self.folder / f"running-{hashlib.sha256(name.encode()).hexdigest()[:16]}.lock"
        with path.open("a+") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError as error:
                lock.seek(0)
                holder = inert(lock.read(20)) or "unknown"
                why = f"another Auditra (process {holder}) is running its trials"
                raise LibraryBusy(f'audit "{inert(name)}"', why=why, do="Wait until it is done, or stop it") from error
            lock.truncate(0)
            lock.write(str(os.getpid()))
            lock.flush()
            yield

    def _prepare(self, db: Connection) -> None:
        version = db.exec_driver_sql("PRAGMA user_version").scalar_one()
        if version > SCHEMA_VERSION:
            why = f"it is of version {version}; this Auditra knows versions up to {SCHEMA_VERSION}"
            raise LibraryTooNew(f"{self.folder / FILE}", why=why, do="Use a newer Auditra, or another --library")
        if version < SCHEMA_VERSION:
            with _writing(self._engine) as writer:
                _METADATA.create_all(writer)
                writer.exec_driver_sql(f"PRAGMA user_version = {SCHEMA_VERSION}")


class SqliteJournal:
    """One audit's journal, with the evidence that it names."""

    def __init__(self, engine: Engine, folder: Path, name: str) -> None:
        self._engine, self._file, self.name = engine, folder / FILE, name
        self.evidence = EvidenceFolder(folder / EVIDENCE)

    def keep(self, data: bytes) -> str:
        """Put the bytes of a piece of evidence on disk. Raises: LibraryFull, StoreError."""
        return self.evidence.keep(data)

    def evidence_of(self, sha256: str) -> bytes:
        """The bytes of a piece of evidence. Raises: StoreError where they are missing or were changed."""
        return self.evidence.read(sha256)

    def append(self, facts: Iterable[Fact], *, action: str, at: datetime) -> None:
        """Put facts down, all or none. Raises: LibraryBusy, LibraryFull, StoreError."""
        with _told(self._file), _writing(self._engine) as db:
            _append(db, self.name, facts, action=action, at=at)

    def entries(self) -> tuple[Entry, ...]:
        """Every fact in order. Raises: JournalDamaged when the chain does not fit."""
        with _told(self._file), self._engine.connect() as db:
            audit = db.execute(select(_AUDITS).where(_AUDITS.c.name == self.name)).one()
            query = select(_ENTRIES).where(_ENTRIES.c.audit == audit.id).order_by(_ENTRIES.c.number)
            rows = db.execute(query).all()
        entries, previous = [], FIRST_LINK
        for expected, row in enumerate(rows, start=1):
            where = f'audit "{inert(self.name)}", entry {expected}'
            link = chain(previous, self.name, expected, row.at, row.action, row.kind, row.body)
            if row.number != expected or row.link != link:
                raise JournalDamaged(
                    where, why="it was changed, or one before it removed", do="Restore the library from a copy"
                )
            previous = link
            fact = decode_fact(row.kind, row.body, where)
            entries.append(Entry(row.number, datetime.fromisoformat(row.at), row.action, fact))
        if previous != audit.head:
            where = f'audit "{inert(self.name)}"'
            raise JournalDamaged(where, why="entries at its end are missing", do="Restore the library from a copy")
        return tuple(entries)


def _append(db: Connection, name: str, facts: Iterable[Fact], *, action: str, at: datetime) -> None:
    _append_rows(db, name, ((fact, action, at) for fact in facts))


def _append_rows(db: Connection, name: str, facts: Iterable[tuple[Fact, str, datetime]]) -> None:
    audit = db.execute(_AUDIT_BY_NAME, {"audit_name": name}).one()
    number, head = audit.entries, audit.head
    rows = []
    for fact, action, at in facts:
        number += 1
        kind, body = encode_fact(fact)
        moment = at.isoformat()
        head = chain(head, name, number, moment, action, kind, body)
        rows.append(
            {
                "audit": audit.id,
                "number": number,
                "at": moment,
                "action": action,
                "kind": kind,
                "body": body,
                "link": head,
            }
        )
    if rows:
        db.execute(_ADD_ENTRIES, rows)
    db.execute(_GROW, {"audit_id": audit.id, "entries": number, "head": head})


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


@contextmanager
def _writing(engine: Engine) -> Iterator[Connection]:
    """A transaction that holds the write lock from its start, so that two writers cannot chain to one entry."""
    with engine.connect() as db:
        db.exec_driver_sql("BEGIN IMMEDIATE")
        try:
            yield db
        except BaseException:
            with suppress(OperationalError):  # on a full disk SQLite has already taken the transaction back
                db.exec_driver_sql("ROLLBACK")
            raise
        db.exec_driver_sql("COMMIT")


@contextmanager
def _told(file: Path) -> Iterator[None]:
    """Turns the database's word into ours."""
    try:
        yield
    except OperationalError as error:
        raise _in_our_words(file, str(error.orig)) from error
    except DBAPIError as error:
        raise StoreError(f"{file}", why=inert(str(error.orig)), do="This may be no library; choose another") from error


def _in_our_words(file: Path, said: str) -> StoreError:
    if "locked" in said or "busy" in said:
        return LibraryBusy(f"{file}", why="another Auditra is writing to it", do="Try again in a moment")
    if "full" in said or "disk I/O" in said:
        return LibraryFull(
            f"{file}", why=f"the disk does not take it ({inert(said)})", do="Make room, then do it again"
        )
    return StoreError(f"{file}", why=inert(said), do="Check the folder's permissions, or choose another with --library")
