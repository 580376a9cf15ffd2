"""Charts as characters: several series on one pair of axes, with levels, fits and a cursor."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from textual.content import Content

from auditra.core.judge.charts import Chart
from auditra.tui.renderables.axes import MIN_HEIGHT, MIN_WIDTH, WHOLE_FROM, canvas, drawn, rgb, time_text
from auditra.tui.theme import Palette

_MARGIN = 0.05


@lru_cache(maxsize=64)
def render_chart(charts: tuple[Chart, ...], cursor: float | None, width: int, height: int, palette: Palette) -> Content:
    """The charts over each other; `cursor` is its place as a share of the axis. Empty where there is no room.

    Kept, since drawing one takes 10 ms, and the same one is looked at again and again.
    """
    if not charts or width < MIN_WIDTH or height < MIN_HEIGHT:
        return Content("")
    first = charts[0]
    begin, end = x_range(charts)
    low, high = _y_range(charts)
    plot = canvas(width, height, palette)
    for level, colour in zip(first.levels, level_colours(palette), strict=False):
        plot.hline(level.value / first.fmt.in_si, color=rgb(colour))
    for chart, colour in zip(charts, series_colours(palette), strict=False):
        for series in chart.series:
            y = [value / first.fmt.in_si for value in series.y]
            draw = plot.scatter if series.is_points else plot.plot
            draw(list(series.x), y, marker="•" if series.is_points else "braille",
                 color=rgb(palette.partly if series.is_fit else colour))  # fmt: skip
    if cursor is not None:
        plot.vline(begin + cursor * (end - begin), color=rgb(palette.rule))
    plot.ylim(low, high)
    decimals = 0 if high >= WHOLE_FROM and high - low >= WHOLE_FROM / 2 else 2
    ticks = (low, (low + high) / 2, high)
    plot.yticks(list(ticks), [f"{tick:.{decimals}f}" for tick in ticks])
    plot.xlim(begin, end)
    marks = (begin, (begin + end) / 2, end)
    plot.xticks(list(marks), [axis_value(mark, end, first.x_unit) for mark in marks])
    return drawn(plot)


def x_range(charts: Sequence[Chart]) -> tuple[float, float]:
    """Both ends of the axis that charts share."""
    every = [x for chart in charts for series in chart.series for x in series.x]
    begin = 0.0 if charts[0].x_unit == "s" else min(every)
    return begin, max(max(every), begin + 1e-3)  # a single point would leave no axis


def _y_range(charts: Sequence[Chart]) -> tuple[float, float]:
    first = charts[0]
    values = [y / first.fmt.in_si for chart in charts for series in chart.series for y in series.y]
    values += [level.value / first.fmt.in_si for level in first.levels]
    low, high = (0.0 if first.from_zero else min(values)), max(values)
    room = _MARGIN * (high - low or abs(high) or 1.0)
    return (low if first.from_zero and low >= 0 else low - room), high + room


def series_colours(palette: Palette) -> tuple[str, ...]:
    """One for each chart on the axes."""
    return palette.ink, palette.unsure, palette.holds, palette.partly, palette.broken


def level_colours(palette: Palette) -> tuple[str, ...]:
    """The claim, the same gear direct, the ceiling."""
    return palette.accent, palette.holds, palette.unsure


def axis_value(x: float, end: float, unit: str) -> str:
    """Seconds, minutes where it took many; amperes."""
    if unit != "s":
        return f"{x:.2f} {unit}"
    return time_text(x, end)
