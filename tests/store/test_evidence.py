"""Evidence: untouched bytes under their SHA-256, on disk before anybody is told, never taken for something else."""

from __future__ import annotations

import hashlib
import os
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from auditra.core.errors import LibraryFull, StoreError
from auditra.core.journal.facts import EvidenceKept
from auditra.store.evidence import EvidenceFolder, copy_evidence


@given(st.binary(max_size=400))
@settings(max_examples=30, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_what_is_kept_comes_back_as_it_was_and_is_kept_once(tmp_path: Path, data: bytes) -> None:
    kept = EvidenceFolder(tmp_path)
    sha256 = kept.keep(data)
    assert sha256 == kept.keep(data) == hashlib.sha256(data).hexdigest()
    assert kept.read(sha256) == data


def test_bytes_that_were_changed_are_refused(tmp_path: Path) -> None:
    kept = EvidenceFolder(tmp_path)
    sha256 = kept.keep(b"as it was")
    next(path for path in tmp_path.rglob("*") if path.is_file()).write_bytes(b"as it is")
    with pytest.raises(StoreError, match="changed after"):
        kept.read(sha256)


@pytest.mark.parametrize("name", ["", "../../etc/passwd", "A" * 64, "0" * 64])
def test_what_is_no_name_of_evidence_leads_nowhere(tmp_path: Path, name: str) -> None:
    with pytest.raises(StoreError):
        EvidenceFolder(tmp_path).read(name)


def test_a_full_disk_is_told_and_leaves_nothing_behind(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(LibraryFull, match="Make room"):
        EvidenceFolder(tmp_path).keep(b"a snapshot")
    assert not [path for path in tmp_path.rglob("*") if path.is_file()]


def test_copying_tells_what_is_missing_and_copies_the_rest(tmp_path: Path) -> None:
    there, here = EvidenceFolder(tmp_path / "there"), EvidenceFolder(tmp_path / "here")
    sha256 = there.keep(b"here it is")
    facts = [EvidenceKept(sha256, "a", 10), EvidenceKept("0" * 64, "b", 3), EvidenceKept(sha256, "a", 10)]
    assert list(copy_evidence(facts, there.read, here)) == ["evidence 000000000000: No such file or directory"]
    assert here.read(sha256) == b"here it is"
