"""Room: a full screen notices when it has too little, and what stands there instead says so."""

from __future__ import annotations

from typing import ClassVar

from textual.app import App, ComposeResult
from textual.binding import Binding, BindingType
from textual.screen import ModalScreen, Screen
from textual.widgets import Static

LEAST_WIDTH, LEAST_HEIGHT = 60, 18


def _has_room(app: App[object]) -> bool:
    return app.size.width >= LEAST_WIDTH and app.size.height >= LEAST_HEIGHT


class RoomyScreen(Screen[None]):
    """A screen that needs room. Subclasses paint themselves in `show`."""

    def on_resize(self) -> None:
        if not _has_room(self.app) and self.app.screen is self:
            self.app.push_screen(NoRoom())
        self.call_after_refresh(self.show)

    def show(self) -> None:
        """Paint everything from what is known."""


class NoRoom(ModalScreen[None]):
    """Goes away by itself once there is room."""

    DEFAULT_CSS = "NoRoom { align: center middle; background: $background; } NoRoom Static { width: auto; }"
    BINDINGS: ClassVar[list[BindingType]] = [Binding("q", "app.quit", "quit")]

    def __init__(self) -> None:
        super().__init__()
        self._leaving = False

    def compose(self) -> ComposeResult:
        yield Static()

    def on_resize(self) -> None:
        if _has_room(self.app):
            if self.is_current and not self._leaving:
                self._leaving = True
                self.dismiss()
            return
        size = self.app.size
        text = f"{size.width}x{size.height} is too small.\nAuditra needs {LEAST_WIDTH}x{LEAST_HEIGHT},"
        self.query_one(Static).update(f"{text}\nbetter 100x30. q quits.")
