"""A library in a team's PostgreSQL database: several benches write to it, and hear of each other."""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Iterator, Mapping
from contextlib import AbstractContextManager, contextmanager
from functools import cached_property
from typing import Any

from sqlalchemy import Connection, Engine, bindparam, create_engine, event, func, select
from sqlalchemy.engine import make_url
from sqlalchemy.exc import DBAPIError, DisconnectionError, SQLAlchemyError
from sqlalchemy.pool import ConnectionPoolEntry

from auditra.core.errors import (
    LibraryBusy,
    LibraryFull,
    LibraryReadOnly,
    LibraryTooNew,
    LibraryUnreachable,
    StaleHead,
    StoreError,
)
from auditra.core.sanitize import sanitize
from auditra.store.dialects.addition import Addition
from auditra.store.dialects.bell import Bell
from auditra.store.dialects.dialect import Growth
from auditra.store.dialects.evidence_rows import EvidenceRows
from auditra.store.locks import held_for_trials
from auditra.store.place import LibraryPlace
from auditra.store.schema import SCHEMA_VERSION

CONNECTS_WITHIN_S, WAITS_FOR_LOCK_MS = 4, 5_000
ANSWERS_WITHIN_S = 4
PINGED_AFTER_S = 5.0
_USED_AT_S = "used at"
_LINE: Mapping[str, Any] = {
    "connect_timeout": CONNECTS_WITHIN_S, "application_name": "auditra", "tcp_user_timeout": 1000 * ANSWERS_WITHIN_S,
    "keepalives_idle": 2, "keepalives_interval": 1, "keepalives_count": 3,
}  # fmt: skip
"""A line that is cut with nothing said, as by a pulled cable, is known for cut after that. Source of the words:
PostgreSQL, libpq, parameter key words."""
_WRITING, _TRIALS, _UPGRADE = 1, 2, 3
"""What an advisory lock is for; its second number stands for the audit."""
_ALONE = select(func.pg_advisory_xact_lock(bindparam("purpose"), bindparam("audit_number")))
_TRY_ALONE = select(func.pg_try_advisory_lock(bindparam("purpose"), bindparam("audit_number")))
_TOO_MANY = "53300"
"""Connections. Source of the states: PostgreSQL, appendix A, error codes."""
_MISSING = "postgresql+psycopg needs the package psycopg"


