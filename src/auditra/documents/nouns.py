"""How a noun is written in a sheet, worked out from its dataclass: keys, units, and the three states.

A field ``read_bps`` is written ``read = "440 MB/s"``: its unit is in the value, not in the key. A noted field may be
absent (not known) or ``"none"`` (there is none).
"""

from __future__ import annotations

import dataclasses
import types
from decimal import Decimal
from enum import Enum, StrEnum
from functools import cache
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin, get_type_hints

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, WithJsonSchema, create_model

from auditra.core.errors import InputError, QuantityError
from auditra.core.instruments.answer import MAX_CELLS
from auditra.core.links.cards import BUS_BPS
from auditra.core.links.connectors import parse_connector
from auditra.core.links.display import parse_mode
from auditra.core.model.noted import NOT_NOTED, NotNoted
from auditra.core.quantities.display import plain_number
from auditra.core.quantities.parsing import parse_quantity
from auditra.core.quantities.units import Dimension, find_unit
from auditra.core.sanitize import find_control

NONE = "none"
_ID = r"^[A-Za-z][A-Za-z0-9-]{0,31}$"
_PORT_ID = r"^[A-Za-z][A-Za-z0-9]{0,7}$"
_USB_ID = r"^[0-9a-f]{4}:[0-9a-f]{4}$"
_MONEY = r"^[A-Z]{3}$"


@dataclasses.dataclass(frozen=True)
class _Written:
    """How values of one unit are written: what may be read, and what they are printed with, largest first."""

    reads: tuple[Dimension, ...]
    prints: tuple[str, ...]


_RATE = _Written((Dimension.BIT_RATE, Dimension.BYTE_RATE), ("Gb/s", "Mb/s", "kb/s", "b/s"))
_POWER = _Written((Dimension.POWER,), ("W",))
_VOLTS = _Written((Dimension.VOLTAGE,), ("V",))
_AMPERES = _Written((Dimension.CURRENT,), ("A",))
_LENGTH = _Written((Dimension.LENGTH,), ("m",))
_BY_SUFFIX = {"_bps": _RATE, "_w": _POWER, "_v": _VOLTS, "_a": _AMPERES, "_m": _LENGTH}
_BY_NAME = {"watts": _POWER, "volts": _VOLTS, "amperes": _AMPERES}


def key_of(name: str) -> str:
    """The key that a field is written under."""
    suffix = next((each for each in _BY_SUFFIX if name.endswith(each)), "")
    return name.removesuffix(suffix)


def written(name: str) -> _Written | None:
    suffix = next((each for each in _BY_SUFFIX if name.endswith(each)), "")
    return _BY_SUFFIX.get(suffix) or _BY_NAME.get(name)


def fields_in_order(noun: Any) -> list[dataclasses.Field[Any]]:
    """The fields as they are written: what is of this noun alone, then what every part may have noted."""
    return sorted(dataclasses.fields(noun), key=lambda field: field.kw_only is True)


