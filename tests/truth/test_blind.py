"""Practice devices from box to judgement: nobody is wronged, and what the rig can show is found."""

from __future__ import annotations

import pytest

from auditra.core.simulate.practice.practice import make_practice
from tests.truth.blind import run_blind

SEEDS = tuple(range(20))
WORST = (570, 758, 761, 769, 815, 538, 618, 653, 692, 939, 656, 749, 1084, 1483, 1992, 2218, 2246, 2457)
"""Each of them once exposed an error, which has been fixed."""


@pytest.mark.parametrize("seed", [*SEEDS, *WORST])
def test_nobody_is_accused_or_praised_wrongly_and_no_wrong_reason_is_given(seed: int) -> None:
    told = run_blind(seed)
    assert told.false_accusations == []
    assert told.false_praise == []
    assert told.wrong_causes == []
    assert told.wrong_conditions == []
    assert told.missed == []


def test_the_same_seed_makes_the_same_practice_and_enough_of_them_are_innocent() -> None:
    made = [make_practice(seed) for seed in range(200)]
    assert made == [make_practice(seed) for seed in range(200)]
    assert sum(each.is_innocent for each in made) >= 80
    assert len({each.device.kind for each in made}) == 9
    assert len({hidden.name for each in made for hidden in each.hidden}) > 20
