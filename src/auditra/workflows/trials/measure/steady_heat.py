"""How warm a device gets: watched until it is steady."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.claims.kinds.body import STEADY_K, STEADY_S
from auditra.core.claims.promise import Look
from auditra.core.decide.first_order import fit_first_order
from auditra.core.model.reading import Grade, Quantity, Reading
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
    began_s = clock.now_s()
    heat = HeatTrace(session, began_s)
    while (spent_s := clock.now_s() - began_s) < STEADY_AT_THE_LATEST_S and not _is_steady(heat):
        heat.look()
        session.watch(Progress(_warmth_words(heat, spent_s), heat.highest_c(), spent_s))
        clock.sleep(_LOOK_S)
    yield from heat.readings(warmest_at=session.spot)
    soaked = session.number(Quantity.SOAKED, CLOCK, (clock.now_s() - began_s,), grade=Grade.MEASURED)
    yield replace(soaked, moment=clock.moment())


def _is_steady(heat: HeatTrace) -> bool:
    """Every spot rose by less than half a kelvin in the last ten minutes, and its curve goes no further."""
    traces = heat.traces()
    if not traces:
        return False
    for trace in traces:
        late = [value for at, value in zip(trace.time_s, trace.values, strict=True) if at > trace.time_s[-1] - STEADY_S]
        if trace.time_s[-1] < 2 * STEADY_S or max(late) - min(late) >= _CLEARLY_STEADY * STEADY_K:
            return False
        fit = fit_first_order(trace)
        if fit is not None and not fit.is_steady:
            return False
    return True


def _warmth_words(heat: HeatTrace, spent_s: float) -> str:
    """How it gets on, with where its curve leads to once that can be told."""
    fits = [fit for trace in heat.traces() if (fit := fit_first_order(trace)) is not None]
    towards = f", towards {max(fit.plateau for fit in fits):.0f} C" if fits else ""
    return f"warming, {spent_s / MINUTE_S:.0f} min{towards}"
