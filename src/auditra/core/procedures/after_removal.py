"""What draws power is pulled from a port, and the voltage that is left there is read."""

from __future__ import annotations

from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.power_out import charged
from auditra.core.procedures.procedure import Procedure

AFTER_REMOVAL = Procedure(
    id=ProcedureId.AFTER_REMOVAL,
    name="after_removal",
    title="voltage after removal",
    on_device=charged,
    takes_s=20.0,
)
