"""The reviewer at the keys, as the bench and a running trial see them: a Person and a Watcher in one."""

from __future__ import annotations

import queue
import threading
import time
from collections.abc import Callable, Sequence

from textual.message import Message

from auditra.core.claims.promise import Look
from auditra.core.errors import TrialStopped
from auditra.core.journal.facts import Fact
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove
from auditra.tui.messages import FactTaken, MovesAsked, MovesSeen, ProgressMade, TextAsked, TrialStarted
from auditra.workflows.trials.doors import Clock, Progress
from auditra.workflows.trials.measure.rule import ask_length

_PAINTS_A_SECOND = 20.0
_LOOKS_FOR_STOP_S = 0.1
_LOOKS_AT_HOST_EVERY_S = 0.4


class TuiPerson:
    """Lives on the trial's thread; the screen answers from its own. Starting a trial confirms its first moves."""

    def __init__(self, post: Callable[[Message], bool]) -> None:
        self._post = post
        self._stop = threading.Event()
        self._answers: queue.SimpleQueue[str] = queue.SimpleQueue()
        self._confirmed: frozenset[PlugMove] = frozenset()
        self._unsent: list[Progress] = []
        self._sent_at = 0.0
        self.by_itself = False
        """Moves within a trial are not asked for either."""
        self.asks_first = False
        """Starting a trial confirms nothing: its moves are asked for, or seen by the host."""
        self.clock: Clock | None = None

    # The screen's side

    def stop(self) -> None:
        """The trial ends at its next breath."""
        self._stop.set()

    def make_ready(self) -> None:
        """Forget an earlier stop and old answers."""
        self._stop.clear()
        while not self._answers.empty():
            self._answers.get_nowait()

    def answer(self, text: str = "") -> None:
        """What was asked for is done, or this is what was typed."""
        self._answers.put(text)

    # The trial's side

    def make(self, moves: Sequence[PlugMove], seen: Callable[[], bool] | None = None) -> None:
        """Asked for, unless they are confirmed; what the host sees done goes on by itself."""
        if moves and not self.by_itself and not self._confirmed.issuperset(moves):
            self._post(MovesAsked(moves))
            self._wait(seen)

    def wait(self, words: str, about_s: float) -> None:
        self.ask(f"{words}: press Enter when that is done", "nothing")

    def ask(self, question: str, hint: str) -> str:
        self._post(TextAsked(question, hint))
        return self._wait()

    def look(self, spot: str, look: Look, question: str) -> str:
        return self.ask(question, look.hint)

    def read_rule(self, port: str, words: str) -> float:
        return ask_length(self, port)

    def begun(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        self._confirmed = frozenset() if self.asks_first else frozenset(moves)
        self._post(TrialStarted(planned, moves))

    def progress(self, progress: Progress) -> None:
        if self._stop.is_set():
            raise TrialStopped("the trial", why="it was stopped by the reviewer", do="Start it again when ready")
        self._unsent.append(progress)
        now = time.monotonic()
        if now - self._sent_at >= 1 / _PAINTS_A_SECOND:
            self._post(ProgressMade(progress, self._unsent))
            self._unsent, self._sent_at = [], now

    def taken(self, fact: Fact) -> None:
        self._confirmed = frozenset()
        if self.clock is not None:
            self._post(FactTaken(fact, self.clock.moment()))

    def _wait(self, seen: Callable[[], bool] | None = None) -> str:
        """What was answered; empty where it was seen to be done."""
        looked_at = time.monotonic()
        while not self._stop.is_set():
            try:
                return self._answers.get(timeout=_LOOKS_FOR_STOP_S)
            except queue.Empty:
                if seen is None or time.monotonic() - looked_at < _LOOKS_AT_HOST_EVERY_S:
                    continue
            looked_at = time.monotonic()
            if seen():
                self._post(MovesSeen())
                return ""
        raise TrialStopped("the trial", why="it was stopped by the reviewer", do="Start it again when ready")
