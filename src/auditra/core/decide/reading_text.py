"""Readings in words, the same on every screen and on paper."""

from __future__ import annotations

from auditra.core.decide.estimates import estimate
from auditra.core.model.reading import Quantity, Reading
from auditra.core.quantities.display import Format, bit_rate, format_for
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import sanitize


def reading_in_words(reading: Reading) -> str:
    """The value of a reading, with its uncertainty where it has one."""
    if reading.count is not None:
        return f"{reading.count.seen} of {reading.count.tries}"
    if reading.text is not None:
        return reading.text
    if reading.yes is not None:
        return "yes" if reading.yes else "no"
    if reading.quantity is Quantity.LINK and reading.values:
        return bit_rate(min(reading.values))
    if reading.quantity is Quantity.WRONG_BYTES:
        return f"{sum(reading.values):.0f}"
    if not reading.values:
        return "no value"
    value = estimate(reading)
    return format_of(reading, value.value).pair(value.value, value.expanded)


def with_what_was_typed(reading: Reading) -> str:
    """The value in words, and behind it what a person typed, where that reads otherwise."""
    words = reading_in_words(reading)
    return f"{words} (typed: {sanitize(reading.typed, 40)})" if reading.typed else words


def format_of(reading: Reading, near: float) -> Format:
    """How values of a reading's quantity are shown: by its dimension alone, wherever that is."""
    if reading.quantity in (Quantity.WRITE, Quantity.READ):
        return format_for(Dimension.BYTE_RATE, near)
    if reading.si_unit in _DIMENSIONS:
        return format_for(Dimension(reading.si_unit), near)
    return Format(reading.si_unit, 1.0, 1)


_DIMENSIONS = frozenset(Dimension)
