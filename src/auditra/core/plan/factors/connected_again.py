"""The device is unplugged and plugged in again with everything else in place, so that links are set up again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial

_AGREED_ON = (ProcedureId.STORAGE, ProcedureId.DISPLAY)


def _matters(tried: Tried, planning: Planning) -> bool:
    on_host = any(each.gear == DEVICE for each in tried.trial.setup.plugged)
    return on_host and tried.claim.promise.procedure in _AGREED_ON


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    yield Level("connected again", f"is {tried.port.id} the same after connecting the device again?", _again)


def _again(trial: PlannedTrial) -> PlannedTrial:
    setup = trial.setup
    return replace(trial, setup=replace(setup, replugged=True, departs=(*setup.departs, Aspect.REPLUGGED)))


CONNECTED_AGAIN = Factor("connected again", 3, _levels, _matters, Which.KIND, excludes=frozenset({"displays", "order"}))
"""Not beside what depends on what came first: after connecting again everything comes at once."""
