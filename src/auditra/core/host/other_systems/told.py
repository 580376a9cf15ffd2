"""Values out of what a system printed: any of them may be missing, of another type, or nonsense."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from typing import Any

from auditra.core.sanitize import sanitize

Table = Mapping[str, Any]
MAX_ITEMS, MAX_DEPTH = 2000, 12
_WHOLE = re.compile(r"\s*(0[xX][0-9a-fA-F]{1,16}|[0-9]{1,18})\b")
_RATE = re.compile(r"([0-9]{1,6}(?:\.[0-9]{1,3})?)\s*([KMG])b(?:it)?(?:/s|ps|/sec)", re.IGNORECASE)
_IN_MBPS = {"k": 1e-3, "m": 1.0, "g": 1e3}


def text(table: Table, *keys: str, limit: int = 80) -> str:
    """The first of these keys that has words or a number; empty where none has."""
    for key in keys:
        value = table.get(key)
        if isinstance(value, str | int | float) and not isinstance(value, bool) and str(value).strip():
            return sanitize(str(value).strip(), limit)
    return ""


def whole(table: Table, *keys: str) -> int | None:
    """A whole number, decimal or ``0x2109``, with whatever words follow it; None where there is none."""
    for key in keys:
        value = table.get(key)
        if isinstance(value, bool):
            continue
        if isinstance(value, int) and 0 <= value < 2**63:
            return value
        if isinstance(value, str) and (match := _WHOLE.match(value)):
            return int(match[1], 0) if match[1][:2].lower() == "0x" else int(match[1])
    return None


def flag(table: Table, *keys: str) -> bool | None:
    """True, false, or None where it is neither."""
    for key in keys:
        value = table.get(key)
        if isinstance(value, bool):
            return value
        if isinstance(value, str) and value.strip().lower() in ("true", "yes", "false", "no"):
            return value.strip().lower() in ("true", "yes")
    return None


def rate_mbps(words: object) -> float | None:
    """``Up to 40 Gb/s`` and ``480 Mbps`` in Mb/s; None where there is no rate."""
    match = _RATE.search(words) if isinstance(words, str) else None
    return float(match[1]) * _IN_MBPS[match[2].lower()] if match else None


def tables(value: object) -> Iterator[Table]:
    """The tables of a list; a table alone is a list of one."""
    for each in (value if isinstance(value, list) else [value])[:MAX_ITEMS]:
        if isinstance(each, Mapping):
            yield each
