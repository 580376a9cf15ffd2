"""Traces beside the entries that they belong to."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision, down_revision = "0002", "0001"


def upgrade() -> None:
    op.create_table(
        "trace",
        sa.Column("audit", sa.Integer, nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("columns", sa.Text, nullable=False),
        sa.UniqueConstraint("audit", "number"),
    )
