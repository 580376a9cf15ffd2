"""Pictures that run on other ports."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from itertools import combinations

from auditra.core.claims.claim import Joined
from auditra.core.model.depth import Depth
from auditra.core.model.setup import Plugged
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.factor import Factor, Level
from auditra.core.plan.planning import Planning, Tried, ids_of
from auditra.core.plan.run_sheet import PlannedTrial

NAME = "displays"
MOST_AT_ONCE = 3
"""Other outputs than the one under trial are tried in sets of up to so many, and all at once."""


def _levels(tried: Tried, planning: Planning) -> Iterable[Level]:
    if tried.claim.promise.procedure == ProcedureId.DISPLAY:
        return _other_outputs(tried, planning)
    return _pictures(tried, planning)


def _matters(tried: Tried, planning: Planning) -> bool:
    promise = tried.claim.promise
    return promise.beside_display or promise.procedure == ProcedureId.DISPLAY


def _pictures(tried: Tried, planning: Planning) -> Iterator[Level]:
    """Pictures on as many outputs as the displays suffice for; on each by itself where that fails."""
    there = planning.display(planning.pictures, ids_of(tried.trial.setup))
    first = there[1].socket if there is not None else ""
    together = _most_at_once(tried, planning)
    if len(together) > 1:
        yield _beside_level(tried, planning, together, Depth.FULL)
        for each in together:
            yield _beside_level(tried, planning, (each,), None)
        return
    why = f"does a picture on {first} slow {tried.port.id} down?"
    yield Level(f"with {first}", why, partial(_beside_any, planning))


def _most_at_once(tried: Tried, planning: Planning) -> tuple[Tried, ...]:
    """The most outputs that can have a picture beside this trial."""
    outputs = {each.port.id: each for each in planning.pictures}
    for size in range(min(len(outputs), MOST_AT_ONCE), 1, -1):
        for some in combinations(outputs.values(), size):
            apart = any(_are_one_at_a_time(planning, a.port.id, b.port.id) for a, b in combinations(some, 2))
            if not apart and _beside_all(planning, some, tried.trial) is not None:
                return some
    return ()


def _beside_level(tried: Tried, planning: Planning, some: Sequence[Tried], depth: Depth | None) -> Level:
    names = " and ".join(each.port.id for each in some)
    asks = f"does a picture on {names}" if len(some) == 1 else f"do pictures on {names}"
    why = f"{asks} slow {tried.port.id} down?"
    return Level(f"with {names}", why, partial(_beside_all, planning, some), depth)


def _beside_any(planning: Planning, trial: PlannedTrial) -> PlannedTrial | None:
    found = planning.picture_beside(trial)
    if found is None:
        return None
    return beside(planning, trial, [found])


def _other_outputs(tried: Tried, planning: Planning) -> Iterator[Level]:
    """All other outputs at once; smaller sets of them where that fails, or where everything is wanted."""
    others = {
        each.port.id: each for each in planning.pictures
        if each.port.id != tried.port.id and not _are_one_at_a_time(planning, tried.port.id, each.port.id)
    }  # fmt: skip
    most = min(len(others), MOST_AT_ONCE)
    for size in range(most, 0, -1):
        for some in combinations(others.values(), size):
            names = " and ".join(each.port.id for each in some)
            yield Level(
                f"with {names}", f"does {tried.port.id} keep its mode while {names} {'is' if size == 1 else 'are'} on?",
                partial(_beside_all, planning, some), Depth.FULL if size == most else None,
            )  # fmt: skip


def _beside_all(planning: Planning, some: Sequence[Tried], trial: PlannedTrial) -> PlannedTrial | None:
    found: list[tuple[str, Plugged]] = []
    taken = ids_of(trial.setup)
    for each in some:
        one = planning.display([each], taken)
        if one is None or trial.setup.gear_at(each.port.id) is not None:
            return None
        taken |= {one[1].gear, *one[1].through} | ({one[1].lead} if one[1].lead else set())
        found.append(one)
    return beside(planning, trial, found)


def beside(planning: Planning, trial: PlannedTrial, found: Sequence[tuple[str, Plugged]]) -> PlannedTrial:
    """The trial with pictures that were there before its own gear came."""
    setup = planning.stand.beside(trial.setup, [plugged for _, plugged in found], tuple(words for words, _ in found))
    return replace(trial, setup=replace(setup, order=(*(plugged.gear for _, plugged in found), trial.gear)))


def _are_one_at_a_time(planning: Planning, one: str, other: str) -> bool:
    """A claim says that only one of them can be used at a time."""
    return any(claim.joined is Joined.ONE_AT_A_TIME and {one, other} <= set(claim.ports) for claim in planning.claims)


DISPLAYS = Factor(NAME, 1, _levels, _matters, excludes=frozenset({"display switched off", "order"}))
