"""Data is written to a drive or card, read back and compared."""

from __future__ import annotations

from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import DATA, RATE, Door, Procedure, Wanted, connected
from auditra.core.wiring.setups import Stand

STORAGE = Procedure(
    id=ProcedureId.STORAGE,
    name="storage",
    title="write and read back",
    on_device=connected,
    direct=Stand.on_host,
    door=Door.TARGETS,
    typed=(
        Wanted(Quantity.LINK, RATE, "5 Gb/s"),
        Wanted(Quantity.WRITE, RATE, "431 MB/s"),
        Wanted(Quantity.READ, RATE, "440 MB/s"),
    ),
    compared_as=DATA,
    host_sees_it=True,
    takes_s=45.0,
)
