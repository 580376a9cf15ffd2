"""``?``: what the screen shows, in the trade's words and ours."""

from __future__ import annotations

from collections.abc import Sequence

from textual import events
from textual.app import ComposeResult
from textual.containers import VerticalScroll
from textual.content import Content
from textual.screen import ModalScreen

from auditra.core.model.verdict import UNSTATED_MARK, Verdict
from auditra.tui.key_hints import KeyHint
from auditra.tui.renderables.labels import heading, verdict_words
from auditra.tui.screens.base import LeavingScreen
from auditra.tui.theme import Palette
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

_MEANS = {
    Verdict.HOLDS: "shown, with uncertainty, and nothing tried contradicts it",
    Verdict.HOLDS_IF: "shown only under named set-ups",
    Verdict.SHORT: "it works, but gives less than promised",
    Verdict.BROKEN: "it does not do it at all, or not reliably enough to use",
    Verdict.TOO_CLOSE: "the uncertainty straddles the limit: repeat it",
    Verdict.UNPROVEN: "tried as far as this rig or this evidence reaches",
    Verdict.OPEN: "not tried yet",
}
_WORDS = (
    ("faces", "the sides of the device, every port a tile in its place"),
    ("trial", "one set-up tried; direct is the same gear without the device"),
    ("reading", "one value with its uncertainty (95 %); on disk once it is shown"),
    ("grade", "what a reading can decide: 5 measured, 4 read, 3 typed, 2 seen"),
    ("score band", "the score, with the lowest and highest that it could still become"),
    ("ledger", "where every point was earned or lost"),
)


class HelpScreen(LeavingScreen, ModalScreen[None]):
    """Closes with any key."""

    DEFAULT_CSS = """
    HelpScreen { align: center middle; background: $background 70%; }
    HelpScreen VerticalScroll { width: 92; max-width: 100%; height: auto; max-height: 100%;
        background: $panel; padding: 1 3; }
    """

    def __init__(self, hints: Sequence[KeyHint], narration: Sequence[str] = ()) -> None:
        super().__init__()
        self._hints, self._narration = tuple(hints), tuple(narration)

    def compose(self) -> ComposeResult:
        with VerticalScroll():
            yield ShownText(id="help-text")

    def on_mount(self) -> None:
        self.query_one("#help-text", ShownText).update(_help(self._hints, self._narration, palette_of(self)))

    def on_key(self, event: events.Key) -> None:
        if event.key not in ("up", "down", "pageup", "pagedown"):
            event.stop()
            self.leave()

    def on_click(self) -> None:
        self.leave()


def _help(hints: Sequence[KeyHint], narration: Sequence[str], palette: Palette) -> Content:
    lines = [
        *_paragraphs(narration, palette),
        heading("verdicts", palette, "how what was shown compares with what was promised"),
        Content(""),
    ]
    lines += [_row(verdict_words(verdict, palette), means, palette) for verdict, means in _MEANS.items()]
    unstated = Content.styled(f"{UNSTATED_MARK} unstated", f"bold {palette.partly}")
    lines += [_row(unstated, "behaviour that matters and that the seller does not mention", palette), Content("")]
    lines += [heading("words", palette), Content("")]
    lines += [_row(Content.styled(word, palette.ink), means, palette) for word, means in _WORDS]
    lines += [Content(""), heading("keys", palette), Content("")]
    lines += [_row(Content.styled(hint.written, f"bold {palette.accent}"), hint.words, palette) for hint in hints]
    return Content("\n").join(lines)


def _paragraphs(narration: Sequence[str], palette: Palette) -> list[Content]:
    """What happens here, one paragraph each; empty without a narration."""
    if not narration:
        return []
    paragraphs = [part for words in narration for part in (Content.styled(words, palette.ink), Content(""))]
    return [heading("what happens here", palette), Content(""), *paragraphs]


def _row(word: Content, means: str, palette: Palette) -> Content:
    return Content.assemble(word, " " * max(1, 14 - word.cell_length), (means, palette.quiet))
