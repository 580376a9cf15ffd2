"""A supply feeds the device's inlet, and a load draws what comes out at the host plug."""

from __future__ import annotations

from auditra.core.model.device import Port
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import POWER, Door, Procedure, Wanted
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand


def _between(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    return stand.between_supply_and_load(port, choice) if choice else None


POWER_IN = Procedure(
    id=ProcedureId.POWER_IN,
    name="power_in",
    title="power in",
    on_device=_between,
    direct=Stand.supply_on_load,
    door=Door.INSTRUMENTS,
    loop="power",
    typed=(Wanted(Quantity.POWER, POWER, "87.2 W"),),
    at_inlet=True,
    takes_s=45.0,
)
