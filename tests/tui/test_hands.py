"""The reviewer at the keys, as a trial sees them: confirmed moves, answers, and a stop that is always heard."""

from __future__ import annotations

import threading
import time

import pytest
from textual.message import Message

from auditra.bench.clock import SystemClock
from auditra.core.errors import BenchError, TrialStopped
from auditra.core.journal.facts import NoteWritten
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged
from auditra.core.plan.planner import run_sheet_of
from auditra.core.wiring.moves import Action, PlugMove
from auditra.tui.hands import Hands
from auditra.tui.held_bench import HeldBench
from auditra.tui.messages import FactTaken, MovesAsked, MovesSeen, ProgressMade, TextAsked
from auditra.workflows.ports import Progress
from tests.support.audits import audit_of
from tests.support.benches import HONEST

MOVE = PlugMove(Action.PLUG, Plugged(DEVICE, "A1", "fast-ssd"))
AGAIN = PlugMove(Action.PULL, Plugged(DEVICE, "A1", "fast-ssd"))
PLANNED = run_sheet_of(audit_of("A1 data 5 Gb/s")).trials[0]


class Desk:
    """Keeps what the hands post; answers when it is told to."""

    def __init__(self) -> None:
        self.posted: list[Message] = []
        self.hands = Hands(self._post)

    def _post(self, message: Message) -> bool:
        self.posted.append(message)
        return True

    def later(self, do: object) -> None:
        threading.Timer(0.1, do).start()  # type: ignore[arg-type]


def test_starting_a_trial_confirms_its_moves_and_no_others() -> None:
    desk = Desk()
    desk.hands.begun(PLANNED, [MOVE])
    desk.hands.make([MOVE])
    assert not any(isinstance(each, MovesAsked) for each in desk.posted)
    desk.later(desk.hands.answer)
    desk.hands.make([AGAIN])
    assert isinstance(desk.posted[-1], MovesAsked)


def test_once_something_was_taken_moves_are_asked_for_again() -> None:
    desk = Desk()
    desk.hands.clock = SystemClock()
    desk.hands.begun(PLANNED, [MOVE])
    desk.hands.taken(NoteWritten("x"))
    assert isinstance(desk.posted[-1], FactTaken)
    desk.later(desk.hands.answer)
    desk.hands.make([MOVE])
    assert isinstance(desk.posted[-1], MovesAsked)


def test_by_itself_asks_nothing() -> None:
    desk = Desk()
    desk.hands.by_itself = True
    desk.hands.make([AGAIN])
    assert desk.posted == []


def test_what_the_host_sees_done_needs_no_key() -> None:
    desk, looks = Desk(), iter([False, True])
    desk.hands.make([MOVE], lambda: next(looks))
    assert isinstance(desk.posted[0], MovesAsked)
    assert isinstance(desk.posted[-1], MovesSeen)


def test_a_key_is_enough_where_the_host_sees_nothing() -> None:
    desk = Desk()
    desk.later(desk.hands.answer)
    desk.hands.make([MOVE], lambda: False)
    assert not any(isinstance(each, MovesSeen) for each in desk.posted)


def test_on_a_live_bench_going_through_all_that_is_left_confirms_no_move_by_itself() -> None:
    desk = Desk()
    desk.hands.asks_first = True
    desk.hands.begun(PLANNED, [MOVE])
    desk.later(desk.hands.answer)
    desk.hands.make([MOVE])
    assert isinstance(desk.posted[-1], MovesAsked)


def test_a_length_is_what_was_typed() -> None:
    desk = Desk()
    desk.later(lambda: desk.hands.answer("15.1"))
    assert desk.hands.read_rule("UP", "length") == 0.151
    assert isinstance(desk.posted[0], TextAsked)


def test_a_stop_is_heard_while_waiting_and_while_measuring_and_forgotten_when_ready() -> None:
    desk = Desk()
    desk.later(desk.hands.stop)
    with pytest.raises(TrialStopped):
        desk.hands.make([MOVE])
    with pytest.raises(TrialStopped):
        desk.hands.progress(Progress("writing"))
    desk.hands.make_ready()
    desk.hands.progress(Progress("writing"))


def test_paints_are_few_and_no_sample_is_lost() -> None:
    desk = Desk()
    for n in range(400):
        desk.hands.progress(Progress("writing", float(n), n / 10))
    time.sleep(0.1)
    desk.hands.progress(Progress("writing", 400.0, 40.0))
    told = [each for each in desk.posted if isinstance(each, ProgressMade)]
    assert len(told) < 20
    assert [sample.value for each in told for sample in each.samples] == [float(n) for n in range(401)]


def opened_bench() -> tuple[HeldBench, list[str]]:
    from collections.abc import Iterator
    from contextlib import contextmanager

    from auditra.bench.simulated.bench import open_simulated_bench
    from auditra.core.journal.fold import Audit
    from auditra.workflows.ports import Bench, Person

    told: list[str] = []

    @contextmanager
    def open_(audit: Audit, person: Person | None) -> Iterator[Bench]:
        told.append("open")
        with open_simulated_bench(audit, person, model=HONEST, over_sockets=False) as bench:
            yield bench
        told.append("closed")

    return HeldBench(open_, Desk().hands), told


def test_a_bench_is_opened_once_and_closed_when_let_go_of() -> None:
    held, told = opened_bench()
    audit = audit_of("A1 data 5 Gb/s")
    for _ in range(2):
        with held.in_use(audit):
            pass
    assert told == ["open"]
    held.let_go()
    assert told == ["open", "closed"]


def test_a_bench_let_go_of_in_mid_trial_closes_when_the_trial_ends_however_it_ends() -> None:
    held, told = opened_bench()

    def trial() -> None:
        with held.in_use(audit_of("A1 data 5 Gb/s")):
            held.let_go()
            assert told == ["open"]
            raise BenchError("spoiled")

    with pytest.raises(BenchError):
        trial()
    assert told == ["open", "closed"]
