"""An audit as files that any program can write: claim sheet, rig, and its facts as JSON lines (docs/facts.md)."""

from __future__ import annotations

import json
import os
import re
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from io import BytesIO
from pathlib import Path
from typing import Any, BinaryIO

from auditra import __version__
from auditra.core.errors import AuditraError, FactsRefused, InputError, SheetError
from auditra.core.journal.admission import Known
from auditra.core.journal.facts import (
    FACT_KINDS,
    BenchNoted,
    ClaimMade,
    Entry,
    Fact,
    PathTraced,
    ReadingTaken,
    TrialBegun,
    TrialEnded,
)
from auditra.core.journal.fold import fold_audit
from auditra.core.journal.writer import MAX_WRITER_LENGTH, is_writer
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.sanitize import find_control, sanitize
from auditra.documents.claim_sheet import facts_of, write_claim_sheet
from auditra.documents.facts import (
    FORMAT,
    FORMAT_VERSION,
    READ_VERSIONS,
    WITHOUT_WRITERS,
    Encoded,
    canonical,
    encode_fact,
    read_body,
)
from auditra.documents.rig_file import write_rig
from auditra.store.chain import FIRST_LINK, chain
from auditra.store.files import load_claim_sheet, load_rig
from auditra.workflows.audits.collecting import without_collecting
from auditra.workflows.input_files import open_plain
from auditra.workflows.output_files import make_folder, write_atomically

FACTS_FILE, CLAIMS_FILE, RIG_FILE = "facts.jsonl", "claims.toml", "rig.toml"
MAX_LINE_BYTES = 4 << 20
MAX_LINES = 200_000
MAX_BYTES = 1 << 30
MAX_ACTION_LENGTH = 40
_NAMES_DEVICE = re.compile(rb'"fact"\s*:\s*"device"')
MAX_DEPTH, MAX_DIGITS = 40, 30
_BRACKET = re.compile(r"[\[\]{}]")
_KEYS = frozenset({"fact", "body", "number", "at", "action", "link", "writer"})


def export_audit(
    name: str, entries: Iterable[Entry], folder: Path, before_facts: Callable[[], None] = lambda: None
) -> tuple[Path, ...]:
    """Write the audit's files; those that are there are replaced, and the facts come last: a folder that has them has
    all that they name. `before_facts` writes what else they name. Raises: AuditraError when the folder refuses.
    """
    files = audit_files(name, entries)
    facts = files.pop(FACTS_FILE)
    try:
        make_folder(folder)
        written = [write_atomically(folder / file, data) for file, data in files.items()]
        before_facts()
        written.append(write_atomically(folder / FACTS_FILE, facts))
        return tuple(written)
    except OSError as error:
        raise AuditraError(f"{folder}", why=error.strerror or str(error), do="Choose another with --to") from error


def audit_files(name: str, entries: Iterable[Entry]) -> dict[str, bytes]:
    """Claim sheet, rig and facts of a journal, by their names."""
    entries = tuple(entries)
    audit = fold_audit(name, entries)
    claims = [ClaimMade(claim.id, str(claim), claim.source, claim.device) for claim in audit.claims]
    return {
        CLAIMS_FILE: write_claim_sheet(audit.devices, claims).encode(),
        RIG_FILE: write_rig(audit.rig).encode(),
        FACTS_FILE: b"".join(_lines(name, entries)),
    }


def _lines(name: str, entries: Sequence[Entry]) -> Iterator[bytes]:
    version = FORMAT_VERSION if any(entry.writer for entry in entries) else WITHOUT_WRITERS
    head = {"format": FORMAT, "version": version, "audit": name, "written_by": f"auditra {__version__}"}
    yield canonical(head).encode() + b"\n"
    link = FIRST_LINK
    for entry in entries:
        encoded, at = encode_fact(entry.fact), entry.at.isoformat()
        link = chain(link, name, entry.number, at, entry.action, encoded, entry.writer)
        line = {"fact": encoded.kind, "number": entry.number, "at": at, "action": entry.action, "link": link}
        line |= {"writer": entry.writer} if entry.writer else {}
        yield f'{canonical(line)[:-1]},"body":{encoded.whole()}}}\n'.encode()


