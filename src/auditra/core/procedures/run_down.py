"""A load draws a steady current until the source has no more: an own trial, for whatever has a battery inside."""

from __future__ import annotations

from auditra.core.model.reading import Quantity
from auditra.core.procedures.power_out import charged
from auditra.core.procedures.procedure import Door, Procedure, Wanted
from auditra.core.quantities.units import Dimension
from auditra.core.wiring.setups import Stand

RUN_DOWN = Procedure(
    id="draw until it is empty",
    name="run_down",
    title="energy until empty",
    on_device=charged,
    direct=Stand.on_host,
    door=Door.INSTRUMENTS,
    typed=(Wanted(Quantity.ENERGY, (Dimension.ENERGY,), "37 Wh"),),
    takes_s=7200.0,
)
