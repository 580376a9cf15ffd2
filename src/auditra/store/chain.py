"""The chain of a journal: each entry's link is the SHA-256 of the entry and the link before it."""

from __future__ import annotations

import hashlib

from auditra.documents.facts import Encoded

FIRST_LINK = "0" * 64
"""What the first entry of a journal is chained to."""


def chain(
    previous: str, audit: str, number: int, at: str, action: str, encoded: Encoded, writer: str = ""
) -> str:  # fmt: skip
    """The link of an entry; fields are separated by a byte that none of them holds.

    A trace that is kept beside the body takes part by its own SHA-256, and who wrote the entry where that is known.
    """
    parts = [previous, audit, str(number), at, action, encoded.kind, encoded.body]
    parts += [] if encoded.trace is None else [_sha256(encoded.trace)]
    parts += [f"by {writer}"] if writer else []
    return _sha256("\x1f".join(parts))


def _sha256(text: str) -> str:
    return hashlib.sha256(text.encode("utf-8", "surrogatepass")).hexdigest()
