"""The Run stage: what to do now, the reading as it grows, what comes next."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from textual.app import ComposeResult
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.content import Content
from textual.widgets import Input

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.device import Port
from auditra.tui.renderables.run import (
    Live,
    Phase,
    Watched,
    log_panel,
    next_panel,
    now_panel,
    recorded,
    watched,
)
from auditra.tui.renderables.scale import render_scale
from auditra.tui.renderables.trace import render_trace
from auditra.tui.renderables.words import heading
from auditra.tui.theme import Palette
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import BigNumber, ShownText

PANELS = ("now", "reading", "next")
_NEXT_SHARE = 0.55
_SCROLLBAR = 1


class RunStage(Horizontal):
    """Shows the trial under way; the screen decides what happens."""

    DEFAULT_CSS = """
    RunStage { height: 1fr; }
    RunStage > .panel { padding: 1 2 0 2; scrollbar-size-vertical: 1; }
    RunStage #now { width: 52; }
    RunStage #reading { width: 1fr; border-left: vkey $rule; }
    RunStage #next { width: 41; border-left: vkey $rule; }
    RunStage BigNumber { width: 1fr; text-style: bold; color: $foreground; height: 3; margin: 1 0 0 0; }
    RunStage #scale { height: 5; margin: 1 0; }
    RunStage #trace { height: 1fr; }
    RunStage #socket { margin: 1 0 0 0; border-top: hkey $rule; padding: 1 0 0 0; }
    RunStage #answer { display: none; height: 3; margin: 1 0 0 0; }
    RunStage.asks #answer { display: block; }
    """

    def __init__(self) -> None:
        super().__init__(classes="shows-now")
        self._watched: Watched | None = None
        self._seen: tuple[object, ...] = ()
        self._doing = ""
        self._texts = KeptTexts()
        self._shown: tuple[JudgedAudit, Live, Port | None, Sequence[tuple[datetime, str]]] | None = None

    def compose(self) -> ComposeResult:
        with VerticalScroll(id="now", classes="panel", can_focus=False):
            yield ShownText(id="now-text")
            yield Input(id="answer", max_length=500)
            yield ShownText(id="socket")
        with Vertical(id="reading", classes="panel"):
            yield ShownText(id="reading-head")
            yield BigNumber("", id="digits")
            yield ShownText(id="scale")
            yield ShownText(id="trace")
        with VerticalScroll(id="next", classes="panel", can_focus=False):
            yield ShownText(id="next-text")

    def show_panel(self, panel: str) -> None:
        """On a narrow screen, the one panel that is seen."""
        for each in PANELS:
            self.set_class(each == panel, f"shows-{each}")
        self.call_after_refresh(self.on_resize)

    def next_panel(self) -> None:
        """Turn to the panel after the one that is seen."""
        shown = next((each for each in PANELS if self.has_class(f"shows-{each}")), PANELS[0])
        self.show_panel(PANELS[(PANELS.index(shown) + 1) % len(PANELS)])

    def on_resize(self) -> None:
        """Widths are known only once there is a place for them."""
        self._seen = ()
        if self._shown is not None:
            self.show(*self._shown)

    def show(self, standing: JudgedAudit, live: Live, port: Port | None, log: Sequence[tuple[datetime, str]]) -> None:
        """Everything anew, after something was taken or the trial changed."""
        palette = palette_of(self)
        self._shown = (standing, live, port, log)
        if not self.size.width:
            return  # it has no place yet; on_resize paints it once it has
        self._doing = live.doing
        self.set_class(live.asks_text, "asks")
        self.query_one("#now-text", ShownText).update(now_panel(live, standing.audit, standing.judgement, palette))
        height = max(10, self.size.height - 2)
        width = (self.query_one("#next").content_size.width or 33) - _SCROLLBAR
        after = next_panel(standing.judgement, live, palette, width, round(height * _NEXT_SHARE))
        left = height - after.plain.count("\n") - 3
        self.query_one("#next-text", ShownText).update(
            Content("\n").join([after, Content(""), log_panel(log, palette, width, left)])
        )
        self.show_socket(port)

    def show_socket(self, port: Port | None) -> None:
        """The chosen socket: all that is promised of it, and its last trace while nothing is measured."""
        if self._shown is None:
            return
        standing, live, _, log = self._shown
        self._shown = (standing, live, port, log)
        palette, audit, judgement = palette_of(self), standing.audit, standing.judgement
        width = self.query_one("#socket").content_size.width
        self.query_one("#socket", ShownText).update(self._texts.card(port, standing, palette, width))
        past = recorded(port.id, audit, judgement) if port and live.phase is Phase.READY else None
        seen = past or live
        of = watched(seen.planned, audit, judgement, palette, seen.at) if seen.planned else None
        if (seen.planned, seen.value, of) != self._seen or live.phase is not Phase.READY:
            self._seen, self._watched = (seen.planned, seen.value, of), of
            self.show_progress(seen)

    def show_progress(self, live: Live) -> None:
        """The reading alone: it is painted many times a second."""
        palette = palette_of(self)
        if live.phase is not Phase.READY and live.doing != self._doing and self._shown is not None:
            self._doing, standing = live.doing, self._shown[0]
            now = now_panel(live, standing.audit, standing.judgement, palette)
            self.query_one("#now-text", ShownText).update(now)
        head, digits = self.query_one("#reading-head", ShownText), self.query_one("#digits", BigNumber)
        scale, trace = self.query_one("#scale", ShownText), self.query_one("#trace", ShownText)
        if self._watched is None:
            head.update(self._without_number(live, palette))
            digits.show("")
            scale.update("")
            trace.update("")
            return
        fmt = self._watched.fmt
        head.update(heading(_activity(live, self._watched), palette, fmt.symbol))
        digits.show("-" if live.value is None else fmt.number(live.value))
        width = max(20, self.query_one("#reading").content_size.width)
        scale.update(render_scale(live.value, self._watched.marks, fmt, min(width, 96), palette))
        limit, room = self._watched.limit, trace.size
        trace.update(
            render_trace(tuple(live.time_s), tuple(live.values), limit, fmt, min(width, 110), room.height, palette)
        )

    def _without_number(self, live: Live, palette: Palette) -> Content:
        """For trials in which nothing is a number to watch."""
        if live.planned is None:
            return Content("")
        words = (
            live.doing if live.phase is not Phase.READY else "This trial asks whether something works; it has no scale."
        )
        return Content("\n").join([heading("reading", palette), Content(""), Content.styled(words, palette.quiet)])


def _activity(live: Live, of: Watched) -> str:
    return of.words if live.asks_text else live.doing or of.words
