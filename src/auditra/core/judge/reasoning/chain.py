"""The chain of a claim: the ceiling of each part from the host to the gear, and what was measured at its end."""

from __future__ import annotations

import math
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.part_limits import Limit
from auditra.core.judge.records import Counted, Records
from auditra.core.judge.rig_parts import RigParts
from auditra.core.model.reading import PAYLOAD_RATES, Quantity
from auditra.core.model.trial import Trial
from auditra.core.plan.run_sheet import RunSheet


@dataclass(frozen=True)
class ChainView:
    """Ceilings in the unit of the quantity, from the host outwards, the device's own promise among them."""

    quantity: Quantity
    stages: tuple[Limit, ...]
    claimed: float
    """What is owed at the end of it."""
    shown: Estimate | None
    """What was measured; None before anything was."""
    trial: str
    """The trial that it is of; empty for one that is only planned."""

    @property
    def expected(self) -> Limit | None:
        """The part that limits it; None where no ceiling is known."""
        known = [stage for stage in self.stages if math.isfinite(stage.most)]
        return min(known, key=lambda stage: stage.most, default=None)


def chain_of(records: Records, verdict: ClaimVerdict, sheet: RunSheet) -> ChainView | None:
    """The chain of the trial that says most against a claim, else of the newest, else of the planned one.

    None for claims that nothing is measured for.
    """
    floors = {quantity: floor for quantity, floor in verdict.claim.promise.owes().items()
              if quantity in PAYLOAD_RATES or quantity is Quantity.POWER}  # fmt: skip
    if not floors:
        return None
    telling = [name for set_up in (*verdict.failing, *reversed(verdict.set_ups)) for name in set_up.trials]
    by_id = {trial.id: trial for trial in records.bearing_on(verdict.claim.id)}
    trial = next((by_id[name] for name in telling if name in by_id), None)
    planned = next((each for each in sheet.trials if verdict.claim.id in each.claims and each.port is not None), None)
    if trial is None and planned is not None:
        meant = Trial("", planned.procedure, planned.claims, planned.setup, planned.gear, planned.port)
        record = TrialRecord(meant, (), None)
        trial = Counted(record, record.taken)
    return _chain(records, verdict.claim, trial, floors) if trial is not None else None


def _chain(records: Records, claim: Claim, trial: Counted, floors: dict[Quantity, float]) -> ChainView:
    """Of the quantity that is furthest below what is owed."""
    shown = {quantity: estimate(reading) for quantity in floors
             if (reading := records.reading(trial, claim.port, quantity)) is not None}  # fmt: skip
    quantity = min(floors, key=lambda each: shown[each].value / floors[each] if each in shown else math.inf)
    way = RigParts(records, trial, claim.port).way(quantity)
    scale = claim.promise.scale()
    most = scale.ceiling if scale is not None and scale.ceiling is not None else floors[quantity]
    own = Limit(f"{claim.port} as claimed", most, most)
    gear = records.rig.find(trial.gear_at(claim.port))
    is_gear = bool(way) and gear is not None and gear.name in way[-1].part
    stages = (*way[:-1], own, way[-1]) if is_gear else (*way, own)
    return ChainView(quantity, stages, floors[quantity], shown.get(quantity), trial.id)
