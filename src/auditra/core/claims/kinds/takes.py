"""``P1 takes 90 W``: the inlet draws this much from a charger that has it."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.kinds._power import Watts
from auditra.core.model.capability import Capability
from auditra.core.model.rig import Supply
from auditra.core.model.trial import ProcedureId


@dataclass(frozen=True)
class Takes(Watts):
    """Watts at this port."""

    words, of_many = "takes", "take"
    example = "takes 90 W"
    procedure = ProcedureId.POWER_IN
    capability = Capability.POWER_IN
    lacking_gear = "a supply, with a meter and a load,"
    proved_by = Supply

    @property
    def brief(self) -> str:
        return f"in {self.watts:g} W"
