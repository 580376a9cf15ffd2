"""Text from outside, made harmless: what a device, a file or a person wrote is shown, never obeyed."""

from __future__ import annotations

import unicodedata

_STANDS_FOR_CONTROL = "\N{REPLACEMENT CHARACTER}"
_HARMFUL_CATEGORIES = frozenset({"Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp"})


def inert(text: str, limit: int = 200) -> str:
    """The text on one line, control and direction characters replaced, cut at `limit` characters."""
    flat = text.replace("\n", " ").replace("\t", " ")
    shown = "".join(
        _STANDS_FOR_CONTROL if unicodedata.category(c) in _HARMFUL_CATEGORIES else c for c in flat[: limit + 1]
    )
    return shown if len(shown) <= limit else shown[: limit - 1] + "…"
