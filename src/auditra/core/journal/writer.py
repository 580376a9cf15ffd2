"""Whose name may be on an entry."""

from __future__ import annotations

from auditra.core.sanitize import sanitize

MAX_WRITER_LENGTH = 80


def is_writer(name: object) -> bool:
    """Whether this is a name: some plain characters, not too many."""
    return isinstance(name, str) and 0 < len(name) <= MAX_WRITER_LENGTH and sanitize(name) == name
