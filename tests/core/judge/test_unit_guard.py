"""The unit guard questions slips of unit and place, and lets plain values be."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Scale
from auditra.core.judge.unit_guard import question_range, question_value, question_words, questions_of
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from tests.support.audits import audit_of, judged, number, with_trial


def scale_of(sentence: str) -> Scale:
    scale = parse_claim(sentence, claim_id="c").promise.scale()
    assert scale is not None
    return scale


NETWORK, DATA, LENGTH = map(scale_of, ("N1 links 1 Gb/s", "A1 data 5 Gb/s", "UP length 15 cm"))


@pytest.mark.parametrize(
    ("value", "scale", "slip"),
    [
        (117.5e6, NETWORK, "x 8"), (7.5e9, NETWORK, "/ 8"), (94.1e6, NETWORK, "x 10"), (0.0591, LENGTH, "x 2.54"),
        (15.0, LENGTH, "/ 100"), (440e6, DATA, "x 8"), (941.0e3, NETWORK, "x 1000"),
    ],
)  # fmt: skip
def test_a_slip_is_named_with_its_factor(value: float, scale: Scale, slip: str) -> None:
    assert slip in question_value(value, scale, "this")


@pytest.mark.parametrize(("value", "scale"), [(941e6, NETWORK), (890e6, NETWORK), (457 * 8e6, DATA), (0.149, LENGTH)])
def test_what_is_near_the_promise_is_not_questioned(value: float, scale: Scale) -> None:
    assert question_value(value, scale, "this") == ""


def test_more_than_the_link_carries_is_questioned_with_the_ratio() -> None:
    assert "1.50 times" in question_value(600e6, NETWORK, "this", link_ceiling=400e6)


@given(st.floats(0, 1e12, allow_nan=False))
def test_any_value_is_questioned_or_not_and_never_changed(value: float) -> None:
    assert isinstance(question_value(value, NETWORK, "this"), str)


def test_questions_stand_in_the_judgement_for_typed_values_and_not_for_measured_ones() -> None:
    audit = audit_of("N1 links 1 Gb/s")
    for grade, count in ((Grade.TYPED, 1), (Grade.MEASURED, 0)):
        taken = with_trial(audit, "N1/network", number(Quantity.SEND, 117.5e6, at="N1", grade=grade))
        assert len(judged(taken).questions) == count


@pytest.mark.parametrize(
    ("quantity", "value", "odd"),
    [
        (Quantity.LENGTH, 15.0, False), (Quantity.LENGTH, 150.0, True), (Quantity.LENGTH, 0.001, True),
        (Quantity.CASE_TEMPERATURE, 45.0, False), (Quantity.CASE_TEMPERATURE, 318.0, True),
        (Quantity.POWER, 240.0, False), (Quantity.POWER, 2400.0, True), (Quantity.MASS, 0.09, False),
        (Quantity.MASS, 95.0, True), (Quantity.LATENCY, 1e9, False),
    ],
)  # fmt: skip
def test_what_such_things_do_not_have_is_questioned_with_what_they_have(
    quantity: Quantity, value: float, odd: bool
) -> None:
    words = question_range(quantity, value, f"{value:g}")
    assert bool(words) is odd
    assert not odd or words.endswith("?")


def test_a_question_stays_until_somebody_says_that_it_is_meant_so() -> None:
    audit = audit_of("A1 gives 4.5 W", "body below 45 C")
    hot = Reading("T", Quantity.CASE_TEMPERATURE, "body", "another screen", Grade.TYPED, Number((318.0,)))
    tried = with_trial(audit, "body/look", hot)
    tried = replace(
        tried, trials=tuple(replace(each, trial=replace(each.trial, bench=NOT_NOTED)) for each in tried.trials)
    )
    (question,) = questions_of(tried)
    assert "another unit?" in question.words.lower()
    assert questions_of(replace(tried, answers={question.key: "a kiln"})) == ()


@pytest.mark.parametrize(
    ("note", "value", "asked"),
    [
        ("about half of it", 0.1e9, "half"), ("half the promise", 0.47e9, ""), ("a tenth", 0.095e9, ""),
        ("twice as fast", 0.9e9, "twice"), ("a good value", 0.1e9, ""), ("halfway through the film", 0.1e9, ""),
    ],
)  # fmt: skip
def test_words_that_do_not_fit_the_figure_are_questioned(note: str, value: float, asked: str) -> None:
    words = question_words(note, value, {"what is promised": 1e9})
    assert (asked in words) if asked else words == ""


def test_a_word_may_be_meant_of_the_same_gear_direct() -> None:
    assert question_words("half", 0.2e9, {"what is promised": 1e9, "the same direct": 0.4e9}) == ""
    assert "0.9 of the same direct" in question_words("half", 0.36e9, {"the same direct": 0.4e9})


def test_a_note_beside_a_typed_value_is_compared_with_it() -> None:
    reading = replace(number(Quantity.SEND, 0.62e9, at="N1", grade=Grade.TYPED), note="a tenth of what it says")
    taken = with_trial(audit_of("N1 links 1 Gb/s"), "N1/network", reading)
    assert "a tenth" in judged(taken).questions[0].words
