"""The bundle: what went in comes out, any byte that was changed is found, and a signature names who packed it."""

from __future__ import annotations

import random
import zipfile
from datetime import UTC, datetime
from functools import cache
from io import BytesIO
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from typer.testing import CliRunner

from auditra.cli.bundling import bundle_of, judged_again, judged_bundle
from auditra.cli.commands import app
from auditra.cli.composition import LibraryHandle
from auditra.core.errors import AuditraError, FactsRefused
from auditra.store.bundle import MANIFEST, SIGNATURE, read_bundle
from auditra.store.signing import make_key
from tests.support.finished import finished_library

NOW = datetime(2026, 3, 4, tzinfo=UTC)
FOUND = (AuditraError, FactsRefused)


@pytest.fixture(scope="module")
def handle(tmp_path_factory: pytest.TempPathFactory) -> LibraryHandle:
    return finished_library(tmp_path_factory.mktemp("bundles"))


@cache
def key() -> bytes:
    import tempfile

    path = Path(tempfile.mkdtemp()) / "key.pem"
    make_key(path)
    assert path.stat().st_mode & 0o777 == 0o600
    return path.read_bytes()


@pytest.fixture(scope="module")
def packed(handle: LibraryHandle) -> bytes:
    return bundle_of(handle, handle.session("OP-6"), key())


def test_a_bundle_has_the_audit_whole_and_is_judged_the_same(handle: LibraryHandle, packed: bytes) -> None:
    session = handle.session("OP-6")
    bundle = read_bundle(packed, NOW)
    assert bundle.audit.entries == session.entries()
    assert bundle.head == session.head_link
    assert judged_bundle(bundle).judgement.claims == session.judged.judgement.claims
    assert judged_again(bundle) == []
    assert {"report/OP-6-report.html", "report/OP-6-report.pdf", "claims.toml", "rig.toml", "profile.toml"} <= set(
        bundle.files
    )
    assert bundle.signature is not None
    kept = [each.sha256 for each in session.judged.audit.evidence]
    assert [bundle.evidence(each) for each in kept] == [session.evidence_of(each) for each in kept]


def test_the_same_audit_is_the_same_bundle(handle: LibraryHandle, packed: bytes) -> None:
    assert bundle_of(handle, handle.session("OP-6"), key()) == packed


def test_any_single_byte_that_is_changed_is_found(packed: bytes) -> None:
    chance = random.Random(19)
    places = {0, 1, len(packed) - 1, len(packed) - 22, *(chance.randrange(len(packed)) for _ in range(220))}
    with zipfile.ZipFile(BytesIO(packed)) as opened:  # headers of the container, where nothing is hashed
        for info in opened.infolist():
            places |= {info.header_offset + each for each in (4, 8, 10, 12, 20, 28, 31)}
        directory = opened.start_dir
    places |= {directory + each for each in range(0, 120, 3)}
    for place in sorted(places):
        changed = bytearray(packed)
        changed[place] ^= 1 << chance.randrange(8)
        with pytest.raises(FOUND):
            read_bundle(bytes(changed), NOW)


@given(st.data())
@settings(max_examples=30)
def test_bytes_that_are_taken_out_put_in_or_moved_are_found(packed: bytes, data: st.DataObject) -> None:
    at = data.draw(st.integers(0, len(packed) - 1))
    length = data.draw(st.integers(1, 40))
    kind = data.draw(st.sampled_from(["cut", "insert", "end", "front"]))
    extra = data.draw(st.binary(min_size=length, max_size=length))
    changed = {
        "cut": packed[:at] + packed[at + length :], "insert": packed[:at] + extra + packed[at:],
        "end": packed + extra, "front": extra + packed,
    }[kind]  # fmt: skip
    with pytest.raises(FOUND):
        read_bundle(changed, NOW)


def repacked(packed: bytes, **changes: bytes | None) -> bytes:
    """The bundle with files changed, packed as Auditra does, but for the sums that somebody else would forget."""
    from auditra.store.bundle import _unzip, _zip

    files = _unzip(packed)
    for name, data in changes.items():
        if data is None:
            files.pop(name)
        else:
            files[name] = data
    return _zip(files)


@pytest.mark.parametrize(
    ("name", "data", "told"),
    [("claims.toml", b"x", "was changed"), ("rig.toml", None, "missing"), ("more.txt", b"x", "not in the manifest"),
     (MANIFEST, b"{}\n", "SHA-256"), (SIGNATURE, b"{}\n", "cannot be read"), ("../up", b"x", "not in the manifest")],
)  # fmt: skip
def test_what_was_changed_is_named(packed: bytes, name: str, data: bytes | None, told: str) -> None:
    with pytest.raises(AuditraError, match=told):
        read_bundle(repacked(packed, **{name: data}), NOW)


def test_a_name_that_did_not_sign_is_found_and_without_a_signature_nothing_is_claimed(packed: bytes) -> None:
    bundle = read_bundle(packed, NOW)
    assert bundle.signature is not None
    with zipfile.ZipFile(BytesIO(packed)) as opened:
        signed = opened.read(SIGNATURE)
    other = signed.replace(b'"name":""', b'"name":"The maker"')
    assert other != signed
    with pytest.raises(AuditraError, match="name in it was changed"):
        read_bundle(repacked(packed, **{SIGNATURE: other}), NOW)
    assert read_bundle(repacked(packed, **{SIGNATURE: None}), NOW).signature is None


def test_a_zip_of_somebody_elses_is_refused(tmp_path: Path) -> None:
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as other:
        other.writestr("facts.jsonl", b"0" * 1_000_000)
    for data in (out.getvalue(), b"", b"PK", b"\0" * 500):
        with pytest.raises(AuditraError):
            read_bundle(data, NOW)


def test_verify_and_import_take_a_bundle_on_another_machine(packed: bytes, tmp_path: Path) -> None:
    path, library = tmp_path / "quay.zip", tmp_path / "library"
    path.write_bytes(packed)
    ran = CliRunner().invoke(app, ["verify", str(path)])
    assert ran.exit_code == 0, ran.output
    assert "every verdict and the score are the same" in ran.output
    assert CliRunner().invoke(app, ["--library", str(library), "import", str(path), "--as", "copy"]).exit_code == 0
    judged = CliRunner().invoke(app, ["--library", str(library), "verify", "copy"])
    assert "everything is unchanged" in judged.output
    path.write_bytes(packed[:-1] + b"x")
    with pytest.raises(AuditraError):
        CliRunner().invoke(app, ["verify", str(path)], catch_exceptions=False)
