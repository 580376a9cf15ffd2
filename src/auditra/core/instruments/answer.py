"""What an instrument answered, as a value in SI with how far it may be off."""

from __future__ import annotations

import re
from dataclasses import dataclass

from auditra.core.errors import QuantityError
from auditra.core.instruments.description import Measurand, Query
from auditra.core.quantities.display import plain_number
from auditra.core.quantities.units import find_unit

_NUMBER = re.compile(
    r"(?:[A-Za-z:]+[ \t]+)?([+-]?(?:\d{1,30}\.?\d{0,30}|\.\d{1,30})(?:[eE][ \t]?[+-]?\d{1,3})?)[ \t]*([A-Za-z°%]{0,6})"
)
"""A decimal number in any of its forms (IEEE 488.2-1992, 8.7.2 to 8.7.4), perhaps with a header (8.7.1) and a unit."""
_INFINITE, _NO_NUMBER = 9.9e37, 9.91e37
"""What is answered for more than can be shown, and for nothing at all (SCPI-1999, volume 1, 7.2.1.4 and 7.2.1.5)."""
_ZERO_C_IN_K = 273.15
_KELVIN, _FAHRENHEIT = ("K", "KEL"), ("F", "°F", "FAR")
MAX_CELLS = 64


@dataclass(frozen=True)
class Measured:
    """One value in SI. `error` is the limit of its error, None if none is stated."""

    value: float
    error: float | None = None
    resolution: float = 0.0


def read_answer(answer: str, query: Query) -> Measured:
    """The value of an answer. Raises: QuantityError with what is wrong with it, where it is no reading."""
    cells = answer.strip().split(",", MAX_CELLS)
    if len(cells) < query.cell:
        raise _refusal(f"it has {len(cells)} value{'s' if len(cells) > 1 else ''}, and value {query.cell} is wanted")
    match = _NUMBER.fullmatch(cells[query.cell - 1].strip().strip('"').strip())
    if match is None:
        raise _refusal("that is no number")
    number = float(match[1].replace(" ", "").replace("\t", ""))
    if abs(number) >= _INFINITE:
        raise _refusal("that means no number" if abs(number) == _NO_NUMBER else "that means it is out of its range")
    value = _in_si(number, match[2], query) * query.scale
    if not query.lowest <= value <= query.highest:
        unit = query.measures.dimension.value
        raise _refusal(f"that is outside {plain_number(query.lowest)} to {plain_number(query.highest)} {unit}")
    limit = query.error_limit(value)
    return Measured(value, limit.at(value) if limit else None, limit.resolution if limit else 0.0)


def _in_si(number: float, told: str, query: Query) -> float:
    """In the unit that the answer itself has, else in that of the description."""
    symbol = told.removesuffix("DC") or query.unit or query.measures.dimension.value
    if query.measures is Measurand.TEMPERATURE and symbol.upper() in (*_KELVIN, *_FAHRENHEIT):
        return number - _ZERO_C_IN_K if symbol.upper() in _KELVIN else (number - 32) / 1.8
    unit = find_unit(symbol)
    if unit is None or unit.dimension is not query.measures.dimension:
        raise _refusal(f'"{symbol}" is no unit of a {query.measures}')
    return number * unit.in_si


def is_unit_of(symbol: str, measures: Measurand) -> bool:
    """Whether a value of this kind may be told in this unit."""
    if measures is Measurand.TEMPERATURE and symbol.upper() in (*_KELVIN, *_FAHRENHEIT):
        return True
    unit = find_unit(symbol)
    return unit is not None and unit.dimension is measures.dimension


def has_no_error(answer: str) -> bool:
    """Whether the oldest error that an instrument knows is none (SCPI-1999, volume 2, 21.8: ``0,"No error"``)."""
    number = re.match(r"\s*(?:[A-Za-z:]+[ \t]+)?([+-]?\d{1,9})\b", answer)
    return number is not None and int(number[1]) == 0


def _refusal(why: str) -> QuantityError:
    return QuantityError("the answer", why=why, do="Check the instrument")
