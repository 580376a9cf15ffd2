"""Finds the smallest circumstances that separate failing set-ups from passing ones."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import combinations

from auditra.core.model.circumstance import Aspect, Circumstance, Circumstances, OnHost

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
    """The smallest sets that every failing set-up has and no passing one; several, where trials cannot tell."""
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
