"""The chain of a journal: each entry's link is the SHA-256 of the entry and the link before it."""

from __future__ import annotations

import hashlib

FIRST_LINK = "0" * 64
"""What the first entry of a journal is chained to."""


def chain(previous: str, audit: str, number: int, at: str, action: str, kind: str, body: str) -> str:
    """The link of an entry; fields are separated by a byte that none of them holds."""
    parts = (previous, audit, str(number), at, action, kind, body)
    return hashlib.sha256("\x1f".join(parts).encode("utf-8", "surrogatepass")).hexdigest()
