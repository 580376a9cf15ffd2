"""The tables of a library, and the statements on them. Nothing here is of one database alone."""

from __future__ import annotations

from sqlalchemy import (
    Column,
    ColumnElement,
    Integer,
    LargeBinary,
    MetaData,
    Select,
    String,
    Table,
    Text,
    UniqueConstraint,
    bindparam,
    insert,
    literal,
    select,
    update,
)

from auditra.core.journal.writer import MAX_WRITER_LENGTH
from auditra.store.chain import FIRST_LINK

SCHEMA_VERSION = 6
"""Of `migrations/versions`, the last."""
FOLDER_VERSION = 3
"""The last of them that changed what a folder has."""
FIRST_WITH_TRACES = 2
"""In a library of version 1 the traces stand in the bodies of their entries."""
FIRST_WITH_WRITERS = 3
METADATA = MetaData()
AUDITS = Table(
    "audit",
    METADATA,
    Column("id", Integer, primary_key=True),
    Column("name", String(64), nullable=False, unique=True),
    Column("entries", Integer, nullable=False, default=0),
    Column("head", String(64), nullable=False, default=FIRST_LINK),
)
ENTRIES = Table(
    "entry",
    METADATA,
    Column("audit", Integer, nullable=False),
    Column("number", Integer, nullable=False),
    Column("at", String(40), nullable=False),
    Column("action", String(40), nullable=False),
    Column("kind", String(40), nullable=False),
    Column("body", Text, nullable=False),
    Column("link", String(64), nullable=False),
    Column("writer", String(MAX_WRITER_LENGTH), nullable=False, server_default=""),
    UniqueConstraint("audit", "number"),
)

TRACES = Table(
    "trace",
    METADATA,
    Column("audit", Integer, nullable=False),
    Column("number", Integer, nullable=False),
    Column("columns", Text, nullable=False),
    UniqueConstraint("audit", "number"),
)

JOURNAL = (AUDITS, ENTRIES, TRACES)
"""What every library has; a team's has the rest as well, which others keep in files."""
EVIDENCE = Table(
    "evidence",
    METADATA,
    Column("sha256", String(64), primary_key=True),
    Column("size", Integer, nullable=False),
)
CHUNKS = Table(
    "evidence_chunk",
    METADATA,
    Column("sha256", String(64), primary_key=True),
    Column("number", Integer, primary_key=True, autoincrement=False),
    Column("data", LargeBinary, nullable=False),
)

SHARED_TEXTS = Table(
    "shared_text",
    METADATA,
    Column("kind", String(20), primary_key=True),
    Column("name", String(80), primary_key=True),
    Column("text", Text, nullable=False),
    Column("writer", String(MAX_WRITER_LENGTH), nullable=False),
    Column("at", String(40), nullable=False),
)

JUDGED = Table(
    "judged",
    METADATA,
    Column("audit", Integer, primary_key=True, autoincrement=False),
    Column("version", String(20), primary_key=True),
    Column("head", String(64), nullable=False),
    Column("shelf_row", Text, nullable=False),
    Column("claims", Text, nullable=False),
    Column("judged_by", Text),
)

# Built once: building them takes longer than the disk.
HEADS = select(AUDITS.c.name, AUDITS.c.head).order_by(AUDITS.c.id)
AUDIT_BY_NAME = select(AUDITS).where(AUDITS.c.name == bindparam("audit_name"))
ADD_AUDIT = insert(AUDITS)
_OF_ENTRY = (ENTRIES.c.number, ENTRIES.c.at, ENTRIES.c.action, ENTRIES.c.kind, ENTRIES.c.body, ENTRIES.c.link)


def _entries_after(writer: ColumnElement[str]) -> Select[tuple[int, str, str, str, str, str, str]]:
    return (
        select(*_OF_ENTRY, writer)
        .where(
            ENTRIES.c.audit == bindparam("audit_id"),
            ENTRIES.c.number > bindparam("seen"),
            ENTRIES.c.number <= bindparam("up_to"),
        )
        .order_by(ENTRIES.c.number)
    )


ENTRIES_AFTER = _entries_after(ENTRIES.c.writer)
ENTRIES_WITHOUT_WRITERS_AFTER = _entries_after(literal("").label("writer"))
TRACES_AFTER = (
    select(TRACES.c.number, TRACES.c.columns)
    .where(
        TRACES.c.audit == bindparam("audit_id"),
        TRACES.c.number > bindparam("seen"),
        TRACES.c.number <= bindparam("up_to"),
    )
    .order_by(TRACES.c.number)
)
ADD_ENTRIES = insert(ENTRIES)
ADD_TRACES = insert(TRACES)
GROW = (
    update(AUDITS)
    .where(AUDITS.c.id == bindparam("audit_id"), AUDITS.c.head == bindparam("before"))
    .values(entries=bindparam("entries"), head=bindparam("head"))
)
"""Only where the journal still ends where the new entries were chained on."""
