"""Evidence in a database: in pieces of a megabyte, under the SHA-256 of the whole, which is checked on reading."""

from __future__ import annotations

import hashlib
from contextlib import AbstractContextManager
from typing import Protocol

from sqlalchemy import Connection, Engine, bindparam, select
from sqlalchemy.dialects.postgresql import insert

from auditra.core.errors import StoreError
from auditra.store.evidence import digest_of, require_digest
from auditra.store.schema import CHUNKS, EVIDENCE

CHUNK_BYTES = 1 << 20
_ADD = insert(EVIDENCE).on_conflict_do_nothing().returning(EVIDENCE.c.sha256)
_SIZE = select(EVIDENCE.c.size).where(EVIDENCE.c.sha256 == bindparam("wanted"))
_ADD_CHUNKS = CHUNKS.insert()
_READ = select(CHUNKS.c.data).where(CHUNKS.c.sha256 == bindparam("wanted")).order_by(CHUNKS.c.number)
_RESTORE = "Restore it from a copy"


class _Database(Protocol):
    engine: Engine

    def writing(self, audit: str) -> AbstractContextManager[Connection]: ...
    def translate_errors(self) -> AbstractContextManager[None]: ...


class EvidenceRows:
    """Rows of one database."""

    def __init__(self, database: _Database) -> None:
        self._database = database

    def keep(self, data: bytes) -> str:
        """Once this returns, they are committed. The SHA-256. Raises: LibraryFull, StoreError."""
        sha256 = digest_of(data)
        with self._database.translate_errors(), self._database.writing(sha256) as db:
            if db.execute(_ADD, {"sha256": sha256, "size": len(data)}).first() is not None:
                starts = range(0, len(data), CHUNK_BYTES)
                chunks = [
                    {"sha256": sha256, "number": number, "data": data[start : start + CHUNK_BYTES]}
                    for number, start in enumerate(starts)
                ]
                if chunks:
                    db.execute(_ADD_CHUNKS, chunks)
        return sha256

    def read(self, sha256: str) -> bytes:
        """The bytes. Raises: StoreError where they are missing, or are not what they were."""
        require_digest(sha256)
        with self._database.translate_errors(), self._database.engine.connect() as db:
            size = db.execute(_SIZE, {"wanted": sha256}).scalar_one_or_none()
            data = b"".join(map(bytes, db.execute(_READ, {"wanted": sha256}).scalars()))
        if size is None:
            raise StoreError(f"evidence {sha256[:12]}", why="it is not there", do=_RESTORE)
        if hashlib.sha256(data).hexdigest() != sha256:
            raise StoreError(f"evidence {sha256[:12]}", why="it was changed after it was kept", do=_RESTORE)
        return data
