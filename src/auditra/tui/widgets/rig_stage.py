"""The Rig stage: the hosts that take part, and what each says of itself."""

from __future__ import annotations

from collections.abc import Mapping

from textual.app import ComposeResult
from textual.containers import VerticalScroll

from auditra.core.host.snapshot import Snapshot
from auditra.core.model.rig import Rig
from auditra.tui.renderables.hosts import hosts_in_words
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

_SCROLLBAR = 1


class RigStage(VerticalScroll):
    """Shows the hosts; the screen decides which is chosen."""

    DEFAULT_CSS = "RigStage { height: 1fr; padding: 1 2 0 2; scrollbar-size-vertical: 1; }"

    def __init__(self) -> None:
        super().__init__(can_focus=False)
        self._shown: tuple[Rig, str, Mapping[str, Snapshot], str] | None = None

    def compose(self) -> ComposeResult:
        yield ShownText(id="hosts")

    def on_resize(self) -> None:
        """Widths are known only once there is a place for them."""
        if self._shown is not None:
            self.show(*self._shown)

    def show(self, rig: Rig, chosen: str, probes: Mapping[str, Snapshot], message: str) -> None:
        """Everything anew, after another host was chosen or one was asked."""
        self._shown = (rig, chosen, probes, message)
        if not self.size.width:
            return  # it has no place yet; on_resize paints it once it has
        width = max(40, (self.content_size.width or 80) - _SCROLLBAR)
        self.query_one("#hosts", ShownText).update(
            hosts_in_words(rig, chosen, probes, message, width, palette_of(self))
        )

    def next_page(self) -> None:
        """Further down; from the foot to the head again."""
        if self.scroll_offset.y >= self.max_scroll_y:
            self.scroll_home(animate=False)
        else:
            self.scroll_page_down(animate=False)
