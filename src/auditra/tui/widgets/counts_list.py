"""Groups of claims as a list of any length: only the lines in sight are ever painted."""

from __future__ import annotations

from typing import ClassVar

from textual import events
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.reactive import reactive
from textual.widget import Widget

from auditra.tui.renderables.counts import CountsLayout, Groups
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.shown_text import shown

_ABOVE, _SIDE = 3, 3


class CountsList(Widget, can_focus=True):
    """Reports which group to look for."""

    DEFAULT_CSS = "CountsList { height: 1fr; }"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter", "take", "show these on the shelf"),
        Binding("up", "move(-1)", "choose", key_display="↑↓"),
        Binding("down", "move(1)", "choose", key_display="↑↓"),
        Binding("pageup", "page(-1)", "page", show=False, key_display="pgup pgdn"),
        Binding("pagedown", "page(1)", "page", show=False, key_display="pgup pgdn"),
    ]
    groups: reactive[Groups] = reactive(())
    chosen: reactive[int] = reactive(0)

    class Taken(Message):
        """The reviewer wants to see the audits of this group."""

        def __init__(self, name: str) -> None:
            super().__init__()
            self.name = name

    def __init__(self) -> None:
        super().__init__()
        self._first = 0

    def validate_chosen(self, chosen: int) -> int:
        return max(0, min(chosen, len(self.groups) - 1))

    def watch_groups(self) -> None:
        self.chosen = 0

    def render(self) -> Content:
        palette, width = palette_of(self), self.size.width - 2 * _SIDE
        self._first = max(self.chosen - self._in_sight + 1, min(self._first, self.chosen))
        layout, side = CountsLayout(self.groups, width, palette), " " * _SIDE
        lines = [Content(""), Content.assemble(side, layout.legend()), Content("")]
        for index in range(self._first, min(len(self.groups), self._first + self._in_sight)):
            line = Content.assemble(side, layout.line(*self.groups[index]))
            line = Content.assemble(line, " " * max(0, self.size.width - line.cell_length))
            lines.append(line.stylize(f"on {palette.panel}") if index == self.chosen else line)
        return shown(Content("\n").join(lines))

    @property
    def _in_sight(self) -> int:
        return max(1, self.size.height - _ABOVE)

    def action_move(self, by: int) -> None:
        self.chosen += by

    def action_page(self, by: int) -> None:
        self.chosen += by * self._in_sight

    def action_take(self) -> None:
        if self.groups:
            self.post_message(self.Taken(self.groups[self.chosen][0]))

    def on_mouse_scroll_down(self) -> None:
        self.chosen += 1

    def on_mouse_scroll_up(self) -> None:
        self.chosen -= 1

    def on_click(self, event: events.Click) -> None:
        index = self._first + event.y - _ABOVE
        if event.y >= _ABOVE and index < len(self.groups):
            self.chosen = index
            self.action_take()
