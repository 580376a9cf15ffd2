"""Which comes first, the gear or the picture beside it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from auditra.core.model.circumstance import Aspect
from auditra.core.plan.factor import Factor, Level, Which
from auditra.core.plan.factors.displays import beside
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial


def _matters(tried: Tried, planning: Planning) -> bool:
    return tried.claim.promise.beside_display


def _levels(tried: Tried, planning: Planning) -> Iterator[Level]:
    there = planning.display(planning.pictures, ids_of(tried.trial.setup))
    if there is not None:
        on = there[1].socket
        yield Level(
            f"with {on} connected last", f"does it matter which of {tried.port.id} and {on} is connected first?",
            partial(_gear_first, planning),
        )  # fmt: skip


def _gear_first(planning: Planning, trial: PlannedTrial) -> PlannedTrial | None:
    """The same as beside a picture, which comes after the gear here."""
    found = planning.display(planning.pictures, ids_of(trial.setup))
    if found is None or found[1].socket == trial.port or trial.setup.gear_at(found[1].socket) is not None:
        return None
    both = beside(planning, trial, [found])
    order = tuple(reversed(both.setup.order)) if isinstance(both.setup.order, tuple) else ()
    setup = replace(both.setup, order=order, departs=(*both.setup.departs, Aspect.ORDER))
    return replace(both, setup=setup)


ORDER = Factor("order", 5, _levels, _matters, Which.ONE, excludes=frozenset({"displays", "display switched off"}))
