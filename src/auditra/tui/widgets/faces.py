"""The faces of the device: map and selector on every audit screen."""

from __future__ import annotations

from textual import events
from textual.geometry import Region
from textual.reactive import reactive
from textual.strip import Strip
from textual.visual import Visual
from textual.widget import Widget

from auditra.tui.messages import PortChosen
from auditra.tui.renderables.tiles import Placed, Tile, TileSize, neighbour, place, render_faces, size_for
from auditra.tui.theme import Palette
from auditra.tui.widgets.frame_lines import palette_of
from auditra.tui.widgets.shown_text import shown

Faces = tuple[tuple[str, tuple[Tile, ...]], ...]
MAX_KEPT = 64
"""States of the map that are kept as they are painted."""


class FacesMap(Widget):
    """The device as it stands: the map and the selector. It says which port was chosen; its screen decides."""

    DEFAULT_CSS = "FacesMap { height: auto; background: $panel; padding: 0; }"
    faces: reactive[Faces] = reactive((), layout=True)
    selected: reactive[str | None] = reactive(None, repaint=False)

    def __init__(self) -> None:
        super().__init__()
        self._placed: tuple[Placed, ...] = ()
        self._made: dict[tuple[Faces, str | None, int, Palette], list[Strip]] = {}
        self._painted: list[Strip] = []

    @property
    def tile_size(self) -> TileSize:
        return size_for(self.app.size.width)

    def get_content_height(self, container: object, viewport: object, width: int) -> int:
        self._place()
        return max((each.y + each.height for each in self._placed), default=1)

    def render_line(self, y: int) -> Strip:
        lines = self._lines()
        return lines[y] if y < len(lines) else Strip.blank(self.size.width, self.visual_style.rich_style)

    def watch_selected(self) -> None:
        self._paint_what_differs()

    def show(self, faces: Faces, selected: str | None) -> None:
        """Other tiles, or another one chosen; only the lines that differ are painted."""
        places = [(name, len(tiles)) for name, tiles in faces]
        if places != [(name, len(tiles)) for name, tiles in self.faces]:
            self.set_reactive(FacesMap.faces, faces)
            self.set_reactive(FacesMap.selected, selected)
            self.refresh(layout=True)
            return
        self.set_reactive(FacesMap.faces, faces)
        self.set_reactive(FacesMap.selected, selected)
        self._paint_what_differs()

    def _paint_what_differs(self) -> None:
        before, now = self._painted, self._lines()
        if len(before) != len(now):
            self.refresh()
            return
        differ = [y for y, (one, other) in enumerate(zip(before, now, strict=True)) if one != other]
        if differ:
            self.refresh(*(Region(0, y, self.size.width, 1) for y in differ))

    def _lines(self) -> list[Strip]:
        """The map as it is painted; for each state of it made once."""
        width, palette = self.size.width, palette_of(self)
        state = (self.faces, self.selected, width, palette)
        if state not in self._made:
            if len(self._made) > MAX_KEPT:
                self._made.clear()
            self._place()
            content = shown(render_faces(self._placed, self.tile_size, self.selected, palette))
            self._made[state] = Visual.to_strips(self, content, width, None, self.visual_style) if width else []
        self._painted = self._made[state]
        return self._painted

    def neighbour_of_chosen(self, dx: int, dy: int) -> str | None:
        """The port next to the chosen one in a direction."""
        self._place()
        return neighbour(self._placed, self.selected, dx, dy)

    def on_click(self, event: events.Click) -> None:
        for each in self._placed:
            inside = each.x <= event.x < each.x + each.width and each.y <= event.y < each.y + each.height
            if each.tile is not None and inside:
                self.post_message(PortChosen(each.tile.port))

    def _place(self) -> None:
        self._placed = place(self.faces, self.app.size.width, self.tile_size)
