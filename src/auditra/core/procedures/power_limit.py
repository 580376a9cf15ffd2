"""A load draws more and more until the port gives way: an own trial, since no seller promises where that is."""

from __future__ import annotations

from auditra.core.model.reading import Quantity
from auditra.core.procedures.power_out import charged
from auditra.core.procedures.procedure import Door, Procedure, Wanted
from auditra.core.quantities.units import Dimension
from auditra.core.wiring.setups import Stand

POWER_LIMIT = Procedure(
    id="find the current limit",
    name="power_limit",
    title="current limit",
    on_device=charged,
    direct=Stand.on_host,
    door=Door.INSTRUMENTS,
    typed=(Wanted(Quantity.CURRENT_LIMIT, (Dimension.CURRENT,), "1.2 A"),),
    takes_s=60.0,
)
