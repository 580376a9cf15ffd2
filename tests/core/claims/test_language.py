"""The claim language: read, printed, refused with the place to mend."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.completion import complete
from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.language import parse_claim, promise_kinds, split_claims
from auditra.core.errors import ClaimError
from tests.support.audits import HUB, galley
from tests.support.vectors import vectors

VECTORS = vectors("claims")
KINDS = tuple(kind.words for kind in promise_kinds())


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
    assert len(set(KINDS)) == len(KINDS) >= 46
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


@pytest.mark.parametrize(("sentence", "claims"), VECTORS["split"])
def test_a_sentence_with_several_promises_is_several_claims(sentence: str, claims: list[str]) -> None:
    assert list(split_claims(sentence)) == claims
    for each in claims:
        assert claim(each) == each


@pytest.mark.parametrize(("text", "kept", "offer"), VECTORS["completed"])
def test_what_may_be_typed_next(text: str, kept: str, offer: str) -> None:
    typed = complete(text, HUB, galley())
    assert typed.keep == kept
    assert offer in typed.offers
    assert parse_started(typed.with_offer(offer))


def parse_started(text: str) -> bool:
    """Whether a text can be read, or can be read on at its end."""
    try:
        split_claims(text)
    except ClaimError as error:
        return error.column > len(text.rstrip())
    return True


def test_figures_are_shown_both_ways_while_they_are_typed() -> None:
    assert complete("C1 gives 20 V 3.25 A", HUB).forms == ("20 V x 3.25 A = 65 W",)
    assert complete("A1 data 5 Gb/s", HUB).forms == ("5 Gb/s = 625 MB/s",)


@pytest.mark.parametrize(("sentence", "problem"), VECTORS["no sense"])
def test_claims_that_no_trial_could_settle_are_told_why(sentence: str, problem: str) -> None:
    (told,) = problems_of(parse_claim(sentence, claim_id="c"), HUB)
    assert problem in told


AMOUNTS = {
    "W": st.decimals("0.5", "240", places=1), "Gb/s": st.decimals("0.1", "80", places=3), "MB/s": st.integers(1, 9999),
    "cm": st.integers(1, 900), "B": st.integers(576, 65535), "g": st.integers(1, 9000),
}  # fmt: skip
FIGURES = st.sampled_from(
    [("gives", "W"), ("takes", "W"), ("passes", "W"), ("data", "Gb/s"), ("links", "Gb/s"), ("reads", "MB/s"),
     ("writes", "MB/s"), ("cards", "MB/s"), ("length", "cm"), ("frames", "B"), ("weighs", "g")]
)  # fmt: skip
SUBJECTS = st.sampled_from(["A1", "A1+A2", "H1|D1", "body", "far:C1"])
CONDITIONS = st.lists(
    st.sampled_from(
        ["while C2 gives 18 W", "while H1+H2 show 3840x2160@60 each", "without others", "on laptop", "with a supply"]
    ),
    max_size=3,
)


@st.composite
def sentences(draw: st.DrawFn) -> str:
    """A sentence of the language, with hedge, group and conditions."""
    kind, unit = draw(FIGURES)
    hedge = draw(st.sampled_from(["", "up to ", "about ", "at least "]))
    conditions = " ".join(draw(CONDITIONS))
    return f"{draw(SUBJECTS)} {kind} {hedge}{draw(AMOUNTS[unit])} {unit} {conditions}".strip()


@given(sentences())
def test_printing_then_reading_is_the_identity(sentence: str) -> None:
    first = parse_claim(sentence, claim_id="c")
    assert parse_claim(str(first), claim_id="c") == first
    assert complete(str(first), HUB).claims


@given(st.sampled_from([f"X1 {kind.example}" for kind in promise_kinds()]), st.data())
def test_a_damaged_sentence_is_read_or_refused_and_completed_without_a_fault(
    sentence: str, data: st.DataObject
) -> None:
    at = data.draw(st.integers(0, len(sentence)))
    damaged = sentence[:at] + data.draw(st.text(max_size=3)) + sentence[at + data.draw(st.integers(0, 2)) :]
    complete(damaged, HUB, galley())
    try:
        for each in split_claims(damaged):
            assert claim(each) == each
    except ClaimError as error:
        assert error.expected
