"""Several ports move data at the same time; each is measured in turn while the others are kept busy."""

from __future__ import annotations

from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import DATA, Door, Procedure, connected

TOGETHER = Procedure(
    id=ProcedureId.TOGETHER,
    name="together",
    title="measure several at once",
    on_device=connected,
    door=Door.COMPANIONS,
    compared_as=DATA,
    all_at_once=True,
    takes_s=120.0,
)
