"""Draw a steady current until the source gives way, and sum up the energy that came."""

from __future__ import annotations

import numpy as np

from auditra.core.decide.instrument_error import power_error_w
from auditra.core.errors import BenchError, QuantityError
from auditra.core.links.charging import lowest_sink_v
from auditra.core.model.reading import Quantity, Trace
from auditra.core.model.rig import Load
from auditra.core.model.trial import Outcome
from auditra.core.quantities.display import amount
from auditra.core.quantities.parsing import parse_typed
from auditra.core.quantities.units import Dimension
from auditra.core.tables.extremes import extremes
from auditra.workflows.trials.doors import Progress, VoltsAmperes
from auditra.workflows.trials.measure.at_work import load_of_trial, require_voltage, switched_on
from auditra.workflows.trials.measure.ramp import SETTLES_IN_S, require_drawn
from auditra.workflows.trials.measure.session import MAX_TRIES, TrialSession

SAMPLE_S = 1.0
LONGEST_S = 24 * 3600.0
_MAX_POINTS = 4000


def measure(session: TrialSession) -> Outcome:
    """Raises: BenchError, InstrumentError, TrialStopped: what came by then is no whole charge, and is not recorded.

    The load is switched off whatever happens.
    """
    load, gear = load_of_trial(session)
    amperes, clock = _amperes(session), session.bench.clock
    time_s: list[float] = []
    taken: list[VoltsAmperes] = []
    with switched_on(load):
        clock.sleep(SETTLES_IN_S)
        open_v = load.measure().volts
        require_voltage(session, open_v)
        load.set_current(amperes)
        began_s, energy_j = clock.now_s(), 0.0
        while clock.now_s() - began_s < LONGEST_S:
            clock.sleep(SAMPLE_S)
            now = load.measure()
            if now.volts < lowest_sink_v(open_v):
                break
            require_drawn(amperes, now)
            now_s = clock.now_s() - began_s
            if taken:
                energy_j += (taken[-1].watts + now.watts) / 2 * (now_s - time_s[-1])
            time_s.append(now_s)
            taken.append(now)
            session.watch(Progress(f"{amount(energy_j, Dimension.ENERGY)} so far", now.watts, now_s))
    if len(taken) < 2:
        raise BenchError(session.spot, why=f"it does not give {amperes:g} A", do="Draw less")
    _take(session, gear, time_s, taken, energy_j)
    return Outcome.COMPLETE


def _take(session: TrialSession, gear: Load, time_s: list[float], taken: list[VoltsAmperes], energy_j: float) -> None:
    """The energy with the watts as its trace; its error is the same share as that of the watts."""
    watts = [each.watts for each in taken]
    highest = max(taken, key=lambda each: each.watts)
    share = power_error_w(gear, highest.watts, highest.error_w) / highest.watts
    note = f"at {taken[0].amperes:.2f} A for {time_s[-1] / 3600:.2f} h, down to {taken[-1].volts:.2f} V"
    kept = extremes(np.asarray(watts), _MAX_POINTS)
    trace = Trace(tuple(time_s[each] for each in kept), tuple(watts[each] for each in kept))
    mean_w = energy_j / (time_s[-1] - time_s[0])
    session.take(
        session.number(Quantity.ENERGY, gear.name, (energy_j,), error=energy_j * share, note=note),
        session.number(Quantity.DRAWN_POWER, gear.name, (mean_w,), error=mean_w * share, trace=trace, note=note),
    )


def _amperes(session: TrialSession) -> float:
    """The current that the person names. Raises: BenchError where none was."""
    asked = question = f"How many amperes is {session.spot} to give until it is empty?"
    for _ in range(MAX_TRIES):
        text = session.bench.person.ask(question, "1 A").strip()
        try:
            amperes, _ = parse_typed(text, Dimension.CURRENT)
        except QuantityError as error:
            question = f"{error.why}. {error.do}. {asked}"
            continue
        if amperes > 0:
            return amperes
        question = f"More than 0 A. {asked}"
    raise BenchError(f"trial {session.trial}", why="no current was named", do="Start it again")
