"""Widths in terminal cells: an ideograph takes two, a combining mark none, so `len` shifts columns."""

from __future__ import annotations

from rich.cells import cell_len, set_cell_size


def cut(text: str, width: int) -> str:
    """The text in at most `width` cells; an ellipsis shows that something was cut."""
    if cell_len(text) <= width:
        return text
    return set_cell_size(text, max(0, width - 1)).rstrip() + "…" if width > 0 else ""


def fill(text: str, width: int) -> str:
    """The text in exactly `width` cells, cut or filled with spaces."""
    return set_cell_size(cut(text, width), width)
