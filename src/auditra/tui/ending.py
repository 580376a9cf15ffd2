"""Ending on a signal, or when the terminal is gone, even when the terminal takes no more output.

Textual paints through a short queue. When the terminal is gone, or stopped by flow control, nothing empties that
queue, the interface's thread waits in it for ever, and neither signals nor timers on its loop are served. A separate
thread ends the process then. Everything recorded is on disk before it is shown, so nothing is lost.
"""

from __future__ import annotations

import os
import select
import signal
import sys
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from types import FrameType

ENDING_SIGNALS = (signal.SIGTERM, signal.SIGHUP)
GRACE_S = 3.0
"""How long an orderly end may take: a trial ends at its next breath, and the terminal gets its own picture back."""
_LOOKS_EVERY_MS = 300


class Ending(threading.Thread):
    """Asks the application to end, and ends the process when it has not done so in time."""

    def __init__(self, ask_to_end: Callable[[int], object], leave_bench: Callable[[], None]) -> None:
        super().__init__(daemon=True, name="ending")
        self._ask_to_end = ask_to_end
        self._leave_bench = leave_bench
        self._code = 0

    def heed_signals(self) -> None:
        """Take over the signals that end a process; one that is ignored stays so. Call it on the main thread."""
        for number in ENDING_SIGNALS:
            if signal.getsignal(number) is not signal.SIG_IGN:
                signal.signal(number, self._on_signal)

    def run(self) -> None:
        """Look for signals and at the terminal until one of them ends the process."""
        while not self._code and not self._terminal_is_gone():
            pass
        if not self._code:
            self._end_with(1)
        time.sleep(GRACE_S)
        self._leave_bench()
        os._exit(self._code)

    def _on_signal(self, number: int, _: FrameType | None) -> None:
        self._end_with(128 + number)

    def _end_with(self, code: int) -> None:
        self._code = code
        with suppress(RuntimeError):  # the loop has ended already
            self._ask_to_end(code)

    @staticmethod
    def _terminal_is_gone() -> bool:
        """Waits a moment, and less when the terminal is gone."""
        if sys.__stdin__ is None or not sys.__stdin__.isatty():
            time.sleep(_LOOKS_EVERY_MS / 1000)
            return False
        poll = select.poll()
        poll.register(sys.__stdin__.fileno(), 0)  # hang-up and errors are reported without being asked for
        return bool(poll.poll(_LOOKS_EVERY_MS))
