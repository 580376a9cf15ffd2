"""What happened, said by workers and widgets to the screen they are on."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from textual.message import Message

from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.facts import Fact
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import PlugMove
from auditra.workflows.ports import Progress


class PortChosen(Message):
    """The reviewer chose a port on the faces."""

    def __init__(self, port: str) -> None:
        super().__init__()
        self.port = port


class StageChosen(Message):
    """The reviewer chose a stage on the track; stages count from 1."""

    def __init__(self, stage: int) -> None:
        super().__init__()
        self.stage = stage


class OfferTurned(Message):
    """Another offer of the typing line stands out."""


class TrialStarted(Message):
    """A trial began; these moves lead to its set-up."""

    def __init__(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        super().__init__()
        self.planned, self.moves = planned, tuple(moves)


class ProgressMade(Message):
    """A trial got on. Samples since the last message come along, so that none is missing from the trace."""

    def __init__(self, progress: Progress, samples: Sequence[Progress]) -> None:
        super().__init__()
        self.progress, self.samples = progress, tuple(samples)


class FactTaken(Message):
    """A fact is on disk."""

    def __init__(self, fact: Fact, at: datetime) -> None:
        super().__init__()
        self.fact, self.at = fact, at


class MovesAsked(Message):
    """The trial wants these moves before it goes on."""

    def __init__(self, moves: Sequence[PlugMove]) -> None:
        super().__init__()
        self.moves = tuple(moves)


class MovesSeen(Message):
    """The host saw the moves done that were asked for."""


class HostAsked(Message):
    """A host said what hangs on it; `error` says why it did not."""

    def __init__(self, host: str, found: Snapshot | None, error: str = "") -> None:
        super().__init__()
        self.host, self.found, self.error = host, found, error


class TextAsked(Message):
    """The trial wants something typed: a length, a value, a folder."""

    def __init__(self, question: str, hint: str) -> None:
        super().__init__()
        self.question, self.hint = question, hint


class TrialOver(Message):
    """A trial ended; `error` says why it did before its time."""

    def __init__(self, outcome: Outcome | None, error: str = "") -> None:
        super().__init__()
        self.outcome, self.error = outcome, error
