"""A seller's text pasted in: claims proposed from it, each accepted, edited or dropped; nothing enters unseen."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual import on, work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Vertical, VerticalScroll
from textual.content import Content
from textual.message import Message
from textual.screen import ModalScreen
from textual.widgets import Input, TextArea
from textual.worker import get_current_worker

from auditra.core.advert.proposal import Proposal, ReadText
from auditra.core.errors import AuditraError
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.proposals import Fate, by_group, is_sure, proposals_in_words
from auditra.tui.screens.base import LeavingScreen
from auditra.tui.widgets.draft import TEXT, Draft
from auditra.tui.widgets.frame_lines import KeyLine, palette_of
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.services import Drafts

Take = Callable[[str, str], None]
"""Writes a claim with the seller's words down. Raises: AuditraError where it does not fit."""


class PasteScreen(LeavingScreen, ModalScreen[None]):
    """Text above, proposals below. Its keys wait for those before them: a text is whole before it is read."""

    DEFAULT_CSS = """
    PasteScreen { background: $background; }
    PasteScreen #pasted { height: 2fr; border: none; background: $panel; margin: 1 2; }
    PasteScreen #proposed { height: 3fr; padding: 0 2; scrollbar-size-vertical: 1; }
    PasteScreen #paste-head { height: 1; padding: 0 2; }
    PasteScreen #paste-message { height: auto; max-height: 3; padding: 0 2; color: $error; }
    PasteScreen #edited { display: none; border: none; height: 1; padding: 0 2; background: $panel; }
    PasteScreen.edits #edited { display: block; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("ctrl+r", "read", "read"),
        Binding("y", "take", "accept"),
        Binding("Y", "take_sure", "accept all sure", key_display="Y"),
        Binding("e", "edit", "edit"),
        Binding("d", "drop", "drop"),
        Binding("j", "choose(1)", "claim"),
        Binding("k", "choose(-1)", "claim"),
        Binding("down", "choose(1)", "claim", key_display="↑↓"),
        Binding("up", "choose(-1)", "claim", key_display="↑↓"),
        Binding("ctrl+t", "text", "back to the text"),
        Binding("escape", "cancel_edit", "cancel"),
        Binding("escape", "leave", "leave"),
    ]

    NEEDS = (Vertical,)

    class WasRead(Message):
        """The text was read; or `words` say why it was not."""

        def __init__(self, found: ReadText | None, words: str = "") -> None:
            super().__init__()
            self.found, self.words = found, words

    def __init__(self, take: Take, drafts: Drafts, name: str) -> None:
        super().__init__()
        self._is_reading = False
        self._take, self._draft = take, Draft(drafts, name, self)
        self._proposals: tuple[Proposal, ...] = ()
        self._left: tuple[str, ...] = ()
        self._fates: dict[str, Fate] = {}
        self._at = 0

    def compose(self) -> ComposeResult:
        with Vertical():
            yield ShownText(id="paste-head")
            yield TextArea(id="pasted")
            with VerticalScroll(id="proposed", can_focus=False):
                yield ShownText(id="proposed-text")
            yield ShownText(id="paste-message")
            yield Input(id="edited", max_length=400, select_on_focus=False)
            yield KeyLine()

    def on_mount(self) -> None:
        self.query_one(TextArea).text = self._draft.kept().get(TEXT, "")
        self.query_one(TextArea).focus()
        self.show()

    def on_unmount(self) -> None:
        self._draft.write()

    @on(TextArea.Changed)
    def _text_typed(self, event: TextArea.Changed) -> None:
        """The text is kept until something was accepted from it."""
        self._draft.typed({TEXT: event.text_area.text})

    def show(self, message: str = "") -> None:
        """Paint everything from what was read and decided."""
        palette = palette_of(self)
        head = "reading the text" if self._is_reading else "paste the seller's text here, then press Ctrl+R"
        self.query_one("#paste-head", ShownText).update(Content.styled(head, f"bold {palette.accent}"))
        scroll = self.query_one("#proposed", VerticalScroll)
        width = max(40, (scroll.content_size.width or 100) - 1)
        text, line = proposals_in_words(self._proposals, self._left, self._fates, self._at, width, palette)
        self.query_one("#proposed-text", ShownText).update(text)
        if not scroll.scroll_y <= line < scroll.scroll_y + scroll.size.height - 2:
            scroll.scroll_to(y=max(0, line - scroll.size.height // 2), animate=False)
        self.query_one("#paste-message", ShownText).update(Content(sanitize(message, 300)))

    def action_read(self) -> None:
        """Read what was pasted, off this thread; what was decided of the same claims stays decided."""
        self._is_reading, self._proposals, self._left = True, (), ()
        self.set_focus(None)
        self.refresh_bindings()
        self.show()
        self._read(self.query_one(TextArea).text)

    @work(thread=True, exclusive=True, group="read", exit_on_error=False)
    def _read(self, text: str) -> None:
        from auditra.core.advert import reader  # its patterns take a while to load

        worker = get_current_worker()
        try:
            found = self.WasRead(reader.read_text(text))
        except AuditraError as error:
            found = self.WasRead(None, str(error))
        if not worker.is_cancelled:  # by the same text, pasted once more
            self.post_message(found)

    def on_paste_screen_was_read(self, message: WasRead) -> None:
        self._is_reading = False
        if message.found is None:
            self.query_one(TextArea).focus()
            self.show(message.words)
            return
        self._proposals, self._left, self._at = by_group(message.found.proposals), message.found.left_over, 0
        self.refresh_bindings()
        self.call_after_refresh(self.repaint)

    def action_text(self) -> None:
        self.query_one(TextArea).focus()
        self.call_after_refresh(self.repaint)

    def action_choose(self, step: int) -> None:
        if self._proposals:
            self._at = min(len(self._proposals) - 1, max(0, self._at + step))
            self.show()

    def action_take(self) -> None:
        if self._proposals:
            chosen = self._proposals[self._at]
            self._write(chosen, chosen.sentence)

    def action_take_sure(self) -> None:
        """Accept what nothing was assumed for, each as an action of its own; what does not fit is left."""
        open_ones = [each for each in self._proposals if is_sure(each) and each.sentence not in self._fates]
        taken = sum(self._write(each, each.sentence, quietly=True) for each in open_ones)
        left = sum(each.sentence not in self._fates for each in self._proposals)
        self._at = next((n for n, each in enumerate(self._proposals) if each.sentence not in self._fates), self._at)
        self.show(f"{taken} accepted, {left} left for you to decide. Press u in the Claims stage to undo one.")

    def action_drop(self) -> None:
        if self._proposals and self._fates.get(self._proposals[self._at].sentence) is not Fate.TAKEN:
            self._fates[self._proposals[self._at].sentence] = Fate.DROPPED
            self.action_choose(1)

    def action_edit(self) -> None:
        if self._proposals:
            self.add_class("edits")
            line = self.query_one("#edited", Input)
            line.value = self._proposals[self._at].sentence
            line.cursor_position = len(line.value)
            line.focus()

    @on(Input.Submitted, "#edited")
    def _edited(self, event: Input.Submitted) -> None:
        if self._write(self._proposals[self._at], event.value.strip()):
            self._close_line()

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        in_text, edits = isinstance(self.focused, TextArea), self.has_class("edits")
        if action in ("take", "take_sure", "edit", "drop", "choose"):
            return bool(self._proposals) and not in_text and not edits
        if action in ("read", "text", "leave"):
            return not edits and not (action == "text" and in_text)
        return action != "cancel_edit" or edits

    def action_cancel_edit(self) -> None:
        self._close_line()

    def action_leave(self) -> None:
        if Fate.TAKEN in self._fates.values():
            self._draft.drop()
        self.leave()

    def _close_line(self) -> None:
        self.remove_class("edits")
        self.set_focus(None)
        self.call_after_refresh(self.repaint)

    def _write(self, proposal: Proposal, sentence: str, *, quietly: bool = False) -> bool:
        if self._fates.get(proposal.sentence) is Fate.TAKEN:
            self.show("Already accepted. Press u in the Claims stage to undo.")
            return False
        try:
            self._take(sentence, " ".join(proposal.quoted.split()))
        except AuditraError as error:
            if not quietly:
                self.show(str(error))
            return False
        self._fates[proposal.sentence] = Fate.TAKEN
        if quietly:
            return True
        self._at = min(len(self._proposals) - 1, self._at + 1)
        self.show()
        return True

    def action_no_action(self) -> None:
        """For keys that stand for several."""
