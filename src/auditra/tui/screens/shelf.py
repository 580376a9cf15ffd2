"""The shelf, where all audits stand: the first screen."""

from __future__ import annotations

import gc
import importlib
import time
from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING, ClassVar

from textual import work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message
from textual.worker import get_current_worker

from auditra.core.counted import counted
from auditra.core.errors import AuditraError
from auditra.core.line_up.size import FEWEST, most_of
from auditra.core.sanitize import sanitize
from auditra.tui.screens.base import ResponsiveScreen
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine
from auditra.tui.widgets.shelf_list import ShelfList
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.collecting import without_collecting
from auditra.workflows.audits.shelf import ShelfRow
from auditra.workflows.audits.shelf_search import ShelfSearch
from auditra.workflows.services import Services

if TYPE_CHECKING:  # loaded once they are wanted: the shelf is painted first
    from textual.widgets import Input

    from auditra.tui.forms.form import Form
    from auditra.workflows.audits.claim_rows import ClaimRow

_EMPTY = "No audits yet. Press n to start one. `auditra demo` puts two on the shelf that are made up."
_MANY = 500
_MORE = "n starts an audit, f follows one up, / filters; `auditra import` adds one from files."
_LOOKS_AGAIN_AFTER_S = 0.2
_POSTS_EVERY_S = 0.3
_ORDERS = ("as they were begun", "by name", "by score", "by what is left to do")


