"""A clock that jumps: hours of work pass in seconds, and the same seed gives the same run."""

from __future__ import annotations

import time
from datetime import datetime, timedelta

from auditra.core.simulate.world import World

_WATCHED_S, _HURRY = 60.0, 20.0


class VirtualClock:
    """The world's time. With a pace, each virtual second also takes 1/pace real ones, so that a person can watch.

    Waits of more than a minute are shortened: a demo of a 45-minute soak must not take 45 minutes.
    """

    def __init__(self, world: World, start: datetime, pace: float | None = None) -> None:
        self._world, self._start, self._pace = world, start, pace
        self._real_start = time.monotonic()
        self._begun_s = self._passed_s = 0.0

    def begin_anew(self) -> None:
        """Hands are at work: what comes now is watched from its start."""
        self._begun_s = self._world.now_s

    def now_s(self) -> float:
        return self._world.now_s

    def moment(self) -> datetime:
        return self._start + timedelta(seconds=self._world.now_s)

    def sleep(self, seconds: float) -> None:
        self.spend(seconds, busy=False)

    def spend(self, seconds: float, *, busy: bool) -> None:
        """Let the world's time pass."""
        self._world.advance(seconds, busy=busy)
        hurried = self._world.now_s - self._begun_s > _WATCHED_S
        self._passed_s += seconds / _HURRY if hurried else seconds
        if self._pace is not None:
            self._keep_pace(self._pace)

    def _keep_pace(self, pace: float) -> None:
        behind = self._passed_s / pace - (time.monotonic() - self._real_start)
        if behind > 0.02:
            time.sleep(behind)
        elif behind < -0.5:
            self._real_start = time.monotonic() - self._passed_s / pace
