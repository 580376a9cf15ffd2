"""Facts to JSON and back, with the three states kept apart."""

from __future__ import annotations

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import JournalDamaged
from auditra.core.journal.facts import FACT_KINDS, ClaimMade, Fact, NoteWritten, ReadingTaken
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.reading import Count, Grade, Quantity, Reading, Trace
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
    Reading, words, st.sampled_from(Quantity), words, words, st.sampled_from(Grade), values=series, error=numbers,
    resolution=numbers, text=st.none() | words,
    count=st.none() | st.builds(Count, st.integers(0, 9), st.integers(0, 9)),
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
