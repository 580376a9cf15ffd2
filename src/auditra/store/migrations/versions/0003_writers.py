"""Who wrote an entry; in a team's database evidence and shared files too, and the guards of an append-only journal."""

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
_SIGNED_OFF = """
ALTER TABLE audit ADD COLUMN closed_by text;
CREATE FUNCTION require_open() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE closed text;
BEGIN
    SELECT closed_by INTO closed FROM audit WHERE id = NEW.audit;
    IF closed IS NOT NULL AND closed <> session_user THEN
        RAISE EXCEPTION 'the audit is signed off' USING ERRCODE = 'insufficient_privilege';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER open_only BEFORE INSERT ON entry FOR EACH ROW EXECUTE FUNCTION require_open();
CREATE FUNCTION close_or_open() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path FROM CURRENT AS $$
BEGIN
    UPDATE audit SET closed_by = CASE WHEN NEW.body::json ->> 'is_open' = 'true' THEN NULL ELSE session_user END
    WHERE id = NEW.audit;
    RETURN NULL;
END $$;
CREATE TRIGGER signed_off AFTER INSERT ON entry FOR EACH ROW WHEN (NEW.kind = 'signed off')
EXECUTE FUNCTION close_or_open();
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
    op.create_table(
        "shared_text",
        sa.Column("kind", sa.String(20), primary_key=True),
        sa.Column("name", sa.String(80), primary_key=True),
        sa.Column("text", sa.Text, nullable=False),
        sa.Column("writer", sa.String(80), nullable=False),
        sa.Column("at", sa.String(40), nullable=False),
    )
    op.execute(_APPEND_ONLY)
    op.execute(_NO_GAPS)
    op.execute(_SIGNED_OFF)
