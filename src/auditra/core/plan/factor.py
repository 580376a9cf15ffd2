"""What a factor says of itself, and how factors are found."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

from auditra.core.found import values_in
from auditra.core.plan import factors
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial


@dataclass(frozen=True)
class Added:
    """The trials that a factor adds to the run sheet, and those that are done only where an answer needs them."""

    trials: tuple[PlannedTrial, ...] = ()
    in_reserve: tuple[PlannedTrial, ...] = ()


@dataclass(frozen=True)
class Factor:
    """Something that may matter to claims which are promised whatever else happens."""

    name: str
    turn: int
    """Its place among the factors: what takes long comes late."""
    add: Callable[[list[Tried], Planning], Added]
    """The trials that it adds for what was planned alone."""


@cache
def all_factors() -> tuple[Factor, ...]:
    """Every factor, in its turn."""
    return tuple(sorted(values_in(factors, Factor), key=lambda factor: factor.turn))
