"""An unfinished text: written to disk after a short pause, and when its widget is removed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from textual.widget import Widget

if TYPE_CHECKING:
    from auditra.workflows.services import Drafts

KEEPS_AFTER_S = 0.3
TEXT = "text"
"""The key of a draft that is a single text."""


class Draft:
    """One draft under a name; the widget's clock says when it is written."""

    def __init__(self, drafts: Drafts, name: str, widget: Widget) -> None:
        self._drafts, self.name, self._widget = drafts, name, widget
        self._unwritten: Mapping[str, str] | None = None

    def kept(self) -> dict[str, str]:
        """What was typed and not recorded the last time."""
        return self._drafts.kept(self.name)

    def typed(self, texts: Mapping[str, str]) -> None:
        """This is what stands there now; nothing of it is worth keeping where all is empty."""
        waits = self._unwritten is not None
        self._unwritten = dict(texts)
        if not waits:
            self._widget.set_timer(KEEPS_AFTER_S, self.write)

    def write(self) -> None:
        """Put what was typed on disk, where that has not been done."""
        if self._unwritten is not None:
            texts, self._unwritten = self._unwritten, None
            self._drafts.keep(self.name, texts)

    def drop(self) -> None:
        """It was recorded, or is not wanted."""
        self._unwritten = None
        self._drafts.drop(self.name)
