"""A load draws power from a port."""

from __future__ import annotations

from auditra.core.model.device import Port
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Gear
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import POWER, Door, Procedure, Wanted
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand


def charged(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    """The gear in the port of the device, which is fed."""
    return stand.charged(port, choice) if choice else None


def _load_without_device(stand: Stand, gear: Gear) -> SetUp | None:
    """On a supply with the meter in line, which tells whether the load reads right; else on the host."""
    return stand.load_on_strongest_supply(gear) or stand.on_host(gear)


POWER_OUT = Procedure(
    id=ProcedureId.POWER_OUT,
    name="power_out",
    title="power out",
    on_device=charged,
    direct=_load_without_device,
    door=Door.INSTRUMENTS,
    loop="power",
    typed=(Wanted(Quantity.POWER, POWER, "14.8 W"),),
    takes_s=45.0,
)
