"""Read by Alembic: every step is done on the connection that it was given."""

from __future__ import annotations

from alembic import context

connection = context.config.attributes["connection"]
context.configure(connection=connection, transactional_ddl=False)
context.run_migrations()
