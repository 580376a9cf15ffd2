"""A noun as a person types it, a text a field: ``440 MB/s``, ``yes``, ``none``, ``usb-c, usb-c``.

A list is written with commas. A list of nouns is written with semicolons; each noun has its required values in order,
then ``key value``: ``C1, usb-c, 40 Gb/s, display yes; A1, usb-a, 5 Gb/s``.
"""

from __future__ import annotations

import dataclasses
import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, TypeVar, get_args, get_origin

from pydantic import ValidationError

from auditra.core.errors import InputError
from auditra.core.links.cards import BUS_BPS
from auditra.core.links.connectors import CONNECTORS
from auditra.core.links.ethernet import CATEGORIES
from auditra.core.model.device import Extra, Price, PriceKind
from auditra.core.sanitize import sanitize
from auditra.documents.nouns import (
    NONE,
    fields_in_order,
    form_of,
    hints_of,
    key_of,
    noun_of,
    table_of,
    unnoted,
    written,
)

YES, NO = "yes", "no"
_PRICE = re.compile(
    rf"(\d{{1,9}}(?:[.,]\d{{1,2}})?)\s+([A-Z]{{3}})(?:\s+(\d{{4}}-\d{{2}}-\d{{2}}))?(?:\s+({'|'.join(PriceKind)}))?"
)
_PRICE_EXAMPLE = "Such as 49.90 EUR 2026-03-01 street"
_TRUE = {YES: True, "y": True, "true": True, NO: False, "n": False, "false": False}
_EXAMPLES = {
    "bps": "440 MB/s", "w": "65 W", "watts": "65 W", "v": "20 V", "volts": "20 V", "a": "3 A", "amperes": "3 A",
    "m": "0.8 m",
}  # fmt: skip
_DATE = "2026-03-01"
_SPECIAL_EXAMPLES = {
    "bought": _DATE, "calibrated": _DATE, "seen": _DATE, "usb_id": "1f6e:5501", "money": "EUR", "usb_ids": "1f6e:0601",
    "sockets": "C1, usb-c, 40 Gb/s, display yes; A1, usb-a, 5 Gb/s", "steps": "5 V, 3 A; 20 V, 3.25 A",
    "price": "49.90 EUR 2026-03-01", "other_prices": "39 EUR 2026-05-02 used; 59 EUR list", "supply": "20 V, 7.5 A",
    "box_contents": "dock, supply, lead", "storage": "ssd, size_bytes 512000000000", "printed_count": "11",
    "hops": "desk switch, 1 Gb/s", "accuracy": "power, error_percent 0.5",
    "extras": "HDMI lead, price 12 EUR; longer lead", "ends": "usb-c, usb-c",
    "modes": "3840x2160@60, 1920x1080@60", "mtu_bytes": "1500", "gauge_awg": "28", "address": "192.0.2.5:5025",
    "Thermometer.address": "hwmon:tc74/temp1", "Peer.address": "192.0.2.5:8620", "spot": "case", "speaks": "common",
    "power_error_w": "0.05 W", "power_error_percent": "0.5",
    "Thermometer.speaks": "thermometer",
}  # fmt: skip
_LABELS = {
    "id": "short name", "read": "read rate", "write": "write rate", "data": "data rate", "rate": "link rate",
    "wants": "draws", "battery_wh": "battery, Wh", "usb_id": "USB id", "mtu_bytes": "largest frame, B",
    "gauge_awg": "gauge, AWG", "bus": "bus class", "vrr": "variable refresh", "error_k": "error, K",
    "power_error_percent": "power error, %", "power_error": "power error, W", "asks": "asks for", "draws": "draws",
    "cache_bytes": "cache, B", "current": "start current", "division": "finest division", "driver": "driver installed",
    "policy": "host policy", "origin": "came from", "bought": "bought or made", "photo": "photo, SHA-256",
    "error_percent": "error, %", "printed_count": "ports on the box", "extras": "sold separately",
    "supply": "supplied supply", "disclosure": "how obtained", "seen_before_by": "seen before by",
    "helper_gear": "gear used with it", "reviewed_by": "reviewed by", "storage": "storage inside",
    "usb_ids": "USB ids of hubs", "end": "end of a lead", "speaks": "speaks as", "spot": "where it is",
}  # fmt: skip


class Shape(StrEnum):
    """What sort of value a field has."""

    TEXT = "text"
    NUMBER = "number"
    WHOLE = "whole number"
    TRUTH = "yes or no"
    LIST = "list"
    NOUN = "noun"
    NOUNS = "list of nouns"


@dataclass(frozen=True)
class TypedField:
    """One field: its key, what it is called, whether it must have a value, and what may stand in it."""

    key: str
    label: str
    required: bool
    shape: Shape
    choices: tuple[str, ...] = ()
    example: str = ""
    form: str = ""
    """Of a list of nouns, what each has in which order."""
    noted: bool = False
    """It may be ``none``."""