@dataclass(frozen=True)
class Imported:
    """An audit from files, with what is worth telling about them."""

    name: str
    entries: tuple[Entry, ...]
    remarks: tuple[str, ...] = ()


def read_audit(folder: Path, now: datetime) -> Imported:
    """The audit in a folder. What the facts do not say of device, claims and rig is taken from the sheets beside them.

    Raises: FactsRefused with every line that is wrong, SheetError for a sheet, InputError where there is no file.
    """
    path = folder / FACTS_FILE
    with open_plain(path, do=f"A folder to import has a file {FACTS_FILE}") as file:
        size = os.fstat(file.fileno()).st_size
        if size > MAX_BYTES:
            raise InputError(f"{path}", why=f"it has {size} bytes; {MAX_BYTES} are the most that are read")
        with without_collecting():
            return _Reading(folder, str(path), now).read(file)


def read_facts(data: bytes, where: str, now: datetime) -> tuple[Imported, str]:
    """An audit from facts alone, each line chained to the one before, and the link that they end in.

    Raises: FactsRefused with every line that is wrong, InputError where lines are not chained.
    """
    with without_collecting():
        reading = _Reading(None, where, now)
        came = reading.read(BytesIO(data))
    if not reading.chained or reading.link is None:
        raise InputError(sanitize(where, 120), why="its lines are not chained", do="Export the audit again")
    return came, reading.link


