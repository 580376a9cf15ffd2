"""Reads what people type into SI: one reader for the whole product.

A bare number is refused, and so is everything that is no quantity of this world:
a negative value, not a number, without end. Binary sizes and rates, feet with inches, volts with amperes, and a size
with the time that it took are read too, and the sum is kept beside the value.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from decimal import Decimal

from auditra.core.errors import QuantityError
from auditra.core.quantities.display import (
    BINARY_SIZE_PREFIXES,
    SIGNIFICANT_DIGITS,
    SIZE_PREFIXES,
    bit_rate,
    byte_rate,
    length,
    plain_number,
    with_prefix,
)
from auditra.core.quantities.units import Dimension, Unit, find_unit, unit_symbols

_NUMBER = r"[+-]?\d{1,15}(?:[.,]\d{1,400})?|[+-]?\d{1,3}(?: \d{3}){1,4}(?:[.,]\d{1,15})?"
_SYMBOL = r"[A-Za-z%°\u2103\u03a9\u2126'\"\u2032\u2033]{1,10}(?:/[A-Za-z]{1,2})?"
_ONE = rf"({_NUMBER})\s*({_SYMBOL})"
_QUANTITY = re.compile(rf"\s*({_NUMBER})\s*({_SYMBOL})?\s*")
_TWO = re.compile(rf"\s*{_ONE}\s*(?:[x×*/,]\s*)?{_ONE}\s*")
_OVER_TIME = re.compile(rf"\s*{_ONE}\s+in\s+{_ONE}\s*")
_THOUSANDS_OR_TENTHS = re.compile(r"[+-]?[1-9]\d{0,2}[.,]\d{3}")
_PLAIN = re.compile(r"[0-9]{1,12}(?:\.[0-9]{1,12})?")
_MAY_BE_NEGATIVE = (Dimension.TEMPERATURE,)


@dataclass(frozen=True)
class Quantity:
    """A value in SI (bits per second for both kinds of rate) and the unit it was written in.

    `sum` is the arithmetic where the value was worked out of two, such as ``20 V x 3.25 A = 65 W``.
    """

    value: float
    unit: Unit
    sum: str = field(default="", compare=False)

    def __str__(self) -> str:
        return f"{plain_number(self.value / self.unit.in_si)} {self.unit.symbol}"


def parse_quantity(text: str, *dimensions: Dimension) -> Quantity:
    """The value that a person typed: ``5 Gb/s``, ``95MB/s``, ``0,8 ft``, ``20 V 3.25 A``, ``4 GiB in 10 s``.

    Raises: QuantityError when there is no number, no unit, an unknown unit, or one of another dimension.
    """
    match = _QUANTITY.fullmatch(text)
    if match is None:
        worked = _worked_out(text)
        if worked is None:
            raise _refuse(text, "this is not a number with a unit", dimensions)
        if dimensions and worked.unit.dimension not in dimensions:
            raise _refuse(text, f"this is {worked}, which has another unit than expected", dimensions)
        return worked
    number, symbol = match.groups()
    if symbol is None:
        raise _refuse(text, "the unit is missing", dimensions)
    unit = find_unit(symbol)
    if unit is None or (dimensions and unit.dimension not in dimensions):
        raise _refuse(text, f'unknown unit "{symbol}" here', dimensions)
    return Quantity(_in_si(number, unit, text), unit)


def plain_quantity(number: str, symbol: str, dimensions: tuple[Dimension, ...]) -> Quantity | None:
    """The value of a plain number and a unit that stand apart already, quickly; None for anything less plain."""
    unit = find_unit(symbol)
    if unit is None or unit.dimension not in dimensions or not _PLAIN.fullmatch(number):
        return None
    return Quantity(float(Decimal(number) * unit.exactly), unit)


def _refuse(text: str, why: str, dimensions: tuple[Dimension, ...]) -> QuantityError:
    allowed = " or ".join(symbol for each in dimensions for symbol in unit_symbols(each))
    do = f"Write it with {allowed}" if allowed else "Write it with its unit"
    return QuantityError(f'"{text[:80]}"', why=why, do=do)


def _in_si(number: str, unit: Unit, text: str) -> float:
    """Raises: QuantityError."""
    shown = f'"{text[:80]}"'
    if "," in number and _THOUSANDS_OR_TENTHS.fullmatch(number):
        whole, point = number.replace(",", ""), number.replace(",", ".")
        raise QuantityError(shown, why=f"{number} may be {whole} or {point}", expected=f"{whole}, or {point}")
    value = float(Decimal(number.replace(",", ".").replace(" ", "")) * unit.exactly)
    if value < 0 and unit.dimension not in _MAY_BE_NEGATIVE:
        raise QuantityError(shown, why="the value must not be negative", expected="a positive number")
    return value


def _worked_out(text: str) -> Quantity | None:
    """A value written as two: volts with amperes, a size with its time, feet with inches; None for other text."""
    for pattern, ways in ((_OVER_TIME, (_rate,)), (_TWO, (_watts, _feet_and_inches))):
        match = pattern.fullmatch(text)
        one, other = (find_unit(match[2]), find_unit(match[4])) if match else (None, None)
        if match is not None and one is not None and other is not None:
            values = Quantity(_in_si(match[1], one, text), one), Quantity(_in_si(match[3], other, text), other)
            return next((found for way in ways if (found := way(*values)) is not None), None)
    return None


def _watts(one: Quantity, other: Quantity) -> Quantity | None:
    dimensions = one.unit.dimension, other.unit.dimension
    if set(dimensions) != {Dimension.VOLTAGE, Dimension.CURRENT}:
        return None
    return _of(one.value * other.value, "W", f"{one} x {other}")


def _rate(size: Quantity, time: Quantity) -> Quantity | None:
    if (size.unit.dimension, time.unit.dimension) != (Dimension.SIZE, Dimension.TIME) or not time.value:
        return None
    return _of(size.value * 8 / time.value, "MB/s", f"{size} in {time}")


def _feet_and_inches(feet: Quantity, inches: Quantity) -> Quantity | None:
    if (feet.unit.symbol, inches.unit.symbol) != ("ft", "in"):
        return None
    return _of(feet.value + inches.value, "in", f"{feet} {inches}")


def _of(value: float, symbol: str, sum_: str) -> Quantity:
    unit = find_unit(symbol)
    assert unit is not None  # the symbols above are our own
    result = Quantity(float(f"{value:.{SIGNIFICANT_DIGITS}g}"), unit)
    return Quantity(result.value, unit, f"{sum_} = {plain_number(result.value / unit.in_si)} {symbol}")


def parse_typed(text: str, *dimensions: Dimension) -> tuple[float, float]:
    """A value that was read off something and typed, in SI, and the size of its last digit. Raises: QuantityError."""
    quantity = parse_quantity(text, *dimensions)
    match = _QUANTITY.fullmatch(text)
    if match is None:  # worked out of two values: sure to its four leading digits
        return quantity.value, abs(quantity.value) * 1e-3
    decimals = re.split("[.,]", match.group(1))[1:]
    return quantity.value, quantity.unit.in_si / 10 ** len(decimals[0] if decimals else "")


def both_forms(quantity: Quantity) -> str:
    """A value in the two forms that people mix up: ``5 Gb/s = 625 MB/s``, ``0.8 ft = 24.38 cm``; the sum, if worked."""
    value = quantity.value
    other = {
        Dimension.BIT_RATE: lambda: byte_rate(value),
        Dimension.BYTE_RATE: lambda: bit_rate(value),
        Dimension.SIZE: lambda: _other_size(quantity),
        Dimension.LENGTH: lambda: (
            length(value) if quantity.unit.symbol in ("in", "ft") else f"{plain_number(round(value / 0.0254, 2))} in"
        ),
        Dimension.ENERGY: lambda: f"{plain_number(round(value / 3600, 3))} Wh",
    }.get(quantity.unit.dimension)
    forms = [quantity.sum or str(quantity), other() if other else ""]
    return " = ".join(dict.fromkeys(form for form in forms if (form and form != str(quantity)) or form == forms[0]))


def _other_size(quantity: Quantity) -> str:
    """Decimal for what was written in binary, and the other way round."""
    binary = "i" in quantity.unit.symbol
    prefixes = SIZE_PREFIXES if binary else BINARY_SIZE_PREFIXES
    return with_prefix(quantity.value, "B", prefixes, 4)
