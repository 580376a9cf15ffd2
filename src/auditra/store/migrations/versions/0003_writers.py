"""Who wrote an entry; in a team's database evidence too, and the guards that keep a journal append-only."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision, down_revision = "0003", "0002"

_APPEND_ONLY = """
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'what is in a journal stays as it is' USING ERRCODE = 'insufficient_privilege';
END $$;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON entry EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON trace EXECUTE FUNCTION refuse_change();
"""
_NO_GAPS = """
CREATE FUNCTION require_next() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF NEW.number > 1 AND NOT EXISTS (SELECT 1 FROM entry WHERE audit = NEW.audit AND number = NEW.number - 1) THEN
        RAISE EXCEPTION 'entry % does not follow the one before', NEW.number USING ERRCODE = 'check_violation';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER no_gaps BEFORE INSERT ON entry FOR EACH ROW EXECUTE FUNCTION require_next();
"""


def upgrade() -> None:
    op.add_column("entry", sa.Column("writer", sa.String(80), nullable=False, server_default=""))
    if op.get_context().dialect.name != "postgresql":
        return
    op.create_table(
        "evidence",
        sa.Column("sha256", sa.String(64), primary_key=True),
        sa.Column("size", sa.Integer, nullable=False),
    )
    op.create_table(
        "evidence_chunk",
        sa.Column("sha256", sa.String(64), sa.ForeignKey("evidence.sha256"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=False),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
    op.execute(_APPEND_ONLY)
    op.execute(_NO_GAPS)
