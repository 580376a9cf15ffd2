"""A length is read off a rule or tape; nothing is connected."""

from __future__ import annotations

from auditra.core.model.device import Port
from auditra.core.model.setup import SetUp
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import Procedure
from auditra.core.wiring.gear import Choice
from auditra.core.wiring.setups import Stand


def _nothing(stand: Stand, port: Port, choice: Choice | None, target: float) -> SetUp | None:
    return stand.nothing()


RULE = Procedure(
    id=ProcedureId.RULE, name="rule", title="length", on_device=_nothing, direct=Stand.on_host, takes_s=20.0
)
