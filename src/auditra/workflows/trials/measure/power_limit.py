"""Draw more and more until the port gives way; record where, what it does then, and when it is back."""

from __future__ import annotations

from auditra.core.errors import TrialStopped
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.doors import Progress, VoltsAmperes
from auditra.workflows.trials.measure.at_work import load_of_trial, require_voltage, switched_on
from auditra.workflows.trials.measure.curve import curve_of
from auditra.workflows.trials.measure.ramp import FINEST_A, MOST_USB_A, Ramping
from auditra.workflows.trials.measure.session import TrialSession

_RECOVERY_RESOLUTION_S = 0.2
_REPEATS, _PITCH_S = 2, 0.2


def measure(session: TrialSession) -> Outcome:
    """Raises: BenchError, InstrumentError; TrialStopped where the person does not want it. The load is switched off
    whatever happens.
    """
    load, gear = load_of_trial(session)
    most_a = _most_a(session)
    question = f"This draws up to {most_a:g} A from {session.spot}, more than is promised, until it gives way. Go on?"
    if not session.ask_yes_or_no(question):
        raise TrialStopped(f"trial {session.trial}", why="no overload is wanted", do="")

    def passed(amperes: float, taken: VoltsAmperes) -> bool:
        session.watch(Progress(f"drawing {amperes:.2f} A", taken.volts))
        return gear.watts > 0 and taken.watts >= gear.watts

    with switched_on(load):
        ramp = Ramping(session.bench.clock, load, passed, most_a).run()
        require_voltage(session, ramp.open_v)
        taken = [ramp.held]  # one that is gone has nothing to read again
        for _ in range(_REPEATS if not ramp.is_gone else 0):
            session.bench.clock.sleep(_PITCH_S)
            taken.append(load.measure())
    if ramp.gave_way_a is not None:
        session.take(
            session.number(Quantity.CURRENT_LIMIT, gear.name, (ramp.held_a,), resolution=2 * FINEST_A, note=ramp.words)
        )
    if ramp.back_after_s is not None:
        values = (ramp.back_after_s,)
        session.take(
            session.number(
                Quantity.TIME_TO_RECOVERY, gear.name, values, resolution=_RECOVERY_RESOLUTION_S, note=ramp.words
            )
        )
    session.take(*curve_of(session, gear, session.spot, taken, ramp))
    return Outcome.COMPLETE


def _most_a(session: TrialSession) -> float:
    """No more than the lead carries, where that is noted."""
    ids = {each.lead for each in session.planned.setup.plugged if each.lead is not None}
    noted = [lead.amperes for lead in session.rig.leads if lead.id in ids and isinstance(lead.amperes, float | int)]
    return min((MOST_USB_A, *noted))
