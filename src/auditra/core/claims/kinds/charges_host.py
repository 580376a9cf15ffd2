"""``UP charges host 65 W``: this much arrives at the computer, drawn there by a load in its place."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.kinds._power import Watts
from auditra.core.model.capability import Capability
from auditra.core.model.rig import Load
from auditra.core.model.trial import ProcedureId


@dataclass(frozen=True)
class ChargesHost(Watts):
    """Watts at this port."""

    words, of_many = "charges host", "charge host"
    example = "charges host 65 W"
    procedure = ProcedureId.CHARGE
    capability = Capability.POWER_OUT
    lacking_gear = "a supply and a load"
    proved_by = Load

    @property
    def brief(self) -> str:
        return f"host {self.watts:g} W"
