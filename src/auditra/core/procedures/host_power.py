"""A load stands where the host would be, and draws what the device gives it."""

from __future__ import annotations

from auditra.core.model.device import Port
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import POWER, Door, Procedure, Wanted
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand


def _load_for_host(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    return stand.load_for_host(port, choice, target) if choice else None


HOST_POWER = Procedure(
    id=ProcedureId.CHARGE,
    name="charge",
    title="host power",
    on_device=_load_for_host,
    direct=Stand.load_on_strongest_supply,
    door=Door.INSTRUMENTS,
    loop="power",
    typed=(Wanted(Quantity.POWER, POWER, "64.1 W"),),
    takes_s=45.0,
)
