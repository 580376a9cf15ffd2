"""How a reading is written in journals and facts files: flat, with one key for each sort of value."""

from __future__ import annotations

import dataclasses
from typing import Any, TypeVar, get_type_hints

from auditra.core.model.reading import Count, Number, Reading, Value, Words, YesNo

Made = TypeVar("Made")
_VALUE_KEYS: tuple[tuple[str, Any, Any], ...] = (
    ("values", tuple[float, ...], ()), ("count", Count | None, None),
    ("text", str | None, None), ("yes", bool | None, None),
)  # fmt: skip
"""What stands in place of `value`. Older journals may have several of them: then the first of this list counts."""
_NO_VALUE = {name: default for name, _, default in _VALUE_KEYS} | {"trace": None}


def _fields() -> list[tuple[str, Any, Any]]:
    """The fields of a reading as they are written: name, type and, as a dataclass wants it, default."""
    hints, written = get_type_hints(Reading), []
    for field in dataclasses.fields(Reading):
        if field.name == "value":
            written += [(name, hint, dataclasses.field(default=default)) for name, hint, default in _VALUE_KEYS]
        else:
            written.append((field.name, hints[field.name], dataclasses.field(default=field.default)))
    return written


ReadingRecord: Any = dataclasses.make_dataclass("Reading", _fields(), frozen=True)


@dataclasses.dataclass(frozen=True)
class ReadingTakenRecord:
    """The body of the fact that a reading was taken."""

    reading: ReadingRecord


def record_of(reading: Reading) -> Any:
    """A reading as it is written, without its trace: that is kept beside the body."""
    plain = vars(reading) | _NO_VALUE
    match plain.pop("value"):
        case Number(repeats):
            plain["values"] = repeats
        case Count() as count:
            plain["count"] = count
        case Words(text):
            plain["text"] = text
        case YesNo(yes):
            plain["yes"] = yes
    return _made_of(ReadingRecord, plain)


def value_keys_of(record: Any) -> tuple[str, ...]:
    """The keys of the values that a record has; a reading has one."""
    return tuple(name for name, _, default in _VALUE_KEYS if getattr(record, name) != default)


def reading_of(record: Any) -> Reading:
    """The reading that was written. The record is used up."""
    plain = vars(record)
    plain["value"] = _value_of(plain.pop("values"), plain.pop("count"), plain.pop("text"), plain.pop("yes"))
    reading = _made_of(Reading, plain)
    reading.__post_init__()
    return reading


def _value_of(values: tuple[float, ...], count: Count | None, text: str | None, yes: bool | None) -> Value:
    if values or (count is None and text is None and yes is None):
        return _made_of(Number, {"repeats": values})
    if count is not None:
        return count
    return Words(text) if text is not None else YesNo(bool(yes))


def _made_of(noun: type[Made], fields: dict[str, Any]) -> Made:
    """An object of these fields as they are. A journal has tens of thousands of readings, and the constructor of a
    frozen dataclass takes as long as all else that is done to read one."""
    made = object.__new__(noun)
    object.__setattr__(made, "__dict__", fields)
    return made
