"""The instruments of the rig that answer by themselves, wherever a person has put them."""

from __future__ import annotations

from auditra.core.decide.instrument_error import UNKNOWN_POWER_ERROR_PERCENT, limit_of_error
from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Instrument, Meter
from auditra.core.model.rig import Load as LoadGear
from auditra.workflows.trials.doors import Load
from auditra.workflows.trials.doors import Meter as MeterDoor
from auditra.workflows.trials.measure.session import TrialSession


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
