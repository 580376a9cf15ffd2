"""The bundle: an audit with journal, evidence, sheets and report in one zip file, every byte of it accounted for.

A bundle is written in one way only: files in order, stored as they are, without times. So whoever has it can pack what
is in it again and must get the very same bytes; a manifest has the SHA-256 of each file, and its own stands beside it.
"""

from __future__ import annotations

import hashlib
import json
import zipfile
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from io import BytesIO
from pathlib import Path
from typing import Any

from auditra import __version__
from auditra.core.errors import InputError
from auditra.core.journal.facts import Entry, EvidenceKept
from auditra.core.sanitize import sanitize
from auditra.documents.facts import canonical
from auditra.store.exchange import FACTS_FILE, Imported, audit_files, read_facts
from auditra.store.signing import Signature, check_signature, read_signature, sign
from auditra.workflows.input_files import read_plain

FORMAT, FORMAT_VERSION = "auditra bundle", 1
MANIFEST, MANIFEST_DIGEST, SIGNATURE = "MANIFEST.json", "MANIFEST.sha256", "SIGNATURE.json"
JUDGEMENT, PROFILE = "judgement.json", "profile.toml"
EVIDENCE, REPORT = "evidence", "report"
MAX_BYTES = 1 << 30
MAX_FILES = 20_000
_NO_TIME = (1980, 1, 1, 0, 0, 0)
"""The first that a zip file can name: a bundle does not say when it was packed."""
_PLAIN_FILE = 0o644 << 16


@dataclass(frozen=True)
class Bundle:
    """A bundle that is sound: nothing in it was changed since it was packed."""

    audit: Imported
    head: str
    files: Mapping[str, bytes]
    written_by: str
    signature: Signature | None

    @property
    def facts(self) -> bytes:
        """Its journal, as it stands in the bundle."""
        return self.files[FACTS_FILE]

    @property
    def signer(self) -> str:
        """Who signed it; empty for none."""
        return self.signature.name if self.signature is not None else ""

    def evidence(self, sha256: str) -> bytes:
        """A piece of evidence. Raises: InputError where it is not in the bundle."""
        name = evidence_name(sha256)
        if name not in self.files:
            raise InputError(f"evidence {sanitize(sha256, 12)}", why="it is not in the bundle")
        return self.files[name]


def pack(
    name: str,
    entries: Iterable[Entry],
    extra: Mapping[str, bytes],
    evidence: Callable[[str], bytes],
    key: bytes | None = None,
    signer: str = "",
) -> bytes:
    """A bundle of a journal. `extra` are its judgement, profile and report by their names; `key` is a private key.

    Raises: StoreError where a piece of evidence is missing, InputError for a key that is none.
    """
    kept = tuple(entries)
    files = {**audit_files(name, kept), **extra}
    for sha256 in dict.fromkeys(entry.fact.sha256 for entry in kept if isinstance(entry.fact, EvidenceKept)):
        files[evidence_name(sha256)] = evidence(sha256)
    manifest = _json({
        "format": FORMAT, "version": FORMAT_VERSION, "audit": name, "written_by": f"auditra {__version__}",
        "files": {path: {"bytes": len(data), "sha256": _sha256(data)} for path, data in sorted(files.items())},
    })  # fmt: skip
    sealed = {MANIFEST: manifest, MANIFEST_DIGEST: f"{_sha256(manifest)}\n".encode()}
    if key is not None:
        sealed[SIGNATURE] = sign(manifest, signer, key)
    return _zip({**sealed, **dict(sorted(files.items()))})


def evidence_name(sha256: str) -> str:
    """Where a piece of evidence lies in a bundle."""
    return f"{EVIDENCE}/{sha256[:2]}/{sha256}"


def load_bundle(path: Path, now: datetime) -> Bundle:
    """A bundle from a file. Raises: InputError, FactsRefused."""
    return read_bundle(read_plain(path, MAX_BYTES), now)


