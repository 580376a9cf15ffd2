"""The tables of a library, and the statements on them. Nothing here is of one database alone."""

from __future__ import annotations

from sqlalchemy import (
    Column,
    Integer,
    MetaData,
    String,
    Table,
    Text,
    UniqueConstraint,
    bindparam,
    insert,
    select,
    update,
)

from auditra.store.chain import FIRST_LINK

SCHEMA_VERSION = 2
FIRST_WITH_TRACES = 2
"""In a library of version 1 the traces stand in the bodies of their entries."""
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

# Built once: building them takes longer than the disk.
HEADS = select(AUDITS.c.name, AUDITS.c.head).order_by(AUDITS.c.id)
AUDIT_BY_NAME = select(AUDITS).where(AUDITS.c.name == bindparam("audit_name"))
ADD_AUDIT = insert(AUDITS)
ENTRIES_AFTER = (
    select(ENTRIES.c.number, ENTRIES.c.at, ENTRIES.c.action, ENTRIES.c.kind, ENTRIES.c.body, ENTRIES.c.link)
    .where(
        ENTRIES.c.audit == bindparam("audit_id"),
        ENTRIES.c.number > bindparam("seen"),
        ENTRIES.c.number <= bindparam("up_to"),
    )
    .order_by(ENTRIES.c.number)
)
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
    .where(AUDITS.c.id == bindparam("audit_id"))
    .values(entries=bindparam("entries"), head=bindparam("head"))
)
