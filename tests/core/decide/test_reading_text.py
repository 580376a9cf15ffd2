"""Readings in words: the same on every screen and on paper."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.decide.reading_text import reading_in_words
from auditra.core.model.reading import Quantity, Reading, Words
from tests.support.audits import appeared, number

TOLD = [
    (number(Quantity.WRITE, 3.66e9, error=6e6), "457.5 ± 0.7 MB/s"),
    (number(Quantity.SEND, 928.3e6, error=1e6), "928.3 ± 0.9 Mb/s"),
    (number(Quantity.RECEIVE, 2.341e9, error=0.0), "2.341 ± 0.000 Gb/s"),
    (number(Quantity.LINK, 480e6), "480 Mb/s"),
    (number(Quantity.POWER, 93.66, error=0.33), "93.7 ± 0.3 W"),
    (number(Quantity.LENGTH, 0.151, error=0.0), "15.10 ± 0.00 cm"),
    (number(Quantity.LENGTH, 1.2, error=0.0), "1.200 ± 0.000 m"),
    (number(Quantity.CASE_TEMPERATURE, 31.24, error=1.0), "31.2 ± 0.9 C"),
    (number(Quantity.WRONG_BYTES, 2.0, 1.0), "3"),
    (appeared("A1", 9, 12), "9 of 12"),
    (replace(appeared("H1", 1, 1), value=Words("3840x2160@30")), "3840x2160@30"),
]


@pytest.mark.parametrize(("reading", "words"), TOLD)
def test_a_reading_is_told_with_its_unit_and_uncertainty(reading: Reading, words: str) -> None:
    assert reading_in_words(reading) == words


@pytest.mark.parametrize("quantity", Quantity)
def test_every_quantity_with_a_number_can_be_told(quantity: Quantity) -> None:
    assert reading_in_words(number(quantity, 1.0))
    assert isinstance(quantity.unit, str)
