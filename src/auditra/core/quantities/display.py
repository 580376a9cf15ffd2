"""Shows SI values to people: one table from dimension to unit and decimals, used everywhere."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal

from auditra.core.quantities.units import Dimension

SIGNIFICANT_DIGITS = 12


def plain_number(value: float) -> str:
    """The shortest decimal that tells the value apart, never with an exponent below 10^15."""
    rounded = float(f"{value:.{SIGNIFICANT_DIGITS}g}")
    if abs(rounded) >= 1e15:
        return f"{rounded:g}"
    told = f"{Decimal(repr(rounded)):f}"
    return told.rstrip("0").rstrip(".") if "." in told else told


def with_prefix(value: float, symbol: str, prefixes: tuple[tuple[str, float], ...], digits: int) -> str:
    for prefix, factor in prefixes:
        if abs(value) >= factor:
            return f"{float(f'{value / factor:.{digits}g}'):.10g} {prefix}{symbol}"
    prefix, factor = prefixes[-1]
    return f"{float(f'{value / factor:.{digits}g}'):.10g} {prefix}{symbol}"


_RATE_PREFIXES = (("G", 1e9), ("M", 1e6), ("k", 1e3), ("", 1.0))
_PAYLOAD_PREFIXES = (("M", 1e6), ("k", 1e3), ("", 1.0))
SIZE_PREFIXES = (("T", 1e12), ("G", 1e9), ("M", 1e6), ("k", 1e3), ("", 1.0))
BINARY_SIZE_PREFIXES = (("Ti", 2.0**40), ("Gi", 2.0**30), ("Mi", 2.0**20), ("Ki", 2.0**10), ("", 1.0))
_LENGTH_PREFIXES = (("", 1.0), ("c", 1e-2), ("m", 1e-3))


def bit_rate(bps: float, digits: int = 4) -> str:
    """``4.51e9`` as ``4.51 Gb/s``."""
    return with_prefix(bps, "b/s", _RATE_PREFIXES, digits)


def byte_rate(bps: float, digits: int = 4) -> str:
    """A rate in bits per second in the bytes that storage is given in: ``3.6e9`` as ``450 MB/s``."""
    return with_prefix(bps / 8, "B/s", _PAYLOAD_PREFIXES, digits)


def byte_size(count: float, digits: int = 4) -> str:
    """``5e11`` as ``500 GB``."""
    return with_prefix(count, "B", SIZE_PREFIXES, digits)


def length(metres: float, digits: int = 4) -> str:
    """``0.15`` as ``15 cm``."""
    return with_prefix(metres, "m", _LENGTH_PREFIXES, digits)


def power(watts: float) -> str:
    """``79.04`` as ``79.0 W``: a tenth of a watt is the finest that decides anything here."""
    return WATTS.show(watts)


def amount(value: float, dimension: Dimension) -> str:
    """A value as it is written in a claim: whole to twelve digits, in the unit that is read most easily."""
    match dimension:
        case Dimension.BIT_RATE:
            return bit_rate(value, SIGNIFICANT_DIGITS)
        case Dimension.BYTE_RATE:
            return f"{plain_number(value / 8e6)} MB/s"
        case Dimension.LENGTH:
            return length(value, SIGNIFICANT_DIGITS)
        case Dimension.SIZE:
            units = (*SIZE_PREFIXES, *BINARY_SIZE_PREFIXES)
            forms = [_size_form(value, prefix, size) for prefix, size in units if 1 <= abs(value) / size < 1e12]
            return min(forms, default=(0.0, 0, f"{plain_number(value)} B"))[2]
        case _:
            symbol, in_si = next(
                (each for each in _AMOUNT_UNITS.get(dimension, ()) if abs(value) >= each[1]),
                _AMOUNT_UNITS.get(dimension, ((dimension.value, 1.0),))[-1],
            )
            return f"{plain_number(value / in_si)} {symbol}"


def _size_form(value: float, prefix: str, unit: float) -> tuple[float, int, str]:
    """How far the rounded form is from the value, its length, and the form itself: the nearest and shortest is best."""
    number = plain_number(value / unit)
    form = f"{number} {prefix}B"
    return abs(float(Decimal(number) * Decimal(unit)) - value), len(form), form


_AMOUNT_UNITS: dict[Dimension, tuple[tuple[str, float], ...]] = {
    Dimension.VOLTAGE: (("V", 1.0), ("mV", 1e-3)),
    Dimension.MASS: (("kg", 1.0), ("g", 1e-3)),
}


MAX_DECIMALS = 9
SIGNIFICANT_DIGITS_SHOWN = 6


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
        most = self._useful_decimals(value)
        while expanded > 0 and decimals < most and float(f"{expanded / self.in_si:.{decimals}f}") == 0:
            decimals += 1
        value, expanded = value / self.in_si, expanded / self.in_si
        return f"{value:.{decimals}f} ± {expanded:.{decimals}f} {self.symbol}".rstrip()

    def _useful_decimals(self, value: float) -> int:
        """Beyond so many significant digits an uncertainty is shown as none."""
        digits = len(f"{abs(value / self.in_si):.0f}")
        return min(MAX_DECIMALS, max(self.decimals, SIGNIFICANT_DIGITS_SHOWN - digits))

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
