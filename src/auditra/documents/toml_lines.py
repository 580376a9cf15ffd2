"""TOML that people write: read with the line and key of whatever is wrong, and written back."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable
from typing import Annotated, Any

from pydantic import FailFast, Field, ValidationError

from auditra.core.errors import SheetError
from auditra.core.sanitize import sanitize
from auditra.documents.nouns import Sheet

MAX_SHEET_BYTES = 1 << 20
MAX_KEY_PARTS = 16


def bounded(table: Any, most: int, least: int = 0) -> Any:
    """A list of tables; the first that is wrong ends the reading, however many follow."""
    return Annotated[list[table], Field(min_length=least, max_length=most), FailFast()]


def toml_text(tables: dict[str, Any]) -> str:
    import tomlkit  # only needed when something is written

    document = tomlkit.document()
    for key, value in tables.items():
        if isinstance(value, list) and value and isinstance(value[0], dict):
            array = tomlkit.aot()
            for each in value:
                array.append(tomlkit.item(_inline(each)))
            document.append(key, array)
        else:
            document.append(key, tomlkit.item(value))
    return tomlkit.dumps(document)


def _inline(table: dict[str, Any]) -> dict[str, Any]:
    """Lists of tables inside a table go on lines of their own, each between braces."""
    import tomlkit

    out: dict[str, Any] = {}
    for key, value in table.items():
        if isinstance(value, list):
            array = tomlkit.array()
            for each in value:
                array.append(_braces(each) if isinstance(each, dict) else each)
            out[key] = array.multiline(any(isinstance(each, dict) for each in value))
        else:
            out[key] = _braces(value) if isinstance(value, dict) else value
    return out


def _braces(table: dict[str, Any]) -> Any:
    import tomlkit

    inline = tomlkit.inline_table()
    inline.update(_inline(table))
    return inline


KeyPath = tuple[str | int, ...]


def load_toml(text: str, locate: Locator) -> dict[str, Any]:
    """The tables of a file as they stand. Raises: SheetError."""
    if len(text) > MAX_SHEET_BYTES:
        raise locate.error((), f"it is longer than {MAX_SHEET_BYTES} characters", "")
    locate.refuse_what_takes_for_ever()
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise locate.not_toml(error) from error
    except RecursionError as error:
        raise locate.error((), "its brackets are nested too deep", "") from error


def validate(model: type[Sheet], tables: dict[str, Any], locate: Locator) -> Any:
    """The tables as a form says them. Raises: SheetError."""
    try:
        return model.model_validate(tables)
    except ValidationError as error:
        first = error.errors()[0]
        raise locate.error(_without_union_tags(first["loc"]), _in_words(first), _offending(first)) from error


def _without_union_tags(where: Iterable[str | int]) -> KeyPath:
    """The path of keys alone; pydantic also names which form of a value it tried."""
    return tuple(step for step in where if isinstance(step, int) or not re.search(r"[\[\](){}]", step))


_KIND_IN_WORDS = {
    "missing": "this is missing",
    "extra_forbidden": "unknown key",
    "string_type": "expected a quoted string",
    "list_type": "expected a list in square brackets",
    "int_type": 'expected a whole number, or "none"',
    "bool_type": "expected true or false",
    "model_type": "expected a table of keys",
    "string_pattern_mismatch": "expected letters, digits and dashes, a letter first",
}


def _in_words(error: Any) -> str:
    if error["type"] == "too_long":
        return f"more than {error['ctx']['max_length']}"
    message = str(error["msg"]).removeprefix("Value error, ")
    return _KIND_IN_WORDS.get(error["type"], message[:1].lower() + message[1:])


def _offending(error: Any) -> str:
    value = error["input"]
    return "" if isinstance(value, dict | list) or error["type"] == "missing" else sanitize(str(value), 80)


def _without_comments(text: str) -> tuple[list[str], list[str]]:
    """The lines without what stands in comments; and without what stands in strings too, where no key can be."""
    kept, code, inside = [], [], ""
    for line in text.split("\n"):
        told, bare, at = [], [], 0
        while at < len(line):
            mark = _STRING_MARK.match(line, at)
            if not inside and line[at] == "#":
                break
            if inside and inside.startswith('"') and line[at] == "\\":
                told.append(line[at : at + 2])
                at += 2
            elif mark and inside in ("", mark[0]):
                inside = "" if inside else mark[0]
                told.append(mark[0])
                bare.append(mark[0])
                at += len(mark[0])
            else:
                told.append(line[at])
                bare.append(" " if inside else line[at])
                at += 1
        if len(inside) == 1:
            inside = ""
        kept.append("".join(told))
        code.append("".join(bare))
    return kept, code


_LONG_KEY = re.compile(rf"(?:[A-Za-z0-9_\-\"'\s]{{0,80}}\.){{{MAX_KEY_PARTS}}}")
_LONG_NUMBER = re.compile(r"[0-9_]{41}")
_STRING_MARK = re.compile(r"\"\"\"|\'\'\'|\"|\'")


class Locator:
    """Finds the line that a key path stands on. TOML readers keep values, not places, so the text is looked through."""

    def __init__(self, text: str, file: str) -> None:
        self._file = file
        self._lines, self._code = _without_comments(text)

    def error(self, path: KeyPath, why: str, words: str, do: str = "") -> SheetError:
        key_path = "".join(f"[{step + 1}]" if isinstance(step, int) else f".{step}" for step in path).lstrip(".")
        shown = f'"{sanitize(words, 120)}"' if words else ""
        return SheetError(why, file=self._file, line=self._line(path, words), key_path=key_path, words=shown, do=do)

    def refuse_what_takes_for_ever(self) -> None:
        """Keys of very many parts, and integers of very many digits, cost the parser far more than they say.

        Raises: SheetError.
        """
        for number, line in enumerate(self._code, start=1):
            if _LONG_KEY.search(line):
                raise self._at(number, f"a key has more than {MAX_KEY_PARTS} parts")
            if _LONG_NUMBER.search(line):
                raise self._at(number, "a number has more than 40 digits")

    def _at(self, line: int, why: str) -> SheetError:
        return SheetError(why, file=self._file, line=line, key_path="")

    def not_toml(self, error: tomllib.TOMLDecodeError) -> SheetError:
        found = re.search(r"line (\d+)", str(error))
        why = f"this is not TOML: {sanitize(str(error), 120)}"
        return SheetError(why, file=self._file, line=int(found[1]) if found else None, key_path="")

    def _line(self, path: KeyPath, words: str) -> int | None:
        start, steps = self._table(path)
        for step, after in zip(steps, (*steps[1:], None), strict=False):
            if isinstance(step, str):
                start = next((n for n in range(start, len(self._lines)) if self._has_key(self._code[n], step)), start)
            elif isinstance(after, str):
                start = self._line_of_brace(start, step)
        if words:
            start = next((n for n in range(start, len(self._lines)) if words in self._lines[n]), start)
        return start + 1 if self._lines else None

    def _table(self, path: KeyPath) -> tuple[int, KeyPath]:
        """The line of the header that the path begins with, and the steps that are left below it."""
        if not path:
            return 0, ()
        name, turn = path[0], path[1] if len(path) > 1 and isinstance(path[1], int) else None
        headers = [n for n, line in enumerate(self._code) if re.match(rf"\s*\[\[?\s*{re.escape(str(name))}\s*\]", line)]
        if (turn or 0) >= len(headers):
            return 0, path
        return headers[turn or 0], path[1:] if turn is None else path[2:]

    def _line_of_brace(self, start: int, index: int) -> int:
        """The line of the inline table of that index, counted from a line."""
        for n in range(start, len(self._lines)):
            index -= self._code[n].count("{")
            if index < 0:
                return n
        return start

    @staticmethod
    def _has_key(line: str, key: str) -> bool:
        return re.search(rf"(^|[\s{{,]){re.escape(key)}\s*=", line) is not None
