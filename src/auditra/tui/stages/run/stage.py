"""Stage 4, Run: what to do now, the reading as it grows, what comes next."""

from __future__ import annotations

from functools import partial
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content
from textual.widget import Widget
from textual.widgets import Input

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import SheetChosen
from auditra.core.judge.judgement import Judgement
from auditra.core.model.depth import Depth
from auditra.core.model.rig import Host
from auditra.core.plan.offers import sheets_offered
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.controllers.live_trial import LiveTrial, Phase
from auditra.tui.forms.reading import reading_form
from auditra.tui.forms.trial import own_trial_form
from auditra.tui.messages import ChangeWanted, ChoiceWanted, FormWanted, PromptWanted, SheetsOffered
from auditra.tui.prompt import Facts, Prompt
from auditra.tui.renderables.labels import heading
from auditra.tui.renderables.recorded_trace import TrialScale, recorded_traces, trial_scale
from auditra.tui.renderables.scale import render_scale
from auditra.tui.renderables.trace import render_trace
from auditra.tui.stages.run.attaching import facts_of_attachment, form_of_table, join_form
from auditra.tui.stages.run.sheet_text import (
    SheetItem,
    Standing,
    left_to_do,
    offer_line,
    offer_note,
    sheet_items,
    sheet_list,
)
from auditra.tui.stages.run.text import log_panel, now_panel, without_scale
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.widgets.draft import TEXT, Draft
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import BigNumber, ShownText
from auditra.workflows.audits.own_trials import on_host, skipping, wanted_again

_SHEET_SHARE, _SHEET_HEAD, _MIN_LOG = 0.6, 3, 12
"""The sheet has the room that it needs, as long as so many lines are left for the log."""
_MAX_SCALE_WIDTH, _MAX_TRACE_WIDTH, _MIN_TRACE_WIDTH = 96, 110, 20
_MAX_ANSWER = 500


