"""How often each verdict was given on the shelf: by maker, kind, verdict or model."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content

from auditra.core.counted import counted
from auditra.core.sanitize import sanitize
from auditra.tui.screens.base import ResponsiveScreen
from auditra.tui.widgets.counts_list import CountsList
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.claim_rows import count_by

if TYPE_CHECKING:
    from auditra.workflows.audits.claim_rows import ClaimRow

_GROUPS = ("maker", "kind", "verdict", "model")


class CountsScreen(ResponsiveScreen):
    """Counts claims of audits that are in sight on the shelf; a group that is chosen is looked for there."""

    DEFAULT_CSS = "CountsScreen #counts-message { height: auto; padding: 0 3 1 3; color: $quiet; }"
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("c", "next_group", "count by another"),
        Binding("b", "leave", "shelf"),
        Binding("escape", "leave", "shelf", show=False),
        Binding("t", "app.next_theme", "theme", show=False),
        Binding("question_mark", "app.help", "help"),
    ]

    def __init__(self, claims: Sequence[ClaimRow], wanted: str, take: Callable[[str], None]) -> None:
        super().__init__()
        self._claims, self._wanted, self._take = claims, wanted, take
        self._at = 0

    def compose(self) -> ComposeResult:
        yield TitleLine()
        yield CountsList()
        yield ShownText(id="counts-message")
        yield KeyLine()

    def on_mount(self) -> None:
        audits = counted(len({claim.audit for claim in self._claims}), "audit")
        wanted = f', of "{sanitize(self._wanted, 60)}"' if self._wanted else ""
        self.query_one(TitleLine).right = (f"{counted(len(self._claims), 'claim')} in {audits}{wanted}",)
        words = "" if self._claims else "No claim to count: the audits in sight have none."
        self.query_one("#counts-message", ShownText).update(Content(words))
        self.query_one(CountsList).focus()
        self._count()

    def _count(self) -> None:
        group = _GROUPS[self._at]
        self.query_one(TitleLine).left = ("Auditra", "the shelf", f"claims by {group}")
        self.query_one(CountsList).groups = count_by(self._claims, group)

    def show(self) -> None:
        self.query_one(CountsList).refresh()

    def action_next_group(self) -> None:
        self._at = (self._at + 1) % len(_GROUPS)
        self._count()

    def on_counts_list_taken(self, message: CountsList.Taken) -> None:
        self.leave()
        self.app.call_later(self._take, message.name)

    def action_leave(self) -> None:
        self.leave()
