"""Bytes that went another way than through the port under trial."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.counting import MIN_SHARE_ON_WIRE
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import NetworkPath
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import amount
from auditra.core.quantities.units import Dimension


@dataclass(frozen=True, kw_only=True)
class Route(Finding):
    kind = "route"
    role = Role.CAUSE

    moved: float
    on_wire: float
    wireless: bool

    @property
    def subject(self) -> str:
        return "wireless" if self.wireless else "another interface"

    @property
    def sentence(self) -> str:
        way = "wireless was on" if self.wireless else "they went through another interface"
        return f"what {' and '.join(self.trials)} moved did not all pass {self.ports[0]}: {way}"

    @property
    def arithmetic(self) -> str:
        if not self.moved:
            return "the port's own counters were not read"
        moved, passed = (amount(size, Dimension.SIZE) for size in (self.moved, self.on_wire))
        return f"{passed} of {moved} passed the port's own interface"


def _find(inquiry: Inquiry) -> Iterator[Route]:
    """Network trials whose bytes are not on the wire of the port, or may not be; once for each port."""
    seen: set[tuple[str, bool]] = set()
    for record in inquiry.audit.trials:
        found = _route(record) if record.trial.procedure == ProcedureId.NETWORK else None
        if found is not None and (found.ports[0], found.wireless) not in seen:
            seen.add((found.ports[0], found.wireless))
            yield found


def _route(record: TrialRecord) -> Route | None:
    network = record.trial.setup.network
    wireless = isinstance(network, NetworkPath) and network.wireless is True
    moved, on_wire = (_sum(record, quantity) for quantity in (Quantity.MOVED, Quantity.ON_WIRE))
    is_counted = any(record.taken.of(Quantity.ON_WIRE))
    strayed = is_counted and on_wire < MIN_SHARE_ON_WIRE * moved
    if not strayed and (moved or not wireless):
        return None
    return Route(
        ports=(record.trial.place,), trials=(record.trial.id,), claims=record.trial.claims,
        sure=Sureness.SURE if strayed else Sureness.LIKELY, moved=moved, on_wire=on_wire, wireless=wireless,
    )  # fmt: skip


def _sum(record: TrialRecord, quantity: Quantity) -> float:
    return sum(sum(reading.values) for reading in record.taken.of(quantity))


ROUTE = Cause(
    "route", "the byte counters of the port's own interface", "a network trial with counters, or wireless noted", _find
)
