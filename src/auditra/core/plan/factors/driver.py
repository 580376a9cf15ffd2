"""The device's driver, where a host has one installed: what works without it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial

_SERVED = (ProcedureId.DISPLAY, ProcedureId.NETWORK)
"""What drivers of docks do as a rule: pictures and networks."""


def _matters(tried: Tried, planning: Planning) -> bool:
    host = planning.rig.host(tried.trial.setup.host)
    return host is not None and isinstance(host.driver, str) and tried.claim.promise.procedure in _SERVED


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    yield Level("without its driver", f"does {tried.port.id} work before a driver is installed?", _bare, Depth.FULL)


def _bare(trial: PlannedTrial) -> PlannedTrial:
    setup = replace(trial.setup, driver=None, unpromised=True, departs=(*trial.setup.departs, Aspect.DRIVER))
    return replace(trial, setup=setup)


DRIVER = Factor("driver", 7, _levels, _matters, Which.KIND, by_itself=True, takes_s=300.0)
