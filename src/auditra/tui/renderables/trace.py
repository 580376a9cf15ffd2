"""A trace as a chart of characters, with the promise as a line through it."""

from __future__ import annotations

from functools import lru_cache

from textual.content import Content

from auditra.core.quantities.display import Format
from auditra.tui.renderables.axes import MIN_HEIGHT, MIN_WIDTH, WHOLE_FROM, canvas, drawn, rgb, time_text
from auditra.tui.theme import Palette


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
    if len(values) < 2 or width < MIN_WIDTH or height < MIN_HEIGHT:
        return Content("")
    shown = [value / fmt.in_si for value in values]
    top = max([*shown, (limit or 0.0) / fmt.in_si]) * 1.05
    plot = canvas(width, height, palette)
    plot.plot(time_s, shown, marker="braille", color=rgb(palette.ink))
    if limit is not None:
        plot.hline(limit / fmt.in_si, color=rgb(palette.accent))
    plot.ylim(0, top)
    decimals = 0 if top >= WHOLE_FROM else 2
    plot.yticks([0, top / 2, top], [f"{tick:.{decimals}f}" for tick in (0, top / 2, top)])
    end = max(*time_s, 1e-3)  # a limit short of the data would have the line drawn far beyond the canvas
    plot.xlim(0, end)
    plot.xticks([0, end / 2, end], [time_text(tick, end) for tick in (0, end / 2, end)])
    return drawn(plot)
