"""The frame of every audit screen: title line, faces, track and keys."""

from __future__ import annotations

from textual import events
from textual.content import Content
from textual.reactive import reactive
from textual.widget import Widget

from auditra.tui.messages import PortChosen, StageChosen
from auditra.tui.renderables.tiles import Placed, Tile, TileSize, neighbour, place, render_faces, size_for
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES, Palette

STAGES = ("Claims", "Paper check", "Rig", "Run", "Traces", "Why", "Score", "Publish")
_TITLE_GAP, _LEAST_RIGHT = "   ", 2
Faces = tuple[tuple[str, tuple[Tile, ...]], ...]


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
        while self._length(left) + self._length(right) + 3 > width and (len(left) > 1 or len(right) > 1):
            if len(right) > _LEAST_RIGHT or len(left) == 1:
                right.pop(0)
            else:
                left.pop()
        end = _TITLE_GAP.join(right)
        start = _TITLE_GAP.join(left)[: max(0, width - len(end) - 3)]
        return Content(f" {start}".ljust(max(0, width - len(end) - 1)) + end)

    @staticmethod
    def _length(parts: list[str]) -> int:
        return len(_TITLE_GAP.join(parts))


class FacesMap(Widget):
    """The device as it stands: the map and the selector. It says which port was chosen; its screen decides."""

    DEFAULT_CSS = "FacesMap { height: auto; background: $panel; padding: 0; }"
    faces: reactive[Faces] = reactive((), layout=True)
    selected: reactive[str | None] = reactive(None)

    def __init__(self) -> None:
        super().__init__()
        self._placed: tuple[Placed, ...] = ()

    @property
    def tile_size(self) -> TileSize:
        return size_for(self.app.size.width)

    def get_content_height(self, container: object, viewport: object, width: int) -> int:
        self._place()
        return max((each.y + each.height for each in self._placed), default=1)

    def render(self) -> Content:
        self._place()
        return render_faces(self._placed, self.tile_size, self.selected, palette_of(self))

    def choose_neighbour(self, dx: int, dy: int) -> None:
        self._place()
        port = neighbour(self._placed, self.selected, dx, dy)
        if port is not None:
            self.post_message(PortChosen(port))

    def on_click(self, event: events.Click) -> None:
        for each in self._placed:
            inside = each.x <= event.x < each.x + each.width and each.y <= event.y < each.y + each.height
            if each.tile is not None and inside:
                self.post_message(PortChosen(each.tile.port))

    def _place(self) -> None:
        self._placed = place(self.faces, self.app.size.width, self.tile_size)


class Track(Widget):
    """The stages of the work in order."""

    DEFAULT_CSS = "Track { height: 1; background: $rule; }"
    stage: reactive[int] = reactive(4)

    def render(self) -> Content:
        palette = palette_of(self)
        parts: list[Content] = []
        for number, name, _, _ in self._spans():
            style = f"bold {palette.ground} on {palette.accent}" if number == self.stage else palette.ink
            parts.append(Content.styled(f" {number} {name} ", style))
        join = Content.styled("──" if self._roomy else "", palette.quiet)
        return join.join(parts)

    def on_click(self, event: events.Click) -> None:
        for number, _, start, end in self._spans():
            if start <= event.x < end:
                self.post_message(StageChosen(number))

    @property
    def _roomy(self) -> bool:
        return self.size.width >= 96

    def _spans(self) -> list[tuple[int, str, int, int]]:
        spans, x = [], 0
        for number, name in enumerate(STAGES, start=1):
            end = x + len(name) + 4
            spans.append((number, name, x, end))
            x = end + (2 if self._roomy else 0)
        return spans


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
        return Content.assemble(*parts)

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