class FieldRefused(InputError):
    """A field whose text is no value for it; `key` names the field."""

    def __init__(self, key: str, label: str, why: str, do: str = "") -> None:
        super().__init__(label, why=why, do=do)
        self.key = key


def typed_fields(noun: type[Any], without: tuple[str, ...] = ()) -> tuple[TypedField, ...]:
    """The fields of a noun in the order in which they are typed."""
    hints = hints_of(noun)
    return tuple(_typed_field(noun, field, hints[field.name]) for field in fields_in_order(noun)
                 if field.name not in without)  # fmt: skip


def _typed_field(noun: type[Any], field: dataclasses.Field[Any], hint: Any) -> TypedField:
    inner, noted = unnoted(hint)
    key = key_of(field.name)
    label = _LABELS.get(key, key.replace("_", " "))
    return TypedField(
        key, label, field.default is dataclasses.MISSING, _shape(field.name, inner), _choices(noun, field.name, inner),
        _example(noun, field.name, inner), _order_in(inner), noted,
    )  # fmt: skip


def _shape(name: str, hint: Any) -> Shape:
    if get_origin(hint) is tuple:
        return Shape.NOUNS if dataclasses.is_dataclass(get_args(hint)[0]) else Shape.LIST
    if dataclasses.is_dataclass(hint):
        return Shape.NOUN
    if hint is bool:
        return Shape.TRUTH
    if hint is float and written(name) is None:
        return Shape.NUMBER
    return Shape.WHOLE if hint is int else Shape.TEXT


def _choices(noun: type[Any], name: str, hint: Any) -> tuple[str, ...]:
    if hint is bool:
        return YES, NO
    if name in ("connector", "ends"):
        return (*CONNECTORS, *(f"{connector} plug" for connector in CONNECTORS if connector in _PLUGS))
    if name == "bus" and noun.__name__ in ("Card", "Reader"):
        return tuple(BUS_BPS)
    if name == "category":
        return CATEGORIES
    return tuple(hint) if isinstance(hint, type) and issubclass(hint, StrEnum) else ()


_PLUGS = ("usb-a", "usb-c", "hdmi", "displayport", "sd", "microsd")
"""Connectors whose plug is often at the end of a device or a card itself."""


def _example(noun: type[Any], name: str, hint: Any) -> str:
    for key in (f"{noun.__name__}.{name}", name):
        if key in _SPECIAL_EXAMPLES:
            return _SPECIAL_EXAMPLES[key]
    if hint is float and written(name) is not None:
        return _EXAMPLES.get(name.rsplit("_", 1)[-1], "")
    return ""


def _order_in(hint: Any) -> str:
    """``short name, connector, data rate``, and what else may follow."""
    if get_origin(hint) is not tuple or not dataclasses.is_dataclass(get_args(hint)[0]):
        return ""
    own = typed_fields(get_args(hint)[0])
    needed = ", ".join(field.label for field in own if field.required)
    more = ", ".join(field.key for field in own if not field.required)
    tail = f", then any of {more} with its value" if more else ""
    return f"each with {needed}{tail}; a semicolon between two"


# Typing


def as_typed(value: Any, without: tuple[str, ...] = ()) -> dict[str, str]:
    """Each field of a noun as it would be typed; nothing for what is not noted."""
    nested = {key_of(each.name): getattr(value, each.name) for each in fields_in_order(value)}
    return {key: _spoken(nested[key]) or _text(plain) for key, plain in table_of(value, without).items()}


def _spoken(value: Any) -> str:
    """A noun, or several; nothing for any other value."""
    if isinstance(value, tuple) and any(map(dataclasses.is_dataclass, value)):
        return "; ".join(map(_nested_text, value))
    return _nested_text(value) if dataclasses.is_dataclass(value) else ""


def _text(plain: Any) -> str:
    if isinstance(plain, bool):
        return YES if plain else NO
    if isinstance(plain, list):
        return ", ".join(map(_text, plain))
    if isinstance(plain, float):
        return f"{plain:g}"
    return str(plain)


def _nested_text(noun: Any) -> str:
    """A noun within a field: the values that it must have, then the others with their keys."""
    if isinstance(noun, Price):
        return _price_text(noun)
    table = table_of(noun)
    if isinstance(noun, Extra) and isinstance(noun.price, Price):
        table["price"] = _price_text(noun.price)
    needed = [field.key for field in typed_fields(type(noun)) if field.required]
    more = [f"{key} {_inner(value)}" for key, value in table.items() if key not in needed]
    return ", ".join([*(_inner(table[key]) for key in needed), *more])


def _price_text(price: Price) -> str:
    """``49.90 EUR 2026-03-01 street``."""
    more = (each for each in (price.seen, price.kind) if isinstance(each, str))
    return " ".join((f"{price.amount:.2f}".removesuffix(".00"), price.money, *more))


