"""Values and units: what people type becomes SI, and SI becomes what people read.

One reader for the whole product. A bare number is refused, and so is everything that is no quantity of this world:
a negative value, not a number, without end. Binary sizes and rates, feet with inches, volts with amperes, and a size
with the time that it took are read too, and the sum is kept beside the value.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from decimal import Decimal

from auditra.core.errors import QuantityError
from auditra.core.units import UNITS as UNITS
from auditra.core.units import Dimension as Dimension
from auditra.core.units import Unit as Unit
from auditra.core.units import find_unit as find_unit
from auditra.core.units import unit_symbols as unit_symbols

_NUMBER = r"[+-]?\d{1,15}(?:[.,]\d{1,400})?|[+-]?\d{1,3}(?: \d{3}){1,4}(?:[.,]\d{1,15})?"
_SYMBOL = r"[A-Za-z%°\u2103\u03a9\u2126'\"\u2032\u2033]{1,10}(?:/[A-Za-z]{1,2})?"
_ONE = rf"({_NUMBER})\s*({_SYMBOL})"
_QUANTITY = re.compile(rf"\s*({_NUMBER})\s*({_SYMBOL})?\s*")
_TWO = re.compile(rf"\s*{_ONE}\s*(?:[x×*/,]\s*)?{_ONE}\s*")
_OVER_TIME = re.compile(rf"\s*{_ONE}\s+in\s+{_ONE}\s*")
_THOUSANDS_OR_TENTHS = re.compile(r"[+-]?[1-9]\d{0,2}[.,]\d{3}")
_SIGNIFICANT_DIGITS = 12
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
            raise _refuse(text, f"this makes {worked}, another unit than is asked for here", dimensions)
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
        raise QuantityError(shown, why=f"{number} may be {whole} or {point}", do=f"Write {whole}, or {point}")
    value = float(Decimal(number.replace(",", ".").replace(" ", "")) * unit.exactly)
    if value < 0 and unit.dimension not in _MAY_BE_NEGATIVE:
        raise QuantityError(shown, why="the value must not be negative", do="Write it without a sign")
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
    result = Quantity(float(f"{value:.{_SIGNIFICANT_DIGITS}g}"), unit)
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
    prefixes = _SIZE_PREFIXES if binary else _BINARY_SIZE_PREFIXES
    return _with_prefix(quantity.value, "B", prefixes, 4)


def plain_number(value: float) -> str:
    """The shortest decimal that tells the value apart, never with an exponent below 10^15."""
    rounded = float(f"{value:.{_SIGNIFICANT_DIGITS}g}")
    if abs(rounded) >= 1e15:
        return f"{rounded:g}"
    told = f"{Decimal(repr(rounded)):f}"
    return told.rstrip("0").rstrip(".") if "." in told else told


def _with_prefix(value: float, symbol: str, prefixes: tuple[tuple[str, float], ...], digits: int) -> str:
    for prefix, factor in prefixes:
        if abs(value) >= factor:
            return f"{float(f'{value / factor:.{digits}g}'):.10g} {prefix}{symbol}"
    prefix, factor = prefixes[-1]
    return f"{float(f'{value / factor:.{digits}g}'):.10g} {prefix}{symbol}"


_RATE_PREFIXES = (("G", 1e9), ("M", 1e6), ("k", 1e3), ("", 1.0))
_PAYLOAD_PREFIXES = (("M", 1e6), ("k", 1e3), ("", 1.0))
_SIZE_PREFIXES = (("T", 1e12), ("G", 1e9), ("M", 1e6), ("k", 1e3), ("", 1.0))
_BINARY_SIZE_PREFIXES = (("Ti", 2.0**40), ("Gi", 2.0**30), ("Mi", 2.0**20), ("Ki", 2.0**10), ("", 1.0))
_LENGTH_PREFIXES = (("", 1.0), ("c", 1e-2), ("m", 1e-3))


def bit_rate(bps: float, digits: int = 4) -> str:
    """``4.51e9`` as ``4.51 Gb/s``."""
    return _with_prefix(bps, "b/s", _RATE_PREFIXES, digits)


def byte_rate(bps: float, digits: int = 4) -> str:
    """A rate in bits per second in the bytes that storage is told in: ``3.6e9`` as ``450 MB/s``."""
    return _with_prefix(bps / 8, "B/s", _PAYLOAD_PREFIXES, digits)


def byte_size(count: float, digits: int = 4) -> str:
    """``5e11`` as ``500 GB``."""
    return _with_prefix(count, "B", _SIZE_PREFIXES, digits)


def length(metres: float, digits: int = 4) -> str:
    """``0.15`` as ``15 cm``."""
    return _with_prefix(metres, "m", _LENGTH_PREFIXES, digits)


def power(watts: float) -> str:
    """``79.04`` as ``79.0 W``: a tenth of a watt is the finest that decides anything here."""
    return WATTS.show(watts)


def amount(value: float, dimension: Dimension) -> str:
    """A value as it is written in a claim: whole to twelve digits, in the unit that is read most easily."""
    match dimension:
        case Dimension.BIT_RATE:
            return bit_rate(value, _SIGNIFICANT_DIGITS)
        case Dimension.BYTE_RATE:
            return f"{plain_number(value / 8e6)} MB/s"
        case Dimension.LENGTH:
            return length(value, _SIGNIFICANT_DIGITS)
        case Dimension.SIZE:
            units = (*_SIZE_PREFIXES, *_BINARY_SIZE_PREFIXES)
            forms = [
                f"{plain_number(value / size)} {prefix}B" for prefix, size in units if 1 <= abs(value) / size < 1e12
            ]
            off = ((abs(parse_quantity(form).value - value), len(form), form) for form in forms)
            return min(off, default=(0.0, 0, f"{plain_number(value)} B"))[2]
        case _:
            symbol, in_si = next(
                (each for each in _AMOUNT_UNITS.get(dimension, ()) if abs(value) >= each[1]),
                _AMOUNT_UNITS.get(dimension, ((dimension.value, 1.0),))[-1],
            )
            return f"{plain_number(value / in_si)} {symbol}"


_AMOUNT_UNITS: dict[Dimension, tuple[tuple[str, float], ...]] = {
    Dimension.VOLTAGE: (("V", 1.0), ("mV", 1e-3)),
    Dimension.MASS: (("kg", 1.0), ("g", 1e-3)),
}


MAX_DECIMALS = 9


@dataclass(frozen=True)
class Format:
    """One unit and a number of decimals, so that values that stand together can be compared at a glance.

    The decimals are the least that are shown: a value is never rounded by more than a hundredth of itself, and an
    uncertainty is never rounded to nothing.
    """

    symbol: str
    in_si: float
    decimals: int

    def show(self, value: float) -> str:
        """``457.5 MB/s``."""
        return f"{self.number(value)} {self.symbol}".rstrip()

    def number(self, value: float) -> str:
        """``457.5``."""
        return f"{value / self.in_si:.{self._decimals_for(value)}f}"

    def pair(self, value: float, expanded: float) -> str:
        """A value with its uncertainty: ``457.5 ± 0.5 MB/s``."""
        decimals = self._decimals_for(value)
        while expanded > 0 and decimals < MAX_DECIMALS and float(f"{expanded / self.in_si:.{decimals}f}") == 0:
            decimals += 1
        value, expanded = value / self.in_si, expanded / self.in_si
        return f"{value:.{decimals}f} ± {expanded:.{decimals}f} {self.symbol}".rstrip()

    def _decimals_for(self, value: float) -> int:
        shown, decimals = value / self.in_si, self.decimals
        if abs(shown) >= _ALWAYS_NEAR / 10**decimals:
            return decimals
        while decimals < MAX_DECIMALS and abs(float(f"{shown:.{decimals}f}") - shown) > _MAX_ROUNDING * abs(shown):
            decimals += 1
        return decimals


_MAX_ROUNDING = 0.01
_ALWAYS_NEAR = 0.5 / _MAX_ROUNDING
"""From so many of the last digit on, rounding to it is always near enough."""
_SHOWN: dict[Dimension, tuple[tuple[str, float, int, float], ...]] = {
    Dimension.BIT_RATE: (("Gb/s", 1e9, 3, 1.000001e9), ("Mb/s", 1e6, 1, 1e5), ("kb/s", 1e3, 1, 1e3), ("b/s", 1, 0, 0)),
    Dimension.BYTE_RATE: (("MB/s", 8e6, 1, 8e5), ("kB/s", 8e3, 1, 8e3), ("B/s", 8, 0, 0)),
    Dimension.SIZE: (("TB", 1e12, 2, 1e12), ("GB", 1e9, 1, 1e9), ("MB", 1e6, 1, 1e6), ("B", 1, 0, 0)),
    Dimension.POWER: (("W", 1, 1, 0.1), ("mW", 1e-3, 0, 0)),
    Dimension.VOLTAGE: (("V", 1, 2, 1), ("mV", 1e-3, 0, 0)),
    Dimension.CURRENT: (("A", 1, 2, 0.1), ("mA", 1e-3, 0, 0)),
    Dimension.RESISTANCE: (("kohm", 1e3, 2, 1e3), ("ohm", 1, 1, 1), ("mohm", 1e-3, 0, 0)),
    Dimension.ENERGY: (("Wh", 3600, 2, 3600), ("J", 1, 1, 0)),
    Dimension.LENGTH: (("m", 1, 3, 1), ("cm", 1e-2, 2, 1e-2), ("mm", 1e-3, 1, 0)),
    Dimension.MASS: (("kg", 1, 2, 1), ("g", 1e-3, 0, 0)),
    Dimension.TIME: (("min", 60, 1, 600), ("s", 1, 1, 1), ("ms", 1e-3, 1, 0)),
    Dimension.FREQUENCY: (("GHz", 1e9, 3, 1e9), ("MHz", 1e6, 2, 1e6), ("kHz", 1e3, 2, 1e3), ("Hz", 1, 2, 0)),
    Dimension.TEMPERATURE: (("C", 1, 1, 0),),
    Dimension.DEPTH: (("bit", 1, 0, 0),),
    Dimension.RATIO: (("%", 1, 1, 0),),
}
"""How values of each dimension are shown: unit, size in SI, decimals, and the value from which it is taken."""
_NOTHING_NEAR: dict[Dimension, int] = {Dimension.BIT_RATE: 1}
"""Which unit shows a value of 0, where it is not the first."""


def format_for(dimension: Dimension, near: float) -> Format:
    """The unit and decimals for values of a dimension, of about this size."""
    units = _SHOWN[dimension]
    found = next((unit for unit in units if abs(near) >= unit[3]), units[-1])
    if not near:
        found = units[_NOTHING_NEAR.get(dimension, 0)]
    return Format(*found[:3])


WATTS = format_for(Dimension.POWER, 1.0)
MEGABYTES_A_SECOND = format_for(Dimension.BYTE_RATE, 8e6)


def bit_rate_format(near_bps: float) -> Format:
    """The unit for network rates of about this size; payload of a 1 Gb/s link is shown in Mb/s."""
    return format_for(Dimension.BIT_RATE, near_bps)
