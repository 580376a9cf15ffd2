"""A library of either sort, so that what the store promises is tried on both."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest

from auditra.store.dialects.sqlite import FILE
from auditra.store.library import Library
from auditra.store.place import LibraryPlace
from tests.support.postgres import TeamServer


@dataclass
class Shelf:
    """A library that may be opened as often as there are windows."""

    place: LibraryPlace
    server: TeamServer | None = None
    database: str = ""
    opened: list[Library] = field(default_factory=list)

    @property
    def folder(self) -> Path:
        return self.place.folder

    def open(self, writer: str = "") -> Library:
        self.opened.append(Library(self.place, writer))
        return self.opened[-1]

    def change(self, statement: str) -> None:
        """From outside, past the guards of the database: as its owner can."""
        if self.server is None:
            with sqlite3.connect(self.folder / FILE) as db:
                db.execute(statement)
            return
        with self.server.connect(self.database) as team:
            team.execute("SET session_replication_role = replica")
            team.execute(statement.encode())


@pytest.fixture(params=["folder", "team"])
def shelf(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[Shelf]:
    if request.param == "folder":
        made = Shelf(LibraryPlace(tmp_path / "library"))
    else:
        server: TeamServer = request.getfixturevalue("team_server")
        database = server.new_database()
        made = Shelf(server.place(database, tmp_path), server, database)
    yield made
    for each in made.opened:
        each.close()
