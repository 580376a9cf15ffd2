"""What all tests share."""

from __future__ import annotations

import pytest
from hypothesis import settings

from auditra.bench.simulated import doors
from auditra.workflows.measure import network, rates, storage

settings.register_profile("repeatable", derandomize=True, deadline=None, print_blob=True)
settings.load_profile("repeatable")


@pytest.fixture
def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    """Passes of a twentieth of a second: the same loops on less data."""
    monkeypatch.setattr(storage, "SECONDS_A_PASS", 0.1)
    monkeypatch.setattr(rates, "SAMPLE_S", 0.01)
    monkeypatch.setattr(network, "SOAK_CHUNK_BYTES", 1 << 30)
    monkeypatch.setattr(network, "SECONDS_A_PASS", 0.1)
    monkeypatch.setattr(doors, "FLUSH_S", 0.0003)
