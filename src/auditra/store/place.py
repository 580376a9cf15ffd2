"""Where a library is: a folder of this machine, or a team's database with a folder of this machine beside it."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, field
from pathlib import Path

from auditra.core.errors import InputError
from auditra.core.sanitize import sanitize

SCHEMES = ("postgresql+psycopg", "postgresql")
USUAL_PORT = 5432
TEAMS = "teams"
_DO = "Name it as postgresql+psycopg://USER@HOST/DATABASE, or name a folder"
_PLAIN = re.compile(r"[^a-z0-9]+")


@dataclass(frozen=True)
class LibraryPlace:
    """A folder; with a URL it holds only what belongs to this machine, and the audits are in the database.

    The URL may hold a password: it is never shown, and `words` is what to call the place by.
    """

    folder: Path
    url: str = field(default="", repr=False)
    words: str = ""

    @property
    def is_of_team(self) -> bool:
        return bool(self.url)


def is_url(text: str) -> bool:
    """Whether a text names a database rather than a folder."""
    return "://" in text


def place_of(text: str, local: Path) -> LibraryPlace:
    """The library that a text names; `local` is the folder of this machine that the folders of databases are in.

    Raises: InputError for what is no such URL; its words hold nothing of it but scheme, host and database.
    """
    if not is_url(text):
        return LibraryPlace(Path(text), words=text)
    from urllib.parse import parse_qsl, unquote, urlsplit  # a folder needs none of it

    try:
        parts = urlsplit(text)
        port = parts.port or USUAL_PORT
    except ValueError:
        raise InputError("the library's URL", why="host or port is none", do=_DO) from None
    if parts.scheme not in SCHEMES:
        raise InputError(f'library "{sanitize(parts.scheme, 30)}://..."', why="no such database is known", do=_DO)
    database = unquote(parts.path.lstrip("/"))
    host = parts.hostname or dict(parse_qsl(parts.query)).get("host", "")
    if not database or "/" in database:
        raise InputError("the library's URL", why="it names no database", do=_DO)
    at = f"{host or 'this machine'}{'' if port == USUAL_PORT else f':{port}'}"
    digest = hashlib.sha256(f"{host}:{port}/{database}".encode()).hexdigest()[:8]
    folder = local / TEAMS / f"{_PLAIN.sub('-', database.lower()).strip('-')[:40] or 'library'}-{digest}"
    url = f"{SCHEMES[0]}{text[len(parts.scheme) :]}"
    return LibraryPlace(folder, url, f'library "{sanitize(database, 60)}" on {sanitize(at, 80)}')
