"""What every screen shares: it is left once, and it shows a message when the terminal is too small."""

from __future__ import annotations

from typing import ClassVar

from textual.app import App, ComposeResult
from textual.binding import Binding, BindingType
from textual.screen import ModalScreen, Screen
from textual.widget import Widget

from auditra.tui.widgets.frame_lines import KeyLine, TitleLine
from auditra.tui.widgets.shown_text import ShownText

MIN_WIDTH, MIN_HEIGHT = 60, 18


def _has_room(app: App[object]) -> bool:
    return app.size.width >= MIN_WIDTH and app.size.height >= MIN_HEIGHT


class LeavingScreen(Screen[None], inherit_bindings=False):
    """A screen that is left once, however often its key is pressed, and does nothing while its widgets are not there:
    they come after it was pushed, and go before it does."""

    BINDINGS: ClassVar[list[BindingType]] = [Binding("ctrl+c", "screen.copy_text", "copy selected text", show=False)]
    NEEDS: ClassVar[tuple[type[Widget], ...]] = ()
    """The widgets without which nothing can be done or shown."""
    _is_leaving = False

    @property
    def is_ready(self) -> bool:
        kinds = {type(each) for each in self.children}
        return not self._is_leaving and kinds.issuperset(self.NEEDS)

    def leave(self) -> None:
        if self.is_current and not self._is_leaving:
            self._is_leaving = True
            self.dismiss()

    def repaint(self) -> None:
        """Show everything, where there are widgets to show it."""
        if self.is_ready:
            self.show()

    def show(self) -> None:
        """Paint everything from what is known."""

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        return self.is_ready and super().check_action(action, parameters)


class ResponsiveScreen(LeavingScreen):
    """A screen that needs room. Subclasses paint themselves in `show`."""

    NEEDS: ClassVar[tuple[type[Widget], ...]] = (TitleLine, KeyLine)

    def narrate(self) -> tuple[str, ...]:
        """What happens here and why, in a demo; nothing elsewhere."""
        return ()

    def on_resize(self) -> None:
        if not _has_room(self.app) and self.app.screen is self:
            self.app.push_screen(TooSmall())
        self.call_after_refresh(self.repaint)


class TooSmall(LeavingScreen, ModalScreen[None]):
    """Goes away by itself once there is room."""

    DEFAULT_CSS = "TooSmall { align: center middle; background: $background; } TooSmall ShownText { width: auto; }"
    BINDINGS: ClassVar[list[BindingType]] = [Binding("q", "app.quit", "quit")]

    def compose(self) -> ComposeResult:
        yield ShownText()

    def on_resize(self) -> None:
        if _has_room(self.app):
            self.leave()
            return
        size = self.app.size
        text = f"{size.width}x{size.height} is too small.\nAuditra needs {MIN_WIDTH}x{MIN_HEIGHT},"
        self.query_one(ShownText).update(f"{text}\nbetter 100x30. q quits.")
