"""Text from outside, made harmless: what a device, a file or a person wrote is shown, never obeyed."""

from __future__ import annotations

import unicodedata

_STANDS_FOR_CONTROL = "\N{REPLACEMENT CHARACTER}"
_HARMFUL_CATEGORIES = frozenset({"Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp"})


_REFUSED_CATEGORIES = frozenset({"Cc", "Cf", "Cs", "Zl", "Zp"})
_LINE_BREAKS = frozenset("\n\t")


def find_control(text: str) -> str:
    """The first character that may steer a terminal or turn text round, by its code; empty where there is none.

    A line break or a tab in running text is none.
    """
    if text.isascii() and text.isprintable():
        return ""
    refused = (c for c in text if c not in _LINE_BREAKS and unicodedata.category(c) in _REFUSED_CATEGORIES)
    found = next(refused, None)
    return "" if found is None else f"U+{ord(found):04X}"


def escaped_json(text: str) -> str:
    """JSON with every character that may steer a terminal written as its escape: the same value to any reader."""
    if text.isascii():
        return text
    return "".join(_json_escape(c) if c != "\n" and _is_harmful(c) else c for c in text)


def _is_harmful(character: str) -> bool:
    return unicodedata.category(character) in _HARMFUL_CATEGORIES


def _json_escape(character: str) -> str:
    units = character.encode("utf-16-be", "surrogatepass")
    return "".join(f"\\u{int.from_bytes(units[at : at + 2]):04x}" for at in range(0, len(units), 2))


def sanitize(text: str, limit: int = 200) -> str:
    """The text on one line, control and direction characters replaced, cut at `limit` characters."""
    flat = text.replace("\n", " ").replace("\t", " ")
    shown = "".join(_STANDS_FOR_CONTROL if _is_harmful(c) else c for c in flat[: limit + 1])
    return shown if len(shown) <= limit else shown[: limit - 1] + "…"
