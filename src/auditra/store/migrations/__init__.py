"""The versions of a library's tables, a file each, and how an older one is brought up to date."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import Connection, inspect

REVISION = "{:04}"
VERSION_TABLE = "alembic_version"
_HERE = Path(__file__).parent


def upgrade(db: Connection, known: int = 0) -> None:
    """From the version that is noted in the database, or else from `known`, up to the newest; in the transaction that
    `db` is in.
    """
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(_HERE).replace("%", "%%"))
    config.attributes["connection"] = db
    if known and not inspect(db).has_table(VERSION_TABLE):
        command.stamp(config, REVISION.format(known))
    command.upgrade(config, "head")
