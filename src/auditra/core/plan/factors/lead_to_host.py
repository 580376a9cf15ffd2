"""Another lead between the device and the host than the one that is supplied, or else the best."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Lead, Origin
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial


def _matters(tried: Tried, planning: Planning) -> bool:
    return any(each.gear == DEVICE for each in tried.trial.setup.plugged)


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    lead = planning.stand.other_lead(tried.trial.setup)
    if lead is not None:
        why = f"does lead {lead.id} change what {tried.port.id} does?"
        yield Level(
            f"with {lead.id} to the host", why, partial(joined_by, lead, is_promised=not _comes_with_one(planning))
        )


def joined_by(lead: Lead, trial: PlannedTrial, *, is_promised: bool = True) -> PlannedTrial | None:
    """A promise is made with the lead that is supplied, where one is; with another one nothing is owed."""
    if any(each.lead == lead.id for each in trial.setup.plugged):
        return None
    plugged = tuple(
        replace(each, lead=lead.id) if each.gear == DEVICE else each for each in trial.setup.plugged
    )  # fmt: skip
    unpromised, departs = trial.setup.unpromised or not is_promised, (*trial.setup.departs, Aspect.HOST_LEAD)
    return replace(trial, setup=replace(trial.setup, plugged=plugged, unpromised=unpromised, departs=departs))


def _comes_with_one(planning: Planning) -> bool:
    """The lead to the host is shipped with the device."""
    own = planning.stand.lead_taken
    return any(lead.id in own and lead.origin is Origin.SHIPPED for lead in planning.rig.leads)


LEAD_TO_HOST = Factor("lead to the host", 7, _levels, _matters, Which.KIND)
