"""How the reader's tables of words are written: any of some forms, whole words, in any case."""

from __future__ import annotations

import re
from functools import lru_cache

_LEAST_LETTERS = 3
NOTHING = re.compile(r"\s*(?:(?:none|no|nothing|n/?a)\b|-)\s*\.?\s*", re.IGNORECASE)
"""A cell of a table that denies what its column is about."""


def any_of(*forms: str) -> re.Pattern[str]:
    """Any of the forms as whole words."""
    return re.compile(rf"\b(?:{'|'.join(forms)})\b", re.IGNORECASE)


def ends_with(*forms: str) -> re.Pattern[str]:
    """Any of the forms at the end of what stands before a figure."""
    return re.compile(rf"(?:{'|'.join(forms)})\s*$", re.IGNORECASE)


def begins_with(*forms: str) -> re.Pattern[str]:
    """Any of the forms at the beginning of what stands behind a figure; use it with ``match``."""
    return re.compile(rf"\s*(?:{'|'.join(forms)})\b", re.IGNORECASE)


@lru_cache(maxsize=1024)
def needed_words(pattern: str) -> tuple[str, ...]:
    """Stretches of letters, written small, without which a pattern cannot match: a text that lacks one is passed over.

    Only what stands outside of groups and classes; nothing for a pattern that is a choice.
    """
    runs, at = [""], 0
    while at < len(pattern):
        char = pattern[at]
        if char == "|":
            return ()
        if char in "([":
            at = _end_of(pattern, at)
            runs.append("")
        elif char in "?*{":
            runs[-1] = runs[-1][:-1]
            at = pattern.index("}", at) if char == "{" else at
            runs.append("")
        elif char == "\\":
            at += 1
            runs.append("")
        elif char.isalpha() or char == " ":
            runs[-1] += char
        else:
            runs.append("")
        at += 1
    return tuple(run.strip().lower() for run in runs if len(run.strip()) >= _LEAST_LETTERS)


def _end_of(pattern: str, at: int) -> int:
    """Where a group or class ends that begins at a place."""
    is_class, depth = pattern[at] == "[", 0
    while at < len(pattern):
        char = pattern[at]
        if char == "\\":
            at += 1
        elif char == "[" and not is_class:
            at = _end_of(pattern, at)
        elif char == ("[" if is_class else "("):
            depth += 1
        elif char == ("]" if is_class else ")"):
            depth -= 1
            if depth == 0:
                return at
        at += 1
    return at
