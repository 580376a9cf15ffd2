"""Claim sheets and rigs: TOML that people write, checked, with the line to mend when something is wrong."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Any, Literal, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from auditra.core.audit.claim import Source
from auditra.core.audit.device import Device, Face, Port, Role
from auditra.core.audit.facts import ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.audit.noted import NOT_NOTED, Noted
from auditra.core.audit.rig import (
    Card,
    Display,
    Drive,
    Host,
    HostSocket,
    Lead,
    Load,
    Meter,
    Peer,
    Reader,
    Rig,
    Rule,
    Supply,
    Thermometer,
)
from auditra.core.claims.language import parse_claim
from auditra.core.errors import ClaimError, QuantityError, SheetError
from auditra.core.inert import inert
from auditra.core.links.display import parse_mode
from auditra.core.quantities import Dimension, parse_quantity

LARGEST_SHEET_BYTES = 1 << 20
_NONE = "none"
_ID = r"^[A-Za-z][A-Za-z0-9-]{0,31}$"
_PORT_ID = r"^[A-Za-z][A-Za-z0-9]{0,7}$"


def _quantity(*dimensions: Dimension) -> BeforeValidator:
    def read(value: object) -> float:
        if not isinstance(value, str):
            raise ValueError('write it with its unit, in quotes, such as "5 Gb/s"')
        try:
            return parse_quantity(value, *dimensions).value
        except QuantityError as error:
            raise ValueError(f"{error.why}. {error.do}") from None

    return BeforeValidator(read)


def _mode(value: object) -> object:
    try:
        return str(parse_mode(str(value)))
    except QuantityError as error:
        raise ValueError(f"{error.why}. {error.do}") from None


def _none_in_words(value: object) -> object:
    return None if value == _NONE else value


Rate = Annotated[float, _quantity(Dimension.BIT_RATE, Dimension.BYTE_RATE)]
Watts = Annotated[float, _quantity(Dimension.POWER)]
Volts = Annotated[float, _quantity(Dimension.VOLTAGE)]
Amperes = Annotated[float, _quantity(Dimension.CURRENT)]
Metres = Annotated[float, _quantity(Dimension.LENGTH)]
ModeText = Annotated[str, BeforeValidator(_mode)]
Id = Annotated[str, Field(pattern=_ID)]
Words = Annotated[str, Field(min_length=1, max_length=200)]
NotedWords = Annotated[Words | None, BeforeValidator(_none_in_words)]
NotedCount = Annotated[int | None, BeforeValidator(_none_in_words)]
Value = TypeVar("Value")


class _Sheet(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)

    def noted(self, name: str) -> Any:
        """The field; NOT_NOTED where the sheet does not have it, None where it says "none"."""
        return getattr(self, name) if name in self.model_fields_set else NOT_NOTED


class _PortSheet(_Sheet):
    id: Annotated[str, Field(pattern=_PORT_ID)]
    connector: Words
    role: Literal["upstream", "downstream", "inlet"] = "downstream"
    printed: NotedWords = None


class _FaceSheet(_Sheet):
    name: Words
    ports: list[_PortSheet]


class _DeviceSheet(_Sheet):
    maker: Words
    model: Words
    kind: Words
    variant: NotedWords = None
    revision: NotedWords = None
    printed_count: NotedCount = None


class _SourceSheet(_Sheet):
    kind: NotedWords = None
    seen: NotedWords = None


class _ClaimSheet(_Sheet):
    says: Words
    quoted: NotedWords = None
    source: NotedWords = None
    seen: NotedWords = None


class _DeviceFile(_Sheet):
    device: _DeviceSheet
    source: _SourceSheet = _SourceSheet()
    face: list[_FaceSheet]
    claim: list[_ClaimSheet] = []


class _SocketSheet(_Sheet):
    id: Id
    connector: Words
    data: Rate
    display: bool = False


class _HostSheet(_Sheet):
    id: Id
    name: Words
    wants: Watts | None = None
    sockets: list[_SocketSheet]


class _GearSheet(_Sheet):
    id: Id
    name: Words
    connector: Words


class _DriveSheet(_GearSheet):
    read: Rate
    write: Rate
    usb_id: Annotated[str, Field(pattern="^[0-9a-f]{4}:[0-9a-f]{4}$")] | None = None


class _CardSheet(_GearSheet):
    bus: Literal["default", "high speed", "UHS-I", "UHS-II", "UHS-III"]
    read: Rate
    write: Rate
    reader: Id | None = None


class _ReaderSheet(_GearSheet):
    bus: Literal["default", "high speed", "UHS-I", "UHS-II", "UHS-III"]


class _DisplaySheet(_GearSheet):
    modes: Annotated[list[ModeText], Field(min_length=1)]


class _SupplySheet(_GearSheet):
    volts: Volts
    watts: Watts


class _PeerSheet(_GearSheet):
    rate: Rate
    mtu_bytes: Annotated[int, Field(ge=576, le=65535)] = 1500


class _InstrumentSheet(_GearSheet):
    address: Words | None = None
    power_error_percent: Annotated[float, Field(ge=0, le=100)] | None = None
    power_error: Watts | None = None


class _LoadSheet(_InstrumentSheet):
    watts: Watts
    asks: Volts | None = None


class _RuleSheet(_Sheet):
    id: Id
    name: Words
    division: Metres


class _ThermometerSheet(_Sheet):
    id: Id
    name: Words
    error_k: Annotated[float, Field(gt=0, le=20)]


class _LeadSheet(_Sheet):
    id: Id
    ends: Annotated[list[Words], Field(min_length=2, max_length=2)]
    length: Metres | None = None
    data: Rate | None = None
    amperes: Amperes | None = None


class _RigFile(_Sheet):
    name: Words
    host: Annotated[list[_HostSheet], Field(min_length=1)]
    drive: list[_DriveSheet] = []
    card: list[_CardSheet] = []
    reader: list[_ReaderSheet] = []
    display: list[_DisplaySheet] = []
    supply: list[_SupplySheet] = []
    peer: list[_PeerSheet] = []
    meter: list[_InstrumentSheet] = []
    load: list[_LoadSheet] = []
    rule: list[_RuleSheet] = []
    thermometer: list[_ThermometerSheet] = []
    lead: list[_LeadSheet] = []


@dataclass(frozen=True)
class ClaimSheet:
    """A device with the sentences its seller is held to."""

    device: Device
    claims: tuple[ClaimMade, ...]


def read_claim_sheet(text: str, file: str) -> ClaimSheet:
    """The device and claims of a claim sheet. Raises: SheetError with the line and key path to mend."""
    sheet = _parse(_DeviceFile, text, file)
    locate = _Locator(text, file)
    faces = tuple(Face(face.name, tuple(_port(port) for port in face.ports)) for face in sheet.face)
    described = sheet.device
    device = Device(
        described.maker, described.model, described.kind, faces,
        described.noted("variant"), described.noted("revision"), described.noted("printed_count"),
    )  # fmt: skip
    _check_ports(device, sheet, locate)
    claims = tuple(
        _claim(claim, f"claim{index + 1}", index, sheet, device, locate) for index, claim in enumerate(sheet.claim)
    )
    return ClaimSheet(device, claims)


def read_rig(text: str, file: str) -> Rig:
    """The rig of a rig file. Raises: SheetError with the line and key path to mend."""
    sheet = _parse(_RigFile, text, file)
    locate = _Locator(text, file)
    _check_ids(sheet, locate)
    return Rig(
        name=sheet.name,
        hosts=tuple(_host(host) for host in sheet.host),
        drives=tuple(Drive(d.id, d.name, d.connector, d.read, d.write, d.noted("usb_id")) for d in sheet.drive),
        cards=tuple(Card(c.id, c.name, c.connector, c.bus, c.read, c.write, c.noted("reader")) for c in sheet.card),
        readers=tuple(Reader(r.id, r.name, r.connector, r.bus) for r in sheet.reader),
        displays=tuple(Display(d.id, d.name, d.connector, tuple(d.modes)) for d in sheet.display),
        supplies=tuple(Supply(s.id, s.name, s.connector, s.volts, s.watts) for s in sheet.supply),
        peers=tuple(Peer(p.id, p.name, p.connector, p.rate, p.mtu_bytes) for p in sheet.peer),
        meters=tuple(Meter(*_instrument(meter)) for meter in sheet.meter),
        loads=tuple(Load(*_instrument(load), watts=load.watts, asks_v=load.noted("asks")) for load in sheet.load),
        rules=tuple(Rule(rule.id, rule.name, "", rule.division) for rule in sheet.rule),
        thermometers=tuple(Thermometer(t.id, t.name, t.error_k) for t in sheet.thermometer),
        leads=tuple(_lead(lead) for lead in sheet.lead),
    )


def facts_of(sheet: ClaimSheet, rig: Rig) -> tuple[Fact, ...]:
    """The facts that an audit begins with."""
    return DeviceNoted(sheet.device), RigNoted(rig), *sheet.claims


def _port(port: _PortSheet) -> Port:
    return Port(port.id, port.connector, Role(port.role), port.noted("printed"))


def _host(host: _HostSheet) -> Host:
    sockets = tuple(HostSocket(s.id, s.connector, s.data, s.display) for s in host.sockets)
    return Host(host.id, host.name, sockets, host.noted("wants"))


def _instrument(sheet: _InstrumentSheet) -> tuple[str, str, str, Noted[str], Noted[float], Noted[float]]:
    errors = sheet.noted("power_error_percent"), sheet.noted("power_error")
    return sheet.id, sheet.name, sheet.connector, sheet.noted("address"), *errors


def _lead(lead: _LeadSheet) -> Lead:
    one, other = lead.ends
    return Lead(lead.id, (one, other), lead.noted("length"), lead.noted("data"), lead.noted("amperes"))


def _claim(
    claim: _ClaimSheet, claim_id: str, index: int, sheet: _DeviceFile, device: Device, locate: _Locator
) -> ClaimMade:
    try:
        parsed = parse_claim(claim.says, claim_id=claim_id)
    except ClaimError as error:
        raise locate.error(("claim", index, "says"), error.why, claim.says, do=error.do) from error
    if device.port(parsed.port) is None:
        known = ", ".join(port.id for port in device.ports())
        why = f"the device has no port {parsed.port}"
        raise locate.error(("claim", index, "says"), why, claim.says, do=f"It has {known}")
    kind = claim.noted("source") if "source" in claim.model_fields_set else sheet.source.noted("kind")
    seen = claim.noted("seen") if "seen" in claim.model_fields_set else sheet.source.noted("seen")
    return ClaimMade(claim_id, str(parsed), Source(kind, seen, claim.noted("quoted")))


def _check_ports(device: Device, sheet: _DeviceFile, locate: _Locator) -> None:
    known: set[str] = set()
    for face_index, face in enumerate(sheet.face):
        for port_index, port in enumerate(face.ports):
            if port.id in known:
                raise locate.error(("face", face_index, "ports", port_index, "id"), "another port has this id", port.id)
            known.add(port.id)


def _check_ids(sheet: _RigFile, locate: _Locator) -> None:
    known: set[str] = set()
    for kind in type(sheet).model_fields:
        parts = getattr(sheet, kind)
        for index, part in enumerate(parts if isinstance(parts, list) else []):
            if part.id in known:
                raise locate.error((kind, index, "id"), "another part of the rig has this id", part.id)
            known.add(part.id)
    readers = {reader.id for reader in sheet.reader}
    for index, card in enumerate(sheet.card):
        if card.reader is not None and card.reader not in readers:
            raise locate.error(("card", index, "reader"), "the rig has no reader of that id", card.reader)


Model = TypeVar("Model", bound=_Sheet)
KeyPath = tuple[str | int, ...]


def _parse(model: type[Model], text: str, file: str) -> Model:
    locate = _Locator(text, file)
    if len(text) > LARGEST_SHEET_BYTES:
        raise locate.error((), f"it is longer than {LARGEST_SHEET_BYTES} characters", "")
    try:
        return model.model_validate(tomllib.loads(text))
    except tomllib.TOMLDecodeError as error:
        raise locate.not_toml(error) from error
    except RecursionError as error:
        raise locate.error((), "its brackets are nested too deep", "") from error
    except ValidationError as error:
        first = error.errors()[0]
        raise locate.error(_without_union_tags(first["loc"]), _in_words(first), _offending(first)) from error


def _without_union_tags(where: Iterable[str | int]) -> KeyPath:
    """The path of keys alone; pydantic also names which form of a value it tried."""
    return tuple(step for step in where if isinstance(step, int) or not re.search(r"[\[\](){}]", step))


_KIND_IN_WORDS = {
    "missing": "this is missing",
    "extra_forbidden": "there is no such key here",
    "string_type": "this is to be words in quotes",
    "list_type": "this is to be a list in square brackets",
    "int_type": 'this is to be a whole number, or "none"',
    "bool_type": "this is to be true or false",
    "model_type": "this is to be a table of keys",
    "string_pattern_mismatch": "this is to be letters, digits and dashes, a letter first",
}


def _in_words(error: Any) -> str:
    message = str(error["msg"]).removeprefix("Value error, ")
    return _KIND_IN_WORDS.get(error["type"], message[:1].lower() + message[1:])


def _offending(error: Any) -> str:
    value = error["input"]
    return "" if isinstance(value, dict | list) or error["type"] == "missing" else inert(str(value), 80)


class _Locator:
    """Finds the line that a key path stands on. TOML readers keep values, not places, so the text is looked through."""

    def __init__(self, text: str, file: str) -> None:
        self._lines, self._file = text.splitlines(), file

    def error(self, path: KeyPath, why: str, words: str, do: str = "") -> SheetError:
        key_path = "".join(f"[{step + 1}]" if isinstance(step, int) else f".{step}" for step in path).lstrip(".")
        shown = f'"{inert(words, 120)}"' if words else ""
        return SheetError(why, file=self._file, line=self._line(path, words), key_path=key_path, words=shown, do=do)

    def not_toml(self, error: tomllib.TOMLDecodeError) -> SheetError:
        found = re.search(r"line (\d+)", str(error))
        why = f"this is not TOML: {inert(str(error), 120)}"
        return SheetError(why, file=self._file, line=int(found[1]) if found else None, key_path="")

    def _line(self, path: KeyPath, words: str) -> int | None:
        start, steps = self._table(path)
        for step, after in zip(steps, (*steps[1:], None), strict=False):
            if isinstance(step, str):
                start = next((n for n in range(start, len(self._lines)) if self._has_key(self._lines[n], step)), start)
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
        headers = [
            n for n, line in enumerate(self._lines) if re.match(rf"\s*\[\[?\s*{re.escape(str(name))}\s*\]", line)
        ]
        if (turn or 0) >= len(headers):
            return 0, path
        return headers[turn or 0], path[1:] if turn is None else path[2:]

    def _line_of_brace(self, start: int, index: int) -> int:
        """The line of the inline table of that index, counted from a line."""
        for n in range(start, len(self._lines)):
            index -= self._lines[n].count("{")
            if index < 0:
                return n
        return start

    @staticmethod
    def _has_key(line: str, key: str) -> bool:
        return re.search(rf"(^|[\s{{,]){re.escape(key)}\s*=", line) is not None
