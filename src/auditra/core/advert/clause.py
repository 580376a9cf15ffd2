"""A stretch of the text with the words that it stands under."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Clause:
    """A stretch of the text. `over` are the words that it stands under: a key, the heads of its row and column."""

    start: int
    end: int
    over: str = ""
    column: str = ""
    heading: str = ""
    model: str = ""
    """The device that a column of a table is of."""
    row: str = ""
    """Which row of a table it is in, where that is a number."""
    row_start: int = -1
    """Where the row of a table begins that it is a cell of."""
    key_at: int = -1
    """Where the clause began whose key this one is under, too: ``HDMI: 4K60; 1440p at 120 Hz``."""
    begins_line: bool = True
    beside: tuple[tuple[str, str], ...] = ()
    """Of a table with a row for each set of sockets that are used together: every socket with its cell."""
