"""Every trait that a practice device may hide, by how often its domain comes, and pairs that mask one another."""

from __future__ import annotations

import random
from collections.abc import Callable

from auditra.core.simulate.practice.draft import Planting
from auditra.core.simulate.practice.planted.data import (
    DATA,
    falls_beside_display,
    narrow_upstream,
    shares_an_inner_link,
    takes_four_lanes,
    throttles_when_hot,
    twin_runs_slower,
)
from auditra.core.simulate.practice.planted.network import NETWORK, slower_network
from auditra.core.simulate.practice.planted.pictures import PICTURES
from auditra.core.simulate.practice.planted.power import POWER, passes_less_on, shares_power
from auditra.core.simulate.practice.planted.seen import SEEN

Plant = Callable[[Planting], None]
_DOMAINS: tuple[tuple[tuple[Plant, ...], int], ...] = ((DATA, 8), (PICTURES, 5), (POWER, 5), (NETWORK, 3), (SEEN, 6))
MASKING: tuple[tuple[Plant, Plant], ...] = (
    (twin_runs_slower, falls_beside_display), (shares_an_inner_link, falls_beside_display),
    (narrow_upstream, takes_four_lanes), (throttles_when_hot, takes_four_lanes), (shares_power, passes_less_on),
    (slower_network, throttles_when_hot),
)  # fmt: skip
"""Pairs of which one can hide the other."""


def one_of_any_domain(dice: random.Random) -> Plant:
    """One trait by chance."""
    domain = dice.choices([each for each, _ in _DOMAINS], weights=[weight for _, weight in _DOMAINS])[0]
    return dice.choice(domain)
