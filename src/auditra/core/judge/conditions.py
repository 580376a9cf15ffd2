"""The one thing that parts good set-ups from bad, or the trials that would tell."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import combinations

Conditions = tuple[str, ...]
"""What is special about a set-up, such as ``while C1 gives 27 W``; empty for a claim tried alone."""
MOST_TOGETHER = 3


def separating(failing: Sequence[Conditions], holding: Sequence[Conditions]) -> tuple[Conditions, ...]:
    """The smallest sets of conditions that every bad set-up has and no good one; several, where trials cannot tell."""
    if not failing or not holding:
        return ()
    common = sorted(set(failing[0]).intersection(*map(set, failing[1:])))
    for size in range(1, MOST_TOGETHER + 1):
        found = [each for each in combinations(common, size) if not any(set(each) <= set(good) for good in holding)]
        if found:
            return tuple(found)
    return ()


def together(conditions: Iterable[str]) -> str:
    """``while C1 gives 27 W and C2 gives 27 W``."""
    told: list[str] = []
    for each in conditions:
        told.append(each.removeprefix("while ") if told and told[0].startswith("while ") else each)
    return " and ".join(told)


def in_words(conditions: Iterable[str]) -> str:
    """``not while C1 gives 27 W and C2 gives 27 W``."""
    return f"not {together(conditions)}"
