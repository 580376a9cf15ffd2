"""Stage 6, Why: findings, open questions and doubts; the chosen one whole; trials, and two of them side by side."""

from __future__ import annotations

from typing import ClassVar

from textual import events
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content

from auditra.core.journal.audit import TrialRecord
from auditra.core.journal.facts import TrialRuled
from auditra.core.judge.comparison import TrialComparison
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.notes import doubt_form
from auditra.tui.messages import FormWanted, PortChosen, PromptWanted, TrialChosen
from auditra.tui.prompt import Prompt
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.stages.why.detail import detail_of
from auditra.tui.stages.why.doubting import end_prompt
from auditra.tui.stages.why.entries import Entry, entries_of, list_of_entries
from auditra.tui.stages.why.text import comparison_lines, list_of_trials, trials_of
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import ShownText


class WhyStage(Stage):
    """Reasons are read here, doubts noted, and trials compared."""

    NAME = "Why"
    PANELS = ("findings", "detail", "trials")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    WhyStage #findings { width: 48; }
    WhyStage #detail { width: 1fr; border-left: vkey $rule; }
    WhyStage #trials { width: 50; border-left: vkey $rule; }
    WhyStage #compared { dock: top; max-height: 50%; padding: 0 0 1 0; background: $background; }
    .-middle WhyStage #findings { width: 40; }
    .-middle WhyStage #trials { display: none; width: 1fr; }
    .-middle WhyStage.front-trials #trials { display: block; }
    .-middle WhyStage.front-trials #detail { display: none; }
    .-narrow WhyStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow WhyStage.front-findings #findings, .-narrow WhyStage.front-detail #detail,
    .-narrow WhyStage.front-trials #trials { display: block; width: 1fr; border-left: none; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("j", "next(1)", "choose"),
        Binding("k", "next(-1)", "choose"),
        Binding("t", "try_next", "set out next trial"),
        Binding("d", "doubt", "doubt"),
        Binding("e", "end_doubt", "close doubt"),
        Binding("m", "mark", "compare with"),
        Binding("o", "rule", "set aside, count"),
        NEXT_PANEL,
    ]

    def __init__(self) -> None:
        super().__init__()
        self._texts = KeptTexts()
        self._entry = ""
        """The key of the chosen entry."""
        self._entry_lines: tuple[int, ...] = ()
        self._chosen: tuple[str | None, int] = (None, 0)
        """The port, and which of its trials is chosen."""
        self._marked: str | None = None
        """The trial that others are compared with."""

    def compose(self) -> ComposeResult:
        with Panel(id="findings"):
            yield ShownText(id="findings-text")
        with Panel(id="detail"):
            yield ShownText(id="detail-text")
        with Panel(id="trials"):
            yield ShownText(id="compared")
            yield ShownText(id="trials-text")

    # What is chosen

    @property
    def entries(self) -> tuple[Entry, ...]:
        judged, port = self.state.judged, self.state.port
        return self._texts.once(("entries", port), judged, self.palette, lambda: entries_of(judged.judgement, port))

    @property
    def entry(self) -> Entry | None:
        """The chosen entry; the first one of the chosen port where it is gone, else the first of all."""
        entries = self.entries
        kept = next((entry for entry in entries if entry.key == self._entry), None)
        of_port = next((entry for entry in entries if entry.port == self.state.port), None)
        return kept or of_port or next(iter(entries), None)

    def choose_entry(self, index: int) -> None:
        """Make an entry the chosen one, and its port with it."""
        entry = self.entries[index]
        self._entry = entry.key
        if entry.port is not None and entry.port != self.state.port and self._has_port(entry.port):
            self.post_message(PortChosen(entry.port))
        else:
            self.paint(self.state)

    def _has_port(self, port: str) -> bool:
        return self.state.judged.audit.device.port(port) is not None

    def show_port(self, state: AuditState) -> None:
        """Another port was chosen: its first entry is looked at, unless the chosen one is its own."""
        entry = next((each for each in self.entries if each.key == self._entry), None)
        if entry is None or (entry.port is not None and entry.port != state.port):
            self._entry = ""
        self.show(state)

    @property
    def trials(self) -> tuple[TrialRecord, ...]:
        judged, port = self.state.judged, self.state.port
        return self._texts.once(("trials", port), judged, self.palette, lambda: trials_of(port, judged.audit))

    @property
    def chosen_index(self) -> int:
        port, index = self._chosen
        return min(index, max(0, len(self.trials) - 1)) if port == self.state.port else 0

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        match action:
            case "next":
                return len(self.trials if self.front.id == "trials" else self.entries) > 1
            case "mark" | "rule":
                return len(self.trials) > 0
            case "try_next":
                return self._next_trial is not None
            case "end_doubt":
                return self.entry is not None and self.entry.doubt is not None
            case _:
                return True

    def action_next(self, step: int) -> None:
        """The next trial where the trials are in front, else the next finding."""
        if self.front.id == "trials":
            self._chosen = (self.state.port, min(len(self.trials) - 1, max(0, self.chosen_index + step)))
            self._paint_trials(self.state)
            return
        entries, chosen = self.entries, self.entry
        index = entries.index(chosen) if chosen is not None else 0
        self.choose_entry(min(len(entries) - 1, max(0, index + step)))

    @property
    def _next_trial(self) -> PlannedTrial | None:
        entry = self.entry
        return next((each.trial for each in (entry.asks if entry else ()) if each.trial is not None), None)

    def action_try_next(self) -> None:
        """Set out the trial that splits what is left, in the stage where trials are run."""
        if (planned := self._next_trial) is not None:
            self.post_message(TrialChosen(planned))

    def action_doubt(self) -> None:
        state = self.state
        self.post_message(FormWanted(doubt_form(state.port, state.runner.clock.moment, state.recorder.saving)))

    def action_end_doubt(self) -> None:
        if (entry := self.entry) is not None and entry.doubt is not None:
            self.post_message(PromptWanted(end_prompt(entry.doubt)))

    def on_click(self, event: events.Click) -> None:
        """The entry under the pointer is chosen."""
        if event.widget is self.query_one("#findings-text") and self._entry_lines:
            before = [index for index, line in enumerate(self._entry_lines) if line <= event.y]
            if before:
                self.choose_entry(before[-1])

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

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.why(state)

    def paint(self, state: AuditState) -> None:
        self._paint_entries(state)
        self._paint_trials(state)

    def _paint_entries(self, state: AuditState) -> None:
        judged, palette, entries, entry = state.judged, self.palette, self.entries, self.entry
        chosen = entries.index(entry) if entry is not None else 0
        width, explained = self.panel("findings").text_width, judged.judgement.is_explained
        text, line, self._entry_lines = list_of_entries(entries, chosen, width, palette, explained=explained)
        self.set_text("findings-text", text)
        self.panel("findings").keep_in_sight(line)
        room = self.panel("detail").text_width
        key = ("detail", entry.key if entry is not None else "", room)
        self.set_text("detail-text", self._texts.once(
            key, judged, palette, lambda: detail_of(entry, judged.audit, judged.judgement, room, palette)
        ))  # fmt: skip

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
