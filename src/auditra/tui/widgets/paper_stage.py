"""The Paper check stage: what the claims' own sums say."""

from __future__ import annotations

from textual.app import ComposeResult
from textual.containers import VerticalScroll

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.unit_guard import Question
from auditra.core.paper_check.check import check_kit
from auditra.core.paper_check.remark import Remark, Weight
from auditra.tui.renderables.remarks import remarks_in_words
from auditra.tui.widgets.lines import palette_of
from auditra.tui.widgets.shown_text import ShownText

_SCROLLBAR = 1
_WIDEST = 130


def remarks_of(standing: JudgedAudit) -> tuple[Remark, ...]:
    """What the paper check says of an audit's claims, those that were answered last."""
    remarks = check_kit(standing.audit.devices, standing.audit.claims)
    asked = tuple(map(_as_remark, standing.judgement.questions))
    return tuple(sorted((*asked, *remarks), key=lambda remark: remark.key in standing.audit.answers))


def _as_remark(question: Question) -> Remark:
    """A value that the unit guard asks about stands with the remarks: an answer says that it is meant so."""
    sentence = f"trial {question.trial}, {question.quantity} at {question.at}: is this value intended?"
    return Remark(
        "question", Weight.DOUBTFUL, sentence, (question.words,), "Confirm it, or measure again.", "the unit guard",
        (question.trial, question.at, question.quantity), (question.at,),
    )  # fmt: skip


class PaperStage(VerticalScroll):
    """Shows the remarks; the screen decides which is chosen."""

    DEFAULT_CSS = "PaperStage { height: 1fr; padding: 1 2 0 2; scrollbar-size-vertical: 1; }"

    def __init__(self) -> None:
        super().__init__(can_focus=False)
        self._shown: tuple[JudgedAudit, str | None] | None = None

    def compose(self) -> ComposeResult:
        yield ShownText(id="remarks")

    def on_resize(self) -> None:
        """Widths are known only once there is a place for them."""
        if self._shown is not None:
            self.show(*self._shown)

    def show(self, standing: JudgedAudit, chosen: str | None) -> None:
        """Everything anew, after something was changed or chosen."""
        self._shown = (standing, chosen)
        if not self.size.width:
            return  # it has no place yet; on_resize paints it once it has
        width = min(_WIDEST, (self.content_size.width or 80) - _SCROLLBAR)
        text, line = remarks_in_words(remarks_of(standing), standing.audit.answers, chosen, width, palette_of(self))
        self.query_one("#remarks", ShownText).update(text)
        if not self.scroll_y <= line < self.scroll_y + self.size.height - 4:
            self.scroll_to(y=max(0, line - self.size.height // 3), animate=False)
