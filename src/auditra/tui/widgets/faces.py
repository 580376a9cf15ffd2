"""What stands on every audit screen: the faces as map and selector, and the track of stages."""

from __future__ import annotations

from textual import events
from textual.content import Content
from textual.reactive import reactive
from textual.widget import Widget

from auditra.tui.messages import PortChosen, StageChosen
from auditra.tui.renderables.tiles import Placed, Tile, TileSize, neighbour, place, render_faces, size_for
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import shown

STAGES = ("Claims", "Paper check", "Rig", "Run", "Traces", "Why", "Score", "Publish")
Faces = tuple[tuple[str, tuple[Tile, ...]], ...]


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
        return shown(render_faces(self._placed, self.tile_size, self.selected, palette_of(self)))

    def choose_neighbour(self, dx: int, dy: int) -> None:
        self._place()
        port = neighbour(self._placed, self.selected, dx, dy)
        if port is not None:
            self.selected = port  # at once, so that the next of several quick keys goes on from here
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
