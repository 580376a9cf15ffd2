"""Values and units: what people type becomes SI, and SI becomes what people read.

Rates are bits per second inside, whether a seller counts bits or bytes; prefixes are decimal.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.errors import QuantityError


class Dimension(StrEnum):
    """What a number counts; the value is the name of the SI unit it is kept in."""

    BIT_RATE = "b/s"
    BYTE_RATE = "B/s"
    POWER = "W"
    VOLTAGE = "V"
    CURRENT = "A"
    LENGTH = "m"


@dataclass(frozen=True)
class Unit:
    """A unit as written, its dimension and its size in SI. A byte rate is kept in bits per second."""

    symbol: str
    dimension: Dimension
    in_si: float


def _scaled(symbol: str, dimension: Dimension, prefixes: dict[str, float], base: float = 1.0) -> tuple[Unit, ...]:
    return tuple(Unit(prefix + symbol, dimension, factor * base) for prefix, factor in prefixes.items())


UNITS: tuple[Unit, ...] = (
    *_scaled("b/s", Dimension.BIT_RATE, {"G": 1e9, "M": 1e6, "k": 1e3, "": 1.0}),
    *_scaled("B/s", Dimension.BYTE_RATE, {"G": 1e9, "M": 1e6, "k": 1e3, "": 1.0}, base=8.0),
    *_scaled("W", Dimension.POWER, {"": 1.0, "m": 1e-3}),
    *_scaled("V", Dimension.VOLTAGE, {"": 1.0, "m": 1e-3}),
    *_scaled("A", Dimension.CURRENT, {"": 1.0, "m": 1e-3}),
    *_scaled("m", Dimension.LENGTH, {"": 1.0, "c": 1e-2, "m": 1e-3}),
    Unit("in", Dimension.LENGTH, 0.0254),
    Unit("ft", Dimension.LENGTH, 0.3048),
)
_BY_SYMBOL = {unit.symbol: unit for unit in UNITS}
_SPELLINGS = {"bps": "b/s", "bit/s": "b/s", "Bps": "B/s"}
_QUANTITY = re.compile(r"\s*([+-]?\d+(?:[.,]\d+)?)\s*([A-Za-z/]+)?\s*")
_SIGNIFICANT_DIGITS = 12


@dataclass(frozen=True)
class Quantity:
    """A value in SI (bits per second for both kinds of rate) and the unit it was written in."""

    value: float
    unit: Unit

    def __str__(self) -> str:
        return f"{plain_number(self.value / self.unit.in_si)} {self.unit.symbol}"


def find_unit(symbol: str) -> Unit | None:
    """The unit of that name, in any usual spelling; upper and lower case differ: b is a bit, B a byte."""
    for spelling, ours in _SPELLINGS.items():
        if symbol.endswith(spelling):
            symbol = symbol.removesuffix(spelling) + ours
    return _BY_SYMBOL.get(symbol)


def unit_symbols(dimension: Dimension) -> tuple[str, ...]:
    """How values of a dimension may be written, largest unit first."""
    return tuple(unit.symbol for unit in UNITS if unit.dimension is dimension)


def parse_quantity(text: str, *dimensions: Dimension) -> Quantity:
    """The value that a person typed, such as ``5 Gb/s``, ``95MB/s`` or ``0,8 ft``.

    Raises: QuantityError when there is no number, no unit, an unknown unit, or one of another dimension.
    """
    allowed = " or ".join(symbol for each in dimensions for symbol in unit_symbols(each))
    match = _QUANTITY.fullmatch(text)
    if match is None:
        raise QuantityError(f'"{text}"', why="this is not a number with a unit", do=f"Write it with {allowed}")
    number, symbol = match.groups()
    if symbol is None:
        raise QuantityError(f'"{text}"', why="the unit is missing", do=f"Write it with {allowed}")
    unit = find_unit(symbol)
    if unit is None or (dimensions and unit.dimension not in dimensions):
        raise QuantityError(f'"{text}"', why=f'unknown unit "{symbol}" here', do=f"Write it with {allowed}")
    return Quantity(float(number.replace(",", ".")) * unit.in_si, unit)


def parse_typed(text: str, *dimensions: Dimension) -> tuple[float, float]:
    """A value that was read off something and typed, in SI, and the size of its last digit. Raises: QuantityError."""
    quantity = parse_quantity(text, *dimensions)
    if quantity.value < 0:
        raise QuantityError(f'"{text}"', why="this is less than nothing", do="Write it without a sign")
    decimals = re.split("[.,]", _QUANTITY.fullmatch(text).group(1))[1:]  # type: ignore[union-attr]
    return quantity.value, quantity.unit.in_si / 10 ** len(decimals[0] if decimals else "")


def plain_number(value: float) -> str:
    """The shortest decimal that tells the value apart, never with an exponent below 10^15."""
    rounded = float(f"{value:.{_SIGNIFICANT_DIGITS}g}")
    return f"{rounded:.12f}".rstrip("0").rstrip(".") if abs(rounded) < 1e15 else f"{rounded:g}"


def _with_prefix(value: float, symbol: str, prefixes: tuple[tuple[str, float], ...], digits: int) -> str:
    for prefix, factor in prefixes:
        if abs(value) >= factor:
            return f"{float(f'{value / factor:.{digits}g}'):.10g} {prefix}{symbol}"
    prefix, factor = prefixes[-1]
    return f"{float(f'{value / factor:.{digits}g}'):.10g} {prefix}{symbol}"


_RATE_PREFIXES = (("G", 1e9), ("M", 1e6), ("k", 1e3), ("", 1.0))
_PAYLOAD_PREFIXES = (("M", 1e6), ("k", 1e3), ("", 1.0))
_LENGTH_PREFIXES = (("", 1.0), ("c", 1e-2), ("m", 1e-3))


def bit_rate(bps: float, digits: int = 4) -> str:
    """``4.51e9`` as ``4.51 Gb/s``."""
    return _with_prefix(bps, "b/s", _RATE_PREFIXES, digits)


def byte_rate(bps: float, digits: int = 4) -> str:
    """A rate in bits per second in the bytes that storage is told in: ``3.6e9`` as ``450 MB/s``."""
    return _with_prefix(bps / 8, "B/s", _PAYLOAD_PREFIXES, digits)


def length(metres: float, digits: int = 4) -> str:
    """``0.15`` as ``15 cm``."""
    return _with_prefix(metres, "m", _LENGTH_PREFIXES, digits)


def power(watts: float) -> str:
    """``79.04`` as ``79.0 W``: a tenth of a watt is the finest that decides anything here."""
    return WATTS.show(watts)


@dataclass(frozen=True)
class Format:
    """One unit and a number of decimals, so that values that stand together can be compared at a glance."""

    symbol: str
    in_si: float
    decimals: int

    def show(self, value: float) -> str:
        """``457.5 MB/s``."""
        return f"{self.number(value)} {self.symbol}"

    def number(self, value: float) -> str:
        """``457.5``."""
        return f"{value / self.in_si:.{self.decimals}f}"

    def pair(self, value: float, expanded: float) -> str:
        """A value with its uncertainty: ``457.5 ± 0.5 MB/s``."""
        return f"{self.number(value)} ± {self.show(expanded)}"


WATTS = Format("W", 1.0, 1)
MEGABYTES_A_SECOND = Format("MB/s", 8e6, 1)


def bit_rate_format(near_bps: float) -> Format:
    """The unit for network rates of about this size; payload of a 1 Gb/s link is told in Mb/s."""
    return Format("Gb/s", 1e9, 3) if near_bps > 1e9 else Format("Mb/s", 1e6, 1)


def length_format(near_m: float) -> Format:
    """The unit for lengths of about this size."""
    return Format("m", 1.0, 3) if near_m >= 1 else Format("cm", 1e-2, 2)
