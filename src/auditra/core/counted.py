"""How many of something, in words. In a file of its own: the shelf is painted before anything larger is loaded."""

from __future__ import annotations

from collections.abc import Sequence


def counted(count: int, noun: str) -> str:
    """``1 trial``, ``2 trials``, ``3 entries``."""
    plural = f"{noun[:-1]}ies" if noun.endswith("y") else f"{noun}s"
    return f"{count} {noun if count == 1 else plural}"


def listed(names: Sequence[str]) -> str:
    """``T1, T2 and T3``; empty for none."""
    *first, last = names or ("",)
    return f"{', '.join(first)} and {last}" if first else last
