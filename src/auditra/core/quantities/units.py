"""The units that people write, and what each is in SI.

Rates are bits per second inside, whether a seller counts bits or bytes. ``k``, ``M`` and ``G`` are decimal; binary
sizes are read where they are written so (``KiB``, ``MiB``). Source: ISO/IEC 80000-13, 4 "Prefixes for binary
multiples"; BIPM, The International System of Units, 9th ed., tables 7 and 8.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from functools import cached_property


class Dimension(StrEnum):
    """What a number counts; the value is the name of the SI unit it is kept in."""

    BIT_RATE = "b/s"
    BYTE_RATE = "B/s"
    SIZE = "B"
    POWER = "W"
    VOLTAGE = "V"
    CURRENT = "A"
    RESISTANCE = "ohm"
    ENERGY = "J"
    LENGTH = "m"
    MASS = "kg"
    TIME = "s"
    FREQUENCY = "Hz"
    TEMPERATURE = "C"
    DEPTH = "bit"
    RATIO = "%"


@dataclass(frozen=True)
class Unit:
    """A unit as written, its dimension and its size in SI. A byte rate is kept in bits per second."""

    symbol: str
    dimension: Dimension
    in_si: float

    @cached_property
    def exactly(self) -> Decimal:
        """Its size in SI as a decimal, so that 35 cm and 0.35 m are one value."""
        return Decimal(repr(self.in_si))


_DECIMAL = {"G": 1e9, "M": 1e6, "k": 1e3, "": 1.0}
_BINARY = {"Gi": 2.0**30, "Mi": 2.0**20, "Ki": 2.0**10}
_SMALL = {"": 1.0, "m": 1e-3}
_INCH_M, _POUND_KG = 0.0254, 0.45359237


def _scaled(symbol: str, dimension: Dimension, prefixes: Mapping[str, float], base: float = 1.0) -> tuple[Unit, ...]:
    return tuple(Unit(prefix + symbol, dimension, factor * base) for prefix, factor in prefixes.items())


UNITS: tuple[Unit, ...] = (
    *_scaled("b/s", Dimension.BIT_RATE, {"T": 1e12, **_DECIMAL}),
    *_scaled("B/s", Dimension.BYTE_RATE, _DECIMAL, base=8.0),
    *_scaled("B/s", Dimension.BYTE_RATE, _BINARY, base=8.0),
    *_scaled("B", Dimension.SIZE, {"T": 1e12, **_DECIMAL}),
    *_scaled("B", Dimension.SIZE, {"Ti": 2.0**40, **_BINARY}),
    *_scaled("b", Dimension.SIZE, {"G": 1e9, "M": 1e6, "k": 1e3}, base=1 / 8),
    *_scaled("W", Dimension.POWER, {"k": 1e3, **_SMALL}),
    *_scaled("V", Dimension.VOLTAGE, _SMALL),
    *_scaled("A", Dimension.CURRENT, _SMALL),
    *_scaled("ohm", Dimension.RESISTANCE, {"k": 1e3, **_SMALL}),
    *_scaled("J", Dimension.ENERGY, {"k": 1e3, "": 1.0}),
    *_scaled("Wh", Dimension.ENERGY, {"k": 1e3, **_SMALL}, base=3600.0),
    *_scaled("m", Dimension.LENGTH, {"": 1.0, "c": 1e-2, "m": 1e-3}),
    Unit("in", Dimension.LENGTH, _INCH_M),
    Unit("ft", Dimension.LENGTH, 12 * _INCH_M),
    Unit("kg", Dimension.MASS, 1.0),
    Unit("g", Dimension.MASS, 1e-3),
    Unit("lb", Dimension.MASS, _POUND_KG),
    Unit("oz", Dimension.MASS, _POUND_KG / 16),
    Unit("h", Dimension.TIME, 3600.0),
    Unit("min", Dimension.TIME, 60.0),
    *_scaled("s", Dimension.TIME, _SMALL),
    *_scaled("Hz", Dimension.FREQUENCY, _DECIMAL),
    Unit("C", Dimension.TEMPERATURE, 1.0),
    Unit("bit", Dimension.DEPTH, 1.0),
    Unit("%", Dimension.RATIO, 1.0),
    Unit("times", Dimension.RATIO, 100.0),
)
"""Each dimension's units, largest first."""
_BY_SYMBOL = {unit.symbol: unit for unit in UNITS}
_WHOLE_SPELLINGS = {
    "°C": "C", "℃": "C", "\u03a9": "ohm", "\u2126": "ohm", "k\u03a9": "kohm", "m\u03a9": "mohm", "ohms": "ohm",
    '"': "in", "\u2033": "in", "inch": "in", "inches": "in", "'": "ft", "\u2032": "ft", "feet": "ft", "foot": "ft",
    "metre": "m", "metres": "m", "meter": "m", "meters": "m", "sec": "s", "seconds": "s", "minutes": "min",
    "hours": "h", "x": "times", "percent": "%", "bits": "bit", "watts": "W", "volts": "V", "amps": "A",
}  # fmt: skip
_TAIL_SPELLINGS = {
    "bps": "b/s", "bit/s": "b/s", "bits/s": "b/s", "Bps": "B/s", "Byte/s": "B/s", "byte/s": "B/s", "Byte": "B",
    "bytes": "B", "byte": "B", "bit": "b",
}  # fmt: skip


def find_unit(symbol: str) -> Unit | None:
    """The unit of that name, in any usual spelling; upper and lower case differ: b is a bit, B a byte."""
    found = _BY_SYMBOL.get(symbol)
    if found is None and (whole := _WHOLE_SPELLINGS.get(symbol)) is not None:
        return _BY_SYMBOL[whole]
    for spelling, ours in _TAIL_SPELLINGS.items():
        if found is None and symbol.endswith(spelling):
            found = _BY_SYMBOL.get(symbol.removesuffix(spelling) + ours)
    return found


def unit_symbols(dimension: Dimension) -> tuple[str, ...]:
    """How values of a dimension may be written, largest unit first."""
    return tuple(unit.symbol for unit in UNITS if unit.dimension is dimension)
