"""A recorder that runs on the host meanwhile, as it does for those who film their work: it costs speed too."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial

RECORDER = "a screen recorder"


def _matters(tried: Tried, planning: Planning) -> bool:
    return bool(tried.claim.promise.upstream_bps)


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    yield Level("while the screen is recorded", "what does a recorder cost?", _recorded, Depth.FORENSIC)


def _recorded(trial: PlannedTrial) -> PlannedTrial:
    setup = trial.setup
    return replace(
        trial, setup=replace(setup, recorder=RECORDER, unpromised=True, departs=(*setup.departs, Aspect.RECORDER))
    )


RECORDING = Factor("recorder", 7, _levels, _matters, Which.ONE, takes_s=20.0)
