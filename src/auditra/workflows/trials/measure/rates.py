"""Bytes over time: what every engine that moves data reports while it does, and keeps."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from auditra.core.model.reading import Trace
from auditra.workflows.trials.doors import Clock, Progress

SAMPLE_S = 0.1
REPEATS = 3
CLOCK_ERROR_SHARE = 0.001
"""Bytes are counted exactly; starting and stopping the clock is what a rate can be wrong by."""


@dataclass
class RateTrace:
    """Bytes as they pass, in samples of `sample_s` seconds; progress is reported with each.

    Times are seconds since `origin_s` on the bench's clock, so that traces of one trial stand on one scale. `leads`
    marks its first sample as the start of a new trace. `at` is the port that is measured.
    """

    clock: Clock
    watch: Callable[[Progress], None]
    origin_s: float
    leads: bool = True
    sample_s: float = field(default_factory=lambda: SAMPLE_S)
    at: str | None = None
    time_s: list[float] = field(default_factory=list)
    rates_bps: list[float] = field(default_factory=list)
    longest_still_s: float = 0.0
    """The longest that nothing passed within a pass."""
    _sample_started: float = 0.0
    _passed_s: float = 0.0
    _bytes: int = 0

    def start(self) -> None:
        """Begin a pass: the clock counts from here."""
        self._begin_sample()
        self._passed_s = self._sample_started

    def _begin_sample(self) -> None:
        self._sample_started, self._bytes = self.clock.now_s(), 0

    def passed(self, count: int, doing: str) -> None:
        self._bytes += count
        now = self.clock.now_s()
        self.longest_still_s = max(self.longest_still_s, now - self._passed_s)
        self._passed_s = now
        elapsed = now - self._sample_started
        if elapsed >= self.sample_s:
            rate = self._bytes * 8 / elapsed
            self.time_s.append(now - self.origin_s)
            self.rates_bps.append(rate)
            self._begin_sample()
            restarts = self.leads and len(self.time_s) == 1
            self.watch(Progress(doing, rate, self.time_s[-1], restarts_trace=restarts, at=self.at))

    def trace(self) -> Trace:
        return Trace(tuple(self.time_s), tuple(self.rates_bps))
