"""The Claims stage: the seller's words, the claims, what each socket is for; and the line on which things are typed."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from textual.app import ComposeResult
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.content import Content
from textual.widgets import Static

from auditra.tui.renderables.claims import offers_line, said_and_claimed, what_it_is_for
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.typing_line import Offers, TypingLine
from auditra.workflows.ports import Standing

_SCROLLBAR = 1
LONGEST_TYPED = 400


class ClaimsStage(Vertical):
    """Shows claims and device; the screen decides what is typed and what becomes of it."""

    DEFAULT_CSS = """
    ClaimsStage { height: 1fr; }
    ClaimsStage #claims-panels { height: 1fr; }
    ClaimsStage .panel { padding: 1 2 0 2; scrollbar-size-vertical: 1; }
    ClaimsStage #said { width: 5fr; }
    ClaimsStage #for { width: 4fr; border-left: vkey $rule; }
    ClaimsStage #claims-message { height: auto; max-height: 3; padding: 0 2; }
    ClaimsStage #offers { height: 1; padding: 0 2; display: none; }
    ClaimsStage #typed-row { height: 1; padding: 0 2; background: $panel; display: none; }
    ClaimsStage #typed-for { width: auto; color: $accent; text-style: bold; padding: 0 1 0 0; }
    ClaimsStage #typed { border: none; height: 1; padding: 0; background: $panel; width: 1fr; }
    ClaimsStage.types #offers { display: block; }
    ClaimsStage.types #typed-row { display: block; }
    """

    def __init__(self) -> None:
        super().__init__(classes="shows-said")
        self._shown: tuple[Standing, str | None, str | None] | None = None

    def compose(self) -> ComposeResult:
        with Horizontal(id="claims-panels"):
            with VerticalScroll(id="said", classes="panel", can_focus=False):
                yield Static(id="said-text")
            with VerticalScroll(id="for", classes="panel", can_focus=False):
                yield Static(id="for-text")
        yield Static(id="claims-message")
        yield Static(id="offers")
        with Horizontal(id="typed-row"):
            yield Static(id="typed-for")
            yield TypingLine("typed", LONGEST_TYPED)

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

    def show(self, standing: Standing, chosen: str | None, port: str | None) -> None:
        """Everything anew, after something was changed or chosen."""
        self._shown = (standing, chosen, port)
        if not self.size.width:
            return  # it has no place yet; on_resize paints it once it has
        palette, audit, judgement = palette_of(self), standing.audit, standing.judgement
        said = self.query_one("#said", VerticalScroll)
        width = (said.content_size.width or 60) - _SCROLLBAR
        text, line = said_and_claimed(audit, judgement, chosen, width, palette)
        self.query_one("#said-text", Static).update(text)
        if not said.scroll_y <= line < said.scroll_y + said.size.height - 2:
            said.scroll_to(y=max(0, line - said.size.height // 2), animate=False)
        width = (self.query_one("#for").content_size.width or 50) - _SCROLLBAR
        self.query_one("#for-text", Static).update(what_it_is_for(audit, judgement, port, width, palette))

    def tell(self, message: str, *, failed: bool = False) -> None:
        """A line above the typing line; empty for none."""
        palette = palette_of(self)
        style = palette.broken if failed else palette.quiet
        self.query_one("#claims-message", Static).update(Content.styled(message, style) if message else Content(""))

    @property
    def line(self) -> TypingLine:
        return self.query_one("#typed", TypingLine)

    def ask(self, what: str, text: str, offers_for: Callable[[str], Offers]) -> None:
        """Open the typing line, with something on it."""
        self.add_class("types")
        self.query_one("#typed-for", Static).update(Content(f"{what} "))
        self.line.offers_for = offers_for
        self.line.put(text)
        self.line.focus()

    def close(self) -> None:
        """Away with the typing line."""
        self.remove_class("types")
        self.screen.set_focus(None)

    def offer(self, offers: Sequence[str]) -> None:
        """What may be typed next."""
        width = self.size.width - 4
        self.query_one("#offers", Static).update(offers_line(offers, self.line.turn, width, palette_of(self)))
