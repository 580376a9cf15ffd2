"""Audits and the entries of their journals."""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision, down_revision = "0001", None


def upgrade() -> None:
    op.create_table(
        "audit",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(64), nullable=False, unique=True),
        sa.Column("entries", sa.Integer, nullable=False),
        sa.Column("head", sa.String(64), nullable=False),
    )
    op.create_table(
        "entry",
        sa.Column("audit", sa.Integer, nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("at", sa.String(40), nullable=False),
        sa.Column("action", sa.String(40), nullable=False),
        sa.Column("kind", sa.String(40), nullable=False),
        sa.Column("body", sa.Text, nullable=False),
        sa.Column("link", sa.String(64), nullable=False),
        sa.UniqueConstraint("audit", "number"),
    )