def read_bundle(data: bytes, now: datetime) -> Bundle:
    """Everything in it is checked: container, manifest, each file, the journal's chain, evidence, signature.

    Raises: InputError that says what was changed; FactsRefused for a journal that does not hold.
    """
    files = _unzip(data)
    manifest = files.pop(MANIFEST, b"")
    digest, signed = files.pop(MANIFEST_DIGEST, b""), files.pop(SIGNATURE, None)
    if digest != f"{_sha256(manifest)}\n".encode():
        raise _changed(MANIFEST, "its SHA-256 is not the one beside it")
    listed = _manifest_of(manifest)
    _require_same(files, listed["files"])
    if FACTS_FILE not in files:
        raise _changed(FACTS_FILE, "there is no journal in it")
    signature = read_signature(signed) if signed is not None else None
    if signature is not None:
        check_signature(manifest, signature)
    came, head = read_facts(files[FACTS_FILE], f"{FACTS_FILE} of the bundle", now)
    if came.name != listed["audit"]:
        raise _changed(FACTS_FILE, "it is of another audit than the manifest says")
    for entry in came.entries:
        if isinstance(entry.fact, EvidenceKept):
            place = evidence_name(entry.fact.sha256)
            if _sha256(files.get(place, b"")) != entry.fact.sha256:
                raise _changed(place, "it is missing, or not what the journal names")
    return Bundle(came, head, files, str(listed["written_by"]), signature)


def _require_same(files: Mapping[str, bytes], listed: Mapping[str, Any]) -> None:
    """Raises: InputError for the first file that is not as the manifest has it."""
    for path in sorted(files.keys() ^ listed.keys()):
        raise _changed(path, "it is not in the manifest" if path in files else "it is missing")
    for path, data in files.items():
        if listed[path] != {"bytes": len(data), "sha256": _sha256(data)}:
            raise _changed(path, "it was changed since the bundle was packed")


def _manifest_of(data: bytes) -> dict[str, Any]:
    try:
        read = json.loads(data)
        sound = (
            isinstance(read, dict) and _json(read) == data and read.get("format") == FORMAT
            and isinstance(read.get("files"), dict) and isinstance(read.get("written_by"), str)
        )  # fmt: skip
    except (ValueError, RecursionError):
        sound = False
    if not sound:
        raise _changed(MANIFEST, f'expected "format": "{FORMAT}"')
    if read.get("version") != FORMAT_VERSION:
        raise InputError(MANIFEST, why="this Auditra reads version 1", do="Verify it with the Auditra that wrote it")
    return dict(read)


def _zip(files: Mapping[str, bytes]) -> bytes:
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as packed:
        for path, data in files.items():
            info = zipfile.ZipInfo(path, _NO_TIME)
            info.create_system, info.external_attr = 3, _PLAIN_FILE
            packed.writestr(info, data)
    return out.getvalue()


def _unzip(data: bytes) -> dict[str, bytes]:
    """The files in it, if they are just what the bytes say. Raises: InputError."""
    try:
        with zipfile.ZipFile(BytesIO(data)) as packed:
            infos = packed.infolist()
            if len(infos) > MAX_FILES or any(each.compress_type != zipfile.ZIP_STORED for each in infos):
                raise _changed("the bundle", "it was not packed by Auditra")
            if sum(each.file_size for each in infos) > len(data):
                raise _changed("the bundle", "its files are longer than it is")
            files = {each.filename: packed.read(each) for each in infos}
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError, EOFError, RuntimeError, KeyError) as error:
        raise _changed("the bundle", f"it is no zip file that can be read: {sanitize(str(error), 120)}") from error
    if _zip(files) != data:
        raise _changed("the bundle", "bytes of its container were changed, or it was packed by something else")
    return files


def _changed(what: str, why: str) -> InputError:
    return InputError(
        sanitize(what, 120), why=why, do="Ask for the bundle again; what is in it proves nothing like this"
    )


def _json(value: object) -> bytes:
    return canonical(value).encode() + b"\n"


def _sha256(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()
