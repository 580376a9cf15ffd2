"""Stage 6, Why: what was found about the chosen port, with its sums."""

from __future__ import annotations

from textual.app import ComposeResult
from textual.content import Content

from auditra.tui.audit_state import AuditState
from auditra.tui.renderables.labels import heading
from auditra.tui.stages.stage import Panel, Stage
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import ShownText


class WhyStage(Stage):
    """Reasons are read here."""

    NAME = "Why"
    PANELS = ("why",)

    def __init__(self) -> None:
        super().__init__()
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with Panel(id="why"):
            yield ShownText(id="why-text")

    def paint(self, state: AuditState) -> None:
        judged, palette = state.judged, self.palette
        port = judged.audit.device.port(state.port or "")
        card = self._texts.card(port, judged, palette, self.front.text_width)
        self.set_text("why-text", Content("\n").join([heading(self.NAME, palette), Content(""), card]))
