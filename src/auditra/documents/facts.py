"""Facts to JSON and back. What was not noted is left out; none is null; so absent never reads as none."""

from __future__ import annotations

import dataclasses
import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Any, get_type_hints

from pydantic import TypeAdapter, ValidationError

from auditra.core.errors import InputError, JournalDamaged
from auditra.core.journal.facts import FACT_KINDS, KIND_OF_FACT, Fact, ReadingTaken
from auditra.core.journal.writer import MAX_WRITER_LENGTH
from auditra.core.model.reading import Trace
from auditra.core.model.type_hints import leaves
from auditra.core.sanitize import sanitize
from auditra.documents.reading_record import ReadingTakenRecord, reading_of, record_of, value_keys_of

FORMAT, FORMAT_VERSION = "auditra facts", 3
WITHOUT_WRITERS = 2
"""What is written where no line names its writer, so that earlier versions can read it."""
READ_VERSIONS = (1, 2, 3)
"""Version 1 differs in its links alone: the trace of a reading counts there as a part of the body."""


_RESTORE = "Restore the library from a copy"


@cache
def _adapter(kind: str) -> TypeAdapter[Any]:
    return TypeAdapter(_written_as(kind))


def _written_as(kind: str) -> Any:
    """The dataclass whose fields are the keys of a body."""
    noun = FACT_KINDS[kind]
    return ReadingTakenRecord if noun is ReadingTaken else noun


def _fact_of(body: Any) -> Fact:
    """The fact of a body that has been read."""
    fact: Fact = ReadingTaken(reading_of(body.reading)) if isinstance(body, ReadingTakenRecord) else body
    return fact


class EncodedTrace(Trace):
    """A trace as it stands on disk; its columns are made once somebody looks at them.

    Raises, then: JournalDamaged where they are none; `where` names the place.
    """

    text: str

    def __init__(self, text: str, where: Callable[[], str]) -> None:
        vars(self).update(text=text, where=where)

    @cached_property
    def _plain(self) -> Trace:
        try:
            trace = _TRACE.validate_json(self.text)
        except ValidationError as error:
            raise _damaged(vars(self)["where"](), error) from error
        if len(trace.time_s) != len(trace.values):
            raise JournalDamaged(vars(self)["where"](), why="its trace has columns of two lengths", do=_RESTORE)
        return trace

    @property
    def time_s(self) -> tuple[float, ...]:
        return self._plain.time_s

    @property
    def values(self) -> tuple[float, ...]:
        return self._plain.values


_TRACE = TypeAdapter(Trace)


@dataclass(frozen=True)
class Encoded:
    """A fact as it stands on disk: its kind, and its body as canonical JSON, with the trace of a reading beside it."""

    kind: str
    body: str
    trace: str | None = None

    def whole(self) -> str:
        """The body with its trace in it, as files have it."""
        if self.trace is None:
            return self.body
        body = json.loads(self.body)
        body["reading"]["trace"] = json.loads(self.trace)
        return canonical(body)


def encode_fact(fact: Fact) -> Encoded:
    """The fact as text. What was not noted, or is as usual, is left out."""
    kind, trace = KIND_OF_FACT[type(fact)], None
    body: Fact | ReadingTakenRecord = fact
    if isinstance(fact, ReadingTaken):
        trace = _encode_trace(fact.reading.trace) if fact.reading.trace is not None else None
        body = ReadingTakenRecord(record_of(fact.reading))
    return Encoded(kind, canonical(_adapter(kind).dump_python(body, mode="json", exclude_defaults=True)), trace)


def _encode_trace(trace: Trace) -> str:
    if isinstance(trace, EncodedTrace):
        return trace.text
    return canonical({"time_s": trace.time_s, "values": trace.values})


