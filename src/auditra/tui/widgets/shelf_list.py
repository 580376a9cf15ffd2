"""The audits on the shelf as a list of any length: only the rows in sight are ever painted."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar

from textual import events
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.reactive import reactive
from textual.widget import Widget

from auditra.tui.renderables.shelf_row import lines_a_row, render_row
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.shown_text import shown
from auditra.workflows.audits.shelf import ShelfRow


class ShelfList(Widget, can_focus=True):
    """Reports which audit to open; its screen opens it."""

    DEFAULT_CSS = "ShelfList { height: 1fr; }"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter", "open", "open"),
        Binding("up", "move(-1)", "choose", key_display="↑↓"),
        Binding("down", "move(1)", "choose", key_display="↑↓"),
        Binding("pageup", "page(-1)", "page", show=False, key_display="pgup pgdn"),
        Binding("pagedown", "page(1)", "page", show=False, key_display="pgup pgdn"),
        Binding("home", "first", "first", show=False),
        Binding("end", "last", "last", show=False),
    ]
    rows: reactive[Sequence[ShelfRow]] = reactive(())
    chosen: reactive[int] = reactive(0)
    marked: reactive[tuple[str, ...]] = reactive(())
    """The audits to line up, in the order in which they were marked."""

    class Chosen(Message):
        """The reviewer wants this audit opened."""

        def __init__(self, name: str) -> None:
            super().__init__()
            self.name = name

    def __init__(self) -> None:
        super().__init__()
        self._first = 0

    def validate_chosen(self, chosen: int) -> int:
        return max(0, min(chosen, len(self.rows) - 1))

    def watch_rows(self) -> None:
        self.chosen = self.validate_chosen(self.chosen)

    def render(self) -> Content:
        palette, width = palette_of(self), self.app.size.width
        self._scroll_to_chosen()
        lines = [Content("")]
        for index in range(self._first, min(len(self.rows), self._first + self._in_sight)):
            ground = f"on {palette.panel}" if index == self.chosen else ""
            sign = "◆ " if self.rows[index].name in self.marked else "  "
            for line in render_row(self.rows[index], width, palette):
                filled = Content.assemble((sign, palette.accent), line, " " * max(0, width - line.cell_length - 2))
                sign = "  "
                lines.append(filled.stylize(ground) if ground else filled)
            lines.append(Content(""))
        return shown(Content("\n").join(lines))

    @property
    def _in_sight(self) -> int:
        """How many rows there is room for."""
        return max(1, (self.size.height - 1) // lines_a_row(self.app.size.width))

    def _scroll_to_chosen(self) -> None:
        self._first = max(self.chosen - self._in_sight + 1, min(self._first, self.chosen))

    def mark(self, name: str) -> None:
        """Mark an audit, or take its mark away."""
        others = tuple(each for each in self.marked if each != name)
        self.marked = others if name in self.marked else (*others, name)

    def action_move(self, by: int) -> None:
        self.chosen += by

    def action_page(self, by: int) -> None:
        self.chosen += by * self._in_sight

    def action_first(self) -> None:
        self.chosen = 0

    def action_last(self) -> None:
        self.chosen = len(self.rows) - 1

    def action_open(self) -> None:
        if self.rows:
            self.post_message(self.Chosen(self.rows[self.chosen].name))

    def on_mouse_scroll_down(self) -> None:
        self.chosen += 1

    def on_mouse_scroll_up(self) -> None:
        self.chosen -= 1

    def on_click(self, event: events.Click) -> None:
        index = self._first + (event.y - 1) // lines_a_row(self.app.size.width)
        if event.y > 0 and index < len(self.rows):
            self.chosen = index
            self.action_open()
