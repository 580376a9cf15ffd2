"""The shelf, where all audits stand: the first screen."""

from __future__ import annotations

import importlib
from typing import ClassVar

from textual import work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.widgets import OptionList, Static
from textual.widgets.option_list import Option

from auditra.core.audit.verdict import Verdict
from auditra.core.errors import AuditraError
from auditra.core.inert import inert
from auditra.tui.renderables.scale import render_band
from auditra.tui.screens.room import RoomyScreen
from auditra.tui.theme import Palette
from auditra.tui.widgets.lines import KeyLine, TitleLine, palette_of
from auditra.workflows.shelf import ShelfRow
from auditra.workflows.workshop import Workshop

_KEYS = (
    ("enter", "open", "app.open_chosen"),
    ("↑↓", "choose", "app.no_action"),
    ("t", "theme", "app.next_theme"),
    ("q", "quit", "app.quit"),
    ("?", "help", "app.help"),
)
_EMPTY = "No audit stands here yet. `auditra demo` puts the demo audits on the shelf."
_MORE = "`auditra new` puts a real thing here, `auditra import` an audit from files."
_BAND_WIDTH = 30
_LOOKS_AGAIN_AFTER_S = 0.2
_VERDICT_OF_WORD = {verdict.word: verdict for verdict in Verdict}


class ShelfScreen(RoomyScreen):
    """Shows the rows as last seen at once, then as they stand."""

    DEFAULT_CSS = """
    ShelfScreen OptionList, ShelfScreen OptionList:focus {
        height: 1fr; border: none; padding: 1 1; background: $background; background-tint: $background 0%;
    }
    ShelfScreen OptionList > .option-list--option { padding: 0 1; }
    ShelfScreen OptionList > .option-list--option-highlighted,
    ShelfScreen OptionList:focus > .option-list--option-highlighted {
        background: $panel; color: $foreground; text-style: none;
    }
    ShelfScreen #shelf-message { height: auto; padding: 0 3 1 3; color: $quiet; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("q", "app.quit", "quit"),
        Binding("question_mark", "app.help", "help"),
    ]

    class RowsRead(Message):
        """The shelf as it stands."""

        def __init__(self, rows: tuple[ShelfRow, ...], error: str = "") -> None:
            super().__init__()
            self.rows, self.error = rows, error

    def __init__(self, workshop: Workshop) -> None:
        super().__init__()
        self._workshop = workshop
        self._rows: tuple[ShelfRow, ...] = ()
        self.keys = _KEYS

    def compose(self) -> ComposeResult:
        yield TitleLine()
        yield OptionList()
        yield Static(id="shelf-message")
        yield KeyLine()

    def on_mount(self) -> None:
        self.query_one(TitleLine).left = ("Auditra", "the shelf")
        self.query_one(KeyLine).keys = self.keys
        self._show(self._workshop.shelf.kept_rows())
        self.query_one(OptionList).focus()

    def on_screen_resume(self) -> None:
        """Look again at the library; where rows are known, they are painted before its parts are even loaded."""
        self.set_timer(_LOOKS_AGAIN_AFTER_S if self._rows else 0.001, self._read)

    @work(thread=True, exclusive=True, group="shelf", exit_on_error=False)
    def _read(self) -> None:
        try:
            self.post_message(self.RowsRead(self._workshop.shelf.rows()))
            importlib.import_module("auditra.tui.screens.audit")  # so that the first audit opens without a wait
        except AuditraError as error:
            self.post_message(self.RowsRead(self._rows, str(error)))

    def on_shelf_screen_rows_read(self, message: RowsRead) -> None:
        if message.rows != self._rows:
            self._show(message.rows)
        words = message.error or (_MORE if message.rows else _EMPTY)
        self.query_one("#shelf-message", Static).update(Content(words))

    def on_option_list_option_selected(self, event: OptionList.OptionSelected) -> None:
        self.app.open_audit(self._rows[event.option_index].name)  # type: ignore[attr-defined]

    def open_chosen(self) -> None:
        """Open the audit under the cursor."""
        self.query_one(OptionList).action_select()

    def show(self) -> None:
        self._show(self._rows)

    def _show(self, rows: tuple[ShelfRow, ...]) -> None:
        options = self.query_one(OptionList)
        chosen = options.highlighted
        self._rows = rows
        palette, width = palette_of(self), self.app.size.width
        options.clear_options()
        options.add_options([Option(_row_text(row, width, palette)) for row in rows])
        if rows:
            options.highlighted = min(chosen or 0, len(rows) - 1)
        count = f"{len(rows)} audit{'' if len(rows) == 1 else 's'}"
        self.query_one(TitleLine).right = (count,)


def _row_text(row: ShelfRow, width: int, palette: Palette) -> Content:
    """Two lines: what it is and where its score stands; what it is examined on, and every port's mark."""
    score = f"score {row.score}" if row.score else "no score yet"
    left = Content.assemble((inert(row.device, 40), f"bold {palette.ink}"), (f"  {inert(row.kind, 30)}", palette.quiet))
    right = Content.assemble((score, f"bold {palette.accent}"), (f"  ({row.lowest} to {row.highest})", palette.quiet))
    todo = f"{row.to_do} trials to do" if row.to_do else "all trials done"
    below = Content.styled(
        f"{inert(row.name, 20)} on {inert(row.rig, 20)}, {row.decided} of {row.claims} claims decided, {todo}",
        palette.quiet,
    )
    marks = Content("  ").join(_mark(port, word, palette) for port, word in row.marks)
    band = render_band(
        float(row.lowest), float(row.score) if row.score else None, float(row.highest), _BAND_WIDTH, palette
    )
    if width < 100:
        return Content("\n").join(
            [left, Content.assemble(right, "  ", band) if width >= 70 else right, below, marks, Content("")]
        )
    room = min(width, 150) - 6
    return Content("\n").join(
        [_apart(left, Content.assemble(band, "  ", right), room), _apart(below, marks, room), Content("")]
    )


def _mark(port: str, word: str, palette: Palette) -> Content:
    verdict = _VERDICT_OF_WORD.get(word, Verdict.OPEN)
    return Content.assemble((f"{inert(port, 8)}", palette.quiet), (verdict.mark, f"bold {palette.of(verdict)}"))


def _apart(left: Content, right: Content, width: int) -> Content:
    return Content.assemble(left, " " * max(2, width - left.cell_length - right.cell_length), right)
