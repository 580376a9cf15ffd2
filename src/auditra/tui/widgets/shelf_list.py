"""The audits on the shelf."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar

from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.reactive import reactive

from auditra.tui.renderables.shelf_row import lines_a_row, render_row
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.long_list import LongList
from auditra.tui.widgets.shown_text import shown
from auditra.workflows.audits.shelf import ShelfRow


class ShelfList(LongList):
    """Reports which audit to open; its screen opens it."""

    DEFAULT_CSS = "ShelfList { height: 1fr; }"
    BINDINGS: ClassVar[list[BindingType]] = [Binding("enter", "take", "open")]
    rows: reactive[Sequence[ShelfRow]] = reactive(())
    marked: reactive[tuple[str, ...]] = reactive(())
    """The audits to line up, in the order in which they were marked."""

    class Chosen(Message):
        """The reviewer wants this audit opened."""

        def __init__(self, name: str) -> None:
            super().__init__()
            self.name = name

    @property
    def count(self) -> int:
        return len(self.rows)

    @property
    def lines_each(self) -> int:
        return lines_a_row(self.app.size.width)

    def watch_rows(self) -> None:
        self.chosen = self.validate_chosen(self.chosen)

    def render(self) -> Content:
        palette, width = palette_of(self), self.app.size.width
        lines = [Content("")]
        for index in self.in_sight():
            ground = f"on {palette.panel}" if index == self.chosen else ""
            sign = "◆ " if self.rows[index].name in self.marked else "  "
            for line in render_row(self.rows[index], width, palette):
                filled = Content.assemble((sign, palette.accent), line, " " * max(0, width - line.cell_length - 2))
                sign = "  "
                lines.append(filled.stylize(ground) if ground else filled)
            lines.append(Content(""))
        return shown(Content("\n").join(lines))

    def mark(self, name: str) -> None:
        """Mark an audit, or take its mark away."""
        others = tuple(each for each in self.marked if each != name)
        self.marked = others if name in self.marked else (*others, name)

    def action_take(self) -> None:
        if self.rows:
            self.post_message(self.Chosen(self.rows[self.chosen].name))
