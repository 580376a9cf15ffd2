"""In a team's database: what one bench has judged, for the others; and the bell, rung by the database itself."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision, down_revision = "0004", "0003"

_WHO = """
CREATE FUNCTION note_who() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.judged_by := session_user;
    RETURN NEW;
END $$;
CREATE TRIGGER who BEFORE INSERT OR UPDATE ON judged FOR EACH ROW EXECUTE FUNCTION note_who();
"""
_BELL = """
CREATE FUNCTION ring() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM pg_notify('auditra_grew', NEW.name);
    RETURN NULL;
END $$;
CREATE TRIGGER bell AFTER UPDATE OF head ON audit FOR EACH ROW EXECUTE FUNCTION ring();
"""


def upgrade() -> None:
    if op.get_context().dialect.name != "postgresql":
        return
    op.create_table(
        "judged",
        sa.Column("audit", sa.Integer, sa.ForeignKey("audit.id"), primary_key=True, autoincrement=False),
        sa.Column("version", sa.String(20), primary_key=True),
        sa.Column("head", sa.String(64), nullable=False),
        sa.Column("shelf_row", sa.Text, nullable=False),
        sa.Column("claims", sa.Text, nullable=False),
        sa.Column("judged_by", sa.Text),
    )
    op.execute(_WHO)
    op.execute(_BELL)
