"""A long time at full load, so that the case is warm."""

from __future__ import annotations

from auditra.core.model.setup import MINUTE_S
from auditra.core.plan.factor import Added, Factor
from auditra.core.plan.planning import Planning, Tried

SOAK_S = 45 * MINUTE_S
"""Long enough at full load for a case to come near the temperature that it keeps."""


def _add(tried: list[Tried], planning: Planning) -> Added:
    return Added(tuple(each.trial.soaked(SOAK_S) for each in tried if each.claim.promise.soaks))


SOAKED = Factor("soaked", 9, _add)
