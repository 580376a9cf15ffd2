"""Claim sheets and rigs: TOML that people write, checked, with the line to mend when something is wrong."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, fields
from functools import cache
from typing import Annotated, Any, get_args, get_type_hints

from pydantic import BeforeValidator, FailFast, Field, ValidationError, create_model

from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.language import parse_claims, promise_kinds
from auditra.core.errors import ClaimError, SheetError
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.model.device import BODY, DEVICE, Device, Face
from auditra.core.model.rig import Rig
from auditra.core.model.source import Source
from auditra.core.sanitize import sanitize
from auditra.workflows.forms import NONE, Sheet, Words, form_of, noun_of, table_of

LARGEST_SHEET_BYTES = 1 << 20
MAX_FACES, MAX_CLAIMS, MAX_PARTS = 24, 1000, 200
"""Far more than any device, seller or bench has; what a hostile file has stops here."""
MAX_KEY_PARTS = 16
MAX_PORTS_A_FACE = 64
_MOST_DEVICES = 8
_ONE_OF_MANY = {"hosts": "host", "supplies": "supply"}
"""Keys of the rig's lists that are not the field's name without its s."""
NotedWords = Annotated[Words | None, BeforeValidator(lambda value: None if value == NONE else value)]


class _SourceSheet(Sheet):
    kind: NotedWords = None
    seen: NotedWords = None


class _ClaimSheet(Sheet):
    says: Words
    quoted: NotedWords = None
    source: NotedWords = None
    seen: NotedWords = None
    device: Words | None = None


def _list_key(field: str) -> str:
    return _ONE_OF_MANY.get(field, field.removesuffix("s"))


def _rig_lists() -> dict[str, tuple[str, type[Any]]]:
    """The key of each list of a rig, with the rig's field and the noun in it."""
    hints = get_type_hints(Rig)
    return {
        _list_key(each.name): (each.name, get_args(hints[each.name])[0]) for each in fields(Rig) if each.name != "name"
    }


_RIG_LISTS = _rig_lists()


def _bounded(table: Any, most: int, least: int = 0) -> Any:
    """A list of tables; the first that is wrong ends the reading, however many follow."""
    return Annotated[list[table], Field(min_length=least, max_length=most), FailFast()]


@cache
def _device_file() -> type[Sheet]:
    """The form of a claim sheet of one device, made from the nouns."""
    parts: dict[str, Any] = {
        "device": (form_of(Device, ("faces",)), ...),
        "source": (_SourceSheet, _SourceSheet()),
        "face": (_bounded(form_of(Face), MAX_FACES), ...),
        "claim": (_bounded(_ClaimSheet, MAX_CLAIMS), []),
    }
    return create_model("DeviceFile", __base__=Sheet, **parts)


@cache
def _kit_file() -> type[Sheet]:
    """The form of a claim sheet of several devices: each is a ``[[device]]`` with its own ``[[device.face]]``."""
    faces: dict[str, Any] = {"face": (_bounded(form_of(Face), MAX_FACES), ...)}
    one = create_model("KitDevice", __base__=form_of(Device, ("faces",)), **faces)
    parts: dict[str, Any] = {
        "device": (_bounded(one, _MOST_DEVICES, least=1), ...),
        "source": (_SourceSheet, _SourceSheet()),
        "claim": (_bounded(_ClaimSheet, MAX_CLAIMS), []),
    }
    return create_model("KitFile", __base__=Sheet, **parts)


def claims_schema() -> dict[str, Any]:
    """The JSON Schema of a claim sheet, with a sentence of every kind."""
    one, kit = (file.model_json_schema(mode="validation") for file in (_device_file(), _kit_file()))
    schema: dict[str, Any] = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "an Auditra claim sheet, as TOML or JSON",
        "$defs": one.pop("$defs", {}) | kit.pop("$defs", {}),
        "oneOf": [one, kit],
    }
    said = schema["$defs"]["_ClaimSheet"]["properties"]["says"]
    said["description"] = "a sentence of the claim language (docs/claim-language.md)"
    said["examples"] = [f"{'body' if kind.on_body else 'A1'} {kind.example}" for kind in promise_kinds()]
    return schema


def _rig_file() -> type[Sheet]:
    """The form of a rig, made from the nouns; a rig has a host at least."""
    parts: dict[str, Any] = {"name": (Words, ...)}
    for key, (_, noun) in _RIG_LISTS.items():
        is_host = key == "host"
        form: Any = form_of(noun)  # type: ignore[arg-type]
        tables = _bounded(form, MAX_PARTS, least=int(is_host))
        parts[key] = (tables, ...) if is_host else (tables, [])
    return create_model("RigFile", __base__=Sheet, **parts)


@dataclass(frozen=True)
class ClaimSheet:
    """One device, or the several of a kit, with the sentences that the seller is held to."""

    devices: tuple[Device, ...]
    claims: tuple[ClaimMade, ...]

    @property
    def device(self) -> Device:
        return self.devices[0]


def read_claim_sheet(text: str, file: str) -> ClaimSheet:
    """The device and claims of a claim sheet. Raises: SheetError with the line and key path to mend."""
    locate = _Locator(text, file)
    raw = _load(text, locate)
    of_kit = isinstance(raw.get("device"), list)
    sheet = _validate(_kit_file() if of_kit else _device_file(), raw, locate)
    parts = [(each, each.face) for each in sheet.device] if of_kit else [(sheet.device, sheet.face)]
    devices = tuple(noun_of(Device, each, faces=tuple(noun_of(Face, face) for face in faces)) for each, faces in parts)
    for index, device in enumerate(devices):
        if device.id in [each.id for each in devices[:index]]:
            raise locate.error(("device", index, "id"), "another device has this id", device.id)
        _check_ports(device, locate, ("device", index) if of_kit else ())
    claims = tuple(made for index in range(len(sheet.claim)) for made in _claims(index, sheet, devices, locate))
    return ClaimSheet(devices, claims)


