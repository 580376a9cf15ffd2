"""How an instrument is spoken to, as TOML that people write."""

from __future__ import annotations

from typing import Any

from auditra.core.instruments.answer import is_unit_of
from auditra.core.instruments.description import Description, LoadCommands, Query
from auditra.core.sanitize import sanitize
from auditra.documents.nouns import NONE, form_of, noun_of, table_of
from auditra.documents.toml_lines import KeyPath, Locator, load_toml, toml_text, validate

MAX_QUERIES, MAX_RANGES = 64, 32
_CURRENT = ("{amperes}", "{milliamperes}")


def instrument_schema() -> dict[str, Any]:
    """The JSON Schema of a description."""
    return form_of(Description).model_json_schema()


def read_instrument(text: str, file: str) -> Description:
    """A description. Raises: SheetError with the line and key of what cannot be."""
    locate = Locator(text, file)
    sheet = validate(form_of(Description), load_toml(text, locate), locate)
    description = noun_of(Description, sheet)
    for where, why in _mistakes(description):
        raise locate.error(where, why, "")
    return description


def write_instrument(description: Description) -> str:
    """A file that reads as this description."""
    table = {key: value if value != "" else NONE for key, value in table_of(description).items()}
    return toml_text({key: table[key] for key in sorted(table, key=lambda key: isinstance(table[key], list | dict))})


def _mistakes(description: Description) -> list[tuple[KeyPath, str]]:
    """Where it cannot be meant so, and why."""
    found: list[tuple[KeyPath, str]] = []
    if not description.queries and description.load is None:
        found.append(((), "it measures nothing and sets nothing: write a [[queries]] table"))
    if len(description.queries) > MAX_QUERIES:
        found.append((("queries",), f"more than {MAX_QUERIES}"))
    for index, query in enumerate(description.queries[:MAX_QUERIES]):
        found += [(("queries", index, key), why) for key, why in _mistakes_of(query)]
    told = [each.measures for each in description.queries]
    found += [
        (("queries", index, "measures"), f"the {each} is asked for above")
        for index, each in enumerate(told)
        if each in told[:index]
    ]
    if description.load is not None:
        found += [(("load", key), why) for key, why in _mistakes_of_load(description.load)]
    every = (description.identity, description.clear, description.errors, *description.begin, *description.end)
    found += [((), f'"{sanitize(each, 40)}" is not one line of ASCII text') for each in every if not _is_command(each)]
    return found


def _is_command(text: str) -> bool:
    """What goes over a line: a line break in it would be a second command."""
    return text.isascii() and text.isprintable()


def _mistakes_of(query: Query) -> list[tuple[str, str]]:
    limits = [limit.up_to for limit in query.errors]
    checks = (
        (query.unit and not is_unit_of(query.unit, query.measures), "unit", f"a {query.measures} has another unit"),
        (not query.lowest < query.highest, "highest", "it is not above what is lowest"),
        (query.scale == 0, "scale", "everything would be 0"),
        (limits != sorted(set(limits)), "errors", "write the smallest range first"),
        (len(limits) > MAX_RANGES, "errors", f"more than {MAX_RANGES}"),
        (not _is_command(query.ask), "ask", "it is not one line of ASCII text"),
    )
    return [(key, why) for wrong, key, why in checks if wrong]


def _mistakes_of_load(load: LoadCommands) -> list[tuple[str, str]]:
    checks = (
        (sum(load.set_current.count(each) for each in _CURRENT) != 1, "set_current",
         f"write {_CURRENT[0]} or {_CURRENT[1]} where the current goes"),
        (load.on == load.off, "off", "it is switched on and off by the same command"),
        *((not _is_command(getattr(load, key)), key, "it is not one line of ASCII text")
          for key in ("set_current", "on", "off", "asks_current")),
    )  # fmt: skip
    return [(key, why) for wrong, key, why in checks if wrong]
