"""Rig files: all gear that takes part, as TOML."""

from __future__ import annotations

from dataclasses import fields
from typing import Any, get_args, get_type_hints

from pydantic import create_model

from auditra.core.model.rig import Rig
from auditra.documents.nouns import Sheet, Words, form_of, noun_of, table_of
from auditra.documents.toml_lines import Locator, bounded, load_toml, toml_text, validate

MAX_PARTS = 200
"""Far more of one kind than any bench has."""
_ONE_OF_MANY = {"hosts": "host", "supplies": "supply"}
"""Keys of the rig's lists that are not the field's name without its s."""


_OF_THE_RIG = ("name", "retired")
"""Fields of a rig that are no lists of parts."""


def _list_key(field: str) -> str:
    return _ONE_OF_MANY.get(field, field.removesuffix("s"))


def _rig_lists() -> dict[str, tuple[str, type[Any]]]:
    """The key of each list of a rig, with the rig's field and the noun in it."""
    hints = get_type_hints(Rig)
    return {
        _list_key(field.name): (field.name, get_args(hints[field.name])[0])
        for field in fields(Rig)
        if field.name not in _OF_THE_RIG
    }


_RIG_LISTS = _rig_lists()


def _rig_file() -> type[Sheet]:
    """The form of a rig, made from the nouns; a rig has a host at least."""
    parts: dict[str, Any] = {"name": (Words, ...), "retired": (list[Words], [])}
    for key, (_, noun) in _RIG_LISTS.items():
        is_host = key == "host"
        form: Any = form_of(noun)  # type: ignore[arg-type]
        tables = bounded(form, MAX_PARTS, least=int(is_host))
        parts[key] = (tables, ...) if is_host else (tables, [])
    return create_model("RigFile", __base__=Sheet, **parts)


def rig_schema() -> dict[str, Any]:
    """The JSON Schema of a rig file."""
    return _rig_file().model_json_schema()


def read_rig(text: str, file: str) -> Rig:
    """The rig of a rig file. Raises: SheetError with the line and key path to fix."""
    locate = Locator(text, file)
    sheet = validate(_rig_file(), load_toml(text, locate), locate)
    _check_ids(sheet, locate)
    lists = {
        field: tuple(noun_of(noun, each) for each in getattr(sheet, key)) for key, (field, noun) in _RIG_LISTS.items()
    }
    return Rig(sheet.name, **lists, retired=tuple(sheet.retired))


def write_rig(rig: Rig) -> str:
    """A rig file that reads as this rig."""
    lists = {key: [table_of(each) for each in getattr(rig, field)] for key, (field, _) in _RIG_LISTS.items()}
    retired = {"retired": list(rig.retired)} if rig.retired else {}
    return toml_text({"name": rig.name} | retired | {key: tables for key, tables in lists.items() if tables})


def _check_ids(sheet: Any, locate: Locator) -> None:
    known: set[str] = set()
    for kind in _RIG_LISTS:
        for index, part in enumerate(getattr(sheet, kind)):
            if part.id in known:
                raise locate.error((kind, index, "id"), "another part of the rig has this id", part.id)
            known.add(part.id)
    for index, part_id in enumerate(sheet.retired):
        if part_id not in known:
            raise locate.error(("retired", index), "the rig has no part of that id", part_id)
    readers = {reader.id for reader in sheet.reader}
    for index, card in enumerate(sheet.card):
        if card.reader is not None and card.reader not in readers:
            raise locate.error(("card", index, "reader"), "the rig has no reader of that id", card.reader)
