"""A host that takes no more: because it asks for no more, or because its battery is nearly full."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.part_limits import TAKES_NO_MORE, appetite
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import power
from auditra.core.wiring.trial_profile import MIN_FULL_BATTERY_PERCENT


@dataclass(frozen=True, kw_only=True)
class Appetite(Finding):
    kind = "appetite"
    role = Role.RIG_LIMIT

    claim: str
    host: str
    wants_w: float | None
    battery_percent: float | None
    shown: Estimate

    @property
    def subject(self) -> str:
        return f"battery of {self.host}" if self.battery_percent is not None else self.host

    @property
    def sentence(self) -> str:
        took = f"{self.host} took {power(self.shown.value)}"
        if self.battery_percent is not None:
            return f"{took} with its battery at {self.battery_percent:.0f} %: a battery that is nearly full takes less"
        return f"{took} and asks for {power(self.wants_w or 0.0)} at most, so it cannot show {self.claim}"

    @property
    def arithmetic(self) -> str:
        if self.battery_percent is not None:
            return f"{self.battery_percent:.0f} % is above {MIN_FULL_BATTERY_PERCENT:.0f} %"
        return f"{power(self.shown.value)} of {power(self.wants_w or 0.0)}"


def _find(inquiry: Inquiry) -> Iterator[Appetite]:
    """Trials of charging that fall below the claim while the host wanted no more."""
    for verdict in inquiry.verdicts:
        if verdict.claim.promise.procedure != ProcedureId.CHARGE or verdict.verdict.accuses:
            continue
        floor = verdict.claim.promise.owes().get(Quantity.POWER, 0.0)
        for record in inquiry.audit.trials:
            if verdict.claim.id in record.trial.claims:
                found = _appetite(inquiry, verdict.claim, record, floor)
                if found is not None:
                    yield found
                    break


def _appetite(inquiry: Inquiry, claim: Claim, record: TrialRecord, floor: float) -> Appetite | None:
    reading = record.taken.of(Quantity.POWER).at(claim.port).numbers().last()
    if reading is None:
        return None
    shown, setup = estimate(reading), record.trial.setup
    host = inquiry.audit.rig.host(setup.host)
    percent = setup.battery_percent
    full = isinstance(percent, float | int) and percent >= MIN_FULL_BATTERY_PERCENT
    wants = appetite(host).most
    sated = wants < floor and shown.value >= TAKES_NO_MORE * wants
    if shown.high >= floor or not (full or sated):
        return None
    return Appetite(
        ports=(claim.port,), trials=(record.trial.id,), claims=(claim.id,), claim=str(claim),
        host=inquiry.audit.rig.name_of(setup.host), wants_w=wants if sated else None,
        battery_percent=float(percent) if full and isinstance(percent, float | int) else None, shown=shown,
    )  # fmt: skip


APPETITE = Cause(
    "appetite", "what a host wants, and how full its battery is (CC-CV charging)",
    "watts to the host, with what it wants or its battery level", _find, Role.RIG_LIMIT,
)  # fmt: skip
