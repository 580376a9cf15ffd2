"""Finds the smallest circumstances that separate failing set-ups from passing ones."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

from auditra.core.model.circumstance import Aspect, Circumstance, Circumstances, Connected, OnHost, Running, Under

MAX_TOGETHER = 3
MAX_CANDIDATES = 24
"""Circumstances in common beyond which no combination is looked for, only each by itself."""


@dataclass(frozen=True)
class Seen:
    """What was noted of a set-up. An aspect that was not noted is not known to be absent."""

    circumstances: frozenset[Circumstance]
    noted: frozenset[Aspect] = frozenset(Aspect)

    def is_without_one_of(self, circumstances: Iterable[Circumstance]) -> bool:
        """Whether one of them is known to be absent here."""
        return any(each not in self.circumstances and each.aspect in self.noted for each in circumstances)


def separating(failing: Sequence[Seen], holding: Sequence[Seen]) -> tuple[Circumstances, ...]:
    """The smallest sets that every failing set-up has and no passing one; several, where trials cannot tell.

    Where nothing that is in use explains it by itself, that something is in a port at all may.
    """
    found = _smallest(failing, holding)
    wider = _smallest(*([_with_what_is_connected(each) for each in side] for side in (failing, holding)))
    if not wider or len(wider[0]) > 1:
        return found
    said = {port for each in found for thing in each for port in _ports_in_use(thing)}
    return tuple(each for each in wider if not isinstance(each[0], Connected) or each[0].port not in said)


def covering(failing: Sequence[Seen], holding: Sequence[Seen]) -> Circumstances:
    """The fewest circumstances of which each failing set-up has one and no passing one any; none where that is not one
    choice alone."""
    if not failing or not holding:
        return ()
    every = frozenset[Circumstance]().union(*(each.circumstances for each in failing))
    candidates = sorted((each for each in every if all(seen.is_without_one_of((each,)) for seen in holding)), key=repr)
    for size in range(2, (MAX_TOGETHER if len(candidates) <= MAX_CANDIDATES else 1) + 1):
        found = [each for each in combinations(candidates, size) if all(set(each) & seen.circumstances
                                                                       for seen in failing)]  # fmt: skip
        if found:
            return found[0] if len(found) == 1 else ()
    return ()


def _with_what_is_connected(seen: Seen) -> Seen:
    ports = {port for each in seen.circumstances for port in _ports_in_use(each)}
    return replace(seen, circumstances=seen.circumstances | {Connected(port) for port in ports})


def _ports_in_use(circumstance: Circumstance) -> Iterable[str]:
    """The ports that something is in, in use or not."""
    if isinstance(circumstance, Running):
        return circumstance.claim.partition(" ")[0].split("+")
    is_idle = isinstance(circumstance, Under) and circumstance.aspect is Aspect.IDLE
    return (str(circumstance.value),) if is_idle and isinstance(circumstance, Under) else ()


def _smallest(failing: Sequence[Seen], holding: Sequence[Seen]) -> tuple[Circumstances, ...]:
    if not failing or not holding:
        return ()
    common = set(failing[0].circumstances).intersection(*(each.circumstances for each in failing[1:]))
    everywhere = common.intersection(*(each.circumstances for each in holding))
    candidates = sorted(common - everywhere, key=repr)
    for size in range(1, (MAX_TOGETHER if len(candidates) <= MAX_CANDIDATES else 1) + 1):
        found = [each for each in combinations(candidates, size) if all(s.is_without_one_of(each) for s in holding)]
        if found:
            return _without_what_follows(found)
    return ()


def _without_what_follows(found: list[Circumstances]) -> tuple[Circumstances, ...]:
    """A host brings its sockets with it: where the host separates, they are no second explanation."""
    if any(isinstance(each, OnHost) for circumstances in found for each in circumstances):
        found = [each for each in found if all(one.aspect is not Aspect.HOST_SOCKET for one in each)]
    return tuple(found)
