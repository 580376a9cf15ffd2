"""A load draws more and more until the port gives way: an own trial, since no seller promises where that is."""

from __future__ import annotations

from auditra.core.model.device import Port
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import SetUp
from auditra.core.procedures.procedure import Door, Procedure, Wanted
from auditra.core.quantities.units import Dimension
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand


def _charged(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    return stand.charged(port, choice) if choice else None


POWER_LIMIT = Procedure(
    id="find the current limit",
    name="power_limit",
    title="current limit",
    on_device=_charged,
    direct=Stand.on_host,
    door=Door.INSTRUMENTS,
    typed=(Wanted(Quantity.CURRENT_LIMIT, (Dimension.CURRENT,), "1.2 A"),),
    takes_s=60.0,
)
