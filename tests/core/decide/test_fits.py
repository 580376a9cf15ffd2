"""Fits through traces and pairs: a plateau, a knee, a line; each says nothing where there is nothing to say."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decide.first_order import fit_first_order
from auditra.core.decide.knee import find_knee
from auditra.core.decide.line import Pair, fit_line
from auditra.core.model.reading import Trace


def warming(tau_s: float, plateau: float, start: float, seen_s: float, points: int = 120) -> Trace:
    time_s = tuple(seen_s * n / (points - 1) for n in range(points))
    return Trace(time_s, tuple(plateau - (plateau - start) * math.exp(-t / tau_s) for t in time_s))


@given(tau=st.floats(200, 2000), plateau=st.floats(30, 80), rise=st.floats(5, 40), spans=st.floats(1.5, 6))
def test_a_curve_without_scatter_is_found_as_it_is(tau: float, plateau: float, rise: float, spans: float) -> None:
    fit = fit_first_order(warming(tau, plateau, plateau - rise, spans * tau))
    assert fit is not None
    assert fit.plateau == pytest.approx(plateau, abs=0.1)
    assert fit.tau_s == pytest.approx(tau, rel=0.02)
    assert fit.start == pytest.approx(plateau - rise, abs=0.1)


def test_steady_is_what_moves_less_than_half_a_kelvin_in_ten_minutes() -> None:
    early, late = (fit_first_order(warming(900, 50, 22, spans * 900)) for spans in (2, 6))
    assert early is not None
    assert late is not None
    assert (early.is_steady, late.is_steady) == (False, True)


def test_cooling_is_the_same_curve() -> None:
    fit = fit_first_order(warming(600, 22, 60, 1800))
    assert fit is not None
    assert fit.plateau == pytest.approx(22, abs=0.1)


@pytest.mark.parametrize("trace", [
    Trace((), ()), Trace((0.0, 1.0, 2.0), (20.0, 21.0, 22.0)), warming(3000, 90, 20, 300),
    Trace(tuple(map(float, range(20))), (float("nan"),) * 20), Trace((5.0,) * 20, (20.0,) * 20),
])  # fmt: skip
def test_a_trace_that_is_too_short_or_broken_has_no_plateau(trace: Trace) -> None:
    assert fit_first_order(trace) is None


def stepped(burst: float, steady: float, at_s: int, end_s: int) -> Trace:
    values = [burst if second < at_s else steady for second in range(end_s)]
    wander = (1.0, 1.01, 0.99)
    return Trace(tuple(map(float, range(end_s))), tuple(value * wander[n % 3] for n, value in enumerate(values)))


@given(at=st.integers(5, 50), burst=st.floats(1e8, 8e9), share=st.floats(0.05, 0.8))
def test_a_knee_is_found_where_it_is(at: int, burst: float, share: float) -> None:
    knee = find_knee(stepped(burst, burst * share, at, 60))
    assert knee is not None
    assert knee.at_s == at
    assert knee.burst == pytest.approx(burst, rel=0.02)
    assert knee.steady == pytest.approx(burst * share, rel=0.02)
    assert knee.moved == pytest.approx(burst * at, rel=0.02)


@pytest.mark.parametrize("trace", [stepped(1e9, 1e9, 30, 60), stepped(1e9, 0.9e9, 30, 60), stepped(1e9, 2e9, 30, 60),
                                   Trace((0.0, 1.0), (2.0, 1.0)), Trace((), ())])  # fmt: skip
def test_what_only_wanders_has_no_knee(trace: Trace) -> None:
    assert find_knee(trace) is None


@given(ohm=st.floats(0.01, 2), volts=st.floats(1, 48), amperes=st.lists(st.floats(0.1, 5), min_size=3, max_size=9))
def test_a_line_without_scatter_is_found_as_it_is(ohm: float, volts: float, amperes: list[float]) -> None:
    line = fit_line([Pair(x, volts - ohm * x) for x in amperes])
    if max(amperes) - min(amperes) < 0.15 * max(amperes):
        assert line is None
    else:
        assert line is not None
        assert line.slope == pytest.approx(-ohm, abs=1e-6)
        assert line.at(0) == pytest.approx(volts, abs=1e-5)


def test_the_error_of_the_meters_goes_into_the_slope() -> None:
    pairs = [Pair(x, 0.1 * x, 0.01, 0.01) for x in (0.5, 1.0, 2.0, 3.0)]
    line = fit_line(pairs)
    assert line is not None
    assert line.slope_expanded == pytest.approx(0.1 * 0.0155, rel=0.01)
    assert fit_line(pairs[:2]) is None
