"""The instruments that take part in a trial: those of its set-up, and those that answer wherever they were put."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from auditra.core.decide.instrument_error import UNKNOWN_POWER_ERROR_PERCENT, limit_of_error
from auditra.core.errors import BenchError, InstrumentError
from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Instrument, Meter, Rig
from auditra.core.model.rig import Load as LoadGear
from auditra.core.model.setup import SetUp
from auditra.workflows.trials.doors import Bench, Load
from auditra.workflows.trials.doors import Meter as MeterDoor
from auditra.workflows.trials.measure.ramp import NOTHING_V
from auditra.workflows.trials.measure.session import TrialSession


def load_of_trial(session: TrialSession) -> tuple[Load, LoadGear]:
    """The load of the set-up. Raises: BenchError where there is none."""
    gear = session.need(load_of(session.planned.setup, session.rig), "electronic load in this set-up")
    return session.need(session.bench.loads.get(gear.id), "electronic load"), gear


@contextmanager
def switched_on(load: Load) -> Iterator[None]:
    """On, and drawing nothing yet; switched off at the end of the block, however that comes."""
    try:
        load.set_current(0.0)
        load.switch(on=True)
        yield
    finally:
        _switch_off(load)


def _switch_off(load: Load) -> None:
    """Try again once: after a line that dropped, the second try opens another."""
    try:
        load.switch(on=False)
    except InstrumentError:
        load.switch(on=False)


def load_of(setup: SetUp, rig: Rig) -> LoadGear | None:
    """The load of a set-up: connected to something, or with something connected to it."""
    ids = {each_id for each in setup.plugged for each_id in (each.gear, each.owner)}
    return next((load for load in rig.loads if load.id in ids), None)


def instruments_answer(setup: SetUp, rig: Rig, bench: Bench) -> bool:
    """Whether every instrument of a set-up can be read by the bench itself. Raises: InstrumentError."""
    load = load_of(setup, rig)
    in_line = [meter.id for meter in rig.meters if any(meter.id in each.through for each in setup.plugged)]
    meters = [bench.meters.get(each) for each in in_line]
    return load is not None and bench.loads.get(load.id) is not None and None not in meters


def require_voltage(session: TrialSession, open_v: float) -> None:
    """Raises: BenchError where there is none without load: nothing can be found out of what is off."""
    if open_v < NOTHING_V:
        why = f"there are {open_v:.1f} V without load"
        raise BenchError(session.spot, why=why, do="See that it is fed, or charged, and start the trial again")


def load_at_work(session: TrialSession) -> tuple[Load, LoadGear] | None:
    """The first load of the rig that answers by itself."""
    found = (load for load in session.rig.loads if answers_itself(load) and load.id in session.bench.loads)
    gear = next(found, None)
    return (session.bench.loads[gear.id], gear) if gear is not None else None


def meter_at(session: TrialSession, end: str) -> tuple[MeterDoor, Meter] | None:
    """The meter that reads the volts at this end of a lead."""
    found = (meter for meter in session.rig.meters if answers_itself(meter) and meter.end == end)
    gear = next((meter for meter in found if meter.id in session.bench.meters), None)
    return (session.bench.meters[gear.id], gear) if gear is not None else None


def answers_itself(gear: object) -> bool:
    return isinstance(getattr(gear, "address", None), str)


def error_of(gear: Instrument, quantity: Quantity, value: float, described: float | None) -> float:
    """As the rig notes it, else as its description has it, else 5 %."""
    stated = limit_of_error(gear, quantity, value)
    if stated:
        return stated
    return described if described is not None else abs(value) * UNKNOWN_POWER_ERROR_PERCENT / 100


def thing_tried(session: TrialSession) -> str:
    return "the device" if session.spot == BODY else session.spot
