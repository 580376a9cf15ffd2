"""A screen on which trials are run: they go on in a thread of their own, and tell how they get on by messages."""

from __future__ import annotations

from datetime import datetime

from textual import on, work
from textual.widgets import Input

from auditra.core.decide.reading_text import reading_in_words
from auditra.core.errors import AuditraError, TrialStopped
from auditra.core.host.difference import ChangeKind
from auditra.core.journal.facts import EventNoted, ReadingTaken, TrialEnded
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.sanitize import sanitize
from auditra.core.wiring.moves import in_words, moves_between
from auditra.tui.hands import Hands
from auditra.tui.held_bench import HeldBench
from auditra.tui.messages import (
    FactTaken,
    MovesAsked,
    MovesSeen,
    ProgressMade,
    TextAsked,
    TrialOver,
    TrialStarted,
)
from auditra.tui.renderables.run import Live, Phase, past_log
from auditra.tui.screens.room import RoomyScreen
from auditra.tui.widgets.faces import Track
from auditra.tui.widgets.run_stage import RunStage
from auditra.workflows.desk import Desk
from auditra.workflows.ports import Clock
from auditra.workflows.witness import UNLIKE_THE_SHEET
from auditra.workflows.workshop import Workshop

RUN = 4
_WORTH_A_LINE = (UNLIKE_THE_SHEET, ChangeKind.SLOWER)
"""Of what the host saw beside the socket that is tried; the rest is in the journal."""


