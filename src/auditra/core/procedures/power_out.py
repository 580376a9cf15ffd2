"""A load draws power from a port."""

from __future__ import annotations

from auditra.core.model.device import Port
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import POWER, Door, Procedure, Wanted
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand


def charged(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    """The gear in the port of the device, which is fed."""
    return stand.charged(port, choice) if choice else None


POWER_OUT = Procedure(
    id=ProcedureId.POWER_OUT,
    name="power_out",
    title="power out",
    on_device=charged,
    direct=Stand.on_host,
    door=Door.INSTRUMENTS,
    loop="power",
    typed=(Wanted(Quantity.POWER, POWER, "14.8 W"),),
    takes_s=45.0,
)