class ShelfScreen(ResponsiveScreen):
    """Shows the rows as last seen at once, then as they stand."""

    DEFAULT_CSS = """
    ShelfScreen #shelf-message { height: auto; padding: 0 3 1 3; color: $quiet; }
    ShelfScreen #filter { height: 1; border: none; padding: 0 3; background: $panel; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("n", "new_audit", "new audit"),
        Binding("f", "follow_up", "follow up"),
        Binding("m", "mark", "mark"),
        Binding("l", "line_up", "line up"),
        Binding("z", "archive", "archive, take out"),
        Binding("slash", "filter", "filter", key_display="/"),
        Binding("escape", "clear_filter", "clear the filter"),
        Binding("o", "next_order", "order"),
        Binding("c", "counts", "count"),
        Binding("v", "show_archived", "show the archived", show=False),
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
        self._were_read = False
        self._shows_archived = False
        self._order = 0
        self._filter: Input | None = None
        self._search = ShelfSearch(())
        self._search_is_of: Sequence[ShelfRow] = ()
        self._claims: Mapping[str, Sequence[ClaimRow]] = {}
        self._counts_are_wanted = False

    def narrate(self) -> tuple[str, ...]:
        """In the demo; its words are loaded when somebody asks."""
        if not self._services.is_demo:
            return ()
        from auditra.tui.narrator import shelf

        return shelf()

    def compose(self) -> ComposeResult:
        yield TitleLine()
        yield ShelfList()
        yield ShownText(id="shelf-message")
        yield KeyLine()

    def on_mount(self) -> None:
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
        self._were_read = True
        if message.rows != self._rows:
            self._show(message.rows)
        words = message.error or (_MORE if message.rows else _EMPTY)
        if not message.error and len(message.rows) < message.of:
            words = f"Judging the audits: {len(message.rows)} of {message.of}."
        self._say(words)

    def on_shelf_list_chosen(self, message: ShelfList.Chosen) -> None:
        self.app.open_audit(message.name)  # type: ignore[attr-defined]

    def open_chosen(self) -> None:
        """Open the audit under the cursor."""
        self.query_one(ShelfList).action_take()

    # Keys

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        chosen = self._chosen
        if action == "line_up":
            return len(self.query_one(ShelfList).marked) >= FEWEST
        if action in ("follow_up", "archive", "mark"):
            return chosen is not None and not chosen.trouble
        return action != "clear_filter" or self._filter is not None

    @property
    def _chosen(self) -> ShelfRow | None:
        shelf = self.query_one(ShelfList)
        return shelf.rows[shelf.chosen] if shelf.rows else None

    def action_new_audit(self) -> None:
        from auditra.tui.forms.new_audit import new_audit_form

        opened: list[str] = []
        self._ask(lambda: new_audit_form(self._services, opened.append), opened)

    def action_follow_up(self) -> None:
        if (row := self._chosen) is not None:
            from auditra.tui.forms.new_audit import follow_up_form

            opened: list[str] = []
            session = self._services.open_session
            self._ask(lambda: follow_up_form(self._services, session(row.name), opened.append), opened)

    def _ask(self, make: Callable[[], Form], opened: list[str]) -> None:
        """Have a form filled in, and open the audit that it makes."""
        from auditra.tui.screens.form import FormScreen

        try:
            form = make()
        except AuditraError as error:
            self._say(str(error))
            return

        def then(_: None) -> None:
            if opened:
                self.app.open_audit(opened[0])  # type: ignore[attr-defined]

        self.app.push_screen(FormScreen(form, self._services.drafts), then)

    def action_mark(self) -> None:
        """Mark the chosen audit for a line-up, or take the mark away."""
        if (row := self._chosen) is None:
            return
        shelf = self.query_one(ShelfList)
        most = most_of(each.kind for each in shelf.rows if each.name in (*shelf.marked, row.name))
        if row.name not in shelf.marked and len(shelf.marked) >= most:
            self._say(f"{most} audits are the most that are lined up.")
            return
        shelf.mark(row.name)
        self.refresh_bindings()
        marked = ", ".join(sanitize(name, 40) for name in shelf.marked)
        enough = len(shelf.marked) >= FEWEST
        self._say(f"Marked: {marked}. l lines them up." if enough else "Mark another to line them up.")

    def action_line_up(self) -> None:
        """The marked audits side by side."""
        from auditra.tui.screens.line_up import LineUpScreen

        self.app.push_screen(LineUpScreen(self._services, self.query_one(ShelfList).marked))

    def action_archive(self) -> None:
        """Put the chosen audit away, or take it out again."""
        if (row := self._chosen) is None:
            return
        from auditra.core.journal.facts import Archived

        try:
            session = self._services.open_session(row.name)
            session.write(lambda _: (Archived(not row.archived),), "archive", self._services.clock)
        except AuditraError as error:
            self._say(str(error))
            return
        words = "is taken out again" if row.archived else "is archived; v shows what is archived"
        self._say(f"{sanitize(row.name, 64)} {words}.")
        self._read()

    def action_show_archived(self) -> None:
        self._shows_archived = not self._shows_archived
        self._show(self._rows)

    def action_next_order(self) -> None:
        self._order = (self._order + 1) % len(_ORDERS)
        self._show(self._rows)
        self._say(f"Audits {_ORDERS[self._order]}.")

    def action_filter(self) -> None:
        self._open_filter().focus()

    def _open_filter(self) -> Input:
        if self._filter is None:
            from textual.widgets import Input

            hint = "a part of a name, maker, kind, rig, claim or verdict"
            self._filter = Input(id="filter", placeholder=hint, max_length=80)
            self.mount(self._filter, before=self.query_one(KeyLine))
            self._read_claims()
        return self._filter

    def action_clear_filter(self) -> None:
        if self._filter is not None:
            self._filter.remove()
            self._filter = None
        self.query_one(ShelfList).focus()
        self._show(self._rows)

    def on_input_changed(self) -> None:
        self._show(self._rows)

    def on_input_submitted(self) -> None:
        self.query_one(ShelfList).focus()

    def action_counts(self) -> None:
        """How often each verdict was given, once the claims are read."""
        self._counts_are_wanted = True
        self._say("The claims are being read.")
        self._read_claims()

    def _show_counts(self) -> None:
        from auditra.tui.screens.counts import CountsScreen

        claims = self._search.claims_found(self._wanted, [row.name for row in self.query_one(ShelfList).rows])
        self._say(_MORE)
        self.app.push_screen(CountsScreen(claims, self._wanted, self._look_for))

    def _look_for(self, words: str) -> None:
        """What fits besides, by what is filtered already."""
        opened = self._open_filter()
        opened.value = " ".join(filter(None, (self._wanted, words)))
        self.query_one(ShelfList).focus()

    # Showing

    def show(self) -> None:
        self._show(self._rows)

    def _say(self, words: str) -> None:
        self.query_one("#shelf-message", ShownText).update(Content(sanitize(words, 400)))

    def _show(self, rows: Sequence[ShelfRow]) -> None:
        self._rows = rows
        shelf = self.query_one(ShelfList)
        shelf.rows = self._in_sight(rows)
        shelf.refresh()
        archived = len(rows) - len(shelf.rows) if self._were_read and not self._wanted else 0
        more = (f"{archived} archived",) if archived else ()
        self.query_one(TitleLine).left = ("Auditra", "the shelf")
        self.query_one(TitleLine).right = (*more, counted(len(shelf.rows), "audit"))

    @property
    def _wanted(self) -> str:
        """What the rows are filtered by."""
        return self._filter.value if self._filter is not None else ""

    def _in_sight(self, rows: Sequence[ShelfRow]) -> Sequence[ShelfRow]:
        """The rows that are wanted, in the order that is wanted; as they came before the library was looked at."""
        words = self._wanted.casefold().split()
        if not self._were_read and not words:
            return rows
        sought = self._sought_in(rows) if words else rows
        found = [row for row in sought if self._shows_archived or not row.archived]
        match self._order:
            case 1:
                found.sort(key=lambda row: row.name.casefold())
            case 2:
                found.sort(key=lambda row: -float(row.score or "-1"))
            case 3:
                found.sort(key=lambda row: -row.to_do)
        return found

    def _sought_in(self, rows: Sequence[ShelfRow]) -> Sequence[ShelfRow]:
        """The rows that are sought. Of very many the words are made ready beside the interface: until then, all."""
        if self._search_is_of is not rows:
            if len(rows) > _MANY:
                self._read_claims()
                return rows
            self._search, self._search_is_of = ShelfSearch(rows, self._claims), rows
        return self._search.found(self._wanted)

    @work(thread=True, exclusive=True, group="claims", exit_on_error=False)
    def _read_claims(self) -> None:
        """What is said of each claim, so that it can be looked for too; the words are made ready here as well."""
        with without_collecting():
            claims, rows = self._services.shelf.kept_claims(), self._rows
            search = ShelfSearch(rows, claims)
            gc.freeze()  # they live as long as the shelf: to look through them for garbage costs 200 ms now and then
        self.app.call_from_thread(self._take_claims, claims, rows, search)

    def _take_claims(
        self, claims: Mapping[str, Sequence[ClaimRow]], rows: Sequence[ShelfRow], search: ShelfSearch
    ) -> None:
        self._claims, self._search, self._search_is_of = claims, search, rows
        if self._wanted:
            self._show(self._rows)
        if self._counts_are_wanted and self.is_current:
            self._counts_are_wanted = False
            self._show_counts()
