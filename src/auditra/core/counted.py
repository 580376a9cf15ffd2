"""How many of something, in words. In a file of its own: the shelf is painted before anything larger is loaded."""

from __future__ import annotations


def counted(count: int, noun: str) -> str:
    """``1 trial``, ``2 trials``, ``3 entries``."""
    plural = f"{noun[:-1]}ies" if noun.endswith("y") else f"{noun}s"
    return f"{count} {noun if count == 1 else plural}"
