"""Which comes first, the gear or the picture beside it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.factors.displays import beside
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.beside_display


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    there = planning.picture_beside(tried.trial)
    if there is not None:
        on = there[1].socket
        yield Level(
            f"with {on} connected last", f"does it matter which of {tried.port.id} and {on} is connected first?",
            partial(_gear_first, planning),
        )  # fmt: skip


def _gear_first(planning: Planning, trial: PlannedTrial) -> PlannedTrial | None:
    """The same as beside a picture, which comes after the gear here."""
    found = planning.picture_beside(trial)
    if found is None:
        return None
    both = beside(planning, trial, [found])
    order = tuple(reversed(both.setup.order)) if isinstance(both.setup.order, tuple) else ()
    setup = replace(both.setup, order=order, departs=(*both.setup.departs, Aspect.ORDER))
    return replace(both, setup=setup)


ORDER = Factor("order", 5, _levels, _matters, Which.ONE, excludes=frozenset({"displays", "display switched off"}))
