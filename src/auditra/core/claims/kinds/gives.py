"""``A1 gives 4.5 W``: the socket feeds what is plugged into it with this much."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.kinds._power import Watts
from auditra.core.model.capability import Capability
from auditra.core.model.rig import Gear, Load
from auditra.core.model.trial import ProcedureId


@dataclass(frozen=True)
class Gives(Watts):
    """Watts at this port."""

    words, of_many = "gives", "give"
    example = "gives 4.5 W"
    procedure = ProcedureId.POWER_OUT
    capability = Capability.POWER_OUT
    lacking_gear = "a load"

    @property
    def brief(self) -> str:
        return f"out {self.watts:g} W"

    def margin(self, gear: Gear) -> float | None:
        return gear.watts / self.watts if isinstance(gear, Load) and gear.watts > self.watts else None
