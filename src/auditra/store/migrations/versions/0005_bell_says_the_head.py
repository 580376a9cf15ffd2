"""In a team's database: the bell says where the journal ends now, so that a bench knows its own entry again."""

from __future__ import annotations

from alembic import op

revision, down_revision = "0005", "0004"

_RING = """
CREATE OR REPLACE FUNCTION ring() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM pg_notify('auditra_grew', NEW.head || ' ' || NEW.name);
    RETURN NULL;
END $$;
"""


def upgrade() -> None:
    if op.get_context().dialect.name == "postgresql":
        op.execute(_RING)