class PostgresqlDialect:
    """One database. `writable` is False for whoever may only read.

    Raises: LibraryUnreachable, LibraryTooNew, or StoreError where it holds no library of this version.
    """

    def __init__(self, place: LibraryPlace) -> None:
        self._where = place.words
        self.has_traces = self.has_writers = self.writable = self.adds_at_once = True
        self._place = place
        with self.translate_errors():
            self.engine = _open_engine(place)
            with self.engine.connect() as db:
                self._prepare(db)

    @cached_property
    def evidence(self) -> EvidenceRows:
        """Rows beside the journal."""
        return EvidenceRows(self)

    @cached_property
    def _bell(self) -> Bell:
        _, connect = self.engine.dialect.create_connect_args(self.engine.url)
        return Bell({**_LINE, **connect})

    def close(self) -> None:
        if "_bell" in self.__dict__:
            self._bell.close()
        self.engine.dispose()

    @contextmanager
    def writing(self, audit: str) -> Iterator[Connection]:
        """A transaction that waits for those which write to the same audit."""
        if not self.writable:
            raise LibraryReadOnly(self._where, why="you may only read it", do="Ask whoever runs the database")
        with _transaction(self.engine) as db:
            db.execute(_ALONE, {"purpose": _WRITING, "audit_number": _number(audit)})
            yield db

    def add(self, db: Connection, addition: Addition) -> bool:
        """In one question."""
        added = db.exec_driver_sql(_ADD, _parameters(addition)).rowcount
        return added == len(addition.entries)

    @contextmanager
    def held_for_trials(self, audit: str) -> Iterator[None]:
        """A lock of this machine, and one that the server lets go of when this connection ends, however it ends."""
        with held_for_trials(self._place.folder, audit), self._held_by_the_server(audit):
            yield

    @contextmanager
    def _held_by_the_server(self, audit: str) -> Iterator[None]:
        wanted = {"purpose": _TRIALS, "audit_number": _number(audit)}
        with self.translate_errors():
            db = self.engine.connect()
        try:
            with self.translate_errors():
                held = db.execution_options(isolation_level="AUTOCOMMIT").execute(_TRY_ALONE, wanted).scalar_one()
            if not held:
                why = "another Auditra of the team is running its trials"
                raise LibraryBusy(f'audit "{sanitize(audit)}"', why=why, do="Wait until it is done, or stop it")
            yield
        finally:
            db.invalidate()  # not back to the pool: the lock goes with the connection
            db.close()

    def growth_of(self, audit: str) -> Growth | None:
        """None while nothing can be heard."""
        return self._bell.growth(audit)

    @property
    def seems_away(self) -> bool:
        """Whether the line to it was found broken, and is not known to be whole again."""
        return self._bell.is_cut

    def doubt(self) -> None:
        """Tries to connect again in the background."""
        self._bell.doubt()

    @contextmanager
    def translate_errors(self) -> Iterator[None]:
        """The database's errors become ours. No words of the URL get into them."""
        try:
            yield
        except DBAPIError as error:
            raise self._in_our_words(error) from None
        except (SQLAlchemyError, ModuleNotFoundError) as error:
            missing = isinstance(error, ModuleNotFoundError)
            why = _MISSING if missing else sanitize(type(error).__name__)
            do = "Install it: pip install 'auditra[team]'" if missing else "Check the library's URL"
            raise StoreError(self._where, why=why, do=do) from None

    def _in_our_words(self, error: DBAPIError) -> StoreError:
        state = str(getattr(error.orig, "sqlstate", None) or "")
        words = _first_line(str(error.orig))
        if error.connection_invalidated or not state or state[:2] in ("08", "57") or state == _TOO_MANY:
            return LibraryUnreachable(self._where, why=words, do="Check the network, the server and the URL")
        if state in ("55P03", "40P01"):
            return LibraryBusy(self._where, why="another Auditra is writing to it", do="Try again in a moment")
        if state[:2] == "53":
            return LibraryFull(self._where, why=words, do="Make room on its server, then do it again")
        if state == "42501":
            return LibraryReadOnly(self._where, why=words, do="Ask whoever runs the database")
        if state in ("23505", "23514"):
            return StaleHead(self._where, why="the audit was changed meanwhile", do="Try again")
        return StoreError(self._where, why=words, do="Ask whoever runs the database")

    def _prepare(self, db: Connection) -> None:
        version = version_of(db)
        if version > SCHEMA_VERSION:
            why = f"it is of version {version}; this Auditra knows versions up to {SCHEMA_VERSION}"
            raise LibraryTooNew(self._where, why=why, do="Use a newer Auditra, or another --library")
        if version < SCHEMA_VERSION:
            why = f"it is of version {version}; this Auditra needs {SCHEMA_VERSION}" if version else "it is empty"
            raise StoreError(self._where, why=why, do="Have its owner run: auditra library upgrade")
        self.writable = self.adds_at_once = bool(
            db.execute(select(func.has_table_privilege("entry", "INSERT"))).scalar_one()
        )


def version_of(db: Connection) -> int:
    """The version of the tables in a database; 0 where there is none."""
    if db.execute(select(func.to_regclass("alembic_version"))).scalar_one() is None:
        return 0
    return int(db.exec_driver_sql("SELECT version_num FROM alembic_version").scalar_one())


def upgrade_database(place: LibraryPlace) -> tuple[int, int]:
    """Make the tables of a team's library, or bring them up to date: the version before, and now. Raises: StoreError
    and what is derived from it."""
    from auditra.store.migrations import upgrade

    opening = _Unopened(place)
    with opening.translate_errors():
        opening.engine = _open_engine(place)
        with _transaction(opening.engine) as db:
            db.execute(_ALONE, {"purpose": _UPGRADE, "audit_number": 0})
            before = version_of(db)
            if before > SCHEMA_VERSION:
                why = f"it is of version {before}; this Auditra knows versions up to {SCHEMA_VERSION}"
                raise LibraryTooNew(place.words, why=why, do="Use a newer Auditra")
            upgrade(db)
            after = version_of(db)
    opening.engine.dispose()
    return before, after


class _Unopened(PostgresqlDialect):
    """Only the words of the errors: nothing is asked of the database yet."""

    def __init__(self, place: LibraryPlace) -> None:
        self._where = place.words


