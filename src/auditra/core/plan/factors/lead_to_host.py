"""Another lead between the device and the host than the one that is supplied, or else the best."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Lead
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial


def _matters(tried: Tried, planning: Planning) -> bool:
    return any(each.gear == DEVICE for each in tried.trial.setup.plugged)


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    lead = planning.stand.other_lead(tried.trial.setup)
    if lead is not None:
        why = f"does lead {lead.id} change what {tried.port.id} does?"
        yield Level(f"with {lead.id} to the host", why, partial(_joined_by, lead))


def _joined_by(lead: Lead, trial: PlannedTrial) -> PlannedTrial | None:
    """A promise is made with the lead that is supplied; with another one nothing is owed."""
    if any(each.lead == lead.id for each in trial.setup.plugged):
        return None
    plugged = tuple(
        replace(each, lead=lead.id) if each.gear == DEVICE else each for each in trial.setup.plugged
    )  # fmt: skip
    setup = replace(trial.setup, plugged=plugged, unpromised=True, departs=(*trial.setup.departs, Aspect.HOST_LEAD))
    return replace(trial, setup=setup)


LEAD_TO_HOST = Factor("lead to the host", 7, _levels, _matters, Which.KIND)
