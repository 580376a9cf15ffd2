"""The same on each other host of the rig that the device's plug fits."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.plan.factor import Factor, Level, Which
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
        yield Level(
            f"on the {stand.host.name}", f"does the {stand.host.name} show the same?", partial(_moved_to, stand)
        )


def _moved_to(stand: Stand, trial: PlannedTrial) -> PlannedTrial | None:
    moved = stand.moved_here(trial.setup)
    if moved is None:
        return None
    return replace(trial, setup=replace(moved, departs=(*moved.departs, Aspect.HOST)))


_APART = frozenset({"lead to the host", "supply pulled"})
OTHER_HOST = Factor("host", 8, _levels, _matters, Which.KIND, excludes=_APART, by_itself=True)
EVERY_HOST = Factor("every host", 8, _levels, _is_promised_of_all, excludes=_APART, by_itself=True)
