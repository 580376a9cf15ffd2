"""The Score stage: the band, and the ledger that it is the sum of."""

from __future__ import annotations

from textual.app import ComposeResult
from textual.containers import Horizontal, VerticalScroll
from textual.content import Content

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.tui.renderables.ledger import render_ledger, score_summary
from auditra.tui.renderables.scale import render_band
from auditra.tui.renderables.words import heading
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import BigNumber, ShownText

_SCROLLBAR = 1
"""A panel that scrolls is narrower than it was when its width was asked for."""


class ScoreStage(Horizontal):
    """Shows where the score stands and why; the chosen port's lines stand out."""

    DEFAULT_CSS = """
    ScoreStage { height: 1fr; }
    ScoreStage > .panel { padding: 1 2 0 2; scrollbar-size-vertical: 1; }
    ScoreStage #summary { width: 52; }
    ScoreStage #ledger { width: 1fr; border-left: vkey $rule; }
    ScoreStage BigNumber { width: 1fr; text-style: bold; height: 3; margin: 1 0 0 0; }
    ScoreStage #band { height: 2; margin: 1 0; }
    ScoreStage #socket-card { margin: 2 0 0 0; }
    """

    def __init__(self) -> None:
        super().__init__(classes="shows-ledger")
        self._shown: tuple[JudgedAudit, str, str | None] | None = None
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with VerticalScroll(id="summary", classes="panel"):
            yield ShownText(id="score-head")
            yield BigNumber("", id="score-digits")
            yield ShownText(id="band")
            yield ShownText(id="score-words")
        with VerticalScroll(id="ledger", classes="panel"):
            yield ShownText(id="ledger-text")
            yield ShownText(id="socket-card")

    def next_panel(self) -> None:
        """On a narrow screen, turn to the other panel."""
        self.toggle_class("shows-ledger")

    def on_resize(self) -> None:
        """Widths are known only once there is a place for them."""
        if self._shown is not None:
            self.show(*self._shown)

    def show(self, standing: JudgedAudit, profile: str, port: str | None) -> None:
        self._shown = (standing, profile, port)
        if not self.size.width:
            return  # it has no place yet; on_resize paints it once it has
        palette, judgement = palette_of(self), standing.judgement
        score = judgement.score
        self.query_one("#score-head", ShownText).update(heading("score", palette, f"profile: {profile}"))
        value = None if score.value is None else float(score.value)
        self.query_one("#score-digits", BigNumber).show("-" if value is None else f"{value:.1f}")
        width = max(20, min(46, self.query_one("#summary").content_size.width - _SCROLLBAR))
        band = render_band(float(score.lowest), value, float(score.highest), width, palette)
        ends = Content.styled(f"{score.lowest:.0f} to {score.highest:.0f} of 100", palette.quiet)
        self.query_one("#band", ShownText).update(Content("\n").join([band, ends]))
        self.query_one("#score-words", ShownText).update(score_summary(judgement, palette))
        room = self.query_one("#ledger").content_size.width
        ledger = self._texts.once(
            ("ledger", port, room), standing, palette,
            lambda: render_ledger(judgement, port, max(40, min(room, 130)), palette),
        )  # fmt: skip
        self.query_one("#ledger-text", ShownText).update(ledger)
        chosen = standing.audit.device.port(port) if port else None
        card = self._texts.card(chosen, standing, palette, self.query_one("#socket-card").content_size.width)
        self.query_one("#socket-card", ShownText).update(card)