def _inner(value: Any) -> str:
    return " + ".join(map(_text, value)) if isinstance(value, list) else _text(value)


# Reading

Noun = TypeVar("Noun")


def noun_from(noun: type[Noun], texts: Mapping[str, str], without: tuple[str, ...] = (), **elsewhere: Any) -> Noun:
    """The noun that was typed; `elsewhere` has the fields that were not. Raises: FieldRefused, naming the field."""
    fields = typed_fields(noun, without)
    for field in fields:
        if field.required and not texts.get(field.key, "").strip():
            raise FieldRefused(field.key, field.label, "it needs a value", _do(field))
    table = {field.key: _plain(noun, field, text) for field in fields if (text := texts.get(field.key, "").strip())}
    by_key = {field.key: field for field in fields}
    try:
        sheet = form_of(noun, without).model_validate(table)  # type: ignore[arg-type]
    except ValidationError as error:
        first = error.errors()[0]
        key = str(first["loc"][0]) if first["loc"] else ""
        label = by_key[key].label if key in by_key else key
        raise FieldRefused(key, label, _why(first), _do(by_key.get(key))) from None
    return noun_of(noun, sheet, **elsewhere)


def _why(error: Any) -> str:
    if error["type"] == "string_pattern_mismatch" and error["loc"][-1] == "id":
        return "use letters, digits and hyphens, a letter first"
    if error["type"] in ("string_too_short", "missing"):
        return "it needs a value"
    message = str(error["msg"]).removeprefix("Value error, ")
    return sanitize(message[:1].lower() + message[1:], 160)


def _do(field: TypedField | None) -> str:
    return f"Such as {field.example}" if field is not None and field.example else ""


def _plain(noun: type[Any], field: TypedField, text: str) -> Any:
    """The text as the sheets have it. Raises: FieldRefused."""
    if field.noted and text == NONE:
        return NONE
    match field.shape:
        case Shape.LIST:
            return [part for each in text.split(",") if (part := each.strip())]
        case Shape.NOUNS:
            inner = get_args(unnoted(_hint(noun, field.key))[0])[0]
            return [_nested(inner, field, each) for each in text.split(";") if each.strip()]
        case Shape.NOUN:
            return _nested(unnoted(_hint(noun, field.key))[0], field, text)
        case _:
            return _scalar(field, text)


def _scalar(field: TypedField, text: str) -> Any:
    if field.shape is Shape.TRUTH:
        if text.lower() not in _TRUE:
            raise FieldRefused(field.key, field.label, f'"{sanitize(text, 20)}" is neither yes nor no')
        return _TRUE[text.lower()]
    if field.shape is Shape.WHOLE:
        if not re.fullmatch(r"\d{1,15}", text):
            raise FieldRefused(field.key, field.label, f'"{sanitize(text, 20)}" is no whole number', _do(field))
        return int(text)
    if field.shape is Shape.NUMBER:
        try:
            return float(text)
        except ValueError:
            raise FieldRefused(field.key, field.label, f'"{sanitize(text, 20)}" is no number', _do(field)) from None
    return text


def _nested(noun: type[Any], outer: TypedField, text: str) -> dict[str, Any]:
    """One noun within a field. Raises: FieldRefused."""
    if noun is Price:
        return _price(outer, text)
    own = typed_fields(noun)
    needed, more = [field for field in own if field.required], {field.key: field for field in own}
    parts = [part.strip() for part in text.split(",") if part.strip()]
    if len(parts) < len(needed):
        lacking = ", ".join(field.label for field in needed[len(parts) :])
        raise FieldRefused(outer.key, outer.label, f'"{sanitize(text.strip(), 40)}" lacks: {lacking}', outer.example)
    table = {field.key: _plain(noun, field, part) for field, part in zip(needed, parts, strict=False)}
    for part in parts[len(needed) :]:
        key, _, value = part.partition(" ")
        if key not in more or not value.strip():
            known = ", ".join(field.key for field in own if not field.required)
            raise FieldRefused(outer.key, outer.label, f'"{sanitize(part, 40)}" is no field', f"Known: {known}")
        value = value.replace("+", ",") if more[key].shape is Shape.LIST else value
        table[key] = _plain(noun, more[key], value.strip())
    return table


def _price(outer: TypedField, text: str) -> dict[str, Any]:
    """``49.90 EUR``, with the day and whose price it is behind. Raises: FieldRefused."""
    match = _PRICE.fullmatch(text.strip())
    if match is None:
        raise FieldRefused(outer.key, outer.label, f'"{sanitize(text.strip(), 40)}" is not a price', _PRICE_EXAMPLE)
    table: dict[str, Any] = {"amount": float(match[1].replace(",", ".")), "money": match[2]}
    return table | {key: value for key, value in (("seen", match[3]), ("kind", match[4])) if value}


def _hint(noun: type[Any], key: str) -> Any:
    return next(hint for name, hint in hints_of(noun).items() if key_of(name) == key)
