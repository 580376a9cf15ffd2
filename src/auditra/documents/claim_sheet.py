"""Claim sheets: one device or a kit, and the sentences that the seller is held to, as TOML."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Annotated, Any

from pydantic import BeforeValidator, create_model

from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.language import parse_claims, promise_kinds
from auditra.core.errors import ClaimError
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.model.device import BODY, DEVICE, Device, Face
from auditra.core.model.rig import Rig
from auditra.core.model.source import Source
from auditra.core.sanitize import sanitize
from auditra.documents.nouns import NONE, Sheet, Words, form_of, noun_of, table_of
from auditra.documents.toml_lines import KeyPath, Locator, bounded, load_toml, toml_text, validate

MAX_FACES, MAX_CLAIMS = 24, 1000
"""Far more than any device or seller has."""
MAX_PORTS_A_FACE = 64
_MAX_DEVICES = 8
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


@cache
def _device_file() -> type[Sheet]:
    """The form of a claim sheet of one device, made from the nouns."""
    parts: dict[str, Any] = {
        "device": (form_of(Device, ("faces",)), ...),
        "source": (_SourceSheet, _SourceSheet()),
        "face": (bounded(form_of(Face), MAX_FACES), ...),
        "claim": (bounded(_ClaimSheet, MAX_CLAIMS), []),
    }
    return create_model("DeviceFile", __base__=Sheet, **parts)


@cache
def _kit_file() -> type[Sheet]:
    """The form of a claim sheet of several devices: each is a ``[[device]]`` with its own ``[[device.face]]``."""
    faces: dict[str, Any] = {"face": (bounded(form_of(Face), MAX_FACES), ...)}
    one = create_model("KitDevice", __base__=form_of(Device, ("faces",)), **faces)
    parts: dict[str, Any] = {
        "device": (bounded(one, _MAX_DEVICES, least=1), ...),
        "source": (_SourceSheet, _SourceSheet()),
        "claim": (bounded(_ClaimSheet, MAX_CLAIMS), []),
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


@dataclass(frozen=True)
class ClaimSheet:
    """One device, or the several of a kit, with the sentences that the seller is held to."""

    devices: tuple[Device, ...]
    claims: tuple[ClaimMade, ...]

    @property
    def device(self) -> Device:
        return self.devices[0]


def read_claim_sheet(text: str, file: str) -> ClaimSheet:
    """The device and claims of a claim sheet. Raises: SheetError with the line and key path to fix."""
    locate = Locator(text, file)
    raw = load_toml(text, locate)
    of_kit = isinstance(raw.get("device"), list)
    sheet = validate(_kit_file() if of_kit else _device_file(), raw, locate)
    parts = [(each, each.face) for each in sheet.device] if of_kit else [(sheet.device, sheet.face)]
    devices = tuple(noun_of(Device, each, faces=tuple(noun_of(Face, face) for face in faces)) for each, faces in parts)
    for index, device in enumerate(devices):
        if device.id in [each.id for each in devices[:index]]:
            raise locate.error(("device", index, "id"), "another device has this id", device.id)
        _check_ports(device, locate, ("device", index) if of_kit else ())
    claims = tuple(made for index in range(len(sheet.claim)) for made in _claims(index, sheet, devices, locate))
    return ClaimSheet(devices, claims)


def write_claim_sheet(devices: Sequence[Device], claims: Iterable[ClaimMade]) -> str:
    """A claim sheet that reads as these devices and claims."""
    said = {"claim": [_claim_table(claim) for claim in claims]}
    if len(devices) == 1:
        device = devices[0]
        faces = [table_of(face) for face in device.faces]
        return toml_text({"device": table_of(device, ("faces",)), "face": faces, **said})
    kit = [table_of(each, ("faces",)) | {"face": [table_of(face) for face in each.faces]} for each in devices]
    return toml_text({"device": kit, **said})


def facts_of(sheet: ClaimSheet, rig: Rig) -> tuple[Fact, ...]:
    """The facts that an audit begins with."""
    return *map(DeviceNoted, sheet.devices), RigNoted(rig), *sheet.claims


def _claim_table(claim: ClaimMade) -> dict[str, Any]:
    of = {"device": claim.device} if claim.device != DEVICE else {}
    return {"says": claim.sentence} | of | {
        key: NONE if value is None else value
        for key, value in (
            ("quoted", claim.source.quoted), ("source", claim.source.kind), ("seen", claim.source.seen),
        )
        if value is None or isinstance(value, str)
    }  # fmt: skip


def _claims(index: int, sheet: Any, devices: tuple[Device, ...], locate: Locator) -> Iterator[ClaimMade]:
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


def _check_ports(device: Device, locate: Locator, above: KeyPath) -> None:
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
