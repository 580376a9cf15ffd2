"""No accusation and no praise that contradicts the truth, which the maker of an audit knows and the judge does not.

``make truth`` does the same over 5,000 audits.
"""

from __future__ import annotations

import random

import pytest

from auditra.core.judge.judgement import judge
from auditra.core.model.reading import Count
from auditra.core.model.verdict import Verdict
from tests.support.audits import PROFILE
from tests.truth.case import World, contradictions
from tests.truth.cause_worlds import CAUSE_WORLDS
from tests.truth.causes_found import tally
from tests.truth.count_worlds import named_hosts
from tests.truth.coverage_of_uncertainty import HIGHEST, LOWEST, REPEATS, coverage
from tests.truth.fits_found import plateaus, resistances
from tests.truth.worlds import WORLDS

SEEDS = range(9_000, 9_008)


@pytest.mark.parametrize("world", WORLDS, ids=lambda world: world.__name__)
def test_no_verdict_contradicts_the_truth(world: World) -> None:
    assert [words for seed in SEEDS for words in contradictions(world(random.Random(seed)))] == []


def test_what_is_kept_and_what_is_not_are_both_found_often_enough_to_be_of_use() -> None:
    found: dict[bool, list[Verdict]] = {True: [], False: []}
    for world in WORLDS:
        for seed in SEEDS:
            case = world(random.Random(seed))
            for verdict in judge(case.audit, PROFILE).claims:
                truth = case.truths[verdict.claim.id]
                if not truth.unless:
                    found[truth.kept].append(verdict.verdict)
    assert sum(verdict is Verdict.HOLDS for verdict in found[True]) > 0.25 * len(found[True])
    assert sum(verdict.accuses for verdict in found[False]) > 0.45 * len(found[False])


def test_the_planted_cause_is_named_and_hardly_ever_another() -> None:
    found, words = tally(4 * len(CAUSE_WORLDS), seed=7)
    assert found.is_as_promised, [str(found), *words]


def test_fits_come_near_the_truth() -> None:
    assert plateaus(100).near == 1.0
    assert plateaus(100).covered > 0.87
    assert resistances(100).is_as_promised


@pytest.mark.parametrize("repeats", REPEATS)
def test_the_truth_lies_within_the_uncertainty_as_often_as_is_said(repeats: int) -> None:
    samples = 4_000
    slack = 3 * (0.95 * 0.05 / samples) ** 0.5
    assert LOWEST - slack <= coverage(repeats, samples=samples) <= HIGHEST + slack
    assert coverage(repeats, error=20.0, samples=samples) >= LOWEST - slack


def test_no_reading_of_one_set_up_is_taken_for_that_of_another() -> None:
    for seed in range(150):
        case = named_hosts(random.Random(seed))
        works = {record.trial.id: record.readings[0].value for record in case.audit.trials}
        for set_up in judge(case.audit, PROFILE).claims[0].set_ups:
            (trial,) = set_up.trials
            assert (works[trial] == Count(5, 5)) is (set_up.verdict is Verdict.HOLDS), (seed, trial)
