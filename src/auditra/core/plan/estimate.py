"""How much work a run sheet is: plug moves, and about how long it takes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from auditra.core.model.setup import SetUp
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of

A_MOVE_S = 15.0
"""About how long a hand needs to find a plug and put it in its place."""


@dataclass(frozen=True)
class Work:
    """Plug moves, and seconds for these and for the trials themselves."""

    moves: int
    seconds: float


def work_of(trials: Sequence[PlannedTrial], standing: SetUp | None) -> Work:
    """The work of trials, one after the other, from what is connected now."""
    moves, seconds = 0, 0.0
    for trial in trials:
        moves += len(trial.moves_from(standing))
        seconds += procedure_of(trial.procedure).takes_s + trial.setup.soaked_s + trial.extra_s
        standing = trial.setup
    return Work(moves, seconds + moves * A_MOVE_S)
