"""Gear is plugged in and starts while the volts beside it are watched: an own trial, for what draws most at first."""

from __future__ import annotations

from auditra.core.model.reading import Quantity
from auditra.core.procedures.procedure import Procedure, Wanted, connected
from auditra.core.quantities.units import Dimension
from auditra.core.wiring.setups import Stand

START_DIP = Procedure(
    id="watch the volts at the start",
    name="start_dip",
    title="volts at the start",
    on_device=connected,
    direct=Stand.on_host,
    typed=(Wanted(Quantity.LOWEST_VOLTAGE, (Dimension.VOLTAGE,), "4.71 V"),),
    takes_s=40.0,
)
