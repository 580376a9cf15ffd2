"""What an earlier Auditra wrote is read, and judged as it was: a library and an export that version 0.6.0 made."""

from __future__ import annotations

import json
import subprocess
import sys
import zipfile
from pathlib import Path
from typing import Any

import pytest

from auditra.cli.composition import LibraryHandle
from auditra.core.journal.facts import NoteWritten
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import Judgement, judge
from auditra.store.exchange import read_audit
from auditra.store.library import Library
from auditra.store.profiles import load_profile
from tests.support.audits import BEGIN

WRITTEN = Path(__file__).resolve().parent.parent / "vectors" / "written_by_0_6_0.zip"


@pytest.fixture
def old(tmp_path: Path) -> Path:
    with zipfile.ZipFile(WRITTEN) as written:
        written.extractall(tmp_path)
    return tmp_path


def said_then(folder: Path, audit: str) -> Any:
    return json.loads((folder / "judged.json").read_text(encoding="utf-8"))[audit]


SCORED_ANEW = {"86.1": "88.9"}
"""Since 0.13 the score profile says what a condition of "holds if" costs."""


def assert_same(judgement: Judgement, then: Any) -> None:
    assert {f"{each.claim}": each.verdict.word for each in judgement.claims} == then["verdicts"]
    assert f"{judgement.score.value}" == SCORED_ANEW.get(then["score"], then["score"])


def test_a_library_is_judged_as_it_was_and_goes_on(old: Path) -> None:
    handle = LibraryHandle(old / "library")
    session = handle.session("BW-11")
    assert_same(session.judged.judgement, said_then(old, "BW-11"))
    assert any(reading.trace for record in session.judged.audit.trials for reading in record.readings)
    journal = handle.library.journal("BW-11")
    journal.append([NoteWritten("written by a newer Auditra")], action="note", at=BEGIN)
    again = Library(old / "library").journal("BW-11").entries()
    assert len(again) == said_then(old, "BW-11")["entries"] + 1


def test_an_export_is_taken_with_its_chain_and_judged_as_it_was(old: Path) -> None:
    entries = read_audit(old / "export" / "OP-6", BEGIN).entries
    assert_same(judge(fold_audit("OP-6", entries), load_profile()), said_then(old, "OP-6"))


_COMMANDS = """
import contextlib, sys
from auditra.cli import main
library, out = sys.argv[1:]
for words in (["judge"], ["verify"], ["publish", "--draft", "--out", out], ["export", "--to", out], ["run"]):
    sys.argv = ["auditra", "--library", library, words[0], "BW-11", *words[1:]]
    try:
        main()
    except SystemExit as end:
        print(words[0], "ended with", end.code)
"""


def test_a_library_on_a_mount_that_can_only_be_read(old: Path) -> None:
    """Judged, checked, published and exported; what would write to it says why it does not."""
    library, out = old / "library", old / "out"
    mounted = f"mount --bind {library} {library} && mount -o remount,bind,ro {library}"
    if subprocess.run(["unshare", "-rm", "sh", "-c", mounted], capture_output=True, check=False).returncode:
        pytest.skip("this machine lets nobody mount")
    shell = ["unshare", "-rm", "sh", "-c", f'{mounted} && exec "$0" -c "$1" "$2" "$3"']
    words = [sys.executable, _COMMANDS, str(library), str(out)]
    run = subprocess.run([*shell, *words], capture_output=True, text=True, check=False)
    for command in ("judge", "verify", "publish", "export"):
        assert f"{command} ended with 0" in run.stdout, run.stdout + run.stderr
    assert "run ended with 1" in run.stdout, run.stdout + run.stderr
    assert "Read-only file system" in run.stderr
    assert {each.name for each in out.iterdir()} >= {"facts.jsonl", "claims.toml", "rig.toml", "evidence"}
