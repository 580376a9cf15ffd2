"""Stage 8, Publish: the report page by page, what is missing before it can go out, and the key that sends it."""

from __future__ import annotations

from pathlib import Path
from typing import ClassVar

from textual import on, work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.message import Message

from auditra.core.errors import AuditraError
from auditra.core.journal.audit import Audit
from auditra.core.report.document import Document
from auditra.core.report.missing import missing_from
from auditra.core.sanitize import sanitize
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.controllers.fault_words import fault_words
from auditra.tui.forms.device import disclosure_form, lacks_disclosure
from auditra.tui.messages import FormWanted, PromptWanted, Said
from auditra.tui.prompt import Facts, Prompt
from auditra.tui.renderables.labels import heading
from auditra.tui.renderables.report_page import render_chapter, render_contents
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.publishing import version_facts

_WAITING = "The report is being put together."


class ReportMade(Message):
    """The report as the journal stood at a link; or why there is none."""

    def __init__(self, head: str, document: Document | None, error: str = "") -> None:
        super().__init__()
        self.head, self.document, self.error = head, document, error


class PublishStage(Stage):
    """The report is read here as its reader will read it, and written."""

    NAME = "Publish"
    PANELS = ("page", "contents")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    PublishStage #contents { width: 54; }
    PublishStage #page { width: 1fr; border-left: vkey $rule; }
    .-middle PublishStage #contents { width: 40; }
    .-narrow PublishStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow PublishStage.front-page #page, .-narrow PublishStage.front-contents #contents {
        display: block; width: 1fr; border-left: none;
    }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("p", "publish", "publish"),
        Binding("g", "merge", "merge a bundle"),
        Binding("o", "sign_off", "sign off, open again"),
        Binding("j", "turn(1)", "page", key_display="j k"),
        Binding("k", "turn(-1)", "page", key_display="j k", show=False),
        NEXT_PANEL,
    ]

    def __init__(self) -> None:
        super().__init__()
        self._message = ""
        self._at = 0
        self._document: Document | None = None
        self._made_of = ""
        """The link that the journal ended in when the report was made; empty before."""
        self._asked_for = ""

    def compose(self) -> ComposeResult:
        with Panel(id="contents"):
            yield ShownText(id="contents-text")
        with Panel(id="page"):
            yield ShownText(id="page-text")

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.publish(state)

    def paint(self, state: AuditState) -> None:
        palette, head = self.palette, state.session.head_link
        if head not in (self._made_of, self._asked_for):
            self._asked_for = head
            self._make(state, head)
        told = [Content.styled(line, palette.holds) for line in (*_signed(state), *self._message.splitlines())]
        if self._document is None:
            waiting = [heading("report", palette), Content(""), Content.styled(_WAITING, palette.quiet), *told]
            self.set_text("contents-text", Content("\n").join(waiting))
            return
        contents = render_contents(self._document, self._at, missing_from(state.judged), palette)
        self.set_text("contents-text", Content("\n").join([*told, *([Content("")] if told else []), contents]))
        chapters = self._document.chapters
        self._at = min(self._at, len(chapters) - 1)
        width = max(30, self.panel("page").text_width)
        self.set_text("page-text", render_chapter(chapters[self._at], width, palette))

    def action_turn(self, by: int) -> None:
        """Turn to the next chapter, or back."""
        if self._document is not None:
            self._at = max(0, min(len(self._document.chapters) - 1, self._at + by))
            self.panel("page").scroll_to(y=0, animate=False)
            self.show(self.state)

    @work(thread=True, exclusive=True, group="report", exit_on_error=False)
    def _make(self, state: AuditState, head: str) -> None:
        try:
            self.post_message(ReportMade(head, state.services.report(state.session)))
        except Exception as error:
            words = fault_words(error, "fault in making the report", state.services.log)
            self.post_message(ReportMade(head, None, words))

    @on(ReportMade)
    def _report_made(self, message: ReportMade) -> None:
        message.stop()
        self._made_of = message.head
        self._document = message.document or self._document
        self._tell(message.error or self._message)

    def action_publish(self) -> None:
        """Write the report; what a reader must be told, and why a version follows another, is asked first."""
        audit = self.state.judged.audit
        if lacks_disclosure(audit.device):
            self._message = "Press p again once the disclosure is noted."
            self.post_message(FormWanted(disclosure_form(audit, self.state.recorder.saving)))
        elif audit.published and audit.changed_since_published:

            def publish(newest: Audit, why: str) -> Facts:
                facts = version_facts(newest, why)
                self.call_after_refresh(self._send, why)
                return facts

            asked = "what this version corrects, or what is new"
            self.post_message(PromptWanted(Prompt(asked, publish, action="publish")))
        else:
            self._send("")

    def action_sign_off(self) -> None:
        """Close the audit to others, or open it again."""
        try:
            self.state.recorder.record(self.state.session.facts_of_signing, "sign off")
        except AuditraError as error:
            self.post_message(Said(str(error)))
            return
        self.post_message(Said(*(_signed(self.state) or ("The audit is open to others again.",))))
        self.show(self.state)

    def action_merge(self) -> None:
        """Another reviewer's audit of the same device, beside this one."""
        state = self.state

        def facts(newest: Audit, path: str) -> Facts:
            return state.services.facts_of_bundle(state.session, newest, Path(path.strip()).expanduser())

        self.post_message(PromptWanted(Prompt("path of another reviewer's bundle", facts, action="merge")))

    def _send(self, why: str) -> None:
        self._tell("Writing ...")
        self._publish(self.state, why)

    @work(thread=True, exclusive=True, group="publish", exit_on_error=False)
    def _publish(self, state: AuditState, why: str) -> None:
        services = state.services
        try:
            files = services.publish(state.session, services.publish_folder, why)
            names = [path.name for path in files if path.parent == files[0].parent]
            words = "\n".join([f"Written into {files[0].parent}:", *names])
        except Exception as error:
            words = fault_words(error, "fault in publishing", services.log)
        self.app.call_from_thread(self._tell, words)

    def _tell(self, message: str) -> None:
        self._message = message
        self.show(self.state)


def _signed(state: AuditState) -> tuple[str, ...]:
    """Who has signed the audit off."""
    signed = state.judged.audit.signed_off
    if signed is None:
        return ()
    by = f" by {sanitize(signed.by, 40)}" if signed.by else ""
    return (f"Signed off{by}: closed to others.",)
