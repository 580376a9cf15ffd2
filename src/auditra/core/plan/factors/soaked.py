"""A long time at work: at full load, so that the case is warm; or of sound, which may stop after minutes."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.model.setup import MINUTE_S
from auditra.core.plan.factor import Factor, Level
from auditra.core.plan.planning import Planning, Tried

SOAK_S = 45 * MINUTE_S
"""Long enough at full load for a case to come near the temperature that it keeps."""
LISTEN_S = 15 * MINUTE_S
"""Long enough for a buffer to run over where two clocks drift apart: at 0.01 % of 48,000 samples a second, one of 4,000
does in 14 minutes."""


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.soaks or tried.claim.promise.can_be_disturbed


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    seconds, why = (SOAK_S, "does heat slow it down?") if tried.claim.promise.soaks else (LISTEN_S, "does it go on?")
    yield Level(f"after {seconds / MINUTE_S:.0f} min", why, lambda trial: trial.soaked(seconds, why))


SOAKED = Factor("soaked", 9, _levels, _matters, by_itself=True, takes_s=SOAK_S)
