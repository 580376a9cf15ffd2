"""The parts that sentences are written with: what each prints is read again as the same value."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.kinds.data import Rate, RateTerm
from auditra.core.claims.terms import (
    Amount,
    DateTerm,
    Flag,
    FreeWords,
    ModeTerm,
    MoneyTerm,
    Names,
    OneOf,
    SizeTerm,
    Term,
    Whole,
)
from auditra.core.claims.tokens import Words
from auditra.core.errors import ClaimError
from auditra.core.links.display import Mode
from auditra.core.links.usb import LINKS
from auditra.core.quantities.parsing import parse_quantity
from auditra.core.quantities.units import UNITS, Dimension


def read(term: Term[Any], text: str) -> Any:
    words = Words(text)
    value = term.read(words)
    words.end()
    return value


def again(term: Term[Any], value: Any) -> Any:
    return read(term, term.show(value))


@given(st.sampled_from(UNITS), st.decimals("0.001", "99999", places=3))
def test_an_amount_of_every_unit(unit: object, number: object) -> None:
    symbol, dimension = getattr(unit, "symbol", ""), getattr(unit, "dimension", Dimension.POWER)
    term = Amount(dimension, example="x")
    value = read(term, f"{number} {symbol}")
    assert again(term, value) == pytest.approx(value, rel=1e-11)
    assert term.show(again(term, value)) == term.show(value)


@given(st.tuples(*[st.integers(1, 20_000).map(lambda mm: mm / 1000)] * 3))
def test_a_size(sides: tuple[float, float, float]) -> None:
    assert again(SizeTerm(), sides) == pytest.approx(sides)


@given(st.integers(0, 10**8), st.sampled_from(["EUR", "USD", "SEK"]))
def test_money(cents: int, money: str) -> None:
    assert again(MoneyTerm(), (cents / 100, money)) == (cents / 100, money)


@given(st.dates().map(lambda day: day.isoformat()).filter(lambda day: day >= "1000"))
def test_a_day(day: str) -> None:
    assert again(DateTerm(), day) == day


@given(st.integers(640, 9999), st.integers(480, 9999), st.integers(1, 240))
def test_a_mode(width: int, height: int, refresh: int) -> None:
    mode = Mode(width, height, float(refresh))
    assert again(ModeTerm(), mode) == mode


@given(st.integers(2, 16))
def test_a_count(hosts: int) -> None:
    assert again(Whole("hosts", least=2, most=16), hosts) == hosts


@pytest.mark.parametrize("link", LINKS)
def test_a_generation_by_its_own_name(link: object) -> None:
    name = getattr(link, "name", "").removeprefix("USB 3.2 ")
    rate = read(RateTerm(), name)
    assert rate == Rate(getattr(link, "rate_bps", 0.0), name)
    assert again(RateTerm(), rate) == rate


@pytest.mark.parametrize(("written", "value"), [("UHS-1", "UHS-I"), ("UHS-II", "UHS-II")])
def test_a_choice_reads_what_people_also_write(written: str, value: str) -> None:
    assert read(OneOf("UHS-I", "UHS-II", spellings={"UHS-1": "UHS-I"}), written) == value


def test_names_end_at_a_condition_and_repeat_nobody() -> None:
    assert read(Names("laptop"), "laptop, older laptop, laptop") == ("laptop", "older laptop")
    words = Words("laptop, tablet with driver")
    assert Names("laptop").read(words) == ("laptop", "tablet")
    assert words.peek() == "with"


def test_free_words_end_where_they_are_told_to() -> None:
    words = Words("small hubs at 2026-03-01")
    assert FreeWords("hubs", until="at").read(words) == "small hubs"
    assert words.peek() == "at"
    assert Flag("hdr").show(True) == "hdr"
    assert Flag("hdr").show(False) == ""


@pytest.mark.parametrize(
    ("term", "text"),
    [
        (Amount(Dimension.POWER, example="5 W"), "0 W"), (Amount(Dimension.POWER, example="5 W"), "5 V"),
        (SizeTerm(), "10 x 20 mm"), (SizeTerm(), "0 x 10 x 20 mm"), (SizeTerm(), "10 by 20 by 30 mm"),
        (MoneyTerm(), "49 euros"), (MoneyTerm(), "cheap"), (DateTerm(), "2026-13-01"), (DateTerm(), "yesterday"),
        (Whole("hosts", least=2, most=16), "1 hosts"), (Whole("hosts", least=2, most=16), "many hosts"),
        (OneOf("up", "down"), "sideways"), (FreeWords("red"), ""), (FreeWords("red"), "x" * 81),
        (FreeWords("red"), "\x1b[31mred"), (ModeTerm(), "4K"), (RateTerm(), "USB 3.1"), (RateTerm(), "Gen 9x9"),
        (Names("laptop"), "laptop,"),
    ],
)  # fmt: skip
def test_what_does_not_fit_is_refused_at_its_column(term: Term[Any], text: str) -> None:
    with pytest.raises(ClaimError) as refused:
        read(term, text)
    assert 1 <= refused.value.column <= len(text) + 1


def test_one_value_has_one_form_whatever_it_was_typed_in() -> None:
    term = Amount(Dimension.LENGTH, example="1 m")
    for text in ("35 cm", "0.35 m", "350 mm"):
        assert term.show(read(term, text)) == "35 cm"
    assert parse_quantity("35 cm").value == 0.35
