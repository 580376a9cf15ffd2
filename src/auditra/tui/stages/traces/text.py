"""The Traces stage in words."""

from __future__ import annotations

from collections.abc import Sequence

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.decide.reading_text import reading_in_words
from auditra.tui.renderables.labels import heading
from auditra.tui.renderables.recorded_trace import RecordedTrace, TrialScale
from auditra.tui.theme import Palette


def list_of_traces(
    traces: Sequence[RecordedTrace], chosen: int, port: str | None, palette: Palette
) -> tuple[Content, int]:
    """Two lines a trace, and the line at which the chosen one begins."""
    count = counted(len(traces), "trace")
    lines = [heading(f"traces of {port}" if port else "traces", palette, count if traces else ""), Content("")]
    if not traces:
        lines.append(Content.styled("No trace of this port yet. Run its trials in stage 4, Run.", palette.quiet))
    chosen_line = 0
    for index, recorded in enumerate(traces):
        is_chosen = index == chosen
        if is_chosen:
            chosen_line = len(lines)
        style = f"bold {palette.accent}" if is_chosen else palette.ink
        quantity, figure = recorded.reading.quantity, reading_in_words(recorded.reading)
        lines.append(Content.assemble(("▸ " if is_chosen else "  ", palette.accent), (f"{quantity} {figure}", style)))
        lines.append(Content.styled(f"  {recorded.trial_id}  {recorded.planned.title}", palette.quiet))
    return Content("\n").join(lines), chosen_line


def trace_head(recorded: RecordedTrace, scale: TrialScale, palette: Palette) -> Content:
    """What the chart shows, and the claim that its line stands for."""
    claim = f"{scale.fmt.symbol}, claimed {scale.fmt.number(scale.limit)}"
    return heading(recorded.title, palette, claim)