def read_rig(text: str, file: str) -> Rig:
    """The rig of a rig file. Raises: SheetError with the line and key path to mend."""
    locate = _Locator(text, file)
    sheet = _validate(_rig_file(), _load(text, locate), locate)
    _check_ids(sheet, locate)
    lists = {
        field: tuple(noun_of(noun, each) for each in getattr(sheet, key)) for key, (field, noun) in _RIG_LISTS.items()
    }
    return Rig(sheet.name, **lists)


def write_claim_sheet(devices: Sequence[Device], claims: Iterable[ClaimMade]) -> str:
    """A claim sheet that reads as these devices and claims."""
    said = {"claim": [_claim_table(claim) for claim in claims]}
    if len(devices) == 1:
        device = devices[0]
        faces = [table_of(face) for face in device.faces]
        return _toml({"device": table_of(device, ("faces",)), "face": faces, **said})
    kit = [table_of(each, ("faces",)) | {"face": [table_of(face) for face in each.faces]} for each in devices]
    return _toml({"device": kit, **said})


def write_rig(rig: Rig) -> str:
    """A rig file that reads as this rig."""
    lists = {key: [table_of(each) for each in getattr(rig, field)] for key, (field, _) in _RIG_LISTS.items()}
    return _toml({"name": rig.name} | {key: tables for key, tables in lists.items() if tables})


def facts_of(sheet: ClaimSheet, rig: Rig) -> tuple[Fact, ...]:
    """The facts that an audit begins with."""
    return *map(DeviceNoted, sheet.devices), RigNoted(rig), *sheet.claims


def _toml(tables: dict[str, Any]) -> str:
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


def _claim_table(claim: ClaimMade) -> dict[str, Any]:
    of = {"device": claim.device} if claim.device != DEVICE else {}
    return {"says": claim.sentence} | of | {
        key: NONE if value is None else value
        for key, value in (
            ("quoted", claim.source.quoted), ("source", claim.source.kind), ("seen", claim.source.seen),
        )
        if value is None or isinstance(value, str)
    }  # fmt: skip


def _claims(index: int, sheet: Any, devices: tuple[Device, ...], locate: _Locator) -> Iterator[ClaimMade]:
    """The claims of one table: a sentence with several promises makes as many."""
    claim: _ClaimSheet = sheet.claim[index]
    where: KeyPath = ("claim", index, "says")
    try:
        parsed = parse_claims(claim.says, claim_id="", device=claim.device or devices[0].id)
    except ClaimError as error:
        raise locate.error(where, error.why, claim.says, do=error.do) from error
    source = _source_of(claim, sheet)
    for turn, each in enumerate(parsed):
        device = next((one for one in devices if one.id == each.device), None)
        if device is None:
            raise locate.error(where, f'there is no device "{sanitize(each.device, 40)}"', claim.says)
        for problem in problems_of(each, device):
            known = ", ".join(port.id for port in device.ports())
            raise locate.error(where, problem, claim.says, do=f"It has {known}" if "no port" in problem else "")
        yield ClaimMade(f"claim{index + 1}{_LETTERS[turn]}", str(each), source, each.device)


_LETTERS = ("", "b", "c", "d", "e", "f", "g", "h")
"""What parts the ids of the claims that one sentence makes."""


def _source_of(claim: _ClaimSheet, sheet: Any) -> Source:
    """The table's own source, and for what it does not say the sheet's."""
    own, whole = noun_of(Source, claim), noun_of(Source, sheet.source)
    kind = claim.source if "source" in claim.model_fields_set else whole.kind
    seen = own.seen if "seen" in claim.model_fields_set else whole.seen
    return Source(kind, seen, own.quoted)


def _check_ports(device: Device, locate: _Locator, above: KeyPath) -> None:
    known: set[str] = set()
    for face_index, face in enumerate(device.faces):
        if len(face.ports) > MAX_PORTS_A_FACE:
            raise locate.error((*above, "face", face_index, "ports"), f"more than {MAX_PORTS_A_FACE} ports", "")
        for port_index, port in enumerate(face.ports):
            where = (*above, "face", face_index, "ports", port_index, "id")
            if port.id in known:
                raise locate.error(where, "another port has this id", port.id)
            if port.id == BODY:
                raise locate.error(where, f'"{BODY}" is the whole device', port.id)
            known.add(port.id)


def _check_ids(sheet: Any, locate: _Locator) -> None:
    known: set[str] = set()
    for kind in _RIG_LISTS:
        for index, part in enumerate(getattr(sheet, kind)):
            if part.id in known:
                raise locate.error((kind, index, "id"), "another part of the rig has this id", part.id)
            known.add(part.id)
    readers = {reader.id for reader in sheet.reader}
    for index, card in enumerate(sheet.card):
        if card.reader is not None and card.reader not in readers:
            raise locate.error(("card", index, "reader"), "the rig has no reader of that id", card.reader)


KeyPath = tuple[str | int, ...]


def _load(text: str, locate: _Locator) -> dict[str, Any]:
    """The tables of a file as they stand. Raises: SheetError."""
    if len(text) > LARGEST_SHEET_BYTES:
        raise locate.error((), f"it is longer than {LARGEST_SHEET_BYTES} characters", "")
    locate.refuse_what_takes_for_ever()
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise locate.not_toml(error) from error
    except RecursionError as error:
        raise locate.error((), "its brackets are nested too deep", "") from error


def _validate(model: type[Sheet], tables: dict[str, Any], locate: _Locator) -> Any:
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


class _Locator:
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
