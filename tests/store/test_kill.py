"""kill -9 at random moments: nothing that was shown as taken is lost, and the run goes on from there."""

from __future__ import annotations

import itertools
import os
import random
import signal
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from auditra.cli.run import line_of
from auditra.core.journal.facts import ReadingTaken
from auditra.core.journal.fold import fold_audit
from auditra.store.library import Library
from auditra.store.place import place_of
from tests.support.postgres import TeamServer

KILLS = 24
MOST_LINES, LONGEST_S = 3, 0.08
"""A run is killed once it has shown up to so many readings, and some time later."""
_NURSERY = """
import contextlib, io, os, signal, sys, time
from auditra.workflows.trials.measure import network, storage
from auditra.cli import main

storage.SECONDS_A_PASS = network.SECONDS_A_PASS = 0.02

def run(folder):
    sys.argv = ["auditra", "--library", folder, "run", "OP-6"]
    os.environ["XDG_DATA_HOME"] = os.environ["TMPDIR"]
    with contextlib.suppress(SystemExit):
        main()

def shown(output):
    with contextlib.suppress(OSError):
        return open(output, "rb").read().count(b"taken  ")
    return 0

with contextlib.redirect_stdout(io.StringIO()):
    run(sys.argv[1])
for line in sys.stdin:
    folder, output, lines, seconds = line.split()
    child = os.fork()
    if child == 0:
        os.dup2(os.open(output, os.O_WRONLY | os.O_CREAT, 0o600), 1)
        run(folder)
        os._exit(0)
    ended = 0
    while not ended and shown(output) < int(lines):
        time.sleep(0.002)
        ended, status = os.waitpid(child, os.WNOHANG)
    if not ended:
        time.sleep(float(seconds))
        os.kill(child, signal.SIGKILL)
        ended, status = os.waitpid(child, 0)
    print(os.WTERMSIG(status), flush=True)
"""
"""Runs an audit once, so that all is loaded; then again, in a child that is killed, for each line that it reads."""


@pytest.fixture(params=["folder", "team"])
def new_library(request: pytest.FixtureRequest, tmp_path: Path) -> Callable[[], str]:
    """Names a library that nothing is in yet."""
    if request.param == "team":
        server: TeamServer = request.getfixturevalue("team_server")
        return lambda: server.url(server.new_database())
    numbers = itertools.count()
    return lambda: str(tmp_path / f"library{next(numbers)}")


@pytest.fixture
def nursery(tmp_path: Path, new_library: Callable[[], str]) -> Iterator[subprocess.Popen[str]]:
    command = [sys.executable, "-u", "-c", _NURSERY, new_library()]
    started = subprocess.Popen(
        command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True,
        env=os.environ | {"TMPDIR": str(tmp_path)},
    )  # fmt: skip
    yield started
    started.communicate("")


def shown_as_taken(nursery: subprocess.Popen[str], library: str, output: Path, lines: int, seconds: float) -> list[str]:
    """What a run prints as taken before it is killed, or comes to its end."""
    assert nursery.stdin is not None
    assert nursery.stdout is not None
    print(library, output, lines, seconds, file=nursery.stdin, flush=True)
    assert int(nursery.stdout.readline()) in (0, signal.SIGKILL)
    told = output.read_text(encoding="utf-8").splitlines(keepends=True) if output.exists() else []
    return [line.split("taken  ")[1].strip() for line in told if "taken  " in line and line.endswith("\n")]


@pytest.mark.parametrize("seed", range(2))
def test_nothing_shown_as_taken_is_lost(
    tmp_path: Path, nursery: subprocess.Popen[str], new_library: Callable[[], str], seed: int
) -> None:
    chance = random.Random(seed)
    shown: list[str] = []
    library, seen = new_library(), 0
    for number in range(KILLS):
        output = tmp_path / f"{number}.out"
        new = shown_as_taken(nursery, library, output, chance.randint(0, MOST_LINES), chance.uniform(0, LONGEST_S))
        shown, seen = shown + new, seen + len(new)
        if output.exists() and "claims decided" in output.read_text(encoding="utf-8"):
            check(library, tmp_path, shown)
            shown, library = [], new_library()
        elif number % 10 == 0:
            check(library, tmp_path, shown)
    check(library, tmp_path, shown)
    assert seen > KILLS // 2


def check(name: str, tmp_path: Path, shown: list[str]) -> None:
    """All that was shown is in the journal, in order, and its chain is whole."""
    library = Library(place_of(name, tmp_path))
    entries = library.journal("OP-6").entries() if library.names() else ()
    library.close()
    if entries:
        fold_audit("OP-6", entries)
    kept = [line_of(fact.reading) for entry in entries if isinstance(fact := entry.fact, ReadingTaken)]
    in_order = iter(kept)
    assert all(line in in_order for line in shown), (shown, kept)