@dataclass
class _Reading:
    """One file on its way in: what was read, and all that is wrong with it."""

    folder: Path | None
    """Where sheets may lie beside it; None where it stands alone."""
    file: str
    now: datetime
    known: Known = field(default_factory=lambda: Known("import"))
    entries: list[Entry] = field(default_factory=list)
    problems: list[tuple[int, str]] = field(default_factory=list)
    more: int = 0
    name: str = ""
    version: object = FORMAT_VERSION
    link: str | None = FIRST_LINK
    """The link so far; None once a line without one was read."""
    chained: bool | None = None

    def read(self, source: BinaryIO) -> Imported:
        lines = _numbered(source, lambda line, why: self._problem(line, why))
        names_device = any(_NAMES_DEVICE.search(line) for _, line in _numbered(source, lambda _, __: None))
        source.seek(0)
        self._head(next(lines, (1, b"")))
        if not names_device:
            self._begin_from_sheets()
        for number, line in lines:
            if number > MAX_LINES:
                self._problem(number, f"more than {MAX_LINES} lines; the rest was not looked at")
                break
            if line.strip():
                self._line(number, line)
        self._end()
        if self.problems:
            raise FactsRefused(self.file, self.problems, self.more)
        return Imported(self.name, tuple(self.entries), tuple(self._remarks()))

    def _problem(self, line: int, why: str) -> None:
        if len(self.problems) < FactsRefused.MAX_LISTED:
            self.problems.append((line, why))
        else:
            self.more += 1

    def _head(self, first: tuple[int, bytes]) -> None:
        number, line = first
        try:
            head = _object(line)
            if head.get("format") != FORMAT:
                raise InputError("this line", why=f'expected "format": "{FORMAT}"')
            self.version = head.get("version")
            if self.version not in READ_VERSIONS or type(self.version) is not int:
                raise InputError("version", why=f"this Auditra reads versions {READ_VERSIONS[0]} to {FORMAT_VERSION}")
            name = head.get("audit")
            if not isinstance(name, str) or not 0 < len(name) <= 64 or sanitize(name) != name:
                raise InputError("audit", why="expected a name of 1 to 64 plain characters")
            self.name = name
        except InputError as error:
            self._problem(number, _short(error))

    def _begin_from_sheets(self) -> None:
        """Where the facts name no device, the sheets beside them do."""
        if self.folder is None:
            return
        claims, rig = self.folder / CLAIMS_FILE, self.folder / RIG_FILE
        if claims.is_file() and rig.is_file():
            self.link = None
            for fact in facts_of(load_claim_sheet(claims), load_rig(rig)):
                self._take(fact, "made", self.now, 0)

    def _line(self, number: int, line: bytes) -> None:
        try:
            said = _object(line)
            kind, action, at = self._frame(said)
            writer = self._writer(said)
            fact = read_body(kind, said.get("body", {}))
            self._check_link(said, kind, action, at, writer)
            moment = datetime.fromisoformat(at) if at else self.now
            self._take(fact, action or _action_of(fact), moment, number, writer)
        except InputError as error:
            self.link = None
            self._problem(number, _short(error))

    def _frame(self, said: dict[str, Any]) -> tuple[str, str, str]:
        """Kind, action and time of a line, as they are written."""
        kind = said.get("fact")
        if not isinstance(kind, str) or kind not in FACT_KINDS:
            known = ", ".join(FACT_KINDS)
            raise InputError(f'fact "{sanitize(str(kind), 40)}"', why=f"unknown kind; known kinds: {known}")
        if unknown := said.keys() - _KEYS:
            raise InputError(f'"{sanitize(min(unknown), 40)}"', why="unknown key in a line")
        action, at = said.get("action", ""), said.get("at", "")
        if not isinstance(action, str) or len(action) > MAX_ACTION_LENGTH:
            raise InputError("action", why=f"up to {MAX_ACTION_LENGTH} characters expected")
        try:
            moment = datetime.fromisoformat(at) if at else self.now
        except (TypeError, ValueError):
            raise InputError("at", why="this is no date and time as ISO 8601 has them") from None
        if moment.tzinfo is None:
            raise InputError("at", why="the time zone is missing, such as +00:00")
        return kind, action, at

    def _writer(self, said: dict[str, Any]) -> str:
        """Who wrote a line; empty where it does not say so."""
        writer = said.get("writer", "")
        known = isinstance(self.version, int) and self.version > WITHOUT_WRITERS
        if "writer" in said and not (known and is_writer(writer)):
            why = f"1 to {MAX_WRITER_LENGTH} plain characters expected, in a file of version {FORMAT_VERSION}"
            raise InputError("writer", why=why)
        return str(writer)

    def _check_link(self, said: dict[str, Any], kind: str, action: str, at: str, writer: str) -> None:
        """The chain, where the file has one. Raises: InputError where a line was changed, or one before it removed."""
        link = said.get("link")
        self.chained = (link is not None) if self.chained is None else self.chained
        if link is None or self.link is None:
            if self.chained and link is None:
                raise InputError("link", why="the lines before have one, this one does not")
            self.link = None if link is None else self.link
            return
        expected = len(self.entries) + 1
        wanted = chain(self.link, self.name, expected, at, action, self._as_chained(kind, said.get("body", {})), writer)
        if said.get("number") != expected or link != wanted:
            raise InputError("link", why="the chain does not fit: this line was changed, or one before it removed")
        self.link = wanted

    def _as_chained(self, kind: str, body: dict[str, Any]) -> Encoded:
        """A line's body as its link was taken of it."""
        reading = body.get("reading")
        if self.version == 1 or not isinstance(reading, dict) or reading.get("trace") is None:
            return Encoded(kind, canonical(body))
        rest = {key: value for key, value in reading.items() if key != "trace"}
        return Encoded(kind, canonical(body | {"reading": rest}), canonical(reading["trace"]))

    def _take(self, fact: Fact, action: str, at: datetime, line: int, writer: str = "") -> None:
        for why in self.known.problems(fact):
            self._problem(line, why)
        entry = Entry(len(self.entries) + 1, at, action, fact, writer)
        self.known.take(entry)
        self.entries.append(entry)

    def _end(self) -> None:
        if not self.known.devices:
            self._problem(1, f"no device is named, and there is no {CLAIMS_FILE} beside it")
        if self.known.rig is None:
            self._problem(1, f"no rig is named, and there is no {RIG_FILE} beside it")
        if not any(isinstance(entry.fact, BenchNoted) for entry in self.entries):
            self.entries.append(Entry(len(self.entries) + 1, self.now, "imported", BenchNoted(LIVE_BENCH)))

    def _remarks(self) -> Iterator[str]:
        """Where the sheets beside the facts say otherwise, the facts count."""
        if self.folder is None:
            return
        audit = fold_audit(self.name, self.entries)
        claims_path, rig_path = self.folder / CLAIMS_FILE, self.folder / RIG_FILE
        checks: tuple[tuple[Path, Callable[[], bool]], ...] = (
            (claims_path, lambda: load_claim_sheet(claims_path).devices == audit.devices),
            (rig_path, lambda: load_rig(rig_path) == audit.rig),
        )
        for path, agrees in checks:
            try:
                if path.is_file() and not agrees():
                    yield f"{path.name} disagrees with {FACTS_FILE}; {FACTS_FILE} wins"
            except SheetError as error:
                yield f"{error} {FACTS_FILE} wins"


