"""A list of any length with a chosen line: only what is in sight is ever painted."""

from __future__ import annotations

from typing import ClassVar

from textual import events
from textual.binding import Binding, BindingType
from textual.reactive import reactive
from textual.widget import Widget


class LongList(Widget, can_focus=True):
    """Chooses by keys, wheel and click. Subclasses say how many there are, how tall each is, and what enter does."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("up", "move(-1)", "choose", key_display="↑↓"),
        Binding("down", "move(1)", "choose", key_display="↑↓"),
        Binding("pageup", "page(-1)", "page", show=False, key_display="pgup pgdn"),
        Binding("pagedown", "page(1)", "page", show=False, key_display="pgup pgdn"),
        Binding("home", "first", "first", show=False),
        Binding("end", "last", "last", show=False),
    ]
    LINES_ABOVE: ClassVar[int] = 1
    chosen: reactive[int] = reactive(0)

    def __init__(self) -> None:
        super().__init__()
        self._first = 0

    @property
    def count(self) -> int:
        """How many there are."""
        raise NotImplementedError

    @property
    def lines_each(self) -> int:
        return 1

    def action_take(self) -> None:
        """What enter does with the chosen one."""
        raise NotImplementedError

    def validate_chosen(self, chosen: int) -> int:
        return max(0, min(chosen, self.count - 1))

    def in_sight(self) -> range:
        """Those that there is room for, the chosen one among them."""
        self._first = max(self.chosen - self._room + 1, min(self._first, self.chosen))
        return range(self._first, min(self.count, self._first + self._room))

    @property
    def _room(self) -> int:
        return max(1, (self.size.height - self.LINES_ABOVE) // self.lines_each)

    def action_move(self, by: int) -> None:
        self.chosen += by

    def action_page(self, by: int) -> None:
        self.chosen += by * self._room

    def action_first(self) -> None:
        self.chosen = 0

    def action_last(self) -> None:
        self.chosen = self.count - 1

    def on_mouse_scroll_down(self) -> None:
        self.chosen += 1

    def on_mouse_scroll_up(self) -> None:
        self.chosen -= 1

    def on_click(self, event: events.Click) -> None:
        index = self._first + (event.y - self.LINES_ABOVE) // self.lines_each
        if event.y >= self.LINES_ABOVE and index < self.count:
            self.chosen = index
            self.action_take()
