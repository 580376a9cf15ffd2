"""Stage 5, Traces: what was recorded over time at the chosen port, with fits, a cursor, and others on the same axes."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, ClassVar

from textual import events, work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content

from auditra.core.judge.charts import Chart, charts_of
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.controllers.fault_words import fault_words
from auditra.tui.renderables.chart import render_chart
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.stages.traces.ladder import ladder_foot, ladder_head, ladder_text
from auditra.tui.stages.traces.text import chart_foot, chart_head, list_of_charts
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import BigNumber, ShownText

if TYPE_CHECKING:  # the decoder is loaded once a conversation is looked at
    from auditra.workflows.audits.conversations import RecordedConversation

_MAX_BESIDE = 4
"""More lines on one pair of axes cannot be told apart."""
_RUNGS_A_STEP = 5
_STEPS = 50
"""How many places the cursor has on the axis."""


class TracesStage(Stage):
    """Recorded traces are looked at, compared and written to files here."""

    NAME = "Traces"
    PANELS = ("traces", "chart")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    TracesStage #traces { width: 46; }
    TracesStage #chart { width: 1fr; border-left: vkey $rule; overflow: hidden; }
    TracesStage BigNumber { width: 1fr; text-style: bold; height: 3; margin: 1 0 0 0; }
    TracesStage #chart-text { height: 1fr; margin: 1 0 0 0; }
    TracesStage #chart-foot { height: auto; margin: 1 0 0 0; }
    .-middle TracesStage #traces { width: 36; }
    .-narrow TracesStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow TracesStage BigNumber { display: none; }
    .-narrow TracesStage.front-traces #traces, .-narrow TracesStage.front-chart #chart {
        display: block; width: 1fr; border-left: none;
    }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("j", "next_trace(1)", "trace"),
        Binding("k", "next_trace(-1)", "trace"),
        Binding("h", "move_cursor(-1)", "cursor"),
        Binding("l", "move_cursor(1)", "cursor"),
        Binding("m", "keep_beside", "keep on the chart"),
        Binding("s", "save", "save as SVG, PDF"),
        NEXT_PANEL,
    ]

    def __init__(self) -> None:
        super().__init__()
        self._chosen: tuple[str | None, int] = (None, 0)
        """The port, and which of its traces is chosen."""
        self._beside: tuple[Chart, ...] = ()
        """Traces that stay on the chart while others are chosen."""
        self._cursor: int | None = None
        self._rung = 0
        """The first rung of a ladder that is shown."""
        self._lines: tuple[int, ...] = ()
        self._message = ""
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with Panel(id="traces"):
            yield ShownText(id="traces-text")
        with Panel(id="chart"):
            yield ShownText(id="chart-head")
            yield BigNumber("", id="chart-digits")
            yield ShownText(id="chart-text")
            yield ShownText(id="chart-foot")

    @property
    def traces(self) -> tuple[Chart, ...]:
        """The charts of the chosen port, and of the case, which every port warms."""
        judged, port = self.state.judged, self.state.port
        return self._texts.once(("traces", port), judged, self.palette, self._charts)

    def _charts(self) -> tuple[Chart, ...]:
        judged, port = self.state.judged, self.state.port
        own = charts_of(judged.audit, judged.judgement, port)
        trials = {chart.trial for chart in own}
        places = {chart.place for chart in own}
        every = charts_of(judged.audit, judged.judgement)
        of_device = [chart for chart in every if chart.trial in trials and chart.place not in places
                     and judged.audit.device.port(chart.place) is None]  # fmt: skip
        return (*own, *of_device)

    @property
    def ladders(self) -> tuple[RecordedConversation, ...]:
        """The power conversations of the chosen port; listed behind its traces."""
        judged, port = self.state.judged, self.state.port
        return self._texts.once(("ladders", port), judged, self.palette, lambda: self.state.session.conversations(port))

    @property
    def _count(self) -> int:
        return len(self.traces) + len(self.ladders)

    @property
    def ladder(self) -> RecordedConversation | None:
        """The chosen conversation; None where a trace is chosen."""
        index = self.chosen_index - len(self.traces)
        return self.ladders[index] if 0 <= index < len(self.ladders) else None

    @property
    def chosen_index(self) -> int:
        port, index = self._chosen
        return min(index, max(0, self._count - 1)) if port == self.state.port else 0

    @property
    def on_chart(self) -> tuple[Chart, ...]:
        """The chosen trace, then those that were kept and have the same axes."""
        if not self.traces or self.ladder is not None:
            return ()
        chosen = self.traces[self.chosen_index]
        return (chosen, *(chart for chart in self._beside if chart.key != chosen.key and chosen.beside(chart)))

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        if action == "move_cursor":
            return self._count > 0
        if action in ("keep_beside", "save"):
            return bool(self.on_chart)
        return action != "next_trace" or self._count > 1

    def action_next_trace(self, step: int) -> None:
        self._choose(min(self._count - 1, max(0, self.chosen_index + step)))

    def _choose(self, index: int) -> None:
        self._chosen, self._message, self._rung = (self.state.port, index), "", 0
        self.paint(self.state)

    def action_move_cursor(self, step: int) -> None:
        """The cursor comes up in the middle, and goes when it leaves the chart; a ladder is climbed."""
        if (ladder := self.ladder) is not None:
            self._rung = min(max(0, len(ladder.conversation.turns) - 1), max(0, self._rung + step * _RUNGS_A_STEP))
            self._paint_chart()
            return
        at = _STEPS // 2 if self._cursor is None else self._cursor + step
        self._cursor = at if 0 <= at <= _STEPS else None
        self._paint_chart()

    def action_keep_beside(self) -> None:
        """The chosen trace stays on the chart while others are looked at; pressed again, it goes."""
        chosen = self.traces[self.chosen_index]
        others = tuple(chart for chart in self._beside if chart.key != chosen.key)
        is_kept = len(others) < len(self._beside)
        self._beside = others if is_kept else (*others, chosen)[-_MAX_BESIDE:]
        self.paint(self.state)

    def action_save(self) -> None:
        """The chart as SVG and as PDF, in the folder of reports."""
        charts, state = self.on_chart, self.state
        stem = f"{state.session.name}-{charts[0].trial}-{charts[0].name}"
        safe = "".join(c if c.isalnum() or c in "-_" else "-" for c in stem)
        self._say("Writing ...")
        self._save(charts, state, [state.services.publish_folder / f"{safe}.{kind}" for kind in ("svg", "pdf")])

    @work(thread=True, exclusive=True, group="publish", exit_on_error=False)
    def _save(self, charts: tuple[Chart, ...], state: AuditState, paths: list[Path]) -> None:
        try:
            written = [str(state.services.write_chart(charts, path)) for path in paths]
            words = f"Written: {', '.join(written)}"
        except Exception as error:
            words = fault_words(error, "fault in writing a chart", state.services.log)
        self.app.call_from_thread(self._say, words)

    def _say(self, message: str) -> None:
        self._message = message
        self._paint_chart()

    def on_click(self, event: events.Click) -> None:
        """A trace in the list is chosen; on the chart, the cursor goes where the pointer is."""
        if event.widget is self.query_one("#traces-text"):
            before = [index for index, line in enumerate(self._lines) if line <= event.y]
            if before:
                self._choose(before[-1])
        elif event.widget is self.query_one("#chart-text") and self.on_chart:
            width = max(1, event.widget.size.width)
            self._cursor = min(_STEPS, round(event.x / width * _STEPS))
            self._paint_chart()

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.traces(state)

    def paint(self, state: AuditState) -> None:
        beside = {chart.key for chart in self._beside}
        text, line, self._lines = list_of_charts(
            self.traces, self.chosen_index, beside, state.port, self.palette, self.ladders
        )
        self.set_text("traces-text", text)
        self.panel("traces").keep_in_sight(line)
        self._paint_chart()

    def _paint_chart(self) -> None:
        charts, digits = self.on_chart, self.query_one("#chart-digits", BigNumber)
        if (ladder := self.ladder) is not None:
            self.set_text("chart-head", ladder_head(ladder, self.palette))
            digits.show("")
            self.set_text("chart-foot", ladder_foot(ladder.conversation, self.palette))
            self._draw()
            self.call_after_refresh(self._draw)
            return
        if not charts:
            none = f"No trace of {self.state.port or 'this device'} yet."
            self.set_text("chart-head", Content.styled(none, self.palette.quiet))
            for name in ("chart-text", "chart-foot"):
                self.set_text(name, "")
            digits.show("")
            return
        palette, cursor = self.palette, None if self._cursor is None else self._cursor / _STEPS
        self.set_text("chart-head", chart_head(charts, palette))
        digits.show(charts[0].fmt.number(charts[0].figure))
        foot = chart_foot(charts, cursor, palette)
        self.set_text("chart-foot", foot if not self._message else foot + f"\n{self._message}")
        self._draw()
        self.call_after_refresh(self._draw)  # what stands below the chart may have taken a line of it

    def _draw(self) -> None:
        charts, cursor = self.on_chart, None if self._cursor is None else self._cursor / _STEPS
        width, height = self.panel("chart").content_size.width, self.query_one("#chart-text").size.height
        if (ladder := self.ladder) is not None:
            self.set_text("chart-text", ladder_text(ladder, self._rung, width, height, self.palette))
            return
        self.set_text("chart-text", render_chart(charts, cursor, width, height, self.palette))
