"""A drive is connected to a port that promises no data: the host must not see it."""

from __future__ import annotations

from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import DATA, Procedure, connected
from auditra.core.wiring.setups import Stand

APPEARANCE = Procedure(
    id=ProcedureId.APPEARANCE,
    name="appearance",
    title="no data",
    on_device=connected,
    direct=Stand.on_host,
    compared_as=DATA,
    baseline=ProcedureId.STORAGE,
    host_sees_it=True,
    takes_s=15.0,
)
