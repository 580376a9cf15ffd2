"""Plugs that fit both ways: the gear's own, and the one at the host. USB Type-C R2.3, 2.3.4 (orientation)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial

_LANES = (ProcedureId.STORAGE, ProcedureId.DISPLAY)
"""What uses the fast pairs, of which a plug has one on either side."""


def _is_turnable(tried: Tried, planning: Planning) -> bool:
    return tried.trial.setup.flipped is False


def _gear_levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    yield Level("plug turned over", f"does {tried.port.id} work with the plug either way?", _turned)


def _turned(trial: PlannedTrial) -> PlannedTrial:
    setup = trial.setup
    turned = replace(
        setup, flipped=True, turned=(*setup.turned, trial.gear), departs=(*setup.departs, Aspect.SIDE)
    )  # fmt: skip
    return replace(trial, setup=turned)


def _has_turnable_host_plug(tried: Tried, planning: Planning) -> bool:
    return tried.trial.setup.host_flipped is False and tried.claim.promise.procedure in _LANES


def _host_levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    yield Level("host plug turned over", "does it work with the plug at the host either way?", partial(_host_turned))


def _host_turned(trial: PlannedTrial) -> PlannedTrial:
    setup = trial.setup
    turned = replace(
        setup, host_flipped=True, turned=(*setup.turned, DEVICE), departs=(*setup.departs, Aspect.HOST_SIDE)
    )  # fmt: skip
    return replace(trial, setup=turned)


PLUG_SIDE = Factor("plug side", 2, _gear_levels, _is_turnable)
HOST_PLUG_SIDE = Factor("host plug side", 2, _host_levels, _has_turnable_host_plug, Which.KIND)