_CANONICAL = json.JSONEncoder(sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def canonical(plain: object) -> str:
    """The one way in which a body is written, which its link in the chain is taken of."""
    return _CANONICAL.encode(plain)


def read_body(kind: str, body: object) -> Fact:
    """The fact that a body from outside says. Raises: InputError with the place in it that is wrong."""
    unknown = _unknown_keys(_written_as(kind), body)
    if unknown:
        raise InputError(f'"{sanitize(unknown, 80)}"', why="unknown key for this kind of fact")
    try:
        read = _adapter(kind).validate_json(canonical(body), strict=True)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"] if isinstance(step, int) or "[" not in step)
        raise InputError(
            sanitize(place, 80) or kind, why=sanitize(first["msg"][:1].lower() + first["msg"][1:], 160)
        ) from None
    if isinstance(read, ReadingTakenRecord) and len(keys := value_keys_of(read.reading)) > 1:
        raise InputError("reading", why=f"a reading has one value, and this has: {', '.join(keys)}")
    return _fact_of(read)


def _unknown_keys(noun: Any, value: object, place: str = "") -> str:
    """The first key that the noun does not have; empty where it has them all."""
    if isinstance(value, list):
        return next((found for each in value if (found := _unknown_keys(noun, each, place))), "")
    hints = _fields_of(noun)
    if not isinstance(value, dict) or not hints:
        return ""
    for key, inner in value.items():
        if key not in hints:
            return f"{place}{key}"
        if found := _unknown_keys(hints[key], inner, f"{place}{key}."):
            return found
    return ""


@cache
def _fields_of(hint: Any) -> dict[str, Any]:
    """The fields of every noun in a type hint, with the hint of each; none where it has no noun."""
    nouns = [each for each in leaves(hint) if dataclasses.is_dataclass(each)]
    return {name: inner for noun in nouns for name, inner in get_type_hints(noun).items()}


def fact_schema() -> dict[str, Any]:
    """The JSON Schema of a line of a facts file, its first line included."""
    kinds = list(FACT_KINDS)
    inputs: list[Any] = [(kind, "validation", _adapter(kind)) for kind in kinds]
    bodies, common = TypeAdapter.json_schemas(inputs, ref_template="#/$defs/{model}")
    lines = [_line_schema(kind, bodies[kind, "validation"]) for kind in kinds]
    header = {
        "title": "first line",
        "type": "object",
        "required": ["format", "version", "audit"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"enum": list(READ_VERSIONS)},
            "audit": {"type": "string"},
            "written_by": {"type": "string"},
        },
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "a line of an Auditra facts file",
        "oneOf": [header, *lines],
        "$defs": common.get("$defs", {}),
    }


def _line_schema(kind: str, body: object) -> dict[str, Any]:
    return {
        "title": kind,
        "type": "object",
        "required": ["fact", "body"],
        "additionalProperties": False,
        "properties": {
            "fact": {"const": kind},
            "body": body,
            "number": {"type": "integer", "minimum": 1},
            "at": {"type": "string", "format": "date-time"},
            "action": {"type": "string", "maxLength": 40},
            "writer": {"type": "string", "minLength": 1, "maxLength": MAX_WRITER_LENGTH},
            "link": {"type": "string", "pattern": "^[0-9a-f]{64}$"},
        },
    }


def decode_fact(encoded: Encoded, where: Callable[[], str]) -> Fact:
    """The fact; `where` names its place if it has to. Raises: JournalDamaged when this Auditra does not know it."""
    if encoded.kind not in FACT_KINDS:
        why = f'unknown kind of fact "{sanitize(encoded.kind, 40)}"'
        raise JournalDamaged(where(), why=why, do="Open it with the Auditra that wrote it")
    try:
        fact = _fact_of(_adapter(encoded.kind).validator.validate_json(encoded.body))
    except ValidationError as error:
        raise _damaged(where(), error) from error
    if encoded.trace is None:
        return fact
    if not isinstance(fact, ReadingTaken) or fact.reading.trace is not None:
        raise JournalDamaged(where(), why="there is a trace beside it that is not its own", do=_RESTORE)
    return ReadingTaken(dataclasses.replace(fact.reading, trace=EncodedTrace(encoded.trace, where)))


def _damaged(where: str, error: ValidationError) -> JournalDamaged:
    first = error.errors()[0]
    return JournalDamaged(where, why=f"{first['loc']}: {first['msg']}", do=_RESTORE)
