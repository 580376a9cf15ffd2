"""What stands on a terminal that is too small to work in."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.screen import ModalScreen
from textual.widgets import Static


class NoRoom(ModalScreen[None]):
    """Goes away by itself once there is room."""

    DEFAULT_CSS = "NoRoom { align: center middle; background: $background; } NoRoom Static { width: auto; }"
    BINDINGS: ClassVar[list[BindingType]] = [Binding("q", "app.quit", "quit")]

    def __init__(self, width: int, height: int) -> None:
        super().__init__()
        self._need = (width, height)

    def compose(self) -> ComposeResult:
        yield Static()

    def on_mount(self) -> None:
        self._tell()

    def on_resize(self) -> None:
        self._tell()

    def _tell(self) -> None:
        width, height = self._need
        size = self.app.size
        text = f"{size.width}x{size.height} is too small.\nAuditra needs {width}x{height},\nbetter 100x30. q quits."
        self.query_one(Static).update(text)
