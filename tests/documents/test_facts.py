"""Facts to JSON and back, with the three states kept apart."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import JournalDamaged
from auditra.core.journal.facts import FACT_KINDS, ClaimMade, Fact, NoteWritten, ReadingTaken
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Trace, Value, Words, YesNo
from auditra.core.model.source import Source
from auditra.documents.facts import Encoded, decode_fact, encode_fact
from auditra.store.demos import DEMOS
from tests.support.audits import audit_of, facts_of_trial, rates

words = st.text(max_size=30)
noted = st.sampled_from([NOT_NOTED, None]) | words
numbers = st.floats(allow_nan=False, allow_infinity=False)
series = st.lists(numbers, max_size=4).map(tuple)


def trace_of(samples: list[tuple[float, float]]) -> Trace:
    return Trace(tuple(time_s for time_s, _ in samples), tuple(value for _, value in samples))


readings = st.builds(
    Reading, words, st.sampled_from(Quantity), words, words, st.sampled_from(Grade),
    st.one_of(
        st.builds(Number, series), st.builds(Count, st.integers(0, 9), st.integers(0, 9)), st.builds(Words, words),
        st.builds(YesNo, st.booleans()),
    ),
    error=numbers, resolution=numbers,
    trace=st.none() | st.lists(st.tuples(numbers, numbers), max_size=4).map(trace_of), note=words,
)  # fmt: skip
facts = st.one_of(
    readings.map(ReadingTaken),
    st.builds(NoteWritten, words, st.none() | words),
    st.builds(ClaimMade, words, words, st.builds(Source, noted, noted, noted)),
)


def again(fact: Fact) -> Fact:
    return decode_fact(encode_fact(fact), where=lambda: "here")


@given(facts)
def test_decoding_what_was_encoded_is_the_identity(fact: Fact) -> None:
    assert again(fact) == fact


@pytest.mark.parametrize("fact", DEMOS[0].facts())
def test_every_fact_of_the_demo_survives(fact: Fact) -> None:
    assert again(fact) == fact


@pytest.mark.parametrize("fact", facts_of_trial(audit_of("A1 data 5 Gb/s"), "A1/", *rates("A1", 450)))
def test_every_fact_of_a_trial_survives(fact: Fact) -> None:
    assert again(fact) == fact


def test_not_noted_is_left_out_and_none_is_null() -> None:
    body = encode_fact(ClaimMade("c", "A1 no data", Source(kind=None, quoted="power only"))).body
    assert json.loads(body)["source"] == {"kind": None, "quoted": "power only"}


@given(st.sampled_from(sorted(FACT_KINDS)), st.text(max_size=60) | st.just("{}") | st.just("[1]"))
def test_damaged_facts_are_told_as_such(kind: str, body: str) -> None:
    with pytest.raises(JournalDamaged, match="here"):
        decode_fact(Encoded(kind, body), where=lambda: "here")


def test_an_unknown_kind_of_fact_is_never_dropped_in_silence() -> None:
    with pytest.raises(JournalDamaged, match='unknown kind of fact "prophecy"'):
        decode_fact(Encoded("prophecy", "{}"), where=lambda: "here")


def test_each_sort_of_value_has_its_key_and_an_older_body_with_several_is_read_by_the_first() -> None:
    def body(value: Value) -> dict[str, object]:
        fact = ReadingTaken(Reading("T1", Quantity.POWER, "A1", "load", Grade.MEASURED, value))
        written: dict[str, object] = json.loads(encode_fact(fact).body)["reading"]
        return {key: value for key, value in written.items() if key in ("values", "count", "text", "yes")}

    assert body(Number((4.5, 4.6))) == {"values": [4.5, 4.6]}
    assert body(Count(2, 3)) == {"count": {"seen": 2, "tries": 3}}
    assert body(Words("5 V 3 A")) == {"text": "5 V 3 A"}
    assert body(YesNo(False)) == {"yes": False}
    plain = {"trial": "T1", "quantity": "power", "at": "A1", "instrument": "load", "grade": 5}
    older = Encoded("reading", json.dumps({"reading": plain | {"text": "about 4", "yes": True}}))
    read = decode_fact(older, where=lambda: "here")
    assert isinstance(read, ReadingTaken)
    assert read.reading.value == Words("about 4")
