"""Stage 2, Paper check: what contradicts the claims before anything is measured."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType

from auditra.core.journal.audit import Audit
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.unit_guard import Question
from auditra.core.paper_check.check import check_kit
from auditra.core.paper_check.remark import Remark, Weight
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.messages import PortChosen, PromptWanted
from auditra.tui.prompt import Facts, Prompt
from auditra.tui.stages.paper.text import remarks_in_words
from auditra.tui.stages.stage import Panel, Stage, stepped
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.claim_edits import remark_answered

_MAX_WIDTH = 130
_ON_A_REMARK = ("next_remark", "answer")


class PaperStage(Stage):
    """Remarks are read and answered here."""

    NAME = "Paper check"
    PANELS = ("paper",)
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("j", "next_remark(1)", "remark"),
        Binding("k", "next_remark(-1)", "remark"),
        Binding("n", "answer", "answer"),
    ]

    def __init__(self) -> None:
        super().__init__()
        self._chosen_key: str | None = None
        self._read: tuple[JudgedAudit, tuple[Remark, ...]] | None = None

    def compose(self) -> ComposeResult:
        with Panel(id="paper"):
            yield ShownText(id="remarks")

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.paper(self.remarks)

    def paint(self, state: AuditState) -> None:
        chosen, answers = self.chosen_remark, state.judged.audit.answers
        width = min(_MAX_WIDTH, self.front.text_width)
        text, line = remarks_in_words(self.remarks, answers, chosen.key if chosen else None, width, self.palette)
        self.set_text("remarks", text)
        self.front.keep_in_sight(line)

    @property
    def remarks(self) -> tuple[Remark, ...]:
        """The remarks of the audit as it stands, made once for each state of it."""
        judged = self.state.judged
        if self._read is None or self._read[0] is not judged:
            self._read = judged, remarks_of(judged)
        return self._read[1]

    @property
    def chosen_remark(self) -> Remark | None:
        chosen = (remark for remark in self.remarks if remark.key == self._chosen_key)
        return next(chosen, None) or next(iter(self.remarks), None)

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        return action not in _ON_A_REMARK or self.chosen_remark is not None

    def action_next_remark(self, step: int) -> None:
        """Choose the remark before or after, and the first port that it names."""
        if (chosen := self.chosen_remark) is None:
            return
        device = self.state.judged.audit.device
        chosen = stepped(self.remarks, chosen, step)
        self._chosen_key = chosen.key
        port = next((port for port in chosen.ports if device.port(port)), None)
        if port is not None and port != self.state.port:
            self.post_message(PortChosen(port))
        else:
            self.paint(self.state)

    def action_answer(self) -> None:
        if (chosen := self.chosen_remark) is None:
            return

        def facts(audit: Audit, text: str) -> Facts:
            return remark_answered(audit, chosen.key, text)

        before = self.state.judged.audit.answers.get(chosen.key, "")
        self.post_message(PromptWanted(Prompt("answer", facts), before))


def remarks_of(judged: JudgedAudit) -> tuple[Remark, ...]:
    """What the paper check remarks on an audit's claims; remarks that have an answer come last."""
    remarks = check_kit(judged.audit.devices, judged.audit.claims)
    asked = tuple(map(_as_remark, judged.judgement.questions))
    return tuple(sorted((*asked, *remarks), key=lambda remark: remark.key in judged.audit.answers))


def _as_remark(question: Question) -> Remark:
    """A value that the unit guard asks about is listed with the remarks: an answer confirms that it is intended."""
    sentence = f"trial {question.trial}, {question.quantity} at {question.at}: is this value intended?"
    return Remark(
        "question", Weight.DOUBTFUL, sentence, (question.words,), "Confirm it, or measure again.", "the unit guard",
        (question.trial, question.at, question.quantity), (question.at,),
    )  # fmt: skip
