"""kill -9 at random moments: nothing that was shown as taken is lost, and the run goes on from there."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from auditra.core.audit.audit import fold_audit
from auditra.core.audit.facts import ReadingTaken
from auditra.core.judge.telling import reading_in_words
from auditra.store.library import Library

_PROGRAM = """
from auditra.workflows.measure import network, storage
storage.SECONDS_A_PASS = network.SECONDS_A_PASS = 0.1
from auditra.cli import main
main()
"""


def shown_as_taken(folder: Path, kill_after_s: float) -> list[str]:
    """What a run prints as taken before it is killed."""
    environment = os.environ | {"AUDITRA_LIBRARY": str(folder), "PYTHONUNBUFFERED": "1"}
    command = [sys.executable, "-c", _PROGRAM, "run", "OP-6"]
    run = subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
    time.sleep(kill_after_s)
    run.send_signal(signal.SIGKILL)
    out, _ = run.communicate()
    return [
        line.split("taken  ")[1] for line in out.splitlines(keepends=True) if "taken  " in line and line.endswith("\n")
    ]


@pytest.mark.parametrize("seed", range(3))
def test_nothing_shown_as_taken_is_lost(tmp_path: Path, seed: int) -> None:
    chance = random.Random(seed)
    shown: list[str] = []
    for _ in range(2):
        shown += [line.strip() for line in shown_as_taken(tmp_path, chance.uniform(1.5, 4.5))]
    library = Library(tmp_path)
    if not library.names():
        assert shown == []
        return
    entries = library.journal("OP-6").entries()
    kept = [
        f"{fact.reading.quantity} at {fact.reading.at}: {reading_in_words(fact.reading)}"
        for entry in entries
        if isinstance(fact := entry.fact, ReadingTaken)
    ]
    in_order = iter(kept)
    assert all(line in in_order for line in shown), (shown, kept)
    fold_audit("OP-6", entries)
