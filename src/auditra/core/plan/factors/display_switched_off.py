"""A display that is connected and switched off: the device may keep lanes for it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.model.setup import Picture
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.beside_display


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    there = planning.picture_beside(tried.trial)
    if there is not None:
        on = there[1].socket
        yield Level(
            f"with the display on {on} switched off", f"does a display on {on} cost speed even when it is off?",
            partial(_beside_dark, planning),
        )  # fmt: skip


def _beside_dark(planning: Planning, trial: PlannedTrial) -> PlannedTrial | None:
    found = planning.picture_beside(trial)
    if found is None:
        return None
    setup = planning.stand.beside(trial.setup, [found[1]], ())
    dark = (Picture(found[1].socket, found[1].gear, on=False),)
    return replace(trial, setup=replace(setup, pictures=dark, departs=(*setup.departs, Aspect.IDLE)))


DISPLAY_SWITCHED_OFF = Factor(
    "display switched off", 5, _levels, _matters, Which.ONE, excludes=frozenset({"displays", "order"})
)
