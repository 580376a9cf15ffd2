"""A display is connected, and the mode that it really shows is read back."""

from __future__ import annotations

from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import Door, Procedure, Wanted, connected
from auditra.core.wiring.setups import Stand

DISPLAY = Procedure(
    id=ProcedureId.DISPLAY,
    name="display",
    title="picture",
    on_device=connected,
    direct=Stand.on_host,
    door=Door.DISPLAYS,
    typed=(Wanted(Quantity.MODE, (), "3840x2160@60"),),
    takes_s=20.0,
)
