"""What all tests share."""

from __future__ import annotations

import signal
from collections.abc import Iterator

import pytest
from hypothesis import settings

from auditra.bench.simulated import doors
from auditra.workflows.trials.measure import network, rates, storage
from tests.support.postgres import TeamServer, temporary_server

for each in (signal.SIGINT, signal.SIGHUP):
    if signal.getsignal(each) is signal.SIG_IGN:  # so started in the background; every program under test would be too
        signal.signal(each, signal.default_int_handler if each is signal.SIGINT else signal.SIG_DFL)

settings.register_profile("repeatable", derandomize=True, deadline=None, print_blob=True)
settings.load_profile("repeatable")


SLOW = (
    "tests/terminal", "tests/tui", "tests/cli", "tests/store/test_kill.py", "tests/bench/test_snapshot.py",
    "tests/workflows/test_simulated_audits.py", "tests/workflows/test_dock_with_faults.py",
    "tests/core/judge/test_judgement.py", "tests/core/simulate", "tests/store/test_exchange.py",
)  # fmt: skip
"""What drives whole screens, starts processes or runs whole audits: `make fast` leaves it out."""


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Mark what takes long, by where it is."""
    for item in items:
        if item.path.relative_to(config.rootpath).as_posix().startswith(SLOW):
            item.add_marker("slow")


@pytest.fixture
def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    """Passes of a twentieth of a second: the same loops on less data."""
    monkeypatch.setattr(storage, "SECONDS_A_PASS", 0.1)
    monkeypatch.setattr(rates, "SAMPLE_S", 0.01)
    monkeypatch.setattr(network, "SOAK_CHUNK_BYTES", 1 << 30)
    monkeypatch.setattr(network, "SECONDS_A_PASS", 0.1)
    monkeypatch.setattr(doors, "FLUSH_S", 0.0003)


@pytest.fixture(scope="session")
def team_server() -> Iterator[TeamServer]:
    """One for all tests of a process."""
    with temporary_server() as server:
        yield server


@pytest.fixture
def own_server() -> Iterator[TeamServer]:
    """One that may be killed: to come back takes it the longer the more databases it has."""
    with temporary_server() as server:
        yield server
