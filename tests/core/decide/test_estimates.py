"""Estimates carry their uncertainty; counts their interval."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decide.estimates import difference, estimate, half_width, student_factor, wilson
from auditra.core.model.reading import Count, Quantity
from tests.support.audits import number

values = st.lists(st.floats(1, 1e10), min_size=1, max_size=9)


def test_one_value_without_error_or_last_digit_is_founded_on_nothing() -> None:
    assert not estimate(number(Quantity.POWER, 90.0, error=0.0)).founded
    assert estimate(number(Quantity.POWER, 90.0, error=0.1)).founded
    assert estimate(number(Quantity.POWER, 90.0, 90.1)).founded


def test_a_limit_of_error_is_a_rectangle_of_which_95_per_cent_are_kept() -> None:
    assert estimate(number(Quantity.POWER, 90.0, error=0.3)).expanded == pytest.approx(0.95 * 0.3)


def test_an_error_and_a_last_digit_make_a_trapezoid() -> None:
    assert half_width(1.0, 1.0) == pytest.approx(2 - math.sqrt(0.2))
    assert half_width(1.0, 0.0) == 0.95
    assert half_width(0.2, 1.0) == half_width(1.0, 0.2) > 0.95


def test_three_repeats_take_students_factor_and_the_scatter_of_a_median() -> None:
    of_mean = 1 / math.sqrt(3)
    assert estimate(number(Quantity.POWER, 89.0, 90.0, 91.0)).expanded == pytest.approx(4.303 * 1.160 * of_mean)


def test_degrees_of_freedom_between_two_lines_of_the_table_take_the_lower_one() -> None:
    assert student_factor(29) == student_factor(25) > student_factor(30)
    assert student_factor(10_000) == student_factor(100)


@pytest.mark.parametrize(
    ("one", "other", "low", "high"),
    [((56, 70), (48, 80), 0.0524, 0.3339), ((9, 10), (3, 10), 0.1705, 0.8090), ((10, 10), (0, 10), 0.6075, 1.0)],
)
def test_newcombe_against_the_figures_of_his_paper(
    one: tuple[int, int], other: tuple[int, int], low: float, high: float
) -> None:
    bounds = difference(Count(*one), Count(*other))
    assert bounds.low == pytest.approx(low, abs=1e-4)
    assert bounds.high == pytest.approx(high, abs=1e-4)


@given(values, st.floats(0, 1e6))
def test_the_value_lies_among_the_repeats_and_more_error_never_means_less_uncertainty(
    kept: list[float], error: float
) -> None:
    exact, rough = (estimate(number(Quantity.READ, *kept, error=e)) for e in (0.0, error))
    assert min(kept) <= exact.value <= max(kept)
    assert rough.expanded >= exact.expanded


@given(values, st.floats(1e-3, 1e3))
def test_units_do_not_matter(kept: list[float], factor: float) -> None:
    one = estimate(number(Quantity.READ, *kept, error=0.0))
    other = estimate(number(Quantity.READ, *(value * factor for value in kept), error=0.0))
    assert other.value == pytest.approx(one.value * factor)
    assert other.expanded == pytest.approx(one.expanded * factor, rel=1e-6, abs=1e-6 * one.value * factor)


@pytest.mark.parametrize(
    ("seen", "tries", "low", "high"),
    [(0, 3, 0.0, 0.5615), (5, 5, 0.5655, 1.0), (9, 12, 0.4677, 0.9111), (0, 0, 0.0, 1.0)],
)
def test_wilson_against_worked_figures(seen: int, tries: int, low: float, high: float) -> None:
    bounds = wilson(Count(seen, tries))
    assert bounds.low == pytest.approx(low, abs=1e-3)
    assert bounds.high == pytest.approx(high, abs=1e-3)


@given(st.integers(1, 200), st.data())
def test_wilson_holds_the_share_and_narrows_with_tries(tries: int, data: st.DataObject) -> None:
    seen = data.draw(st.integers(0, tries))
    once, often = wilson(Count(seen, tries)), wilson(Count(seen * 10, tries * 10))
    assert once.low <= seen / tries <= once.high
    assert often.high - often.low <= once.high - once.low + 1e-12
