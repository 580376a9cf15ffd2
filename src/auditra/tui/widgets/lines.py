"""The lines that frame every screen: the title above, the keys below."""

from __future__ import annotations

from rich.cells import cell_len
from textual import events
from textual.content import Content
from textual.reactive import reactive
from textual.widget import Widget

from auditra.tui.renderables.cells import cut, fill
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES, Palette
from auditra.tui.widgets.shown_text import shown

_TITLE_GAP, _LEAST_RIGHT = "   ", 2


def palette_of(widget: Widget) -> Palette:
    """The palette of the theme that the application shows."""
    return PALETTES.get(widget.app.theme, PALETTES[DEFAULT_PALETTE])


class TitleLine(Widget):
    """What is on the desk, on the left; how it stands, on the right.

    When room is short the right side gives up its first parts, then the left its last; what stands at the two ends
    is always there.
    """

    DEFAULT_CSS = "TitleLine { height: 1; background: $primary; color: $background; text-style: bold; }"
    left: reactive[tuple[str, ...]] = reactive(())
    right: reactive[tuple[str, ...]] = reactive(())

    def render(self) -> Content:
        width, left, right = self.size.width, list(self.left), list(self.right)
        while self._length(left) + self._length(right) + 5 > width and (len(left) > 1 or len(right) > 1):
            if len(right) > _LEAST_RIGHT or len(left) == 1:
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
    """The keys that matter here; a click does what the key does."""

    DEFAULT_CSS = "KeyLine { height: 1; background: $panel; dock: bottom; }"
    keys: reactive[tuple[tuple[str, str, str], ...]] = reactive(())
    """Key as written, what it does, and the action of the screen."""

    def render(self) -> Content:
        palette = palette_of(self)
        parts = [
            Content.assemble((f" {key} ", f"bold {palette.accent}"), (f"{words} ", palette.quiet))
            for key, words, _ in self._fitting()
        ]
        return shown(Content.assemble(*parts))

    async def on_click(self, event: events.Click) -> None:
        x = 0
        for key, words, action in self._fitting():
            end = x + len(key) + len(words) + 3
            if x <= event.x < end:
                await self.run_action(f"screen.{action}" if "." not in action else action)
            x = end

    def _fitting(self) -> list[tuple[str, str, str]]:
        """As many as there is room for; the last, which leads on to all others, always."""
        keys = list(self.keys)
        while len(keys) > 1 and sum(len(key) + len(words) + 3 for key, words, _ in keys) > self.size.width:
            keys.pop(-2)
        return keys
