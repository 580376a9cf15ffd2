"""Every world, and any number of audits from a seed."""

from __future__ import annotations

import random
from collections.abc import Iterator

from tests.truth.case import Case, World
from tests.truth.count_worlds import COUNT_WORLDS
from tests.truth.data_worlds import DATA_WORLDS
from tests.truth.picture_and_network_worlds import PICTURE_AND_NETWORK_WORLDS
from tests.truth.power_worlds import POWER_WORLDS

WORLDS: tuple[World, ...] = (*DATA_WORLDS, *POWER_WORLDS, *COUNT_WORLDS, *PICTURE_AND_NETWORK_WORLDS)


def cases(count: int, seed: int = 0) -> Iterator[Case]:
    """So many audits, of each world in turn."""
    for number in range(count):
        yield WORLDS[number % len(WORLDS)](random.Random(seed * 1_000_003 + number))
