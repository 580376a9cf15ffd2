"""How the reader's tables of words are written: any of some forms, whole words, in any case."""

from __future__ import annotations

import re

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
