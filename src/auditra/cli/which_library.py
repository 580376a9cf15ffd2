"""Which library is meant, and whose name is on what is recorded in it."""

from __future__ import annotations

import os
from pathlib import Path

from auditra.cli.composition import LibraryHandle
from auditra.core.errors import InputError
from auditra.core.journal.writer import MAX_WRITER_LENGTH, is_writer
from auditra.core.sanitize import sanitize
from auditra.store.place import LibraryPlace, place_of

LIBRARY_VARIABLE, WRITER_VARIABLE = "AUDITRA_LIBRARY", "AUDITRA_WRITER"


def default_library() -> Path:
    import platformdirs  # not needed where a library is named

    return platformdirs.user_data_path("auditra")


def handle_of(library: str = "", writer: str = "") -> LibraryHandle:
    """The library that is named: a folder, or the URL of a team's database; else the reviewer's own.

    What is recorded in a team's library is signed with the name that the system knows, unless another is given.
    Raises: InputError.
    """
    own = default_library()
    place = place_of(library, own) if library else LibraryPlace(own)
    if writer and not is_writer(writer):
        raise InputError("the writer's name", why=f"up to {MAX_WRITER_LENGTH} plain characters make one")
    return LibraryHandle(place, writer or (_name_by_the_system() if place.is_of_team else ""))


def _name_by_the_system() -> str:
    """The full name of whoever is logged in, else the short one."""
    import getpass
    import pwd

    try:
        person = pwd.getpwuid(os.getuid())
    except KeyError:
        return getpass.getuser()
    return sanitize(person.pw_gecos.partition(",")[0].strip() or person.pw_name, MAX_WRITER_LENGTH)
