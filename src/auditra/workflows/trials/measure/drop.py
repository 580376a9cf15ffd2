"""The drop of a lead: the volts at both of its ends under the current that is promised, and under less."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from auditra.core.claims.kinds.cable import FAR, NEAR
from auditra.core.claims.promise import Look
from auditra.core.errors import InstrumentError
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.rig import Instrument, Meter
from auditra.core.model.rig import Load as LoadGear
from auditra.workflows.trials.doors import Load, Progress, Volts
from auditra.workflows.trials.doors import Meter as MeterDoor
from auditra.workflows.trials.measure.at_work import error_of, load_at_work, meter_at, switched_on, thing_tried
from auditra.workflows.trials.measure.ramp import SETTLES_IN_S, require_drawn
from auditra.workflows.trials.measure.session import TrialSession

SHARES = (1.0, 0.75, 0.5, 0.25)
"""Of the promised current, the promised one first: what is decided from is read before the copper is warm."""
REPEATS, PITCH_S = 5, 0.2
_LEFT_SHARE = 0.5
"""Of what a source has without load, the least that it must keep under load: below, it is the source that gives way."""


@dataclass(frozen=True)
class _Ends:
    """A load that draws through something, and what reads the volts at both of its ends."""

    load: Load
    load_gear: LoadGear
    near: MeterDoor
    near_gear: Meter
    far: MeterDoor
    far_gear: Instrument


def drop_of(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The volts at both ends under the promised current, and under less, from which the ohms follow."""
    load, near = load_at_work(session), meter_at(session, NEAR)
    if load is None or near is None or look.behind_a is None:
        return
    far = meter_at(session, FAR) or load
    ends = _Ends(load[0], load[1], near[0], near[1], far[0], far[1])
    words = (
        f"Put {thing_tried(session)} between a supply and the {ends.load_gear.name}; the {ends.near_gear.name} reads "
        f"the volts at its near end, the {ends.far_gear.name} those at its far end"
    )
    session.bench.person.wait(words, 0.0)
    with switched_on(ends.load):
        session.bench.clock.sleep(SETTLES_IN_S)
        open_v = ends.near.volts().volts
        for share in SHARES:
            yield from _at_both_ends(session, ends, look.behind_a * share, open_v)


def _at_both_ends(session: TrialSession, ends: _Ends, amperes: float, open_v: float) -> tuple[Reading, ...]:
    """Raises: InstrumentError where the source gives way, or the load draws something else."""
    ends.load.set_current(amperes)
    session.bench.clock.sleep(SETTLES_IN_S)
    near, far = [], []
    for turn in range(1, REPEATS + 1):
        session.watch(Progress(f"{amperes:.2f} A through it, reading {turn} of {REPEATS}", value=amperes))
        near.append(ends.near.volts())
        at_load = ends.load.measure()
        far.append(ends.far.volts() if ends.far is not ends.load else Volts(at_load.volts, at_load.error_v))
        if near[-1].volts < _LEFT_SHARE * open_v:
            why = f"the source gives way at {amperes:.2f} A: {near[-1].volts:.2f} of {open_v:.2f} V are left"
            raise InstrumentError(ends.load_gear.name, why=why, do="Use a stronger supply")
        require_drawn(amperes, at_load)
        session.bench.clock.sleep(PITCH_S)
    readings = (
        _volts(session, ends.near_gear, near, NEAR),
        _volts(session, ends.far_gear, far, FAR),
    )
    return tuple(replace(each, behind_a=amperes) for each in readings)


def _volts(session: TrialSession, gear: Instrument, taken: list[Volts], end: str) -> Reading:
    values = tuple(each.volts for each in taken)
    error = error_of(gear, Quantity.VOLTAGE, max(values), taken[-1].error_v)
    return replace(session.number(Quantity.VOLTAGE, gear.name, values, error=error), end=end)