def _open_engine(place: LibraryPlace) -> Engine:
    url = make_url(place.url)
    connect = dict(_LINE)
    if "options" not in url.query:
        connect["options"] = f"-c lock_timeout={WAITS_FOR_LOCK_MS}"
    engine = create_engine(url, connect_args=connect, isolation_level="AUTOCOMMIT", hide_parameters=True)
    _ping_those_long_unused(engine)
    return engine


def _transaction(engine: Engine) -> AbstractContextManager[Connection]:
    """What is only read needs none: a line to a far server is slow."""
    return engine.execution_options(isolation_level="READ COMMITTED").begin()


def _ping_those_long_unused(engine: Engine) -> None:
    """A connection that was in use a moment ago is whole: to ask it each time is slow where the server is far away."""

    @event.listens_for(engine, "checkin")
    def _note(connection: object, record: ConnectionPoolEntry) -> None:
        record.info[_USED_AT_S] = time.monotonic()

    @event.listens_for(engine, "checkout")
    def _ping(connection: Any, record: ConnectionPoolEntry, _: object) -> None:
        if time.monotonic() - record.info.get(_USED_AT_S, time.monotonic()) > PINGED_AFTER_S:
            try:
                engine.dialect.do_ping(connection)
            except Exception as error:  # whatever the driver says of a line that is gone
                raise DisconnectionError from error  # the pool opens another in its place


_ADD = """
WITH held AS MATERIALIZED (
    SELECT pg_advisory_xact_lock(%(purpose)s, %(audit_number)s)
), grown AS (
    UPDATE audit SET entries = %(length)s, head = %(head)s FROM held
    WHERE audit.id = %(audit)s AND audit.head = %(before)s RETURNING audit.id
), traces AS (
    INSERT INTO trace (audit, number, columns)
    SELECT new.* FROM grown, json_to_recordset(%(traces)s) AS new(audit integer, number integer, columns text)
)
INSERT INTO entry (audit, number, at, action, kind, body, link, writer)
SELECT new.* FROM grown, json_to_recordset(%(entries)s) AS new(
    audit integer, number integer, at text, action text, kind text, body text, link text, writer text
)
"""
"""The row of the audit is changed first, if it still has the head that is assumed; otherwise nothing is inserted. The
lock keeps it from coming between another writer's look at the head and what that adds."""


def _parameters(addition: Addition) -> dict[str, Any]:
    return {
        "purpose": _WRITING, "audit_number": _number(addition.audit),
        "audit": addition.audit_id, "before": addition.before, "length": addition.length, "head": addition.head,
        "entries": json.dumps(addition.entries), "traces": json.dumps(addition.traces),
    }  # fmt: skip


def _number(audit: str) -> int:
    """A number of 32 bits with a sign for an audit: two that share one only wait for each other."""
    digest = hashlib.sha256(audit.encode("utf-8", "surrogatepass")).digest()
    return int.from_bytes(digest[:4], "big", signed=True)


def _first_line(text: str) -> str:
    """What the driver says, without the hints that follow."""
    return sanitize(text.strip().partition("\n")[0], 200) or "it does not answer"


_RIGHTS = {
    "reader": ("GRANT SELECT ON ALL TABLES IN SCHEMA {schema} TO {role}",),
    "reviewer": (
        "GRANT SELECT ON ALL TABLES IN SCHEMA {schema} TO {role}",
        "GRANT INSERT ON audit, entry, trace, evidence, evidence_chunk TO {role}",
        "GRANT UPDATE (entries, head) ON audit TO {role}",
        "GRANT INSERT, UPDATE ON shared_text, judged TO {role}",
        "GRANT USAGE ON ALL SEQUENCES IN SCHEMA {schema} TO {role}",
    ),
}
"""What somebody may be in a team: a reader sees all of it, a reviewer records too and changes nothing recorded."""


def grant_role(place: LibraryPlace, user: str, role: str) -> None:
    """Give a user of the database the rights of a role, and no others of the library. Raises: StoreError."""
    opened = PostgresqlDialect(place)
    try:
        with opened.translate_errors(), _transaction(opened.engine) as db:
            quote = db.dialect.identifier_preparer.quote_identifier
            schema = quote(str(db.exec_driver_sql("SELECT current_schema()").scalar_one()))
            db.exec_driver_sql(f"REVOKE ALL ON ALL TABLES IN SCHEMA {schema} FROM {quote(user)}")
            for statement in _RIGHTS[role]:
                db.exec_driver_sql(statement.format(schema=schema, role=quote(user)))
    finally:
        opened.close()
