"""Stage 5, Traces: the traces of the chosen port, each as a chart with the claim as a line through it."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType

from auditra.tui.audit_state import AuditState
from auditra.tui.renderables.recorded_trace import RecordedTrace, recorded_traces, trial_scale
from auditra.tui.renderables.trace import render_trace
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.stages.traces.text import list_of_traces, trace_head
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import BigNumber, ShownText

_MAX_CHART_WIDTH = 110


class TracesStage(Stage):
    """Recorded traces are looked at here."""

    NAME = "Traces"
    PANELS = ("traces", "chart")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    TracesStage #traces { width: 52; }
    TracesStage #chart { width: 1fr; border-left: vkey $rule; overflow: hidden; }
    TracesStage BigNumber { width: 1fr; text-style: bold; height: 3; margin: 1 0 0 0; }
    TracesStage #chart-text { height: 1fr; margin: 1 0 0 0; }
    .-middle TracesStage #traces { width: 40; }
    .-narrow TracesStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow TracesStage.front-traces #traces, .-narrow TracesStage.front-chart #chart {
        display: block; width: 1fr; border-left: none;
    }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("j", "next_trace(1)", "trace"),
        Binding("k", "next_trace(-1)", "trace"),
        NEXT_PANEL,
    ]

    def __init__(self) -> None:
        super().__init__()
        self._chosen: tuple[str | None, int] = (None, 0)
        """The port, and which of its traces is chosen."""
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with Panel(id="traces"):
            yield ShownText(id="traces-text")
        with Panel(id="chart"):
            yield ShownText(id="chart-head")
            yield BigNumber("", id="chart-digits")
            yield ShownText(id="chart-text")

    @property
    def traces(self) -> tuple[RecordedTrace, ...]:
        judged, port = self.state.judged, self.state.port
        return self._texts.once(
            ("traces", port), judged, self.palette, lambda: recorded_traces(port, judged.audit, judged.judgement)
        )

    @property
    def chosen_index(self) -> int:
        port, index = self._chosen
        return min(index, max(0, len(self.traces) - 1)) if port == self.state.port else 0

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        return super().check_action(action, parameters) and (action != "next_trace" or len(self.traces) > 1)

    def action_next_trace(self, step: int) -> None:
        self._chosen = (self.state.port, min(len(self.traces) - 1, max(0, self.chosen_index + step)))
        self.paint(self.state)

    def paint(self, state: AuditState) -> None:
        text, line = list_of_traces(self.traces, self.chosen_index, state.port, self.palette)
        self.set_text("traces-text", text)
        self.panel("traces").keep_in_sight(line)
        chosen = self.traces[self.chosen_index] if self.traces else None
        self._paint_chart(state, chosen)

    def _paint_chart(self, state: AuditState, chosen: RecordedTrace | None) -> None:
        judged, palette, digits = state.judged, self.palette, self.query_one("#chart-digits", BigNumber)
        scale = (
            trial_scale(chosen.planned, judged.audit, judged.judgement, palette, chosen.reading.at) if chosen else None
        )
        if chosen is None or scale is None or chosen.reading.trace is None:
            self.set_text("chart-head", "")
            digits.show("")
            self.set_text("chart-text", "")
            return
        fmt, trace = scale.fmt, chosen.reading.trace
        self.set_text("chart-head", trace_head(chosen, scale, palette))
        digits.show(fmt.number(chosen.figure))
        width, height = self.panel("chart").content_size.width, self.query_one("#chart-text").size.height
        chart = render_trace(
            tuple(trace.time_s), tuple(trace.values), scale.limit, fmt, min(width, _MAX_CHART_WIDTH), height, palette
        )
        self.set_text("chart-text", chart)
