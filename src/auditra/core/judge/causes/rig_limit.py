"""The lowest ceiling of the chain from host to gear, where it is below what was promised: it could not show more."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.part_limits import EXPLAINED_SHARE, Limit
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.records import Counted
from auditra.core.judge.rig_parts import RigParts, show_value
from auditra.core.model.reading import Quantity


@dataclass(frozen=True, kw_only=True)
class RigLimit(Finding):
    kind = "rig limit"
    role = Role.RIG_LIMIT

    claim: str
    limit: Limit
    quantity: Quantity
    shown: Estimate
    needed: float
    way: tuple[Limit, ...]

    @property
    def subject(self) -> str:
        return self.limit.part

    @property
    def sentence(self) -> str:
        return f"{self.claim} cannot be shown here: {self.limit.part} carries {self._value(self.limit.most)} at most"

    @property
    def arithmetic(self) -> str:
        """The chain of ceilings, then what was measured and what was promised."""
        chain = ", ".join(f"{part.part} {self._value(part.most)}" for part in self.way if part.most < float("inf"))
        shown, needed = self._value(self.shown.value), self._value(self.needed)
        return f"{chain}; measured {shown}, promised {needed}"

    def _value(self, value: float) -> str:
        return show_value(self.quantity, value)


def _find(inquiry: Inquiry) -> Iterator[RigLimit]:
    """For each claim that seems to fail, the part whose own record is below it and explains what was measured."""
    for verdict in inquiry.investigated:
        found: dict[str, RigLimit] = {}
        for set_up in verdict.set_ups:
            for trial in (inquiry.counted(name) for name in set_up.trials):
                for port in verdict.claim.ports if trial is not None else ():
                    for quantity, needed in verdict.claim.promise.owes().items():
                        limit = _limit(inquiry, trial, port, quantity, needed, str(verdict.claim), verdict.claim.id)
                        if limit is not None and limit.subject not in found:
                            found[limit.subject] = limit
        yield from found.values()


def _limit(
    inquiry: Inquiry, trial: Counted | None, port: str, quantity: Quantity, needed: float, claim: str, claim_id: str
) -> RigLimit | None:
    reading = inquiry.records.reading(trial, port, quantity) if trial is not None else None
    if trial is None or reading is None:
        return None
    way = RigParts(inquiry.records, trial, port).way(quantity)
    narrowest = min(way, key=lambda part: part.most, default=None)
    shown = estimate(reading) if quantity is not Quantity.LINK else Estimate(min(reading.values), 0.0, 1)
    if narrowest is None or narrowest.most >= needed or shown.high >= needed:
        return None
    if not EXPLAINED_SHARE * narrowest.most <= shown.value <= narrowest.most * 1.02 + shown.expanded:
        return None
    return RigLimit(
        ports=(port,), trials=(trial.id,), claims=(claim_id,), sure=Sureness.SURE, claim=claim, limit=narrowest,
        quantity=quantity, shown=shown, needed=needed, way=way,
    )  # fmt: skip


RIG_LIMIT = Cause(
    "rig limit", "the lowest ceiling of a chain in series", "the limits of the rig's parts, and a reading", _find,
    Role.RIG_LIMIT,
)  # fmt: skip
