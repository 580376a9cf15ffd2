"""The shelf, where all audits stand: the first screen."""

from __future__ import annotations

import importlib
import time
from collections.abc import Sequence
from typing import ClassVar

from textual import work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.worker import get_current_worker

from auditra.core.counted import counted
from auditra.core.errors import AuditraError
from auditra.tui.screens.base import ResponsiveScreen
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine
from auditra.tui.widgets.shelf_list import ShelfList
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.shelf import ShelfRow
from auditra.workflows.services import Services

_EMPTY = "No audits yet. `auditra demo` puts the demo audits on the shelf."
_MORE = "`auditra new` starts an audit of a real device, `auditra import` adds one from files."
_LOOKS_AGAIN_AFTER_S = 0.2
_POSTS_EVERY_S = 0.3


class ShelfScreen(ResponsiveScreen):
    """Shows the rows as last seen at once, then as they stand."""

    DEFAULT_CSS = "ShelfScreen #shelf-message { height: auto; padding: 0 3 1 3; color: $quiet; }"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("t", "app.next_theme", "theme"),
        Binding("q", "app.quit", "quit"),
        Binding("question_mark", "app.help", "help"),
    ]

    class RowsRead(Message):
        """The shelf as far as it was judged; `of` is how many audits there are in all."""

        def __init__(self, rows: Sequence[ShelfRow], of: int, error: str = "") -> None:
            super().__init__()
            self.rows, self.of, self.error = rows, of, error

    def __init__(self, services: Services) -> None:
        super().__init__()
        self._services = services
        self._rows: Sequence[ShelfRow] = ()

    def compose(self) -> ComposeResult:
        yield TitleLine()
        yield ShelfList()
        yield ShownText(id="shelf-message")
        yield KeyLine()

    def on_mount(self) -> None:
        self.query_one(TitleLine).left = ("Auditra", "the shelf")
        self._show(self._services.shelf.kept_rows())
        self.query_one(ShelfList).focus()

    def on_screen_resume(self) -> None:
        """Look again at the library; where rows are known, they are painted before its parts are even loaded."""
        self.set_timer(_LOOKS_AGAIN_AFTER_S if self._rows else 0.001, self._read)

    @work(thread=True, exclusive=True, group="shelf", exit_on_error=False)
    def _read(self) -> None:
        known = {row.name: row for row in self._rows}
        judged: dict[str, ShelfRow] = {}
        posted_at, count = time.monotonic(), 0
        try:
            for row, count in self._services.shelf.each_row():
                judged[row.name] = row
                if get_current_worker().is_cancelled:
                    return
                if time.monotonic() - posted_at > _POSTS_EVERY_S:
                    self.post_message(self.RowsRead(tuple((judged | known | judged).values()), count))
                    posted_at = time.monotonic()
            self.post_message(self.RowsRead(tuple(judged.values()), count))
            importlib.import_module("auditra.tui.screens.audit")  # so that the first audit opens without a wait
        except AuditraError as error:
            self.post_message(self.RowsRead(self._rows, count, str(error)))

    def on_shelf_screen_rows_read(self, message: RowsRead) -> None:
        if message.rows != self._rows:
            self._show(message.rows)
        words = message.error or (_MORE if message.rows else _EMPTY)
        if not message.error and len(message.rows) < message.of:
            words = f"Judging the audits: {len(message.rows)} of {message.of}."
        self.query_one("#shelf-message", ShownText).update(Content(words))

    def on_shelf_list_chosen(self, message: ShelfList.Chosen) -> None:
        self.app.open_audit(message.name)  # type: ignore[attr-defined]

    def open_chosen(self) -> None:
        """Open the audit under the cursor."""
        self.query_one(ShelfList).action_open()

    def show(self) -> None:
        self._show(self._rows)

    def _show(self, rows: Sequence[ShelfRow]) -> None:
        self._rows = rows
        shelf = self.query_one(ShelfList)
        shelf.rows = rows
        shelf.refresh()
        count = counted(len(rows), "audit")
        self.query_one(TitleLine).right = (count,)
