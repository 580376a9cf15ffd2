"""Photos and other files, kept as evidence by their SHA-256."""

from __future__ import annotations

from auditra.core.errors import InputError
from auditra.core.journal.facts import EvidenceKept
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import EvidenceKeeper

MAX_PHOTO_BYTES = 32 << 20
OTHER_FILE = "application/octet-stream"
_PICTURES = {b"\xff\xd8\xff": "image/jpeg", b"\x89PNG": "image/png", b"RIFF": "image/webp"}
"""How the files of cameras and telephones begin."""


def picture_type(data: bytes) -> str:
    """The media type of a picture; empty for any other file."""
    return next((kind for begins, kind in _PICTURES.items() if data.startswith(begins)), "")


def photo_of(name: str, data: bytes, about: str, keeper: EvidenceKeeper) -> EvidenceKept:
    """A photo, or another file, with its bytes on disk. Raises: InputError, StoreError."""
    if len(data) > MAX_PHOTO_BYTES:
        raise InputError(sanitize(name, 80), why=f"it is longer than {MAX_PHOTO_BYTES} bytes", do="Make it smaller")
    kind = picture_type(data) or OTHER_FILE
    return EvidenceKept(keeper.keep(data), sanitize(name, 80), len(data), media_type=kind, about=about)
