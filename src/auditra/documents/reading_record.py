"""How a reading is written in journals and facts files: flat, with one key for each sort of value."""

from __future__ import annotations

import dataclasses
from typing import Any, get_type_hints

from auditra.core.model.reading import Count, Number, Reading, Value, Words, YesNo

_VALUE_KEYS: tuple[tuple[str, Any, Any], ...] = (
    ("values", tuple[float, ...], ()), ("count", Count | None, None),
    ("text", str | None, None), ("yes", bool | None, None),
)  # fmt: skip
"""What stands in place of `value`. Older journals may have several of them: then the first of this list counts."""


def _fields() -> list[tuple[str, Any, Any]]:
    """The fields of a reading as they are written: name, type and, as a dataclass wants it, default."""
    hints, written = get_type_hints(Reading), []
    for each in dataclasses.fields(Reading):
        if each.name == "value":
            written += [(name, hint, dataclasses.field(default=default)) for name, hint, default in _VALUE_KEYS]
        else:
            written.append((each.name, hints[each.name], dataclasses.field(default=each.default)))
    return written


ReadingRecord: Any = dataclasses.make_dataclass("Reading", _fields(), frozen=True)


@dataclasses.dataclass(frozen=True)
class ReadingTakenRecord:
    """The body of the fact that a reading was taken."""

    reading: ReadingRecord


def record_of(reading: Reading) -> Any:
    """A reading as it is written."""
    plain = {each.name: getattr(reading, each.name) for each in dataclasses.fields(reading)}
    value = plain.pop("value")
    match value:
        case Number(repeats):
            plain["values"] = repeats
        case Count():
            plain["count"] = value
        case Words(text):
            plain["text"] = text
        case YesNo(yes):
            plain["yes"] = yes
    return ReadingRecord(**plain)


def values_in(record: Any) -> tuple[str, ...]:
    """The keys of the values that a record has; a reading has one."""
    return tuple(name for name, _, default in _VALUE_KEYS if getattr(record, name) != default)


def reading_of(record: Any) -> Reading:
    """The reading that was written."""
    plain = dict(vars(record))
    values, count, text, yes = (plain.pop(name) for name, _, _ in _VALUE_KEYS)
    value: Value = Number(values)
    if not values and count is not None:
        value = count
    elif not values and text is not None:
        value = Words(text)
    elif not values and yes is not None:
        value = YesNo(yes)
    return Reading(value=value, **plain)
