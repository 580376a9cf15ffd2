"""What trials run on. Every screen, page and file says which it was."""

from __future__ import annotations

SIMULATED_BENCH = "simulated bench"
LIVE_BENCH = "live bench"
BENCHES = (SIMULATED_BENCH, LIVE_BENCH)
