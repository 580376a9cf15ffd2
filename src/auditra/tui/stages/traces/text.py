"""The Traces stage in words."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import TYPE_CHECKING

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.judge.charts import Chart
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.chart import axis_value, level_colours, series_colours, x_range
from auditra.tui.renderables.labels import heading
from auditra.tui.stages.traces.ladder import ladder_name
from auditra.tui.theme import Palette

if TYPE_CHECKING:  # the decoder is loaded once a conversation is looked at
    from auditra.workflows.audits.conversations import RecordedConversation


def list_of_charts(
    charts: Sequence[Chart], chosen: int, beside: Collection[tuple[str, str, str]], port: str | None, palette: Palette,
    ladders: Sequence[RecordedConversation] = (),
) -> tuple[Content, int, tuple[int, ...]]:  # fmt: skip
    """A line a chart, the line at which the chosen one begins, and the line at which each begins."""
    count = counted(len(charts), "trace")
    lines = [heading(f"traces of {port}" if port else "traces", palette, count if charts else ""), Content("")]
    if not charts and not ladders:
        lines.append(Content.styled("No trace of this port yet. Run its trials in stage 4, Run.", palette.quiet))
    starts = []
    for index, chart in enumerate(charts):
        starts.append(len(lines))
        is_chosen = index == chosen
        style = f"bold {palette.accent}" if is_chosen else palette.ink
        mark = "▸ " if is_chosen else "+ " if chart.key in beside else "  "
        what = chart.title if chart.place == port else chart.name
        figure = (f"{chart.trial:4} {what} {chart.fmt.show(chart.figure)}", style)
        lines.append(Content.assemble((mark, palette.accent), figure))
    for index, ladder in enumerate(ladders, start=len(charts)):
        starts.append(len(lines))
        mark, style = ("▸ ", f"bold {palette.accent}") if index == chosen else ("  ", palette.ink)
        lines.append(Content.assemble((mark, palette.accent), (f"{ladder.trial:4} {ladder_name(ladder)}", style)))
    return Content("\n").join(lines), starts[chosen] if starts else 0, tuple(starts)


def chart_head(charts: Sequence[Chart], palette: Palette) -> Content:
    """What each line of the chart is, in its colour."""
    first, *others = charts
    lines = [heading(f"{first.name}, {first.trial}", palette, first.fmt.symbol)]
    for chart, colour in zip(others, series_colours(palette)[1:], strict=False):
        lines.append(Content.styled(f"+ {chart.name}, {chart.trial}: {chart.fmt.show(chart.figure)}", colour))
    return Content("\n").join(lines)


def chart_foot(charts: Sequence[Chart], cursor: float | None, palette: Palette) -> Content:
    """The levels, what was read off, and the values at the cursor."""
    first = charts[0]
    levels = [(f"─ {level.name} {first.fmt.show(level.value)}   ", colour)
              for level, colour in zip(first.levels, level_colours(palette), strict=False)]  # fmt: skip
    lines = [Content.assemble(*levels)] if levels else []
    lines += [Content.styled(sanitize(f"{chart.trial}: {note}", 160), palette.ink)
              for chart in charts for note in chart.notes]  # fmt: skip
    if cursor is not None:
        begin, end = x_range(charts)
        at = begin + cursor * (end - begin)
        values = [
            f"{chart.trial} {chart.fmt.show(point[1])}"
            for chart in charts
            if chart.series[0].reaches(at) and (point := chart.series[0].nearest(at)) is not None
        ]
        where = axis_value(at, end, first.x_unit)
        lines.append(Content.assemble((f"at {where}: ", f"bold {palette.accent}"), (", ".join(values), palette.ink)))
    return Content("\n").join(lines)
