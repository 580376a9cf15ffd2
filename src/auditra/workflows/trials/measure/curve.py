"""Volts over amperes of a ramp, as readings with traces of the same times."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from auditra.core.claims.kinds.cable import FAR
from auditra.core.decide.instrument_error import limit_of_error, power_error_w
from auditra.core.model.reading import Quantity, Reading, Trace
from auditra.core.model.rig import Instrument
from auditra.workflows.trials.doors import VoltsAmperes
from auditra.workflows.trials.measure.at_work import error_of
from auditra.workflows.trials.measure.ramp import Ramp
from auditra.workflows.trials.measure.session import TrialSession


def curve_of(
    session: TrialSession, gear: Instrument, spot: str, taken: Sequence[VoltsAmperes], ramp: Ramp
) -> Iterator[Reading]:
    """The volts at the load over the whole ramp, and the current that belongs to them; `taken` is what was read at the
    end of it.

    They are of the far end alone: how much of their fall is copper, and how much the source's own, they do not say.
    """
    time_s, volts = tuple(ramp.time_s), tuple(each.volts for each in taken)
    error = error_of(gear, Quantity.VOLTAGE, max(volts), taken[-1].error_v)
    reading = session.number(
        Quantity.VOLTAGE, gear.name, volts, error=error, at=spot, trace=Trace(time_s, tuple(ramp.volts)),
        note=f"{ramp.open_v:.2f} V without load",
    )  # fmt: skip
    yield replace(reading, behind_a=ramp.held_a, end=FAR)
    yield session.number(
        Quantity.DRAWN, gear.name, tuple(each.amperes for each in taken), error=error_a(gear, taken), at=spot,
        trace=Trace(time_s, tuple(ramp.amperes)),
    )  # fmt: skip


def error_a(gear: Instrument, taken: Sequence[VoltsAmperes]) -> float:
    """The limit of error of the highest current: as stated, else the same share as that of the watts."""
    amperes = max(each.amperes for each in taken)
    stated = limit_of_error(gear, Quantity.CURRENT, amperes) or taken[-1].error_a
    highest = max(taken, key=lambda each: each.watts)
    if stated or highest.watts <= 0:
        return stated or 0.0
    return power_error_w(gear, highest.watts, highest.error_w) / highest.watts * amperes
