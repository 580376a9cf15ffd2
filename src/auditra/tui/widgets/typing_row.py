"""The foot of a stage on which things are typed: a message, what may come next, and the line itself."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from textual.app import ComposeResult
from textual.containers import Horizontal, Vertical
from textual.content import Content

from auditra.tui.renderables.claims import offers_line
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import ShownText
from auditra.tui.widgets.typing_line import Offers, TypingLine

LONGEST_TYPED = 400


class TypingRow(Vertical):
    """Stands above the keys on the stages on which something can be written down."""

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

    def compose(self) -> ComposeResult:
        yield ShownText(id="typing-message")
        yield ShownText(id="offers")
        with Horizontal(id="typed-row"):
            yield ShownText(id="typed-for")
            yield TypingLine("typed", LONGEST_TYPED)

    def tell(self, message: str, *, failed: bool = False) -> None:
        """A line above the typing line; empty for none."""
        palette = palette_of(self)
        style = palette.broken if failed else palette.quiet
        self.query_one("#typing-message", ShownText).update(Content.styled(message, style) if message else Content(""))

    @property
    def line(self) -> TypingLine:
        return self.query_one("#typed", TypingLine)

    def ask(self, what: str, text: str, offers_for: Callable[[str], Offers]) -> None:
        """Open the typing line, with something on it."""
        self.add_class("types")
        self.query_one("#typed-for", ShownText).update(Content(f"{what} "))
        self.line.offers_for = offers_for
        self.line.put(text)
        self.screen.set_focus(self.line)

    def close(self) -> None:
        """Away with the typing line."""
        self.remove_class("types")
        self.screen.set_focus(None)

    def offer(self, offers: Sequence[str]) -> None:
        """What may be typed next."""
        width = self.size.width - 4
        self.query_one("#offers", ShownText).update(offers_line(offers, self.line.turn, width, palette_of(self)))
