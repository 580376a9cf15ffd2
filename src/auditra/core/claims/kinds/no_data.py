"""``P1 no data``: the socket is said to carry none; a drive in it must stay unseen, though it works elsewhere."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.promise import Promise
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.rules import refuses
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

    @property
    def brief(self) -> str:
        return "no data"

    def margin(self, gear: Gear) -> float | None:
        return 1.0 if isinstance(gear, Drive) else None

    def decide(self, taken: ReadingSet, direct: ReadingSet) -> tuple[Part, ...]:
        return (refuses("no data", taken.of(Quantity.APPEARED).count(), direct.of(Quantity.APPEARED).count()),)

    @property
    def lacking(self) -> str:
        return "a drive that fits the socket"
