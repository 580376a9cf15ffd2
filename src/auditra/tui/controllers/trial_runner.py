"""Runs trials one after the other, on a thread of their own; what they report comes back as messages."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from auditra.core.decide.reading_text import reading_in_words
from auditra.core.errors import AuditraError
from auditra.core.host.difference import UNLIKE_THE_SHEET, ChangeKind
from auditra.core.journal.facts import EventNoted, ReadingTaken, TrialEnded
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.sanitize import sanitize
from auditra.core.wiring.moves import in_words
from auditra.tui.controllers.live_trial import LiveTrial, Phase
from auditra.tui.controllers.trial_log import TrialLog
from auditra.tui.controllers.tui_person import TuiPerson
from auditra.tui.messages import (
    FactTaken,
    MovesAsked,
    MovesSeen,
    ProgressMade,
    TextAsked,
    TrialMessage,
    TrialOver,
    TrialStarted,
)
from auditra.workflows.trials.doors import Clock

if TYPE_CHECKING:
    from auditra.tui.audit_state import AuditState

_LOGGED_EVENTS = (UNLIKE_THE_SHEET, ChangeKind.SLOWER)
"""What the host saw beside the port under trial and is worth a line of the log; the rest is in the journal."""


class TrialRunner:
    """Owns the trial under way. Its methods are for the interface's thread."""

    def __init__(self, state: AuditState, person: TuiPerson) -> None:
        self._state, self._person = state, person
        self.live = LiveTrial()
        self.log = TrialLog(state.judged)
        self._runs_all = False
        self._absent: PlannedTrial | None = None
        self._stood_at: tuple[datetime, float] | None = None
        """The last time that the bench gave, and this machine's clock when it was first given."""
        self._chosen: PlannedTrial | None = None
        """The trial that the reviewer chose to be the next one."""

    @property
    def is_measuring(self) -> bool:
        return self.live.phase is not Phase.READY

    @property
    def may_start(self) -> bool:
        return not self.is_measuring and self.live.planned is not None

    @property
    def clock(self) -> Clock:
        """The bench's time once there is a bench, so that a demo's journal runs in one time."""
        return self._person.clock or self._state.services.clock

    def event_moment(self) -> datetime:
        """When something happens now. The time of a simulated bench stands still between trials; a hand does not."""
        moment, now = self.clock.moment(), time.monotonic()
        if self._stood_at is None or self._stood_at[0] != moment:
            self._stood_at = moment, now
        return moment + timedelta(seconds=now - self._stood_at[1])

    # What the reviewer does

    def prepare_next(self, *, keeps_port: bool = False) -> None:
        """Set out the moves of the trial that comes next, and choose its port."""
        self._chosen = None
        planned = next(iter(self._state.judged.judgement.to_do), None)
        self._set_out(planned)
        if planned is not None and not keeps_port:
            self._state.choose_port(planned.port)

    def renew(self) -> None:
        """Something was recorded: set out the chosen trial again, or the one that comes next; none while one runs."""
        if self.is_measuring:
            return
        if self._chosen is not None:
            self._set_out(self._chosen)
        else:
            self.prepare_next(keeps_port=True)

    def prepare(self, planned: PlannedTrial) -> None:
        """Set out the moves of a trial that the reviewer chose."""
        self._chosen = planned
        self._set_out(planned)
        self._state.choose_port(planned.port)

    def _set_out(self, planned: PlannedTrial | None) -> None:
        judged = self._state.judged
        moves = planned.moves_in(judged.audit) if planned else ()
        self.live = LiveTrial(planned=planned, moves=moves, message=self.live.message, failed=self.live.failed)

    def start(self) -> None:
        if self.may_start and self.live.planned is not None:
            self.begin(self.live.planned)

    def begin(self, planned: PlannedTrial) -> None:
        """Start a trial of the run sheet on a thread of its own."""
        self.live.phase, self.live.doing, self.live.message = Phase.MEASURING, "", ""
        self.live.clear_trace()
        self._state.choose_port(planned.port)
        self._person.make_ready()
        self._state.surface.repaint()
        self._state.surface.run_in_background(lambda: self._run(planned))

    def run_all(self) -> None:
        if self.may_start and self.live.planned is not None:
            self._runs_all = True
            self._person.by_itself = self._state.judged.bench == SIMULATED_BENCH
            self._person.asks_first = not self._person.by_itself
            self.begin(self.live.planned)

    def confirm_moves(self) -> None:
        """The moves that the trial waits for are done."""
        self._resume("")

    def give_text(self, text: str) -> None:
        """What the trial asked for has been typed."""
        self._resume(text)

    def stop(self) -> None:
        """The trial stops at its next progress report; nothing else is started."""
        self._runs_all = False
        self._person.stop()

    def mark_absent(self) -> None:
        """The gear did not appear: seen before the trial is started, or while it waits without success."""
        planned = self.live.planned
        if planned is None:
            return
        if not self.is_measuring:
            self._record_absence(planned)
        elif self.live.has_appeared:
            self.say("It has already appeared. Press Esc to stop the trial; readings so far are kept.", failed=True)
        else:
            self._absent = planned
            self.stop()

    def say(self, message: str, *, failed: bool = False) -> None:
        """Put a message beside the trial."""
        self.live.message, self.live.failed = sanitize(message, 400), failed
        self._state.surface.repaint()

    def _resume(self, text: str) -> None:
        self.live.phase, self.live.asks_text = Phase.MEASURING, False
        self._person.answer(text)
        self._state.surface.repaint()

    def _record_absence(self, planned: PlannedTrial) -> None:
        """Not while another window or command runs trials of this audit."""
        state = self._state
        try:
            with state.services.hold(state.session.name):
                state.session.mark_absent(planned, self.clock, again=planned == self._chosen)
        except AuditraError as error:
            words, failed = str(error), True
        else:
            self.log.add(self.clock.moment(), f"{planned.title}: did not appear")
            words, failed = f"{planned.title}: did not appear (observed). Press u to undo.", False
        self.prepare_next()
        self.say(words, failed=failed)

    # The trial, on its own thread

    def _run(self, planned: PlannedTrial) -> None:
        state = self._state
        outcome, error = state.lease.attempt(
            lambda bench: state.session.run(planned, bench, self._person),
            state.judged.audit,
            if_stopped=Outcome.STOPPED,
        )
        state.surface.post_message(TrialOver(outcome, error))

    # What trials report

    def take(self, message: TrialMessage) -> None:
        """Take up what a trial reports, and show it."""
        takes: dict[type[TrialMessage], Callable[..., None]] = {
            TrialStarted: self._started,
            ProgressMade: self._progress_made,
            FactTaken: self._fact_taken,
            MovesAsked: self._moves_asked,
            MovesSeen: self._moves_seen,
            TextAsked: self._text_asked,
            TrialOver: self._over,
        }
        takes[type(message)](message)

    def _started(self, message: TrialStarted) -> None:
        self.live.planned, self.live.moves = message.planned, message.moves
        self.live.readings.clear()
        audit = self._state.judged.audit
        for move in message.moves:
            self.log.add(self.clock.moment(), in_words(move, audit.device_of(move.device), audit.rig))
        self._state.surface.repaint()

    def _progress_made(self, message: ProgressMade) -> None:
        live, at_before = self.live, self.live.at
        live.doing = message.progress.doing
        for sample in message.samples:
            if sample.restarts_trace:
                live.clear_trace()
            live.at = sample.at or live.at
            if sample.value is not None:
                live.value = sample.value
                live.time_s.append(sample.time_s)
                live.values.append(sample.value)
        if live.at != at_before:
            self._state.surface.repaint()
        else:
            self._state.surface.repaint_progress()

    def _fact_taken(self, message: FactTaken) -> None:
        match message.fact:
            case ReadingTaken(reading):
                self.live.readings.append(reading)
                self.log.add(message.at, f"{reading.at}: {reading.quantity} {reading_in_words(reading)}")
            case EventNoted(what, words, port):
                if isinstance(port, str) or what in _LOGGED_EVENTS:
                    self.log.add(message.at, words)
                if what == UNLIKE_THE_SHEET:
                    self.live.message, self.live.failed = sanitize(f"Look again: {words}", 400), True
            case TrialEnded(trial, outcome, _):
                self.log.add(message.at, f"{trial} {outcome}")
        self._state.surface.repaint()

    def _moves_asked(self, message: MovesAsked) -> None:
        self.live.phase, self.live.moves = Phase.ASKING, message.moves
        self.live.doing = "Enter: done, continue"
        self._state.surface.repaint()

    def _moves_seen(self, _: MovesSeen) -> None:
        """The host saw the connection: no key is needed."""
        self.live.phase = Phase.MEASURING
        self.log.add(self.clock.moment(), "host detected the connection")
        self._state.surface.repaint()

    def _text_asked(self, message: TextAsked) -> None:
        self.live.phase, self.live.asks_text = Phase.ASKING, True
        self.live.doing, self.live.hint = sanitize(message.question, 300), sanitize(message.hint, 60)
        self._state.surface.repaint()

    def _over(self, message: TrialOver) -> None:
        done, absent = self.live, self._absent
        self._absent = None
        self.prepare_next()
        title = done.planned.title if done.planned else "the trial"
        if done.planned is not None:
            self._state.choose_port(done.planned.port)
        if absent is not None and not done.has_appeared:
            self._record_absence(absent)
            return
        words = message.error or f"{title}: {message.outcome}."
        if absent is not None:
            words = f"{title}: it appeared while it was being stopped. Readings so far are kept."
        goes_on = self._runs_all and not message.error and self.live.planned is not None
        self.say(words, failed=bool(message.error))
        if goes_on and self.live.planned is not None:
            self.begin(self.live.planned)
        else:
            self._runs_all = self._person.by_itself = self._person.asks_first = False
