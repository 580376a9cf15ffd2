"""Try a drive in a socket that is said to carry no data, again and again."""

from __future__ import annotations

from auditra.core.decide.counts import MIN_TRIES_THAT_ACCUSE
from auditra.core.errors import BenchError
from auditra.core.model.reading import Count, Grade, Quantity
from auditra.core.model.rig import Drive
from auditra.core.model.trial import Outcome
from auditra.core.wiring.moves import Action, PlugMove
from auditra.workflows.trials.measure.session import HOST_WITNESS, TrialSession
from auditra.workflows.trials.measure.storage import APPEARS_WITHIN_S, find_new_drive


def measure(session: TrialSession) -> Outcome:
    """How often the drive came up in as many tries as can decide it. Raises: BenchError, TrialStopped."""
    drive = session.rig.find(session.planned.gear)
    if not isinstance(drive, Drive):
        raise BenchError(
            f"trial {session.trial}", why=f"{session.planned.gear} is not a drive", do="Correct the rig file"
        )
    seen = count_appearances(session, drive)
    session.take(session.reading(Quantity.APPEARED, HOST_WITNESS, Grade.READ, Count(seen, MIN_TRIES_THAT_ACCUSE)))
    return Outcome.COMPLETE


def count_appearances(session: TrialSession, drive: Drive) -> int:
    """In how many of these tries the host saw the drive, plugged anew each time. Raises: BenchError, TrialStopped."""
    plugged = next(each for each in session.planned.setup.plugged if each.gear == drive.id)
    again = (PlugMove(Action.PULL, plugged), PlugMove(Action.PLUG, plugged))
    seen = 0
    for turn in range(1, MIN_TRIES_THAT_ACCUSE + 1):
        if turn > 1:
            session.bench.person.make(again)
        doing = f"try {turn} of {MIN_TRIES_THAT_ACCUSE}: does the {drive.name} appear?"
        seen += session.wait_for(lambda: find_new_drive(session, drive), doing, APPEARS_WITHIN_S) is not None
    return seen
