"""Plug something where nothing is promised for it, and see whether it works there all the same."""

from __future__ import annotations

from auditra.core.claims.promise import Look
from auditra.core.decide.counts import MIN_TRIES_THAT_ACCUSE
from auditra.core.errors import BenchError
from auditra.core.model.reading import Count, Grade, Quantity
from auditra.core.model.rig import Display, Drive
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.measure.appearance import count_appearances
from auditra.workflows.trials.measure.display import PICTURE_WITHIN_S
from auditra.workflows.trials.measure.display import WITNESS as MODE_WITNESS
from auditra.workflows.trials.measure.look import THE_EYE
from auditra.workflows.trials.measure.session import HOST_WITNESS, NO, YES, TrialSession


def measure(session: TrialSession) -> Outcome:
    """Whether it works, whichever way that is seen. Raises: BenchError, TrialStopped."""
    gear = session.rig.find(session.planned.gear)
    match gear:
        case Drive():
            seen, tries, witness = count_appearances(session, gear), MIN_TRIES_THAT_ACCUSE, HOST_WITNESS
        case Display() if (displays := session.bench.displays) is not None:
            mode = session.wait_for(lambda: displays.mode_of(gear.id), "waiting for a picture", PICTURE_WITHIN_S)
            seen, tries, witness = int(mode is not None), 1, MODE_WITNESS
        case Display():
            seen, tries, witness = int(session.ask_yes_or_no("Does a picture come?")), 1, THE_EYE
        case _:
            seen, tries, witness = int(_is_said_to_work(session)), 1, THE_EYE
    grade = Grade.SEEN if witness == THE_EYE else Grade.READ
    session.take(session.reading(Quantity.RESPONDS, witness, grade, Count(seen, tries)))
    return Outcome.COMPLETE


def _is_said_to_work(session: TrialSession) -> bool:
    """What the person sees with the lead of the host where it does not belong. Raises: BenchError for silence."""
    words = " and ".join(session.planned.setup.arranged)
    look = Look(f"With {words}: does the host see the device?", Quantity.RESPONDS, "no")
    answer = session.bench.person.look(session.spot, look, f"{look.question} (yes, or no)").strip().lower()
    if answer not in (*YES, *NO):
        raise BenchError(f"trial {session.trial}", why="no answer was given", do="Start it again when it can be seen")
    return answer in YES
