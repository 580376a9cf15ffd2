"""What must be done on the bench before this process ends, however it ends: loads off, drives as they were.

Each part is idempotent and needs nothing of a trial that may still be running on another thread.
"""

from __future__ import annotations

import sys
from contextlib import suppress


def leave_bench() -> None:
    """Switch off every load and remove what trials have on drives; nothing where no bench was ever opened."""
    loads = sys.modules.get("auditra.bench.instruments.load")
    if loads is not None:
        with suppress(Exception):  # the other part is done all the same
            loads.switch_all_off()
    storage = sys.modules.get("auditra.bench.storage")
    if storage is not None:
        with suppress(Exception):
            storage.close_all()
