"""What every chart of characters shares: a canvas in the palette's colours, and values along its axes."""

from __future__ import annotations

from types import ModuleType

from rich.text import Text
from textual.content import Content

from auditra.core.model.setup import MINUTE_S
from auditra.tui.theme import Palette

MIN_WIDTH, MIN_HEIGHT = 24, 5
"""Below this there is no room for a chart."""
WHOLE_FROM = 20
"""Figures below this are shown with decimals."""
_MINUTES_FROM_S = 180.0
Rgb = tuple[int, int, int]


def canvas(width: int, height: int, palette: Palette) -> ModuleType:
    """An empty chart of so many cells, to be drawn on."""
    import plotext as plot  # slow to import, and only needed once something is drawn

    plot.clear_figure()
    plot.plot_size(width, height)
    plot.frame(False)
    for paint in (plot.canvas_color, plot.axes_color):
        paint(rgb(palette.ground))
    plot.ticks_color(rgb(palette.quiet))
    found: ModuleType = plot
    return found


def drawn(plot: ModuleType) -> Content:
    """What was drawn, as text."""
    return Content.from_rich_text(Text.from_ansi(plot.build(), no_wrap=True, end=""))


def time_text(seconds: float, end_s: float) -> str:
    """Seconds, or minutes where it took many."""
    return f"{seconds:.1f} s" if end_s < _MINUTES_FROM_S else f"{seconds / MINUTE_S:.0f} min"


def rgb(colour: str) -> Rgb:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)
