"""Stage 6, Why: what was found about the chosen port, with its sums; its trials, and two of them side by side."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content

from auditra.core.journal.facts import TrialRuled
from auditra.core.journal.fold import TrialRecord
from auditra.core.judge.comparison import TrialComparison
from auditra.tui.audit_state import AuditState
from auditra.tui.messages import PromptWanted
from auditra.tui.prompt import Prompt
from auditra.tui.renderables.labels import heading
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.stages.why.text import comparison_lines, list_of_trials, trials_of
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import ShownText


class WhyStage(Stage):
    """Reasons are read here, and trials compared."""

    NAME = "Why"
    PANELS = ("why", "trials")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    WhyStage #why { width: 1fr; }
    WhyStage #trials { width: 64; border-left: vkey $rule; }
    WhyStage #compared { dock: top; max-height: 50%; padding: 0 0 1 0; background: $background; }
    .-middle WhyStage #trials { width: 46; }
    .-narrow WhyStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow WhyStage.front-why #why, .-narrow WhyStage.front-trials #trials {
        display: block; width: 1fr; border-left: none;
    }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("j", "next_trial(1)", "trial"),
        Binding("k", "next_trial(-1)", "trial"),
        Binding("m", "mark", "compare with"),
        Binding("o", "rule", "set aside, count"),
        NEXT_PANEL,
    ]

    def __init__(self) -> None:
        super().__init__()
        self._texts = KeptTexts()
        self._chosen: tuple[str | None, int] = (None, 0)
        """The port, and which of its trials is chosen."""
        self._marked: str | None = None
        """The trial that others are compared with."""

    def compose(self) -> ComposeResult:
        with Panel(id="why"):
            yield ShownText(id="why-text")
        with Panel(id="trials"):
            yield ShownText(id="compared")
            yield ShownText(id="trials-text")

    @property
    def trials(self) -> tuple[TrialRecord, ...]:
        judged, port = self.state.judged, self.state.port
        return self._texts.once(("trials", port), judged, self.palette, lambda: trials_of(port, judged.audit))

    @property
    def chosen_index(self) -> int:
        port, index = self._chosen
        return min(index, max(0, len(self.trials) - 1)) if port == self.state.port else 0

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        is_ready = super().check_action(action, parameters)
        if not is_ready or action not in ("next_trial", "mark", "rule"):
            return is_ready
        return len(self.trials) > (1 if action == "next_trial" else 0)

    def action_next_trial(self, step: int) -> None:
        self._chosen = (self.state.port, min(len(self.trials) - 1, max(0, self.chosen_index + step)))
        self._paint_trials(self.state)

    def action_mark(self) -> None:
        chosen = self.trials[self.chosen_index].trial.id
        self._marked = None if self._marked == chosen else chosen
        self._paint_trials(self.state)

    def action_rule(self) -> None:
        """Set the chosen trial aside with a reason, or count it again."""
        trial = self.trials[self.chosen_index].trial.id
        counts = any(each.trial == trial for each in self.state.judged.judgement.set_aside)
        label = f"why {trial} counts" if counts else f"why {trial} is set aside"
        action = f"count {trial}" if counts else f"set {trial} aside"
        self.post_message(
            PromptWanted(Prompt(label, lambda _, why: (TrialRuled(trial, counts, why.strip()),), action=action))
        )

    def paint(self, state: AuditState) -> None:
        judged, palette = state.judged, self.palette
        port = judged.audit.device.port(state.port or "")
        card = self._texts.card(port, judged, palette, self.panel("why").text_width)
        self.set_text("why-text", Content("\n").join([heading(self.NAME, palette), Content(""), card]))
        self._paint_trials(state)

    def _paint_trials(self, state: AuditState) -> None:
        records, palette, judged = self.trials, self.palette, state.judged
        text, line = list_of_trials(records, self.chosen_index, self._marked, state.port, judged.judgement, palette)
        self.set_text("compared", Content("\n").join(comparison_lines(self._compared(), palette)))
        self.set_text("trials-text", text)
        self.panel("trials").keep_in_sight(line, covered=self.query_one("#compared").size.height)

    def _compared(self) -> TrialComparison | None:
        """The marked trial against the chosen one; None for none, or the same."""
        records = self.trials
        chosen = records[self.chosen_index].trial.id if records else None
        if self._marked is None or chosen is None or chosen == self._marked:
            return None
        return self.state.session.compare(self._marked, chosen)
