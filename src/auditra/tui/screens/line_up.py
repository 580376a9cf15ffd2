"""The line-up: marked audits of the shelf side by side, page by page."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, ClassVar

from textual import work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import VerticalScroll
from textual.content import Content
from textual.message import Message

from auditra.core.report.document import Document
from auditra.core.sanitize import sanitize
from auditra.tui.controllers.fault_words import fault_words
from auditra.tui.renderables.report_page import render_chapter
from auditra.tui.screens.base import ResponsiveScreen
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine, palette_of
from auditra.tui.widgets.shown_text import ShownText

if TYPE_CHECKING:
    from auditra.workflows.services import Services

_SIDE = 4


class LineUpScreen(ResponsiveScreen):
    """Shows the document of a line-up, and writes it."""

    DEFAULT_CSS = """
    LineUpScreen #line-up { padding: 1 2; scrollbar-size-vertical: 1; height: 1fr; }
    LineUpScreen #line-up-message { height: auto; padding: 0 3; color: $quiet; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("p", "publish", "write"),
        Binding("j", "turn(1)", "page", key_display="j k"),
        Binding("k", "turn(-1)", "page", key_display="j k", show=False),
        Binding("pageup", "scroll(-1)", "scroll", show=False, key_display="pgup pgdn"),
        Binding("pagedown", "scroll(1)", "scroll", key_display="pgup pgdn"),
        Binding("b", "leave", "shelf"),
        Binding("escape", "leave", "shelf", show=False),
        Binding("t", "app.next_theme", "theme", show=False),
        Binding("question_mark", "app.help", "help"),
    ]

    class Made(Message):
        """The line-up was worked out, or cannot be."""

        def __init__(self, document: Document | None, words: str = "") -> None:
            super().__init__()
            self.document, self.words = document, words

    def __init__(self, services: Services, names: Sequence[str]) -> None:
        super().__init__()
        self._services, self._names = services, tuple(names)
        self._document: Document | None = None
        self._at = 0

    def compose(self) -> ComposeResult:
        yield TitleLine()
        with VerticalScroll(id="line-up"):
            yield ShownText(id="line-up-text")
        yield ShownText(id="line-up-message")
        yield KeyLine()

    def on_mount(self) -> None:
        self.query_one(TitleLine).left = ("Auditra", "line-up", *self._names)
        self._say("The audits are being judged.")
        self.query_one("#line-up").focus()
        self._make()

    @work(thread=True, exclusive=True, group="line-up", exit_on_error=False)
    def _make(self) -> None:
        self._work(lambda: self.Made(self._services.line_up(self._names)))

    @work(thread=True, exclusive=True, group="line-up", exit_on_error=False)
    def _write(self) -> None:
        def write() -> LineUpScreen.Made:
            files = self._services.write_line_up(self._names, self._services.publish_folder)
            names = ", ".join(path.name for path in files)
            return self.Made(None, f"Written into {files[0].parent}: {names}")

        self._work(write)

    def _work(self, make: Callable[[], LineUpScreen.Made]) -> None:
        try:
            self.post_message(make())
        except Exception as error:
            self.post_message(self.Made(None, fault_words(error, "fault in a line-up", self._services.log)))

    def on_line_up_screen_made(self, message: Made) -> None:
        self._document = message.document or self._document
        self._say(message.words)
        self.show()

    def show(self) -> None:
        """Paint the page in sight; widths are known once there is a layout."""
        document = self._document
        if document is None or not self.size.width:
            return
        chapter = document.chapters[self._at]
        page = f"page {self._at + 1} of {len(document.chapters)}"
        self.query_one(TitleLine).right = (page,)
        width = max(30, self.size.width - _SIDE - 2)
        self.query_one("#line-up-text", ShownText).update(render_chapter(chapter, width, palette_of(self)))

    def action_turn(self, by: int) -> None:
        if self._document is not None:
            self._at = max(0, min(len(self._document.chapters) - 1, self._at + by))
            self.query_one("#line-up").scroll_to(y=0, animate=False)
            self.show()

    def action_scroll(self, direction: int) -> None:
        panel = self.query_one("#line-up")
        panel.scroll_to(y=panel.scroll_y + direction * panel.scrollable_content_region.height, animate=False)

    def action_publish(self) -> None:
        if self._document is not None:
            self._say("Writing ...")
            self._write()

    def action_leave(self) -> None:
        self.leave()

    def _say(self, words: str) -> None:
        self.query_one("#line-up-message", ShownText).update(Content(sanitize(words, 400)))