def _numbered(source: BinaryIO, problem: Callable[[int, str], None]) -> Iterator[tuple[int, bytes]]:
    """Lines with their numbers. One that is too long is reported and left out, without being held in memory."""
    number = 0
    while line := source.readline(MAX_LINE_BYTES + 1):
        number += 1
        if len(line) > MAX_LINE_BYTES:
            problem(number, f"longer than {MAX_LINE_BYTES} bytes")
            while line and not line.endswith(b"\n"):
                line = source.readline(MAX_LINE_BYTES)
        else:
            yield number, line


def _object(line: bytes) -> dict[str, Any]:
    """The JSON object of a line. Raises: InputError."""
    try:
        text = line.decode("utf-8")
        _refuse_deep(text)
        said = json.loads(text, parse_constant=_refuse_constant, parse_int=_whole_number)
    except UnicodeDecodeError as error:
        raise InputError("this line", why=f"byte {error.start + 1} is not UTF-8") from None
    except json.JSONDecodeError as error:
        raise InputError("this line", why=f"it is not JSON at column {error.colno}: {error.msg}") from None
    except RecursionError:
        raise InputError("this line", why="its brackets are nested too deep") from None
    except ValueError as error:  # a number of absurd length
        raise InputError("this line", why=sanitize(str(error), 120)) from None
    if not isinstance(said, dict):
        raise InputError("this line", why="it must be a JSON object in braces")
    if "\\" in text or not text.isascii():
        _refuse_controls(said)
    return said


def _refuse_deep(text: str) -> None:
    """Raises: InputError for more brackets inside one another than any fact has."""
    if text.count("[") + text.count("{") <= MAX_DEPTH:
        return
    depth = 0
    for bracket in _BRACKET.finditer(text):
        depth += 1 if bracket[0] in "[{" else -1
        if depth > MAX_DEPTH:
            raise InputError("this line", why="its brackets are nested too deep")


def _whole_number(digits: str) -> int:
    if len(digits) > MAX_DIGITS:
        raise InputError("a number", why=f"it has {len(digits)} digits; {MAX_DIGITS} are the most")
    return int(digits)


def _refuse_controls(value: object) -> None:
    """Raises: InputError for text that could steer a terminal, or that is no text at all."""
    if isinstance(value, str):
        if found := find_control(value):
            raise InputError(f'"{sanitize(value, 40)}"', why=f"it has the control character {found}")
    elif isinstance(value, dict):
        for key, inner in value.items():
            _refuse_controls(key)
            _refuse_controls(inner)
    elif isinstance(value, list):
        for inner in value:
            _refuse_controls(inner)


def _refuse_constant(name: str) -> float:
    raise InputError(name, why="a number must be finite")


def _action_of(fact: Fact) -> str:
    """Facts of a trial belong together, so that they can be undone together."""
    match fact:
        case TrialBegun(trial):
            return trial.id[:MAX_ACTION_LENGTH]
        case ReadingTaken(reading):
            return reading.trial[:MAX_ACTION_LENGTH]
        case PathTraced(trial) | TrialEnded(trial):
            return trial[:MAX_ACTION_LENGTH]
        case _:
            return "imported"


def _short(error: InputError) -> str:
    return f"{error.what}: {error.why}"
