"""Answers of instruments: what is a reading, in which unit, and how far off it may be."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import QuantityError
from auditra.core.instruments.answer import has_no_error, read_answer
from auditra.core.instruments.description import ErrorLimit, Measurand, Query
from tests.support.vectors import vectors

ANSWERS: list[dict[str, Any]] = vectors("instrument_answers")["answers"]
RANGES = {
    Measurand.VOLTAGE: (-60, 60), Measurand.CURRENT: (-12, 12), Measurand.TEMPERATURE: (-60, 250),
}  # fmt: skip


def query_of(case: dict[str, Any]) -> Query:
    measures = Measurand(case["measures"])
    lowest, highest = RANGES[measures]
    return Query(measures, "?", lowest, highest, case.get("unit", ""), case.get("cell", 1), case.get("scale", 1.0))


@pytest.mark.parametrize("case", ANSWERS, ids=lambda case: f"{case['answer']!r} {case['measures']}")
def test_each_form_is_read_or_refused_with_the_reason(case: dict[str, Any]) -> None:
    if "why" in case:
        with pytest.raises(QuantityError, match=case["why"]):
            read_answer(case["answer"], query_of(case))
    else:
        assert read_answer(case["answer"], query_of(case)).value == pytest.approx(case["value"], abs=1e-9)


VOLTS = Query(Measurand.VOLTAGE, "?", -60, 60)


@given(st.floats(-59.9, 59.9), st.sampled_from(["{:.6f}", "{:+.9e}", "{:.9E} V", "VOLT {:.6f}", '"{:.7f}"']))
def test_any_number_in_any_form_is_that_number(value: float, form: str) -> None:
    assert read_answer(form.format(value), VOLTS).value == pytest.approx(value, abs=1e-5)


@given(st.text(max_size=200))
def test_whatever_comes_is_a_number_in_range_or_refused(answer: str) -> None:
    try:
        value = read_answer(answer, VOLTS).value
    except QuantityError:
        return
    assert math.isfinite(value)
    assert -60 <= value <= 60


def test_the_error_is_that_of_the_range_the_value_is_in() -> None:
    ranges = (ErrorLimit(6.0, percent=0.05, percent_of_range=0.01, offset=0.001, resolution=0.0001),
              ErrorLimit(60.0, percent=0.1, percent_of_range=0.02, resolution=0.001))  # fmt: skip
    query = replace(VOLTS, errors=ranges)
    near, far = read_answer("5", query), read_answer("-20", query)
    assert near.error == pytest.approx(5 * 0.0005 + 6 * 0.0001 + 0.001)
    assert (near.resolution, far.resolution) == (0.0001, 0.001)
    assert far.error == pytest.approx(20 * 0.001 + 60 * 0.0002)
    assert read_answer("20", replace(VOLTS, errors=ranges[:1])).error is None  # nothing is stated so far up


@pytest.mark.parametrize(
    ("answer", "none"),
    [('0,"No error"', True), ("+0", True), ('-0,""', True), ("0", True), ('-113,"Undefined header"', False),
     ("", False), ("No error", False), ("00001", False), ("SYST:ERR 0", True)],
)  # fmt: skip
def test_an_empty_list_of_errors_is_told_by_its_number(answer: str, none: bool) -> None:
    assert has_no_error(answer) is none
