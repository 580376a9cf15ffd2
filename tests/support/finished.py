"""Finished audits of both demo devices, run once with 0.6.0 and kept: judged as of now, without running them."""

from __future__ import annotations

import atexit
import shutil
import tempfile
import zipfile
from functools import cache
from pathlib import Path

from auditra.cli.composition import LibraryHandle
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.store.evidence import FOLDER as EVIDENCE
from auditra.store.evidence import EvidenceFolder, copy_evidence
from auditra.store.exchange import read_audit
from tests.support.audits import BEGIN

KEPT = Path(__file__).parent.parent / "vectors" / "written_by_0_6_0.zip"


def finished_library(folder: Path) -> LibraryHandle:
    """A library of its own with OP-6 and BW-11 finished."""
    with zipfile.ZipFile(KEPT) as kept:
        kept.extractall(folder)
    handle = LibraryHandle(folder / "library")
    export = folder / "export" / "OP-6"
    came = read_audit(export, BEGIN)
    facts = (entry.fact for entry in came.entries)
    tuple(copy_evidence(facts, EvidenceFolder(export / EVIDENCE).read, handle.library.evidence))
    handle.library.restore(came.name, came.entries)
    return handle


@cache
def _shared() -> LibraryHandle:
    folder = Path(tempfile.mkdtemp(prefix="auditra-tests-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return finished_library(folder)


@cache
def finished(name: str) -> JudgedAudit:
    """One of them, judged; the same one for all tests of a process."""
    return _shared().session(name).checked()
