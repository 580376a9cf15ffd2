"""The claim language: read, printed, refused with the place to mend."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.language import parse_claim, promise_kinds
from auditra.core.errors import ClaimError
from tests.support.vectors import vectors

VECTORS = vectors("claims")
KINDS = {"data", "no data", "gives", "takes", "charges host", "shows", "links", "cards", "length"}


def claim(sentence: str) -> str:
    return str(parse_claim(sentence, claim_id="c"))


@pytest.mark.parametrize(("sentence", "canonical"), VECTORS["canonical"])
def test_printing_is_canonical(sentence: str, canonical: str) -> None:
    assert claim(sentence) == canonical
    assert claim(canonical) == canonical


@pytest.mark.parametrize(("sentence", "column", "nearest"), VECTORS["refused"])
def test_refusal_names_the_column_and_the_nearest_word(sentence: str, column: int, nearest: str) -> None:
    with pytest.raises(ClaimError) as refused:
        parse_claim(sentence, claim_id="c")
    assert refused.value.column == column
    assert refused.value.nearest == nearest
    assert refused.value.expected


def test_every_kind_has_a_file_and_an_example_that_reads() -> None:
    assert {kind.words for kind in promise_kinds()} == KINDS
    for kind in promise_kinds():
        assert claim(f"X1 {kind.example}") == f"X1 {kind.example}"
        assert len(parse_claim(f"X1 {kind.example}", claim_id="c").promise.brief) <= 11


@given(st.sampled_from(["data", "links"]), st.integers(1, 80_000))
def test_rates_read_what_they_print(kind: str, megabits: int) -> None:
    first = claim(f"A1 {kind} {megabits} Mb/s")
    assert claim(first) == first


@given(st.sampled_from(["gives", "takes", "charges host"]), st.decimals("0.5", "240", places=2))
def test_watts_read_what_they_print(kind: str, watts: object) -> None:
    first = parse_claim(f"C1 {kind} {watts} W", claim_id="c")
    assert parse_claim(str(first), claim_id="c") == first


@given(st.integers(1, 50_000))
def test_lengths_read_what_they_print(millimetres: int) -> None:
    first = parse_claim(f"UP length {millimetres} mm", claim_id="c")
    again = parse_claim(str(first), claim_id="c")
    assert str(again) == str(first)


@given(st.text(max_size=400))
def test_any_text_is_read_or_refused_with_our_error(text: str) -> None:
    try:
        parse_claim(text, claim_id="c")
    except ClaimError as error:
        assert 1 <= error.column <= len(text) + 1


@given(st.sampled_from([pair[0] for pair in VECTORS["canonical"]]), st.data())
def test_a_damaged_sentence_is_read_or_refused_with_our_error(sentence: str, data: st.DataObject) -> None:
    at = data.draw(st.integers(0, len(sentence) - 1))
    damaged = sentence[:at] + data.draw(st.characters()) + sentence[at + 1 :]
    try:
        parse_claim(damaged, claim_id="c")
    except ClaimError as error:
        assert error.why
