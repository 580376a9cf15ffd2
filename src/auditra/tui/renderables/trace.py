"""A trace as a chart of characters, with the promise as a line through it."""

from __future__ import annotations

from functools import lru_cache

from rich.text import Text
from textual.content import Content

from auditra.core.model.setup import MINUTE_S
from auditra.core.quantities.display import Format
from auditra.tui.theme import Palette

_MIN_WIDTH, _MIN_HEIGHT = 24, 5
_WHOLE_FROM = 20
"""Figures below this are shown with decimals."""
_MINUTES_FROM_S = 180.0
Rgb = tuple[int, int, int]


@lru_cache(maxsize=64)
def render_trace(
    time_s: tuple[float, ...],
    values: tuple[float, ...],
    limit: float | None,
    fmt: Format,
    width: int,
    height: int,
    palette: Palette,
) -> Content:
    """Values over seconds, from zero up; empty while there is nothing to draw or no room.

    Kept, since drawing one takes 10 ms, and the same one is looked at again and again.
    """
    if len(values) < 2 or width < _MIN_WIDTH or height < _MIN_HEIGHT:
        return Content("")
    import plotext as plot  # slow to import, and only needed while something is measured

    shown = [value / fmt.in_si for value in values]
    top = max([*shown, (limit or 0.0) / fmt.in_si]) * 1.05
    plot.clear_figure()
    plot.plot_size(width, height)
    plot.frame(False)
    for paint in (plot.canvas_color, plot.axes_color):
        paint(_rgb(palette.ground))
    plot.ticks_color(_rgb(palette.quiet))
    plot.plot(time_s, shown, marker="braille", color=_rgb(palette.ink))
    if limit is not None:
        plot.hline(limit / fmt.in_si, color=_rgb(palette.accent))
    plot.ylim(0, top)
    decimals = 0 if top >= _WHOLE_FROM else 2
    plot.yticks([0, top / 2, top], [f"{tick:.{decimals}f}" for tick in (0, top / 2, top)])
    end = max(*time_s, 1e-3)  # a limit short of the data would have the line drawn far beyond the canvas
    plot.xlim(0, end)
    plot.xticks([0, end / 2, end], [_time(tick, end) for tick in (0, end / 2, end)])
    return Content.from_rich_text(Text.from_ansi(plot.build(), no_wrap=True, end=""))


def _time(seconds: float, end_s: float) -> str:
    """Seconds, or minutes where it took many."""
    return f"{seconds:.1f} s" if end_s < _MINUTES_FROM_S else f"{seconds / MINUTE_S:.0f} min"


def _rgb(colour: str) -> Rgb:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)
