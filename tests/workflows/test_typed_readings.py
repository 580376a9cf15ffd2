"""Typed readings: any quantity, units, repeats, counts; the witness makes the grade; a slip is asked about once."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.errors import InputError, QuantityError
from auditra.core.journal.facts import ReadingTaken, RemarkAnswered, TrialBegun, TrialEnded
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Count, Grade, Number, Quantity, Trace, Words, YesNo
from auditra.core.model.rig import Accuracy, Meter
from auditra.workflows.audits.typed_readings import Doubtful, TypedReading, facts_of_reading, reading_of
from auditra.workflows.trials.run import trial_of
from tests.support.audits import audit_of, galley, planned

_METER = Meter("pen", "pen meter", "usb-c", accuracy=(Accuracy("voltage", error_percent=1.0, resolution=0.01),))
AUDIT = audit_of("A1 data 5 Gb/s", "UP charges host 60 W", rig=replace(galley(), meters=(*galley().meters, _METER)))
TRIAL = trial_of(planned(AUDIT, "A1/storage"), AUDIT, "live bench")


def typed(
    quantity: str, text: str, witness: str = "another screen", *, behind: str = "", end: str = ""
) -> TypedReading:
    return TypedReading(quantity, "A1", text, witness, behind=behind, end=end)


@pytest.mark.parametrize(
    ("quantity", "text", "value", "resolution", "unit"),
    [
        ("power", "64.1 W; 63.9 W; 64 W", Number((64.1, 63.9, 64.0)), 1.0, ""),
        ("write rate", "431 MB/s", Number((431e6 * 8,)), 8e6, ""),
        ("voltage", "4,82 V", Number((4.82,)), 0.01, ""),
        ("battery", "35 %", Number((35.0,)), 1.0, ""),
        ("display mode", "3840x2160@60", Words("3840x2160@60"), 0.0, ""),
        ("appeared", "7 of 10", Count(7, 10), 0.0, ""),
        ("hdr", "yes", YesNo(True), 0.0, ""),
        ("fan pitch", "440 Hz", Number((440.0,)), 1.0, "Hz"),
        ("colour of the lamp", "amber", Words("amber"), 0.0, ""),
        ("charging sign", "no", YesNo(False), 0.0, ""),
    ],
)
def test_values_of_any_quantity_are_read(quantity: str, text: str, value: object, resolution: float, unit: str) -> None:
    reading = reading_of(AUDIT, "T1", typed(quantity, text))
    assert reading.value == value
    assert reading.resolution == pytest.approx(resolution)
    assert (reading.unit, reading.typed) == (unit, text)


def test_values_over_time_are_a_trace_of_which_the_hottest_or_the_last_counts() -> None:
    warm = reading_of(AUDIT, "T1", typed("case temperature", "5 min: 24.1 C; 15 min: 41.5 C; 25 min: 40 C"))
    assert warm.trace == Trace((0.0, 600.0, 1200.0), (24.1, 41.5, 40.0))
    assert warm.values == (41.5,)
    battery = reading_of(AUDIT, "T1", typed("battery", "0 min: 35 %; 30 min: 33 %"))
    assert battery.values == (33.0,)
    with pytest.raises(InputError, match="grow"):
        reading_of(AUDIT, "T1", typed("battery", "10 min: 35 %; 5 min: 33 %"))


@pytest.mark.parametrize(
    ("witness", "grade", "error"),
    [
        ("pen meter", Grade.READ, 0.04825 + 0.005), ("pen", Grade.READ, 0.04825 + 0.005),
        ("thermometer", Grade.TYPED, 0.0),
        ("another screen", Grade.TYPED, 0.0), ("the host's screen", Grade.TYPED, 0.0),
        ("the eye", Grade.SEEN, 0.0), ("a person's report", Grade.TOLD, 0.0),
    ],
)  # fmt: skip
def test_the_grade_is_that_of_the_witness(witness: str, grade: Grade, error: float) -> None:
    reading = reading_of(AUDIT, "T1", typed("voltage", "4.825 V", witness, behind="0.9 A", end="far"))
    assert reading.grade is grade
    assert reading.error == pytest.approx(error)
    assert (reading.behind_a, reading.end) == (0.9, "far")


def test_a_sign_is_never_worth_more_than_what_is_seen() -> None:
    assert reading_of(AUDIT, "T1", typed("charging sign", "yes", "the host's screen")).grade is Grade.SEEN
    assert reading_of(AUDIT, "T1", typed("charging sign", "yes", "a person's report")).grade is Grade.TOLD


@pytest.mark.parametrize(
    ("reading", "error"),
    [
        (typed("power", "64"), QuantityError), (typed("power", ""), InputError), (typed("power", "5 V"), QuantityError),
        (typed("", "5 V"), InputError), (typed("voltage", "5 V", "a crystal ball"), InputError),
        (typed("appeared", "9 of 3"), InputError), (typed("voltage", "5 V", end="middle"), InputError),
        (typed("fan\x1b[2J", "5 V"), InputError), (typed("voltage", "5 V", behind="much"), QuantityError),
        (typed("power", ";".join(["1 W"] * 101)), QuantityError),
    ],
)  # fmt: skip
def test_what_is_no_value_is_refused(reading: TypedReading, error: type[Exception]) -> None:
    with pytest.raises(error):
        reading_of(AUDIT, "T1", reading)


def test_a_reading_of_a_new_trial_begins_and_ends_it() -> None:
    facts = facts_of_reading(AUDIT, TRIAL, typed("read rate", "440 MB/s"), is_new=True, confirmed=False)
    assert [type(fact) for fact in facts] == [TrialBegun, ReadingTaken, TrialEnded]
    later = facts_of_reading(AUDIT, TRIAL, typed("read rate", "440 MB/s"), is_new=False, confirmed=False)
    assert [type(fact) for fact in later] == [ReadingTaken]


def test_a_value_that_looks_like_a_slip_is_asked_about_and_recorded_once_it_is_confirmed() -> None:
    slip = typed("read rate", "440 Mb/s")
    with pytest.raises(Doubtful) as asked:
        facts_of_reading(AUDIT, TRIAL, slip, is_new=False, confirmed=False)
    assert asked.value.why
    taken, answer = facts_of_reading(AUDIT, TRIAL, slip, is_new=False, confirmed=True)
    assert isinstance(taken, ReadingTaken)
    assert isinstance(answer, RemarkAnswered)
    assert taken.reading.quantity is Quantity.READ
    assert reading_of(AUDIT, "T1", typed("voltage", "5 V")).behind_a is NOT_NOTED
