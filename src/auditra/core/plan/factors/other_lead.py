"""Another lead in the place of one that was not seen to carry what is promised: only where a claim falls short."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Lead
from auditra.core.model.setup import Plugged
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level
from auditra.core.plan.factors.lead_to_host import joined_by
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial

_CARRIED = (ProcedureId.STORAGE, ProcedureId.NETWORK, ProcedureId.DISPLAY)


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.procedure in _CARRIED


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    there = _gear_of(tried.trial)
    if there is not None and (lead := _free_lead(planning, tried.trial, there)) is not None:
        why = f"is it lead {there.lead}, or {tried.port.id}?"
        yield Level(f"with {lead.id} instead of {there.lead}", why, partial(_with_lead, there, lead), depth=None)
    other = planning.stand.other_lead(tried.trial.setup)
    if other is not None:
        why = f"is it the lead to the host, or {tried.port.id}?"
        yield Level(f"with {other.id} to the host instead", why, partial(joined_by, other), depth=None)


def _gear_of(trial: PlannedTrial) -> Plugged | None:
    """The gear under trial in its port, where a lead joins them."""
    plugged = trial.setup.plugged
    return next((each for each in plugged if (each.owner, each.socket) == (DEVICE, trial.port) and each.lead), None)


def _free_lead(planning: Planning, trial: PlannedTrial, there: Plugged) -> Lead | None:
    """Another lead with the same ends that nothing else in the set-up uses."""
    ends = next((lead.ends for lead in planning.rig.leads if lead.id == there.lead), None)
    taken = ids_of(trial.setup)
    leads = planning.rig.leads_between(*ends) if ends is not None else ()
    return next((lead for lead in leads if lead.id not in taken), None)


def _with_lead(there: Plugged, lead: Lead, trial: PlannedTrial) -> PlannedTrial | None:
    if there not in trial.setup.plugged or lead.id in ids_of(trial.setup):
        return None
    plugged = tuple(replace(each, lead=lead.id) if each == there else each for each in trial.setup.plugged)
    setup = replace(trial.setup, plugged=plugged, departs=(*trial.setup.departs, Aspect.LEAD))
    return replace(trial, setup=setup)


OTHER_LEAD = Factor("another lead", 9, _levels, _matters, by_itself=True)
