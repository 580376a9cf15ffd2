"""Groups of claims, each with a bar of its verdicts."""

from __future__ import annotations

from typing import ClassVar

from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.reactive import reactive

from auditra.tui.renderables.counts import CountsLayout, Groups
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.long_list import LongList
from auditra.tui.widgets.shown_text import shown

_SIDE = 3


class CountsList(LongList):
    """Reports which group to look for."""

    DEFAULT_CSS = "CountsList { height: 1fr; }"
    BINDINGS: ClassVar[list[BindingType]] = [Binding("enter", "take", "show these on the shelf")]
    LINES_ABOVE = 3
    groups: reactive[Groups] = reactive(())

    class Taken(Message):
        """The reviewer wants to see the audits of this group."""

        def __init__(self, name: str) -> None:
            super().__init__()
            self.name = name

    @property
    def count(self) -> int:
        return len(self.groups)

    def watch_groups(self) -> None:
        self.chosen = 0

    def render(self) -> Content:
        palette = palette_of(self)
        layout, side = CountsLayout(self.groups, self.size.width - 2 * _SIDE, palette), " " * _SIDE
        lines = [Content(""), Content.assemble(side, layout.legend()), Content("")]
        for index in self.in_sight():
            line = Content.assemble(side, layout.line(*self.groups[index]))
            line = Content.assemble(line, " " * max(0, self.size.width - line.cell_length))
            lines.append(line.stylize(f"on {palette.panel}") if index == self.chosen else line)
        return shown(Content("\n").join(lines))

    def action_take(self) -> None:
        if self.groups:
            self.post_message(self.Taken(self.groups[self.chosen][0]))