class TrialsScreen(RoomyScreen):
    """Runs one trial after the other on the bench of an audit."""

    def __init__(self, workshop: Workshop, desk: Desk) -> None:
        super().__init__()
        self._workshop, self._desk = workshop, desk
        self._hands = Hands(self.post_message)
        self._live = Live()
        self._log = past_log(desk.standing.audit, desk.standing.judgement)
        self._port: str | None = next((port.id for port in desk.standing.audit.device.ports()), None)
        self._held_bench = HeldBench(workshop.open_bench, self._hands)
        self._goes_on = False
        self._absent: PlannedTrial | None = None

    @property
    def standing(self) -> JudgedAudit:
        return self._desk.standing

    @property
    def is_measuring(self) -> bool:
        return self._live.phase is not Phase.READY

    def on_unmount(self) -> None:
        self._hands.stop()
        self._held_bench.let_go()

    def stop_trial(self) -> None:
        """Whatever runs ends at its next breath."""
        self._hands.stop()

    def _prepare_next(self, *, keeps_port: bool = False) -> None:
        """Set out the moves of the trial that comes next, and choose its port."""
        audit, to_do = self.standing.audit, self.standing.judgement.to_do
        message, failed = self._live.message, self._live.failed
        planned = to_do[0] if to_do else None
        moves = moves_between(audit.last_setup, planned.setup, planned.tested) if planned else ()
        self._live = Live(planned=planned, moves=moves, message=message, failed=failed)
        if planned is not None and planned.port is not None and not keeps_port:
            self._port = planned.port

    def _say(self, message: str, *, failed: bool = False) -> None:
        self._live.message, self._live.failed = sanitize(message, 400), failed
        self.show()

    def _write_log(self, at: datetime, words: str) -> None:
        self._log.append((at, sanitize(words, 80)))
        del self._log[:-200]

    # What the reviewer does

    def action_start(self) -> None:
        if self._live.phase is Phase.ASKING and not self._live.asks_text:
            self._live.phase = Phase.MEASURING
            self._hands.answer()
            self.show()
        elif self._may_begin and self._live.planned is not None:
            self._begin(self._live.planned)

    def action_run_all(self) -> None:
        if self._may_begin and self._live.planned is not None:
            self._goes_on = True
            self._hands.by_itself = self.standing.bench == SIMULATED_BENCH
            self._hands.asks_first = not self._hands.by_itself
            self._begin(self._live.planned)

    @property
    def _may_begin(self) -> bool:
        """Trials are begun where their moves are in sight: on the Run stage."""
        return not self.is_measuring and self.query_one(Track).stage == RUN

    def action_stop(self) -> None:
        if self.is_measuring:
            self._goes_on = False
            self._hands.stop()

    def action_mark_absent(self) -> None:
        """The gear did not appear: said before the trial is started, or while it waits in vain."""
        planned = self._live.planned
        if planned is None or self.query_one(Track).stage != RUN:
            return
        if self.is_measuring and self._has_appeared:
            self._say("It has already appeared. Press Esc to stop the trial; readings so far are kept.", failed=True)
        elif self.is_measuring:
            self._absent = planned
            self.action_stop()
        elif self._change(lambda: self._mark_absent(planned)):
            self._write_log(self._clock.moment(), f"{planned.title}: did not appear")
            self._prepare_next()
            self._say(f"{planned.title}: did not appear (observed). Press u to undo.")
        else:
            self._prepare_next()
            self.show()

    def _mark_absent(self, planned: PlannedTrial) -> None:
        """Not while another window or command runs trials of this audit. Raises: LibraryBusy, InputError."""
        with self._workshop.hold(self._desk.name):
            self._desk.mark_absent(planned, self._clock)

    @property
    def _has_appeared(self) -> bool:
        """What is tried came up, or was measured already: then it is there."""
        return any(reading.count is None or reading.count.seen for reading in self._live.readings)

    @property
    def _clock(self) -> Clock:
        """The bench's time once there is a bench, so that a demo's journal runs in one time."""
        return self._hands.clock or self._workshop.clock

    @on(Input.Submitted, "#answer")
    def _take_answer(self, event: Input.Submitted) -> None:
        text = event.value
        event.input.clear()
        self.set_focus(None)
        self._live.phase, self._live.asks_text = Phase.MEASURING, False
        self._hands.answer(text)
        self.show()

    def _change(self, change: object) -> bool:
        """Do something to the journal; a refusal is told, and nothing is changed."""
        try:
            change()  # type: ignore[operator]
        except AuditraError as error:
            self._say(str(error), failed=True)
            return False
        return True

    # What trials do, on their own thread

    def _begin(self, planned: PlannedTrial) -> None:
        self._live.phase, self._live.doing, self._live.message = Phase.MEASURING, "", ""
        self._live.clear_trace()
        self._port = planned.port or self._port
        self._hands.make_ready()
        self.query_one(RunStage).show_panel("reading")
        self.show()
        self._run(planned)

    @work(thread=True, exclusive=True, group="trial", exit_on_error=False)
    def _run(self, planned: PlannedTrial) -> None:
        outcome, error_words = None, ""
        try:
            with self._workshop.hold(self._desk.name), self._held_bench.in_use(self.standing.audit) as bench:
                self._hands.clock = bench.clock
                outcome = self._desk.run(planned, bench, self._hands)
        except TrialStopped:
            outcome = Outcome.STOPPED
        except AuditraError as error:
            error_words = str(error)
        except Exception as error:
            self._workshop.log("fault in a trial", error)
            error_words = (
                f"Unexpected fault: {type(error).__name__}. Readings so far are kept; the log has the details."
            )
        self.post_message(TrialOver(outcome, error_words))

    @on(TrialStarted)
    def _trial_started(self, message: TrialStarted) -> None:
        self._live.planned, self._live.moves = message.planned, message.moves
        self._live.readings.clear()
        if self._hands.clock is not None:
            at = self._hands.clock.moment()
            for move in message.moves:
                self._write_log(at, in_words(move, self.standing.audit.device, self.standing.audit.rig))
        self.show()

    @on(ProgressMade)
    def _progress_made(self, message: ProgressMade) -> None:
        live = self._live
        live.doing, turned = message.progress.doing, False
        for sample in message.samples:
            if sample.restarts_trace:
                live.clear_trace()
            if sample.at is not None and sample.at != live.at:
                live.at, turned = sample.at, True
            if sample.value is not None:
                live.value = sample.value
                live.time_s.append(sample.time_s)
                live.values.append(sample.value)
        if turned:
            self.show()
        elif self.query_one(Track).stage == RUN:
            self.query_one(RunStage).show_progress(live)

    @on(FactTaken)
    def _fact_taken(self, message: FactTaken) -> None:
        match message.fact:
            case ReadingTaken(reading):
                self._live.readings.append(reading)
                self._write_log(message.at, f"{reading.at}: {reading.quantity} {reading_in_words(reading)}")
            case EventNoted(what, words, port):
                if isinstance(port, str) or what in _WORTH_A_LINE:
                    self._write_log(message.at, words)
                if what == UNLIKE_THE_SHEET:
                    self._live.message, self._live.failed = sanitize(f"Look again: {words}", 400), True
            case TrialEnded(trial, outcome, _):
                self._write_log(message.at, f"{trial} {outcome}")
        self.show()

    @on(MovesAsked)
    def _moves_asked(self, message: MovesAsked) -> None:
        self._live.phase, self._live.moves = Phase.ASKING, message.moves
        self._live.doing = "Enter: done, continue"
        self.query_one(RunStage).show_panel("now")
        self.show()

    @on(MovesSeen)
    def _moves_seen(self) -> None:
        """Nobody had to say so: the host saw it."""
        self._live.phase = Phase.MEASURING
        self._write_log(self._clock.moment(), "host detected the connection")
        self.show()

    @on(TextAsked)
    def _text_asked(self, message: TextAsked) -> None:
        self._live.phase, self._live.asks_text = Phase.ASKING, True
        self._live.doing = sanitize(message.question, 300)
        self.query_one(RunStage).show_panel("now")
        self.show()
        answer = self.query_one("#answer", Input)
        answer.placeholder = f"such as {sanitize(message.hint, 60)}"
        answer.focus()

    @on(TrialOver)
    def _trial_over(self, message: TrialOver) -> None:
        done = self._live
        title = done.planned.title if done.planned else "the trial"
        self._live.phase = Phase.READY
        words = message.error or f"{title}: {message.outcome}."
        self._prepare_next()
        if done.planned is not None and done.planned.port is not None:
            self._port = done.planned.port
        absent, self._absent = self._absent, None
        if absent is not None and any(each.count is None or each.count.seen for each in done.readings):
            words = f"{title}: it appeared while it was being stopped. Readings so far are kept."
        elif absent is not None:
            self._live.planned = absent
            self.action_mark_absent()
            return
        goes_on = self._goes_on and not message.error and self._live.planned is not None
        self._say(words, failed=bool(message.error))
        if goes_on and self._live.planned is not None:
            self._begin(self._live.planned)
        else:
            self._goes_on = self._hands.by_itself = self._hands.asks_first = False
            self.query_one(RunStage).show_panel("now")
