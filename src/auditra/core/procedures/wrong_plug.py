"""What no seller says and a buyer will do: something is plugged where nothing is promised for it."""

from __future__ import annotations

from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import Procedure, connected

WRONG_PLUG = Procedure(
    id=ProcedureId.WRONG_PLUG,
    name="wrong_plug",
    title="what happens",
    on_device=connected,
    takes_s=20.0,
)
