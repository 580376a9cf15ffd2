"""What a factor says of itself, and how factors are found."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import Enum
from functools import cache

from auditra.core.found import values_in
from auditra.core.model.depth import Depth
from auditra.core.plan import factors
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial


class Which(Enum):
    """The claims that a full sheet tries a factor for; a forensic one tries it for every claim that it matters to."""

    EACH = "each claim"
    KIND = "one claim of each kind"
    ONE = "one claim"


@dataclass(frozen=True)
class Level:
    """One state of a factor, other than that of the plain trial."""

    words: str
    """Behind the title of the trial: ``with H1``."""
    why: str
    change: Callable[[PlannedTrial], PlannedTrial | None]
    """The trial under it; None where the rig lacks something, or what is there already excludes it."""
    depth: Depth | None = Depth.FULL
    """The sheet that has it first; None for one that is done only where an answer needs it."""


@dataclass(frozen=True)
class Added:
    """The trials that a factor adds to the run sheet, and those that are done only where an answer needs them."""

    trials: tuple[PlannedTrial, ...] = ()
    in_reserve: tuple[PlannedTrial, ...] = ()
    covers: frozenset[tuple[str, str, str]] = frozenset()
    """What these trials cover besides: claim, port, and the factor of which they have a level."""


def _everywhere(tried: Tried, planning: Planning) -> bool:
    return True


def _no_levels(tried: Tried, planning: Planning) -> Iterable[Level]:
    return ()


def _no_groups(tried: list[Tried], planning: Planning) -> Added:
    return Added()


@dataclass(frozen=True)
class Factor:
    """Something that may matter to claims which are promised whatever else happens."""

    name: str
    turn: int
    """Its place among the factors: what takes long comes late."""
    levels: Callable[[Tried, Planning], Iterable[Level]] = _no_levels
    """Its other states for what was planned alone, each with what it does to the set-up."""
    matters: Callable[[Tried, Planning], bool] = _everywhere
    """For which claims it matters."""
    which: Which = Which.EACH
    ready_for_others: bool = False
    """Claims that a full sheet does not try it for have its levels in reserve."""
    excludes: frozenset[str] = frozenset()
    """Factors that share no set-up with it, by name."""
    by_itself: bool = False
    """It shares a set-up with no other factor."""
    takes_s: float = 0.0
    """What it costs beside plug moves and the trial itself, in seconds."""
    groups: Callable[[list[Tried], Planning], Added] = _no_groups
    """Trials of several claims at once that it adds."""

    def goes_with(self, other: Factor) -> bool:
        """Whether a level of each may share a set-up."""
        apart = self.by_itself or other.by_itself or self.name == other.name
        return not apart and other.name not in self.excludes and self.name not in other.excludes


@cache
def all_factors() -> tuple[Factor, ...]:
    """Every factor, in its turn."""
    return tuple(sorted(values_in(factors, Factor), key=lambda factor: (factor.turn, factor.name)))
