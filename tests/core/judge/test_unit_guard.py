"""The unit guard questions slips of unit and place, and lets plain values be."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Scale
from auditra.core.judge.slips import question_range, question_time, question_value, question_words
from auditra.core.judge.unit_guard import questions_of
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from tests.support.audits import audit_of, judged, number, with_trial


def scale_of(sentence: str) -> Scale:
    scale = parse_claim(sentence, claim_id="c").promise.scale()
    assert scale is not None
    return scale


def asked(sentence: str, quantity: Quantity, value: float, link_bps: float | None = None) -> str:
    return question_value(quantity, value, scale_of(sentence), "this", link_bps)


NETWORK, DATA = "N1 links 1 Gb/s", "A1 data 5 Gb/s"
SEND, WRITE, LENGTH, CAPACITY = Quantity.SEND, Quantity.WRITE, Quantity.LENGTH, Quantity.CAPACITY


@pytest.mark.parametrize(
    ("sentence", "quantity", "value", "slip"),
    [
        (NETWORK, SEND, 117.5e6, "x 8"), (NETWORK, SEND, 7.5e9, "/ 8"), (NETWORK, SEND, 941.0e3, "x 1000"),
        (DATA, WRITE, 457e6, "x 8"), (DATA, WRITE, 457 * 64e6, "/ 8"),
        ("UP length 15 cm", LENGTH, 0.0591, "x 2.54"), ("UP length 15 cm", LENGTH, 0.381, "/ 2.54"),
        ("UP length 15 cm", LENGTH, 1.5, "/ 10"), ("UP length 1.5 m", LENGTH, 0.0492, "x 30.48"),
        ("body weighs 95 g", Quantity.MASS, 0.95, "/ 10"), ("D0 stores 1 TB", CAPACITY, 931.3e9, "GiB"),
        ("D0 stores 1 TB", CAPACITY, 909.5e9, "TiB"), ("A1 reads 500 MB/s", Quantity.READ, 476.8 * 8e6, "MiB"),
        ("body below 45 C", Quantity.CASE_TEMPERATURE, 104.0, "F for C"),
        ("P1 takes 90 W", Quantity.POWER, 9.1, "x 10"),
    ],
)  # fmt: skip
def test_a_slip_is_named_with_its_factor(sentence: str, quantity: Quantity, value: float, slip: str) -> None:
    assert slip in asked(sentence, quantity, value)


@pytest.mark.parametrize(
    ("sentence", "quantity", "value"),
    [
        (NETWORK, SEND, 941e6), (NETWORK, SEND, 890e6), (DATA, WRITE, 457 * 8e6), ("UP length 15 cm", LENGTH, 0.149),
        # what a slower link gives is no slip, however well a factor fits
        (NETWORK, SEND, 94.1e6), (NETWORK, SEND, 9.4e6), (DATA, WRITE, 41 * 8e6), (DATA, WRITE, 36 * 8e6),
        ("A1 data 10 Gb/s", WRITE, 457 * 8e6), ("A1 data 10 Gb/s", WRITE, 120 * 8e6),
        # a floor that the seller did not state is no figure to be just short of
        (DATA, WRITE, 410 * 8e6), (DATA, WRITE, 406 * 8e6), (NETWORK, SEND, 850e6),
        # below a limit is where one wants to be
        ("body uses 11 W", Quantity.OWN_USE, 1.1), ("body switches in 2 s", Quantity.TIME_TO_SWITCH, 0.2),
        ("body below 45 C", Quantity.CASE_TEMPERATURE, 38.0), ("body below 45 C", Quantity.CASE_TEMPERATURE, 58.0),
        ("P1 takes 90 W", Quantity.POWER, 60.1), ("A1 gives 4.5 W", Quantity.POWER, 2.4),
        ("D0 stores 1 TB", CAPACITY, 1000.2e9), ("body weighs 95 g", Quantity.MASS, 0.130),
    ],
)  # fmt: skip
def test_what_such_things_have_is_not_questioned(sentence: str, quantity: Quantity, value: float) -> None:
    assert asked(sentence, quantity, value) == ""


@given(st.sampled_from((2.54, 30.48, 10.0)), st.booleans())
def test_no_rate_is_read_in_inches_or_by_its_decimal_point(factor: float, more: bool) -> None:
    words = asked(DATA, WRITE, 457 * 8e6 * (factor if more else 1 / factor))
    assert "inches" not in words
    assert "feet" not in words
    assert "decimal" not in words


def test_more_than_the_link_carries_as_payload_is_questioned_with_the_sum() -> None:
    words = asked("A1 data 5 Gb/s", WRITE, 480 * 8e6, 480e6)
    assert "9.01 times what the negotiated link carries" in words
    assert "480 Mb/s less its coding (13 bulk packets of 512 B a microframe)" in words
    assert asked("N1 links 1 Gb/s", SEND, 985e6, 1e9) == ""  # frames of 9,000 B
    assert "TCP over 1 Gb/s" in asked("N1 links 1 Gb/s", SEND, 995e6, 1e9)


@pytest.mark.parametrize(
    ("note", "mb", "odd"),
    [
        ("4 GB in 9.1 s", 440, False), ("4 GB in 9.1 s", 55, True), ("20 GB took 2 min", 166, False),
        ("20 GB took 2 min", 16.6, True), ("a large file", 55, False), ("4.3 GiB in 10 s", 461, False),
    ],
)  # fmt: skip
def test_size_and_seconds_of_a_note_are_held_against_the_rate(note: str, mb: float, odd: bool) -> None:
    assert bool(question_time(note, None, WRITE, mb * 8e6)) is odd


def test_the_file_of_the_set_up_and_the_seconds_of_a_note_are_size_and_time_too() -> None:
    assert question_time("in 9.1 s", 4e9, WRITE, 440 * 8e6) == ""
    assert "MB in 9.1 s" in question_time("in 9.1 s", 4e9, WRITE, 44 * 8e6)
    assert question_time("rose for 3 s and fell", 4e9, WRITE, 44 * 8e6) == ""


@given(st.floats(0, 1e12, allow_nan=False), st.sampled_from(list(Quantity)))
def test_any_value_is_questioned_or_not_and_never_changed(value: float, quantity: Quantity) -> None:
    assert isinstance(asked(NETWORK, quantity, value), str)


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
