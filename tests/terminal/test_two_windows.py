"""Two windows and commands on one audit at the same time: nothing is lost, no id is given twice, the chain is whole."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

from auditra.core.journal.audit import Audit
from auditra.core.journal.fold import fold_audit
from auditra.store.library import Library
from tests.support.terminal import Terminal

pytestmark = pytest.mark.terminal
CLAIMS = ("A1 gives 4.5 W", "A2 gives 4.5 W", "P1 takes 60 W", "N1 links 100 Mb/s")


@pytest.fixture
def windows(tmp_path: Path) -> Iterator[tuple[Terminal, Terminal]]:
    one, other = (
        Terminal(tmp_path / name, 160, 50, "demo", "--pace", "200", library=tmp_path / "library")
        for name in ("one", "other")
    )
    yield one, other
    one.close()
    other.close()


def attach(library: Path, file: Path) -> None:
    command = [sys.executable, "-c", "from auditra.cli import main; main()", "attach", "OP-6", "T1", str(file)]
    subprocess.run(command, env=os.environ | {"AUDITRA_LIBRARY": str(library)}, check=True, capture_output=True)


def type_claim(window: Terminal, sentence: str) -> None:
    window.press("n")
    window.wait_for("accept the suggestion")
    window.press("C-u")
    window.tmux("send-keys", "-l", sentence)
    window.press("Enter")
    window.wait_for(f"Recorded: {sentence}")


def audit_on_disk(library: Path) -> Audit:
    """From its entries, each of which is checked against the chain."""
    entries = Library(library).journal("OP-6").entries()
    assert [entry.number for entry in entries] == list(range(1, len(entries) + 1))
    return fold_audit("OP-6", entries)


def test_two_windows_and_commands_on_one_audit(windows: tuple[Terminal, Terminal], tmp_path: Path) -> None:
    one, other = windows
    for window in windows:
        window.wait_for("0 of 8 claims decided")
        window.press("Enter")
        window.wait_for("trial 1 of 24")
    one.press("a")
    one.wait_for("T1 complete")
    other.press(*["Left"] * 6, "1")
    other.wait_for("PORT CAPABILITIES")
    for number, sentence in enumerate(CLAIMS):
        (tmp_path / f"{number}.txt").write_text(sentence)
        attach(tmp_path / "library", tmp_path / f"{number}.txt")
        type_claim(other, sentence)
    one.press("a")  # goes on where the trials were done before the last claim came; nothing while they run
    one.wait_for("trials are done", within_s=240)
    for window in windows:
        window.press("7")
        window.wait_for("12 claims")
    audit = audit_on_disk(tmp_path / "library")
    assert [str(claim) for claim in audit.claims][8:] == list(CLAIMS)
    assert {each.name for each in audit.evidence} >= {f"{number}.txt" for number in range(len(CLAIMS))}
    for ids in ([claim.id for claim in audit.claims], [record.trial.id for record in audit.trials]):
        assert len(ids) == len(set(ids))
