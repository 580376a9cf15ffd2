"""The reviewer at the keys, as a trial sees them: confirmed moves, answers, and a stop that is always heard."""

from __future__ import annotations

import threading
import time

import pytest
from textual.message import Message

from auditra.bench.clock import SystemClock
from auditra.core.errors import TrialStopped
from auditra.core.journal.facts import NoteWritten
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged
from auditra.core.plan.planner import run_sheet_of
from auditra.core.wiring.moves import Action, PlugMove
from auditra.tui.controllers.tui_person import TuiPerson
from auditra.tui.messages import FactTaken, MovesAsked, MovesSeen, ProgressMade, TextAsked
from auditra.workflows.trials.doors import Progress
from tests.support.audits import audit_of

MOVE = PlugMove(Action.PLUG, Plugged(DEVICE, "A1", "fast-ssd"))
AGAIN = PlugMove(Action.PULL, Plugged(DEVICE, "A1", "fast-ssd"))
PLANNED = run_sheet_of(audit_of("A1 data 5 Gb/s")).trials[0]


class Reviewer:
    """Keeps what the person post; answers when it is told to."""

    def __init__(self) -> None:
        self.posted: list[Message] = []
        self.person = TuiPerson(self._post)

    def _post(self, message: Message) -> bool:
        self.posted.append(message)
        return True

    def later(self, do: object) -> None:
        threading.Timer(0.1, do).start()  # type: ignore[arg-type]


def test_starting_a_trial_confirms_its_moves_and_no_others() -> None:
    reviewer = Reviewer()
    reviewer.person.begun(PLANNED, [MOVE])
    reviewer.person.make([MOVE])
    assert not any(isinstance(each, MovesAsked) for each in reviewer.posted)
    reviewer.later(reviewer.person.answer)
    reviewer.person.make([AGAIN])
    assert isinstance(reviewer.posted[-1], MovesAsked)


def test_once_something_was_taken_moves_are_asked_for_again() -> None:
    reviewer = Reviewer()
    reviewer.person.clock = SystemClock()
    reviewer.person.begun(PLANNED, [MOVE])
    reviewer.person.taken(NoteWritten("x"))
    assert isinstance(reviewer.posted[-1], FactTaken)
    reviewer.later(reviewer.person.answer)
    reviewer.person.make([MOVE])
    assert isinstance(reviewer.posted[-1], MovesAsked)


def test_by_itself_asks_nothing() -> None:
    reviewer = Reviewer()
    reviewer.person.by_itself = True
    reviewer.person.make([AGAIN])
    assert reviewer.posted == []


def test_what_the_host_sees_done_needs_no_key() -> None:
    reviewer, looks = Reviewer(), iter([False, True])
    reviewer.person.make([MOVE], lambda: next(looks))
    assert isinstance(reviewer.posted[0], MovesAsked)
    assert isinstance(reviewer.posted[-1], MovesSeen)


def test_a_key_is_enough_where_the_host_sees_nothing() -> None:
    reviewer = Reviewer()
    reviewer.later(reviewer.person.answer)
    reviewer.person.make([MOVE], lambda: False)
    assert not any(isinstance(each, MovesSeen) for each in reviewer.posted)


def test_on_a_live_bench_going_through_all_that_is_left_confirms_no_move_by_itself() -> None:
    reviewer = Reviewer()
    reviewer.person.asks_first = True
    reviewer.person.begun(PLANNED, [MOVE])
    reviewer.later(reviewer.person.answer)
    reviewer.person.make([MOVE])
    assert isinstance(reviewer.posted[-1], MovesAsked)


def test_a_length_is_what_was_typed() -> None:
    reviewer = Reviewer()
    reviewer.later(lambda: reviewer.person.answer("15.1"))
    assert reviewer.person.read_rule("UP", "length") == 0.151
    assert isinstance(reviewer.posted[0], TextAsked)


def test_a_stop_is_heard_while_waiting_and_while_measuring_and_forgotten_when_ready() -> None:
    reviewer = Reviewer()
    reviewer.later(reviewer.person.stop)
    with pytest.raises(TrialStopped):
        reviewer.person.make([MOVE])
    with pytest.raises(TrialStopped):
        reviewer.person.progress(Progress("writing"))
    reviewer.person.make_ready()
    reviewer.person.progress(Progress("writing"))


def test_paints_are_few_and_no_sample_is_lost() -> None:
    reviewer = Reviewer()
    for n in range(400):
        reviewer.person.progress(Progress("writing", float(n), n / 10))
    time.sleep(0.1)
    reviewer.person.progress(Progress("writing", 400.0, 40.0))
    told = [each for each in reviewer.posted if isinstance(each, ProgressMade)]
    assert len(told) < 20
    assert [sample.value for each in told for sample in each.samples] == [float(n) for n in range(401)]
