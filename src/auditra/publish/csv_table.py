"""A table as CSV (RFC 4180), in which no cell can be taken for a formula."""

from __future__ import annotations

import csv
from collections.abc import Iterable
from io import StringIO

from auditra.core.sanitize import sanitize

_FORMULA_SIGNS = ("=", "+", "-", "@", "\t", "\r")
MAX_CELL = 1000


def csv_of(rows: Iterable[Iterable[str]]) -> bytes:
    """The rows as UTF-8. A cell that a spreadsheet would work out begins with an apostrophe, but for plain numbers."""
    out = StringIO()
    csv.writer(out).writerows([_cell(text) for text in row] for row in rows)
    return out.getvalue().encode()


def _cell(text: str) -> str:
    shown = sanitize(text, MAX_CELL)
    return f"'{shown}" if shown.startswith(_FORMULA_SIGNS) and not _is_number(shown) else shown


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True
