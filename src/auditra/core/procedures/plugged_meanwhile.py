"""A display is connected and runs; something else is pulled and plugged in again, and the picture is watched."""

from __future__ import annotations

from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import Procedure, connected

PLUGGED_MEANWHILE = Procedure(
    id=ProcedureId.PLUGGED_MEANWHILE,
    name="plugged_meanwhile",
    title="does the picture stay",
    on_device=connected,
    takes_s=30.0,
)
