"""Stage 8, Publish: the report as the reader will see it, and the key that writes it."""

from __future__ import annotations

from typing import ClassVar

from textual import work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content

from auditra.core.errors import AuditraError
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.device import disclosure_form, lacks_disclosure
from auditra.tui.messages import FormWanted
from auditra.tui.renderables.labels import heading
from auditra.tui.stages.publish.text import report_preview
from auditra.tui.stages.stage import Panel, Stage
from auditra.tui.widgets.shown_text import ShownText

_HINT = "What the reader will see. Press p to write the faces drawing (SVG, PDF) and the report (PDF)."


class PublishStage(Stage):
    """The report is previewed and written here."""

    NAME = "Publish"
    PANELS = ("publish",)
    BINDINGS: ClassVar[list[BindingType]] = [Binding("p", "publish", "publish")]

    def __init__(self) -> None:
        super().__init__()
        self._message = ""

    def compose(self) -> ComposeResult:
        with Panel(id="publish"):
            yield ShownText(id="report")

    def paint(self, state: AuditState) -> None:
        palette = self.palette
        lines = [heading(self.NAME, palette), Content(""), Content.styled(_HINT, palette.ink)]
        if self._message:
            lines += [Content(""), *(Content.styled(line, palette.holds) for line in self._message.splitlines())]
        lines += [Content(""), report_preview(state.judged.judgement, palette)]
        self.set_text("report", Content("\n").join(lines))

    def action_publish(self) -> None:
        """Write the report; what a reader must be told is asked first."""
        audit = self.state.judged.audit
        if lacks_disclosure(audit.device):
            self._message = "Press p again once the disclosure is noted."
            self.post_message(FormWanted(disclosure_form(audit, self.state.recorder.saving)))
            return
        self._tell("Writing ...")
        self._publish(self.state)

    @work(thread=True, exclusive=True, group="publish", exit_on_error=False)
    def _publish(self, state: AuditState) -> None:
        services = state.services
        try:
            files = services.publish(state.session.checked(), services.publish_folder)
            words = "\n".join(["Written:", *map(str, files)])
        except AuditraError as error:
            words = str(error)
        except Exception as error:
            services.log("fault in publishing", error)
            words = f"Unexpected fault: {type(error).__name__}; the log has the details."
        self.app.call_from_thread(self._tell, words)

    def _tell(self, message: str) -> None:
        self._message = message
        self.show(self.state)