class Sheet(BaseModel):
    """A table of a sheet. A key that is not known is refused."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True, allow_inf_nan=False)


def _quantity(units: _Written) -> tuple[BeforeValidator, WithJsonSchema]:
    """Reads a value with its unit; what the schema says of it."""

    def read(value: object) -> float:
        if not isinstance(value, str):
            raise ValueError('write it with its unit, in quotes, such as "5 Gb/s"')
        try:
            return parse_quantity(value, *units.reads).value
        except QuantityError as error:
            raise ValueError(f"{error.why}. {error.do}") from None

    told = {"type": "string", "description": f"a value with its unit, such as 1 {units.prints[0]}"}
    return BeforeValidator(read), WithJsonSchema(told)


def _mode(value: object) -> object:
    try:
        return str(parse_mode(str(value)))
    except QuantityError as error:
        raise ValueError(f"{error.why}. {error.do}") from None


def _none_in_words(value: object) -> object:
    return None if value == NONE else value


def _nothing_in_words(value: object) -> object:
    return "" if value == NONE else value


def _plain_words(text: str) -> str:
    if found := find_control(text):
        raise ValueError(f"it has the control character {found}; write plain words")
    return text


def _connector(value: object) -> object:
    if not isinstance(value, str):
        return value
    try:
        return parse_connector(value)
    except InputError as error:
        raise ValueError(f"{error.why}. {error.do}") from None


Words = Annotated[str, Field(min_length=1, max_length=200), AfterValidator(_plain_words)]
_MaybeNone = Annotated[str, Field(max_length=200), BeforeValidator(_nothing_in_words), AfterValidator(_plain_words)]
"""Words that are empty where "none" is written."""
_Connector = Annotated[Words, BeforeValidator(_connector)]
_Mode = Annotated[str, BeforeValidator(_mode)]
_SPECIAL: dict[str, Any] = {
    "Port.id": Annotated[str, Field(pattern=_PORT_ID)],
    "HostSocket.id": Annotated[str, Field(pattern=_ID)],
    "Card.bus": Literal[tuple(BUS_BPS)],
    "Reader.bus": Literal[tuple(BUS_BPS)],
    "Display.modes": Annotated[list[_Mode], Field(min_length=1)],
    "HostSocket.modes": list[_Mode],
    "Lead.ends": Annotated[list[_Connector], Field(min_length=2, max_length=2)],
    "Adapter.ends": list[_Connector],
    "Rule.connector": Annotated[str, Field(max_length=40)],
    "Drive.usb_id": Annotated[str, Field(pattern=_USB_ID)],
    "Device.usb_ids": list[Annotated[str, Field(pattern=_USB_ID)]],
    "Price.money": Annotated[str, Field(pattern=_MONEY)],
    "Peer.mtu_bytes": Annotated[int, Field(ge=576, le=65535)],
    "Thermometer.error_k": Annotated[float, Field(gt=0, le=20)],
    "Instrument.power_error_percent": Annotated[float, Field(ge=0, le=100)],
    "Meter.power_error_percent": Annotated[float, Field(ge=0, le=100)],
    "Load.power_error_percent": Annotated[float, Field(ge=0, le=100)],
    "Query.lowest": float,
    "Query.highest": float,
    "Query.scale": float,
    "Query.cell": Annotated[int, Field(ge=1, le=MAX_CELLS)],
    "Description.identity": _MaybeNone,
    "Description.clear": _MaybeNone,
    "Description.errors": _MaybeNone,
    "Description.begin": Annotated[list[Words], Field(max_length=20)],
    "Description.end": Annotated[list[Words], Field(max_length=20)],
    "Description.timeout_s": Annotated[float, Field(ge=0.05, le=30)],
    "Description.baud": Annotated[int, Field(ge=300, le=4_000_000)],
}
"""What is narrower than its type says."""


@cache
def form_of(noun: type[Any], without: tuple[str, ...] = ()) -> type[Sheet]:
    """The table that a noun is written as; `without` names fields that are written elsewhere."""
    hints = hints_of(noun)
    fields: dict[str, Any] = {}
    for field in fields_in_order(noun):
        if field.name not in without:
            fields[key_of(field.name)] = _field(noun, field, hints[field.name])
    return create_model(f"{noun.__name__}Sheet", __base__=Sheet, **fields)


def _field(noun: type[Any], field: dataclasses.Field[Any], hint: Any) -> tuple[Any, Any]:
    inner, noted = unnoted(hint)
    form = _SPECIAL.get(f"{noun.__name__}.{field.name}") or _form(field.name, inner)
    if noted:
        return Annotated[form | None, BeforeValidator(_none_in_words)], None
    return form, ... if field.default is dataclasses.MISSING else field.default


def unnoted(hint: Any) -> tuple[Any, bool]:
    """The type of a value that may be noted, and whether it may."""
    if get_origin(hint) in (Union, types.UnionType):
        kinds = [each for each in get_args(hint) if each not in (NotNoted, type(None))]
        return kinds[0], True
    return hint, False


def _form(name: str, hint: Any) -> Any:
    units = written(name)
    if hint is float and units is not None:
        return Annotated[float, *_quantity(units)]
    if get_origin(hint) is tuple:
        return _list_form(name, get_args(hint))
    if dataclasses.is_dataclass(hint):
        return form_of(hint)  # type: ignore[arg-type]
    if isinstance(hint, type) and issubclass(hint, StrEnum):
        return Literal[tuple(each.value for each in hint)]
    if name == "connector":
        return _Connector
    if hint is str:
        return Annotated[str, Field(pattern=_ID)] if name == "id" else Words
    if hint is float:
        return Annotated[float, Field(ge=0)]
    return Annotated[int, Field(ge=0)] if hint is int else hint


def _list_form(name: str, parts: tuple[Any, ...]) -> Any:
    if parts[-1] is Ellipsis:
        return list[_form(name, parts[0])]  # type: ignore[misc]
    return Annotated[list[_form(name, parts[0])], Field(min_length=len(parts), max_length=len(parts))]  # type: ignore[misc]


Noun = TypeVar("Noun")


def hints_of(noun: type[Any]) -> dict[str, Any]:
    """The types of a noun's fields."""
    return _kept_hints(noun)  # type: ignore[arg-type]


@cache
def _kept_hints(noun: type[Any]) -> dict[str, Any]:
    """Resolving them takes longer than reading a table."""
    return get_type_hints(noun)


def noun_of(noun: type[Noun], sheet: BaseModel, **elsewhere: Any) -> Noun:
    """The noun that a table says; what the table does not have is not noted, or has its default."""
    hints = hints_of(noun)
    values = dict(elsewhere)
    for field in dataclasses.fields(noun):  # type: ignore[arg-type]
        key = key_of(field.name)
        if field.name not in elsewhere and key in sheet.model_fields_set:
            values[field.name] = _value(unnoted(hints[field.name])[0], getattr(sheet, key))
    return noun(**values)


def _value(hint: Any, said: Any) -> Any:
    if said is None:
        return None
    if isinstance(said, list):
        return tuple(_value(get_args(hint)[0], each) for each in said)
    if isinstance(said, BaseModel):
        return noun_of(hint, said)
    return hint(said) if isinstance(hint, type) and issubclass(hint, Enum) else said


def table_of(noun: Any, without: tuple[str, ...] = ()) -> dict[str, Any]:
    """A noun as a table: what was not noted, or is as it is by default, is left out."""
    table: dict[str, Any] = {}
    for field in fields_in_order(noun):
        value = getattr(noun, field.name)
        if field.name not in without and value is not NOT_NOTED and value != field.default:
            table[key_of(field.name)] = _plain(field.name, value)
    return table


def _plain(name: str, value: Any) -> Any:
    units = written(name)
    if value is None:
        return NONE
    if isinstance(value, tuple):
        return [_plain(name, each) for each in value]
    if dataclasses.is_dataclass(value):
        return table_of(value)
    if isinstance(value, Enum):
        return value.value
    return _with_unit(value, units) if isinstance(value, float) and units else value


def _with_unit(value: float, units: _Written) -> str:
    """With the largest unit that leaves a number of at least 1, such that reading it gives the value again."""
    for symbol in units.prints:
        unit = find_unit(symbol)
        if unit is not None and (abs(value) >= unit.in_si or symbol == units.prints[-1]):
            text = f"{plain_number(value / unit.in_si)} {symbol}"
            if parse_quantity(text, *units.reads).value == value:
                return text
    return f"{Decimal(repr(value)):f} {units.prints[-1]}"
