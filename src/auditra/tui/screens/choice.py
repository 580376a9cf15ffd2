"""One of several things, chosen by its letter, with the arrow keys, or with the mouse."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import ClassVar

from textual import events
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Vertical
from textual.content import Content
from textual.screen import ModalScreen
from textual.widget import Widget

from auditra.core.sanitize import sanitize
from auditra.tui.screens.base import LeavingScreen
from auditra.tui.widgets.frame_lines import KeyLine, palette_of
from auditra.tui.widgets.shown_text import ShownText

_LETTERS = "abcdefghijklmnoprstuvwxyz0123456789"
"""All but q, which quits elsewhere."""
_LINES_BEFORE = 2


class ChoiceScreen(LeavingScreen, ModalScreen[None]):
    """Shows the choices, and gives the chosen one to whoever asked."""

    DEFAULT_CSS = """
    ChoiceScreen { align: center middle; background: $background 60%; }
    ChoiceScreen Vertical { width: auto; min-width: 44; max-width: 90%; height: auto; max-height: 90%;
        background: $panel; padding: 1 3; }
    ChoiceScreen #choices { width: auto; }
    ChoiceScreen #note { width: 66; color: $quiet; margin: 1 0 0 0; display: none; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter", "take", "choose"),
        Binding("down", "move(1)", "up, down", key_display="↑↓"),
        Binding("up", "move(-1)", "up, down", key_display="↑↓"),
        Binding("escape", "leave", "leave"),
    ]
    NEEDS: ClassVar[tuple[type[Widget], ...]] = (Vertical,)

    def __init__(
        self, title: str, choices: Sequence[str], take: Callable[[str], None], notes: Sequence[str] = (),
        at: int = 0,
    ) -> None:  # fmt: skip
        super().__init__()
        self._notes = tuple(notes)
        self._title, self._choices, self._take = title, tuple(choices)[: len(_LETTERS)], take
        self._at = at

    def compose(self) -> ComposeResult:
        with Vertical():
            yield ShownText(id="choices")
            yield ShownText(id="note")
        yield KeyLine()

    def on_mount(self) -> None:
        self.query_one("#note").display = bool(self._notes)
        self.show()

    def show(self) -> None:
        palette = palette_of(self)
        lines = [Content.styled(sanitize(self._title, 80), f"bold {palette.accent}"), Content("")]
        for index, choice in enumerate(self._choices):
            chosen = index == self._at
            style = f"bold {palette.ground} on {palette.accent}" if chosen else palette.ink
            lines.append(
                Content.assemble((f"{_LETTERS[index]}  ", palette.accent), (f" {sanitize(choice, 70)} ", style))
            )
        self.query_one("#choices", ShownText).update(Content("\n").join(lines))
        if self._at < len(self._notes):
            self.query_one("#note", ShownText).update(sanitize(self._notes[self._at], 400))

    def action_move(self, by: int) -> None:
        self._at = max(0, min(len(self._choices) - 1, self._at + by))
        self.show()

    def action_take(self) -> None:
        if self._choices:
            self._give(self._at)

    def action_leave(self) -> None:
        self.leave()

    def on_key(self, event: events.Key) -> None:
        at = _LETTERS.find(event.character) if event.character else -1
        if 0 <= at < len(self._choices):
            event.stop()
            self._give(at)

    def on_click(self, event: events.Click) -> None:
        if event.widget is self.query_one("#choices") and 0 <= event.y - _LINES_BEFORE < len(self._choices):
            self._give(event.y - _LINES_BEFORE)

    def _give(self, at: int) -> None:
        """What comes of it opens on the screen below: this one goes first."""
        choice = self._choices[at]
        self.leave()
        self.app.call_later(self._take, choice)
