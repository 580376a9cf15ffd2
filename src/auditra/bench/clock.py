"""The machine's own clock."""

from __future__ import annotations

import time
from datetime import UTC, datetime


class SystemClock:
    """Real time: monotonic seconds, UTC moments."""

    def now_s(self) -> float:
        return time.monotonic()

    def moment(self) -> datetime:
        return datetime.now(UTC)

    def sleep(self, seconds: float) -> None:
        time.sleep(seconds)
