"""Finds the smallest circumstances that separate failing set-ups from passing ones."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

from auditra.core.model.circumstance import Circumstances

MAX_TOGETHER = 3


def separating(failing: Sequence[Circumstances], holding: Sequence[Circumstances]) -> tuple[Circumstances, ...]:
    """The smallest sets that every failing set-up has and no passing one; several, where trials cannot tell."""
    if not failing or not holding:
        return ()
    common = sorted(set(failing[0]).intersection(*map(set, failing[1:])), key=repr)
    for size in range(1, MAX_TOGETHER + 1):
        found = [each for each in combinations(common, size) if not any(set(each) <= set(good) for good in holding)]
        if found:
            return tuple(found)
    return ()
