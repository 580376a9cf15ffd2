"""The same on each other host of the rig that the device's plug fits."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Lead
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.factors.lead_to_host import joined_by
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.setups import Stand


def _is_on_a_host(tried: Tried) -> bool:
    return any(each.gear == DEVICE for each in tried.trial.setup.plugged)


def _matters(tried: Tried, planning: Planning) -> bool:
    return _is_on_a_host(tried) and not tried.claim.promise.on_every_host


def _is_promised_of_all(tried: Tried, planning: Planning) -> bool:
    return _is_on_a_host(tried) and tried.claim.promise.on_every_host


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    for stand in planning.other_stands(tried):
        name = stand.host.name
        yield Level(f"on the {name}", f"does the {name} show the same?", partial(_moved_to, stand))
        moved = _moved_to(stand, tried.trial)
        other = stand.other_lead(moved.setup) if moved is not None else None
        if other is not None:
            why, change = f"is it the {name}, or its lead?", partial(_moved_with_lead, stand, other)
            yield Level(f"on the {name}, with {other.id} to it", why, change, depth=None)


def _moved_to(stand: Stand, trial: PlannedTrial) -> PlannedTrial | None:
    moved = stand.moved_here(trial.setup)
    if moved is None:
        return None
    return replace(trial, setup=replace(moved, departs=(*moved.departs, Aspect.HOST)))


def _moved_with_lead(stand: Stand, lead: Lead, trial: PlannedTrial) -> PlannedTrial | None:
    moved = _moved_to(stand, trial)
    return joined_by(lead, moved) if moved is not None else None


_APART = frozenset({"lead to the host", "supply pulled"})
OTHER_HOST = Factor("host", 8, _levels, _matters, Which.KIND, excludes=_APART, by_itself=True)
EVERY_HOST = Factor("every host", 8, _levels, _is_promised_of_all, excludes=_APART, by_itself=True)
