"""Pull what is plugged beside a picture, and plug it in again: does the picture stay?"""

from __future__ import annotations

from auditra.core.journal.facts import EventNoted
from auditra.core.model.device import DEVICE
from auditra.core.model.event import EventKind
from auditra.core.model.reading import Grade, Quantity, Reading, YesNo
from auditra.core.model.setup import Plugged
from auditra.core.model.trial import Outcome
from auditra.core.wiring.moves import Action, PlugMove
from auditra.workflows.trials.doors import DisplayState, FarEnd
from auditra.workflows.trials.measure.display import PICTURE_WITHIN_S, WITNESS
from auditra.workflows.trials.measure.look import THE_EYE
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.picture_watch import LOOKS_EVERY_S, PictureWatch


def measure(session: TrialSession) -> Outcome:
    """For how long the picture was gone; a host does not see all of it, so a person is asked too.

    Raises: BenchError, TrialStopped.
    """
    displays, plugged = session.bench.displays, session.planned.setup.plugged
    moves = [PlugMove(action, each) for each in plugged if _is_beside(session, each)
             for action in (Action.PULL, Action.PLUG)]  # fmt: skip
    readings = []
    if displays is not None:
        watched = _watch(session, displays, moves)
        if watched is None:
            return Outcome.DID_NOT_APPEAR
        readings.append(watched)
    elif moves:
        session.bench.person.make(moves)
    if not any(max(each.values) for each in readings) and (displays is None or isinstance(displays, FarEnd)):
        readings.append(_as_seen(session))
    session.take(*readings)
    return Outcome.COMPLETE


def _is_beside(session: TrialSession, plugged: Plugged) -> bool:
    return plugged.owner == DEVICE and plugged.gear not in (session.planned.gear, session.planned.setup.charger)


def _watch(session: TrialSession, displays: DisplayState, moves: list[PlugMove]) -> Reading | None:
    """The seconds without a picture, as the host has it; None where there was none to begin with."""
    display, doing = session.planned.gear, f"waiting for the picture on {session.spot}"
    if session.wait_for(lambda: displays.mode_of(display), doing, PICTURE_WITHIN_S) is None:
        return None
    shown = [each for each in session.planned.setup.plugged if each.gear == display]
    watch = PictureWatch(displays.still_shows, session.bench.clock, shown)
    for move in moves:
        session.bench.person.make([move], watch.meanwhile(None))
        watch.look_on()
    for event in watch.events(session.trial):
        session.put(event)
    resolution = 2 * LOOKS_EVERY_S
    return session.number(Quantity.DROPPED_OUT, WITNESS, (watch.dark_s,), grade=Grade.READ, resolution=resolution)


def _as_seen(session: TrialSession) -> Reading:
    """What a person saw says nothing of how long. Raises: BenchError, TrialStopped."""
    stayed = session.ask_yes_or_no(f"Did the picture on {session.spot} stay while you pulled and plugged?")
    if not stayed:
        moment = session.bench.clock.moment()
        session.put(EventNoted(EventKind.PICTURE_LOST, "", session.spot, session.trial, moment))
    return session.reading(Quantity.SEEN_TO_BE, THE_EYE, Grade.SEEN, YesNo(stayed))
