"""A long time at full load, so that the case is warm."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.model.setup import MINUTE_S
from auditra.core.plan.factor import Factor, Level
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial

SOAK_S = 45 * MINUTE_S
"""Long enough at full load for a case to come near the temperature that it keeps."""


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.soaks


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    yield Level(f"after {SOAK_S / MINUTE_S:.0f} min", "does heat slow it down?", _soaked)


def _soaked(trial: PlannedTrial) -> PlannedTrial:
    return trial.soaked(SOAK_S)


SOAKED = Factor("soaked", 9, _levels, _matters, by_itself=True, takes_s=SOAK_S)
