"""What follows from what a device is called: a lead is no alternative to a dock."""

from __future__ import annotations


def is_cable(kind: str) -> bool:
    """Whether a device of this kind is a lead under audit, such as ``cable`` or ``active cable``."""
    return "cable" in kind.casefold()
