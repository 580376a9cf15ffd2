"""The Claims stage: the seller's words beside the claims, and port capabilities."""

from __future__ import annotations

from textual.app import ComposeResult
from textual.containers import Horizontal, Vertical, VerticalScroll

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.tui.renderables.claims import said_and_claimed, what_it_is_for
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

_SCROLLBAR = 1


class ClaimsStage(Vertical):
    """Shows claims and device; the screen decides what becomes of them."""

    DEFAULT_CSS = """
    ClaimsStage { height: 1fr; }
    ClaimsStage #claims-panels { height: 1fr; }
    ClaimsStage .panel { padding: 1 2 0 2; scrollbar-size-vertical: 1; }
    ClaimsStage #said { width: 5fr; }
    ClaimsStage #for { width: 4fr; border-left: vkey $rule; }
    """

    def __init__(self) -> None:
        super().__init__(classes="shows-said")
        self._shown: tuple[JudgedAudit, str | None, str | None] | None = None
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with Horizontal(id="claims-panels"):
            with VerticalScroll(id="said", classes="panel", can_focus=False):
                yield ShownText(id="said-text")
            with VerticalScroll(id="for", classes="panel", can_focus=False):
                yield ShownText(id="for-text")

    def next_panel(self) -> None:
        """On a narrow screen, turn to the other panel."""
        said = self.has_class("shows-said")
        self.set_class(not said, "shows-said")
        self.set_class(said, "shows-for")
        self.call_after_refresh(self.on_resize)

    def on_resize(self) -> None:
        """Widths are known only once there is a place for them."""
        if self._shown is not None:
            self.show(*self._shown)

    def show(self, standing: JudgedAudit, chosen: str | None, port: str | None) -> None:
        """Everything anew, after something was changed or chosen."""
        self._shown = (standing, chosen, port)
        if not self.size.width:
            return  # it has no place yet; on_resize paints it once it has
        palette, audit, judgement = palette_of(self), standing.audit, standing.judgement
        said = self.query_one("#said", VerticalScroll)
        width = (said.content_size.width or 60) - _SCROLLBAR
        text, line = self._texts.once(
            ("said", chosen, width), standing, palette,
            lambda: said_and_claimed(audit, judgement, chosen, width, palette),
        )  # fmt: skip
        self.query_one("#said-text", ShownText).update(text)
        if not said.scroll_y <= line < said.scroll_y + said.size.height - 2:
            said.scroll_to(y=max(0, line - said.size.height // 2), animate=False)
        width = (self.query_one("#for").content_size.width or 50) - _SCROLLBAR
        grid = self._texts.once(
            ("for", port, width), standing, palette, lambda: what_it_is_for(audit, judgement, port, width, palette)
        )
        self.query_one("#for-text", ShownText).update(grid)
