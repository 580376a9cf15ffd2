"""A person looks, listens or counts, and answers what the promise asks."""

from __future__ import annotations

from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import Procedure, connected

LOOK = Procedure(id=ProcedureId.LOOK, name="look", title="look", on_device=connected, by_eye=True, takes_s=30.0)
