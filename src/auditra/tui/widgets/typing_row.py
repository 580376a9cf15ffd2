"""The foot of the audit screen: a message, what may be typed next, and the typing line while something is typed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal, Vertical
from textual.content import Content
from textual.widget import Widget
from textual.widgets import Input

from auditra.core.sanitize import sanitize
from auditra.tui.prompt import Preview, Prompt
from auditra.tui.widgets.draft import TEXT, Draft
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.offers_line import OffersLine
from auditra.tui.widgets.shown_text import ShownText
from auditra.tui.widgets.typing_line import TypingLine
from auditra.workflows.services import Drafts

MAX_TYPED = 400
_RESTORED = "This is what was typed last time and not recorded. Ctrl+U clears the line."


class TypingRow(Vertical):
    """Owns what is being typed. Its screen records it and shows what it means so far."""

    DEFAULT_CSS = """
    TypingRow { height: auto; }
    TypingRow #typing-message { height: auto; max-height: 3; padding: 0 2; }
    TypingRow #offers { height: 1; padding: 0 2; display: none; }
    TypingRow #typed-row { height: 1; padding: 0 2; background: $panel; display: none; }
    TypingRow #typed-for { width: auto; color: $accent; text-style: bold; padding: 0 1 0 0; }
    TypingRow #typed { border: none; height: 1; padding: 0; background: $panel; width: 1fr; }
    TypingRow.types #offers { display: block; }
    TypingRow.types #typed-row { display: block; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "cancel", "cancel", key_display="esc")]

    def __init__(
        self, record: Callable[[Prompt, str], bool], preview: Callable[[Preview], None], drafts: Drafts, name: str
    ) -> None:
        super().__init__()
        self._drafts, self._name = drafts, name
        self._draft: Draft | None = None
        self._restored = ""
        """What was typed last time, and stands on the line again."""
        self._record, self._preview = record, preview
        self._prompt: Prompt | None = None
        self._keys_go_back_to: Widget | None = None

    def compose(self) -> ComposeResult:
        yield ShownText(id="typing-message")
        yield OffersLine(id="offers")
        with Horizontal(id="typed-row"):
            yield ShownText(id="typed-for")
            yield TypingLine("typed", MAX_TYPED)

    @property
    def is_open(self) -> bool:
        return self._prompt is not None

    @property
    def line(self) -> TypingLine:
        return self.query_one("#typed", TypingLine)

    def say(self, message: str, *, failed: bool = False) -> None:
        """A line above the typing line; empty for none."""
        palette = palette_of(self)
        style = palette.broken if failed else palette.quiet
        self.query_one("#typing-message", ShownText).update(Content.styled(message, style) if message else Content(""))

    def open(self, prompt: Prompt, text: str) -> None:
        """Open the typing line, with something on it already."""
        self._prompt, self._keys_go_back_to = prompt, self.screen.focused
        self.say("")
        self.add_class("types")
        self.query_one("#typed-for", ShownText).update(Content(f"{prompt.label} "))
        self.line.offers_for = prompt.offers
        self._draft = Draft(self._drafts, f"{self._name} typing {prompt.action_name} {text}", self)
        kept = self._draft.kept().get(TEXT, "")
        self._restored = kept
        self.line.put(kept or text)
        self.screen.set_focus(self.line)
        self._show_preview(kept or text)

    def close(self) -> None:
        """Close the typing line; nothing is recorded."""
        if self._prompt is None:
            return
        self._prompt = None
        if self._draft is not None:
            self._draft.write()
        self.remove_class("types")
        self.say("")
        self.screen.set_focus(self._keys_go_back_to, scroll_visible=False)
        self._preview(Preview())

    def action_cancel(self) -> None:
        """What is on the line is there again when the same thing is asked."""
        self.close()

    def on_unmount(self) -> None:
        if self._draft is not None:
            self._draft.write()

    @on(Input.Changed, "#typed")
    def _changed(self, event: Input.Changed) -> None:
        self.line.turn = 0
        if self._draft is not None and self._prompt is not None:
            self._draft.typed({TEXT: event.value})
        self._show_preview(event.value)

    @on(TypingLine.OfferTurned)
    def _offer_turned(self) -> None:
        if self._prompt is not None:
            self._show_offers(self._prompt.offers(self.line.value)[1])

    @on(Input.Submitted, "#typed")
    def _submitted(self, event: Input.Submitted) -> None:
        prompt, text = self._prompt, event.value.strip()
        if prompt is None:
            return
        if not text:
            self.close()
        elif self._record(prompt, text):
            if self._draft is not None:
                self._draft.drop()
            self.close()
            self.say(f"Recorded: {sanitize(text, 120)}. Press u to undo.")

    def _show_preview(self, text: str) -> None:
        """Offers and faces follow every key."""
        if self._prompt is not None:
            preview = self._prompt.preview_of(text)
            self._show_offers(preview.offers)
            self.say(_RESTORED if text and text == self._restored else preview.message)
            self._preview(preview)

    def _show_offers(self, offers: Sequence[str]) -> None:
        self.query_one(OffersLine).offer(offers, self.line.turn, self.size.width - 4)

    @on(OffersLine.Taken)
    def _offer_clicked(self, message: OffersLine.Taken) -> None:
        self.line.turn = message.turn
        self.line.action_accept_offer()
        self.screen.set_focus(self.line)