class RunStage(Stage):
    """Trials are started, answered, stopped and marked here."""

    NAME = "Run"
    PANELS = ("now", "reading", "next")
    SHOWS_TRIAL = True
    SCOPED_CSS = False
    DEFAULT_CSS = """
    RunStage #now { width: 52; }
    RunStage #reading { width: 1fr; border-left: vkey $rule; overflow: hidden; }
    RunStage #next { width: 45; border-left: vkey $rule; }
    RunStage BigNumber { width: 1fr; text-style: bold; color: $foreground; height: 3; margin: 1 0 0 0; }
    RunStage #scale { height: 5; margin: 1 0; }
    RunStage #trace { height: 1fr; }
    RunStage #socket { margin: 1 0 0 0; border-top: hkey $rule; padding: 1 0 0 0; }
    RunStage #answer { display: none; height: 3; margin: 1 0 0 0; }
    RunStage.asks #answer { display: block; }
    .-middle RunStage #now { width: 46; }
    .-middle RunStage #next { display: none; }
    .-middle RunStage.front-next #next { display: block; width: 1fr; }
    .-middle RunStage.front-next #reading { display: none; }
    .-narrow RunStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow RunStage.front-now #now { display: block; width: 1fr; }
    .-narrow RunStage.front-reading #reading { display: block; border-left: none; }
    .-narrow RunStage.front-next #next { display: block; width: 1fr; border-left: none; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("enter", "start", "start trial"),
        Binding("enter", "confirm_moves", "done, continue"),
        Binding("x", "mark_absent", "did not appear"),
        Binding("a", "run_all", "run all remaining"),
        Binding("j", "choose_trial(1)", "choose trial"),
        Binding("k", "choose_trial(-1)", "choose trial"),
        Binding("y", "type_reading", "type a reading"),
        Binding("o", "own_trial", "own trial"),
        Binding("s", "skip", "skip"),
        Binding("d", "choose_sheet", "which sheet"),
        Binding("h", "other_host", "on another host", show=False),
        Binding("v", "attach", "add a file", show=False),
        Binding("i", "join", "trials from another host", show=False),
        Binding("escape", "stop", "stop"),
        NEXT_PANEL,
    ]

    def __init__(self) -> None:
        super().__init__()
        self._scale: TrialScale | None = None
        self._painted: tuple[object, ...] = ()
        self._doing = ""
        self._asked: tuple[Phase, bool] = (Phase.READY, False)
        self._texts = KeptTexts()
        self._draft: Draft | None = None
        """Of the answer that the trial asks for."""

    def compose(self) -> ComposeResult:
        with Panel(id="now"):
            yield ShownText(id="now-text")
            yield Input(id="answer", max_length=_MAX_ANSWER)
            yield ShownText(id="socket")
        with Panel(id="reading"):
            yield ShownText(id="reading-head")
            yield BigNumber("", id="digits")
            yield ShownText(id="scale")
            yield ShownText(id="trace")
        with Panel(id="next"):
            yield ShownText(id="next-text")

    @property
    def focus_target(self) -> Widget:
        """The answer takes the keys while the trial asks for one."""
        asks = self._state is not None and self._state.runner.live.asks_text
        return self.query_one("#answer") if asks else self.front

    # Keys

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        runner = self.state.runner
        live = runner.live
        match action:
            case "start" | "run_all":
                return runner.may_start
            case "choose_trial" | "own_trial" | "type_reading" | "join" | "choose_sheet":
                return not runner.is_measuring
            case "skip":
                return live.planned is not None and not runner.is_measuring
            case "other_host":
                others = self._other_hosts()
                return live.planned is not None and not runner.is_measuring and bool(others)
            case "confirm_moves":
                return live.phase is Phase.ASKING and not live.asks_text
            case "mark_absent":
                return live.planned is not None
            case "attach":
                return bool(self.state.judged.audit.trials) and not runner.is_measuring
            case "stop":
                return runner.is_measuring
        return True

    def action_start(self) -> None:
        self.state.runner.start()

    def action_confirm_moves(self) -> None:
        self.state.runner.confirm_moves()

    def action_mark_absent(self) -> None:
        self.state.runner.mark_absent()

    def action_run_all(self) -> None:
        self.state.runner.run_all()

    def action_stop(self) -> None:
        self.state.runner.stop()

    # The sheet

    @staticmethod
    def _items(state: AuditState) -> tuple[SheetItem, ...]:
        return sheet_items(state.judged.audit, state.judged.judgement)

    def action_choose_trial(self, step: int) -> None:
        """Any trial of the sheet: one that is done is repeated."""
        planned = [item.planned for item in self._items(self.state)]
        if planned:
            at = self.state.runner.live.planned
            index = planned.index(at) + step if at in planned else 0
            self.state.runner.prepare(planned[min(len(planned) - 1, max(0, index))])
            self.state.surface.repaint()

    def action_skip(self) -> None:
        """Skip the chosen trial, with a reason; one that is skipped is wanted again."""
        planned = self.state.runner.live.planned
        if planned is None:
            return
        item = next((each for each in self._items(self.state) if each.planned == planned), None)
        if item is not None and item.standing is Standing.SKIPPED:
            done = f"{planned.title} is on the sheet again. Press u to undo."
            self.post_message(ChangeWanted(lambda audit: wanted_again(planned, audit), "want a trial again", done))
            return
        facts = partial(_skipped, planned)
        self.post_message(PromptWanted(Prompt("reason to skip it", facts, action="skip a trial")))

    def action_own_trial(self) -> None:
        state = self.state
        like = state.runner.live.planned
        form = own_trial_form(state.judged.audit, like, state.port, state.recorder.saving)
        self.post_message(FormWanted(form))

    def action_type_reading(self) -> None:
        state = self.state
        form = reading_form(
            state.judged.audit, state.runner.live.planned, state.port, state.judged.bench, state.runner.clock.moment(),
            state.recorder.saving,
        )  # fmt: skip
        self.post_message(FormWanted(form))

    def action_choose_sheet(self) -> None:
        """The quick, the full or the forensic sheet: what each asks for is worked out first."""
        audit = self.state.judged.audit
        self.run_worker(partial(self._work_out, audit), thread=True, exclusive=True, group="sheets")

    def _work_out(self, audit: Audit) -> None:
        self.post_message(SheetsOffered(sheets_offered(audit)))

    @on(SheetsOffered)
    def _sheets_offered(self, message: SheetsOffered) -> None:
        message.stop()
        offers = {offer_line(each): each for each in message.offers}
        self.post_message(
            ChoiceWanted(
                "Which run sheet?", list(offers), lambda line: self._take_sheet(offers[line].depth),
                [offer_note(each) for each in message.offers], list(Depth).index(self.state.judged.audit.depth),
            )
        )  # fmt: skip

    def _take_sheet(self, depth: Depth) -> None:
        if depth is not self.state.judged.audit.depth:
            done = f"The {depth} sheet: {depth.words}. Press u to undo."
            self.post_message(ChangeWanted(lambda audit: (SheetChosen(depth),), "choose the sheet", done))

    def _other_hosts(self) -> list[Host]:
        planned, rig = self.state.runner.live.planned, self.state.judged.audit.rig.in_use
        return [host for host in rig.hosts if planned is not None and host.id != planned.setup.host]

    def action_other_host(self) -> None:
        """The same trial on a second host; which one is asked where there are more."""
        others = self._other_hosts()
        if len(others) == 1:
            self._plan_on(others[0].name)
        elif others:
            self.post_message(ChoiceWanted("The same trial on", [host.name for host in others], self._plan_on))

    def _plan_on(self, name: str) -> None:
        planned = self.state.runner.live.planned
        host = next((host for host in self._other_hosts() if host.name == name), None)
        if planned is not None and host is not None:
            done = f"{planned.title} on the {host.name} is on the sheet. Press u to undo."
            self.post_message(ChangeWanted(lambda audit: (on_host(planned, audit, host),), f"plan on {host.id}", done))

    def action_attach(self) -> None:
        """A file that belongs to a trial: the newest of the chosen port is offered."""
        trials, port = self.state.judged.audit.trials, self.state.port
        of_port = [record for record in trials if record.trial.port == port]
        newest = (of_port or trials)[-1].trial.id
        facts, form = partial(facts_of_attachment, self.state), partial(form_of_table, self.state)
        self.post_message(PromptWanted(Prompt("trial and file", facts), f"{newest} ", form))

    def action_join(self) -> None:
        """Trials that were run on another host, from the facts that were exported there."""
        self.post_message(FormWanted(join_form(self.state)))

    @on(Input.Changed, "#answer")
    def _answer_typed(self, event: Input.Changed) -> None:
        if self._draft is not None:
            self._draft.typed({TEXT: event.value})

    def on_unmount(self) -> None:
        if self._draft is not None:
            self._draft.write()

    @on(Input.Submitted, "#answer")
    def _answered(self, event: Input.Submitted) -> None:
        text = event.value
        if self._draft is not None:
            self._draft.drop()
            self._draft = None
        event.input.clear()
        self.screen.set_focus(self.front, scroll_visible=False)
        self.state.runner.give_text(text)

    # Showing

    def on_resize(self) -> None:
        self._painted = ()
        super().on_resize()

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.run(state.judged, state.runner.live.planned)

    def paint(self, state: AuditState) -> None:
        live, judged, palette = state.runner.live, state.judged, self.palette
        self._follow_phase(state)
        self._doing = live.doing
        self.set_text("now-text", now_panel(live, judged.audit, judged.judgement, palette))
        height, width = max(10, self.size.height - 2), self.panel("next").text_width
        items, work = self._items(state), left_to_do(judged.audit, judged.judgement)
        room = min(len(items) + _SHEET_HEAD, max(round(height * _SHEET_SHARE), height - _MIN_LOG))
        sheet = sheet_list(items, live.planned, work, palette, width, room, judged.audit.depth)
        log = log_panel(state.runner.log.lines, palette, width, height - sheet.plain.count("\n") - 3)
        self.set_text("next-text", Content("\n").join([sheet, Content(""), log]))
        self._paint_port(state)

    def _follow_phase(self, state: AuditState) -> None:
        """Bring to the front what matters now: the reading while measuring, else what the hands have to do."""
        live = state.runner.live
        asked, before = (live.phase, live.asks_text), self._asked
        if asked == before:
            return
        self._asked = asked
        self.set_class(live.asks_text, "asks")
        if live.asks_text and not before[1]:
            self._draft = Draft(state.services.drafts, f"{state.session.name} answer {live.doing}", self)
            self.query_one("#answer", Input).value = self._draft.kept().get(TEXT, "")
        self.query_one("#answer", Input).placeholder = f"such as {live.hint}" if live.hint else ""
        begins = before[0] is Phase.READY and live.phase is Phase.MEASURING
        if begins or live.phase is not Phase.MEASURING:
            self.turn_to("reading" if begins else "now")

    def _paint_port(self, state: AuditState) -> None:
        """The chosen port: all claims about it, and its last trace while nothing is measured."""
        live, palette, audit, judgement = state.runner.live, self.palette, state.judged.audit, state.judged.judgement
        port, width = audit.device.port(state.port or ""), self.query_one("#socket").content_size.width
        self.set_text("socket", self._texts.card(port, state.judged, palette, width))
        seen = (
            self._texts.once(("past", state.port), state.judged, palette, lambda: _past(state.port, audit, judgement))
            if live.phase is Phase.READY
            else None
        )
        seen = seen or live
        scale = trial_scale(seen.planned, audit, judgement, palette, seen.at) if seen.planned else None
        painted = (seen.planned, seen.value, scale)
        if painted != self._painted or live.phase is not Phase.READY:
            self._painted, self._scale = painted, scale
            self._paint_reading(seen)

    def show_port(self, state: AuditState) -> None:
        self._paint_port(state)

    def show_progress(self, state: AuditState) -> None:
        live, judged = state.runner.live, state.judged
        if live.phase is not Phase.READY and live.doing != self._doing:
            self._doing = live.doing
            self.set_text("now-text", now_panel(live, judged.audit, judged.judgement, self.palette))
        self._paint_reading(live)

    def _paint_reading(self, live: LiveTrial) -> None:
        """The reading alone: it is painted many times a second."""
        palette, digits = self.palette, self.query_one("#digits", BigNumber)
        if self._scale is None:
            self.set_text("reading-head", without_scale(live, palette))
            digits.show("")
            self.set_text("scale", "")
            self.set_text("trace", "")
            return
        scale, fmt = self._scale, self._scale.fmt
        doing = scale.words if live.asks_text else live.doing or scale.words
        self.set_text("reading-head", heading(doing, palette, fmt.symbol))
        digits.show("-" if live.value is None else fmt.number(live.value))
        width = max(_MIN_TRACE_WIDTH, self.panel("reading").content_size.width)
        self.set_text("scale", render_scale(live.value, scale.marks, fmt, min(width, _MAX_SCALE_WIDTH), palette))
        height, width = self.query_one("#trace").size.height, min(width, _MAX_TRACE_WIDTH)
        trace = render_trace(tuple(live.time_s), tuple(live.values), scale.limit, fmt, width, height, palette)
        self.set_text("trace", trace)


def _skipped(planned: PlannedTrial, audit: Audit, text: str) -> Facts:
    return skipping(planned, audit, text)


def _past(port: str | None, audit: Audit, judgement: Judgement) -> LiveTrial | None:
    """The newest trace of a port as if it was under way; None where it has none."""
    newest = next(iter(recorded_traces(port, audit, judgement)), None)
    if newest is None or newest.reading.trace is None:
        return None
    trace = newest.reading.trace
    return LiveTrial(
        planned=newest.planned, at=port, doing=newest.title, value=newest.figure,
        time_s=list(trace.time_s), values=list(trace.values),
    )  # fmt: skip
