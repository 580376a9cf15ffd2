"""How warm a device gets: watched until it is steady."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.claims.kinds.body import STEADY_K, STEADY_S
from auditra.core.claims.promise import Look
from auditra.core.decide.first_order import FirstOrder, fit_first_order
from auditra.core.model.reading import Grade, Quantity, Reading, Trace
from auditra.core.model.setup import MINUTE_S
from auditra.workflows.trials.doors import Progress
from auditra.workflows.trials.measure.at_work import answers_itself, thing_tried
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.waiting import CLOCK
from auditra.workflows.trials.measure.warmth import HeatTrace

STEADY_AT_THE_LATEST_S = 90 * MINUTE_S
_CLEARLY_STEADY = 0.8
"""It is watched until it rises by clearly less than what counts as steady: on the very edge a judge would ask again."""
_LOOK_S = 5.0


def warmest_of(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The temperatures until they are steady: the warmest spot, with its trace, and the room."""
    door = session.bench.thermometers
    if door is None or not any(answers_itself(each) for each in session.rig.thermometers):
        return
    session.bench.person.wait(
        f"Put {thing_tried(session)} to work and keep it there; the clock starts when you confirm", 0.0
    )
    clock = session.bench.clock
    began_s, words = clock.now_s(), "warming"
    heat = HeatTrace(session, began_s)
    while (spent_s := clock.now_s() - began_s) < STEADY_AT_THE_LATEST_S:
        if heat.look():
            curves = [(trace, fit_first_order(trace)) for trace in heat.traces()]
            if not curves:
                return  # no spot of the device is read
            if all(_is_steady(trace, curve) for trace, curve in curves):
                break
            words = _words([curve for _, curve in curves if curve is not None])
        session.watch(Progress(f"{words}, {spent_s / MINUTE_S:.0f} min", heat.highest_c(), spent_s))
        clock.sleep(_LOOK_S)
    yield from heat.readings(warmest_at=session.spot)
    soaked = session.number(Quantity.SOAKED, CLOCK, (clock.now_s() - began_s,), grade=Grade.MEASURED)
    yield replace(soaked, moment=clock.moment())


def _is_steady(trace: Trace, curve: FirstOrder | None) -> bool:
    """It rose by less than half a kelvin in the last ten minutes, and its curve goes no further."""
    late = [value for at, value in zip(trace.time_s, trace.values, strict=True) if at > trace.time_s[-1] - STEADY_S]
    if trace.time_s[-1] < 2 * STEADY_S or max(late) - min(late) >= _CLEARLY_STEADY * STEADY_K:
        return False
    return curve is None or curve.is_steady


def _words(curves: list[FirstOrder]) -> str:
    """With where the curves lead to, once that can be told."""
    return f"warming towards {max(curve.plateau for curve in curves):.0f} C" if curves else "warming"
