"""What people type becomes SI, and back."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import QuantityError
from auditra.core.quantities.display import Format, bit_rate, byte_rate, length
from auditra.core.quantities.parsing import both_forms, parse_quantity, plain_quantity
from auditra.core.quantities.units import UNITS, Unit
from tests.support.vectors import vectors

VECTORS = vectors("quantities")


@pytest.mark.parametrize(("text", "value"), VECTORS["read"])
def test_reads_what_people_type(text: str, value: float) -> None:
    assert parse_quantity(text).value == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize("text", VECTORS["refused"])
def test_refuses_what_has_no_number_or_no_known_unit(text: str) -> None:
    with pytest.raises(QuantityError):
        parse_quantity(text)


def test_a_bit_is_not_a_byte() -> None:
    assert parse_quantity("1 GB/s").value == 8 * parse_quantity("1 Gb/s").value


@given(st.decimals(min_value="0.001", max_value="99999", places=3), st.sampled_from(UNITS))
def test_what_is_printed_is_read_again(number: object, unit: object) -> None:
    symbol = getattr(unit, "symbol", "")
    first = parse_quantity(f"{number} {symbol}")
    assert parse_quantity(str(first)) == first


@given(st.text(max_size=40))
def test_any_text_gives_a_value_or_our_error(text: str) -> None:
    try:
        parse_quantity(text)
    except QuantityError as error:
        assert str(error).endswith((".", "?"))


@pytest.mark.parametrize(("text", "forms"), VECTORS["both forms"])
def test_both_forms_are_shown_with_the_sum_where_there_is_one(text: str, forms: str) -> None:
    assert both_forms(parse_quantity(text)) == forms


def test_one_length_has_one_value_however_it_is_written() -> None:
    assert parse_quantity("35 cm").value == parse_quantity("0.35 m").value == parse_quantity("350 mm").value


@given(st.floats())
def test_nothing_without_end_and_nothing_below_nothing_gets_in(number: float) -> None:
    for text in (f"{number} W", f"{number!r} Gb/s", f"{number:f} V"):
        try:
            value = parse_quantity(text).value
        except QuantityError:
            continue
        assert 0 <= value < math.inf


def test_rates_are_told_in_their_own_unit() -> None:
    assert (bit_rate(4.51e9), byte_rate(3.6e9), length(0.15)) == ("4.51 Gb/s", "450 MB/s", "15 cm")


def test_a_value_and_its_uncertainty_share_a_unit() -> None:
    assert Format("MB/s", 8e6, 1).pair(3.66e9, 4e6) == "457.5 ± 0.5 MB/s"


@given(st.sampled_from(UNITS), st.decimals("0", "99999", places=2), st.text(max_size=4))
def test_the_quick_way_reads_as_the_careful_one_does_or_leaves_it(unit: Unit, number: object, noise: str) -> None:
    for text in (str(number), f"{number}{noise}"):
        quick = plain_quantity(text, unit.symbol, (unit.dimension,))
        if quick is not None:
            assert quick == parse_quantity(f"{text} {unit.symbol}", unit.dimension)
    assert plain_quantity(str(number), unit.symbol, ()) is None
