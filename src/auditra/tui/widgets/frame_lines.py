"""The lines that frame every screen: the title above, the keys below."""

from __future__ import annotations

from typing import Any

from rich.cells import cell_len
from textual import events
from textual.content import Content
from textual.reactive import reactive
from textual.screen import Screen
from textual.widget import Widget

from auditra.tui.key_hints import KeyHint, key_hints
from auditra.tui.renderables.cells import cut, fill
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES, Palette
from auditra.tui.widgets.shown_text import shown

_TITLE_GAP, _MIN_RIGHT = "   ", 2


def palette_of(widget: Widget) -> Palette:
    """The palette of the theme that the application shows."""
    return PALETTES.get(widget.app.theme, PALETTES[DEFAULT_PALETTE])


class TitleLine(Widget):
    """The audit on the left; its state on the right.

    When room is short the right side gives up its first parts, then the left its last; what stands at the two ends
    is always there.
    """

    DEFAULT_CSS = "TitleLine { height: 1; background: $primary; color: $background; text-style: bold; }"
    left: reactive[tuple[str, ...]] = reactive(())
    right: reactive[tuple[str, ...]] = reactive(())

    def render(self) -> Content:
        width, left, right = self.size.width, list(self.left), list(self.right)
        while self._length(left) + self._length(right) + 5 > width and (len(left) > 1 or len(right) > 1):
            if len(right) > _MIN_RIGHT or len(left) == 1:
                right.pop(0)
            else:
                left.pop()
        end = _TITLE_GAP.join(right)
        start = cut(_TITLE_GAP.join(left), width - cell_len(end) - 3)
        return shown(Content(fill(f" {start}", max(0, width - cell_len(end) - 1)) + end))

    @staticmethod
    def _length(parts: list[str]) -> int:
        return cell_len(_TITLE_GAP.join(parts))


class KeyLine(Widget):
    """The keys that work now; a click does what the key does."""

    DEFAULT_CSS = "KeyLine { height: 1; background: $panel; dock: bottom; }"
    hints: reactive[tuple[KeyHint, ...]] = reactive(())

    def on_mount(self) -> None:
        self.screen.bindings_updated_signal.subscribe(self, self._renew)
        self._renew(self.screen)

    def _renew(self, screen: Screen[Any]) -> None:
        self.hints = tuple(hint for hint in key_hints(screen) if hint.on_key_line)

    def render(self) -> Content:
        palette = palette_of(self)
        parts = [
            Content.assemble((f" {hint.written} ", f"bold {palette.accent}"), (f"{hint.words} ", palette.quiet))
            for hint in self._fitting()
        ]
        return shown(Content.assemble(*parts))

    async def on_click(self, event: events.Click) -> None:
        x = 0
        for hint in self._fitting():
            end = x + _width(hint)
            if x <= event.x < end:
                await self.app.run_action(hint.action, hint.node)
            x = end

    def _fitting(self) -> list[KeyHint]:
        """As many as there is room for; the last, which leads on to all others, always."""
        hints = list(self.hints)
        while len(hints) > 1 and sum(map(_width, hints)) > self.size.width:
            hints.pop(-2)
        return hints


def _width(hint: KeyHint) -> int:
    return cell_len(hint.written) + cell_len(hint.words) + 3
