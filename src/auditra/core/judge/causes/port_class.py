"""A port of a lower class than the gear: the figure is low, and just what the class carries."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.rig_parts import show_value
from auditra.core.model.reading import STORAGE_RATES, Quantity
from auditra.core.model.trial import DIRECT
from auditra.core.model.verdict import Verdict

SURPRISING = 3.0
"""Gear so many times faster by itself than at the port makes a reader ask why."""


@dataclass(frozen=True, kw_only=True)
class PortClass(Finding):
    kind = "class"
    role = Role.RIG_LIMIT

    claim: str
    gear: str
    ceiling: float
    quantity: Quantity
    shown: Estimate
    direct: Estimate

    @property
    def sentence(self) -> str:
        rates = (show_value(self.quantity, value) for value in (self.shown.value, self.direct.value))
        shown, direct = rates
        return f"{self.ports[0]} gives {shown} of the {direct} that the {self.gear} has: that is its class, no fault"

    @property
    def arithmetic(self) -> str:
        return f"{self.claim}: {show_value(self.quantity, self.ceiling)} at most"


def _find(inquiry: Inquiry) -> Iterator[PortClass]:
    """Claims that hold, beside gear that is far faster direct than the promised class can carry."""
    for verdict in inquiry.verdicts:
        scale = verdict.claim.promise.scale()
        if verdict.verdict is Verdict.HOLDS and scale is not None and scale.ceiling is not None:
            found = next(_below(inquiry, verdict, scale.ceiling), None)
            if found is not None:
                yield found


def _below(inquiry: Inquiry, verdict: ClaimVerdict, ceiling: float) -> Iterator[PortClass]:
    port = verdict.claim.port
    for trial in (inquiry.counted(name) for set_up in verdict.set_ups for name in set_up.trials):
        if trial is None:
            continue
        for quantity in STORAGE_RATES:
            here = inquiry.records.reading(trial, port, quantity)
            for other in inquiry.records.directs(trial.gear_at(port)) if here is not None else ():
                there = inquiry.records.reading(other, DIRECT, quantity)
                if here is None or there is None:
                    continue
                shown, direct = estimate(here), estimate(there)
                if direct.low > ceiling and direct.value >= SURPRISING * shown.value:
                    yield PortClass(
                        ports=(port,), trials=(trial.id, other.id), claims=(verdict.claim.id,),
                        claim=str(verdict.claim), gear=inquiry.audit.rig.name_of(trial.gear_at(port)), ceiling=ceiling,
                        quantity=quantity, shown=shown, direct=direct,
                    )  # fmt: skip


PORT_CLASS = Cause(
    "class", "the payload ceiling of the promised link", "the gear direct, far faster than the port", _find,
    Role.RIG_LIMIT,
)  # fmt: skip
