"""``P1 no data``: the socket is said to carry none; a drive in it must stay unseen, though it works elsewhere."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar

from auditra.core.claims.promise import Promise
from auditra.core.decide.counts import refuses
from auditra.core.decide.evidence import Evidence
from auditra.core.model.capability import Capability
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Drive, Gear
from auditra.core.model.trial import ProcedureId
from auditra.core.model.verdict import Part


@dataclass(frozen=True)
class NoData(Promise):
    """A restriction: this socket does no data."""

    words = "no data"
    example = "no data"
    procedure = ProcedureId.APPEARANCE
    capability = Capability.DATA
    forbids = True
    sold_as: ClassVar[Mapping[str, tuple[str, ...]]] = {
        "": (
            "no data", "without data", "sans donn.es", "data: none", "neither data", "(?<!and )power only",
            "charging only", "charges only",
            "charge[- ]only", "only (?:for|to) charg(?:e|ing)", "(?:just )?for (?:charging|power) only", "only charges",
            "have none",
        ),
    }  # fmt: skip
    sold_of_ports = True

    @property
    def denied(self) -> str:
        return "data"

    @property
    def brief(self) -> str:
        return "no data"

    def margin(self, gear: Gear) -> float | None:
        return 1.0 if isinstance(gear, Drive) else None

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        taken = evidence.pool.of(Quantity.APPEARED).count()
        return (refuses("no data", taken, evidence.rig.other_count(Quantity.APPEARED)),)

    @property
    def lacking(self) -> str:
        return "a drive that fits the socket"
