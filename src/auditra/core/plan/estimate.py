"""How much work a run sheet is: plug moves, and about how long it takes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from statistics import median

from auditra.core.journal.audit import TrialRecord
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of

A_MOVE_S = 15.0
"""About how long a hand needs to find a plug and put it in its place."""


@dataclass(frozen=True)
class Work:
    """Plug moves, and seconds for these and for the trials themselves."""

    moves: int
    seconds: float


@dataclass(frozen=True)
class Pace:
    """How long trials of each kind have taken so far, in seconds, without their time at full load."""

    took_s: Mapping[str, float] = field(default_factory=dict)

    def of(self, trial: PlannedTrial) -> float:
        """How long a trial should take once all is connected: as its like did, else as its procedure says."""
        known_s = self.took_s.get(trial.procedure)
        usual_s = procedure_of(trial.procedure).takes_s if known_s is None else known_s
        return usual_s + trial.setup.soaked_s + trial.extra_s


def pace_of(records: Iterable[TrialRecord]) -> Pace:
    """The median of the trials of each kind that came to their end without a time at full load."""
    took_s: dict[str, list[float]] = {}
    for record in records:
        seconds, trial = record.took_s, record.trial
        if seconds is not None and record.outcome is Outcome.COMPLETE and not trial.setup.soaked_s:
            took_s.setdefault(trial.procedure, []).append(seconds)
    return Pace({procedure: median(each) for procedure, each in took_s.items()})


def work_of(trials: Sequence[PlannedTrial], standing: SetUp | None, pace: Pace | None = None) -> Work:
    """The work of trials, one after the other, from what is connected now."""
    pace = pace or Pace()
    moves, seconds = 0, 0.0
    for trial in trials:
        moves += len(trial.moves_from(standing))
        seconds += pace.of(trial)
        standing = trial.setup
    return Work(moves, seconds + moves * A_MOVE_S)
