"""A reading on one scale, with the promise, the direct reading and the ceiling as marks on it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from textual.content import Content

from auditra.tui.theme import Palette

if TYPE_CHECKING:  # the shelf paints a band before any quantity is needed
    from auditra.core.quantities.display import Format

_FULL, _REST, _TICK = "━", "╌", "┃"
_HEADROOM = 1.04


@dataclass(frozen=True)
class Mark:
    """A value that the reading is compared with."""

    words: str
    value: float
    colour: str


def render_scale(value: float | None, marks: Sequence[Mark], fmt: Format, width: int, palette: Palette) -> Content:
    """The bar of the reading, then a line a mark, each at its place on the scale."""
    top = max([mark.value for mark in marks] + ([value] if value else []), default=1.0) * _HEADROOM or 1.0
    limit = marks[0].value if marks else 0.0
    filled = _cell(value or 0.0, top, width)
    colour = palette.holds if value is not None and value >= limit else palette.partly
    bar = Content.assemble((_FULL * filled, colour), (_REST * (width - filled), palette.rule))
    lines = [_mark_line(mark, fmt, _cell(mark.value, top, width - 1), width) for mark in marks]
    return Content("\n").join([bar, *lines])


def _cell(value: float, top: float, width: int) -> int:
    return max(0, min(width, round(value / top * width)))


def _mark_line(mark: Mark, fmt: Format, at: int, width: int) -> Content:
    """The tick with its label on the side that has room; where neither has, the value alone."""
    tick = (_TICK, f"bold {mark.colour}")
    for label in (f"{mark.words} {fmt.show(mark.value)}", fmt.show(mark.value)):
        if at + len(label) + 2 <= width:
            return Content.assemble(" " * at, tick, (f" {label}", mark.colour))
        if len(label) + 1 <= at:
            return Content.assemble(" " * (at - len(label) - 1), (f"{label} ", mark.colour), tick)
    return Content.assemble(" " * at, tick)


def render_band(lowest: float, value: float | None, highest: float, width: int, palette: Palette) -> Content:
    """The score on a scale of 100: what is certain, what is still open, and where it stands."""
    low, high = _cell(lowest, 100, width), _cell(highest, 100, width)
    cells = [(_REST, palette.rule)] * width
    cells[:low] = [(_FULL, palette.holds)] * low
    cells[low:high] = [(_FULL, palette.partly)] * (high - low)
    if value is not None:
        at = min(width - 1, max(0, _cell(value, 100, width) - 1))
        cells[at] = (_TICK, f"bold {palette.accent}")
    return Content.assemble(*cells)
