"""The demo from the shell: a shelf that was prepared, and practice devices."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.cli.composition import LibraryHandle
from auditra.cli.demo_shelf import prepare_demos, shelve_practice
from auditra.core.errors import AuditraError
from auditra.store.demos import DEMOS


def run(library: Path, *words: str) -> str:
    ran = CliRunner().invoke(app, ["--library", str(library), *words], catch_exceptions=False)
    assert ran.exit_code == 0, ran.output
    return ran.output


def test_a_prepared_shelf_has_finished_half_done_and_fresh_audits(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    few = tuple(demo for demo in DEMOS if demo.name in ("T5", "C240"))
    half = tuple(replace(demo, done=0.5 if demo.name == "C240" else demo.done) for demo in few)
    monkeypatch.setattr("auditra.cli.demo_shelf.DEMOS", half)
    handle = LibraryHandle(tmp_path)
    prepare_demos(handle)
    rows = {row.name: row for row in handle.shelf.kept_rows()}
    assert rows["T5"].to_do == 0
    assert rows["T5"].decided == rows["T5"].claims
    assert 0 < rows["C240"].to_do < 6
    assert rows["BW-11"].decided == 0
    trials = len(handle.session("C240").judged.audit.trials)
    prepare_demos(handle)
    assert len(handle.session("C240").judged.audit.trials) == trials, "what was begun is left as it is"


def test_a_practice_is_run_from_the_shell_and_then_told(tmp_path: Path) -> None:
    assert "keeps every promise" in run(tmp_path, "demo", "--seed", "0", "--tell")
    name = shelve_practice(LibraryHandle(tmp_path), 44)
    assert shelve_practice(LibraryHandle(tmp_path), 44) == name == "practice-44"
    run(tmp_path, "run", name, "--sheet", "quick")
    told = run(tmp_path, "demo", "--seed", "44", "--tell")
    assert told.startswith("Practice 44, hidden faults:")
    assert "Verdicts of its audit:" in told


def test_nothing_is_told_of_no_device(tmp_path: Path) -> None:
    with pytest.raises(AuditraError, match="it needs a practice device"):
        run(tmp_path, "demo", "--tell")
    with pytest.raises(AuditraError, match="Leave out --seed"):
        run(tmp_path, "demo", "--prepare", "--seed", "3")
