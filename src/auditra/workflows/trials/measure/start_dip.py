"""The lowest voltage while gear starts, from as many samples as a voltmeter gives; typed where none answers."""

from __future__ import annotations

import statistics
from itertools import pairwise

import numpy as np

from auditra.core.errors import InstrumentError
from auditra.core.model.reading import Quantity, Trace
from auditra.core.model.rig import LeadEnd
from auditra.core.model.trial import Outcome
from auditra.core.tables.extremes import extremes
from auditra.workflows.trials.doors import Progress, Volts
from auditra.workflows.trials.measure.at_work import error_of, meter_at
from auditra.workflows.trials.measure.by_hand import measure_by_hand
from auditra.workflows.trials.measure.session import TrialSession

WATCHED_S = 20.0
"""A disk turns fast enough after some seconds; a hand needs some too."""
BEFORE_S = 0.5
LONGEST_GAP_S = 0.25
"""A dip lasts for tenths of a second: a voltmeter that is slower would miss it."""
_MAX_POINTS = 4000
_SHOWN_EVERY_S = 0.25


def measure(session: TrialSession) -> Outcome:
    """Raises: TrialStopped, InstrumentError, also for a voltmeter that is too slow."""
    found = meter_at(session, LeadEnd.FAR) or meter_at(session, LeadEnd.NEAR)
    if found is None:
        return measure_by_hand(session)
    door, gear = found
    name, clock = session.rig.name_of(session.planned.gear), session.bench.clock
    session.bench.person.wait(
        f"Pull the {name} from {session.spot}. Confirm, then plug it in again within {WATCHED_S / 2:g} s", 0.0
    )
    time_s: list[float] = []
    taken: list[Volts] = []
    began_s, shown_s = clock.now_s(), 0.0
    while (now_s := clock.now_s() - began_s) < WATCHED_S:
        taken.append(door.volts())
        time_s.append(now_s)
        if now_s - shown_s >= _SHOWN_EVERY_S:
            shown_s = now_s
            session.watch(Progress(f"watching the volts, {WATCHED_S - now_s:.0f} s left", taken[-1].volts, now_s))
    volts = [each.volts for each in taken]
    gap_s = max((after - before for before, after in pairwise(time_s)), default=WATCHED_S)
    if gap_s > LONGEST_GAP_S:
        why = f"it took {gap_s:.2f} s for one value, and a dip lasts for less"
        raise InstrumentError(gear.name, where=str(gear.address), why=why, do="Use a faster one, or an oscilloscope")
    before = statistics.median(v for v, at in zip(volts, time_s, strict=True) if at <= BEFORE_S)
    kept = extremes(np.asarray(volts), _MAX_POINTS)
    session.take(
        session.number(
            Quantity.LOWEST_VOLTAGE, gear.name, (min(volts),),
            error=error_of(gear, Quantity.VOLTAGE, max(volts), taken[-1].error_v),
            trace=Trace(tuple(time_s[each] for each in kept), tuple(volts[each] for each in kept)),
            note=f"of {len(volts)} samples, {len(volts) / WATCHED_S:.0f} a second; {before:.2f} V before",
        )
    )  # fmt: skip
    return Outcome.COMPLETE
