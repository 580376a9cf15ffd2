"""The bench of an audit: opened at its first trial, kept for the next, let go of exactly once, on whichever thread."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager

from auditra.core.journal.fold import Audit
from auditra.workflows.ports import Bench, BenchOpener, Person


class HeldBench:
    """Instruments stay connected between trials. A bench that nobody let go of would hold up the program's end."""

    def __init__(self, open_bench: BenchOpener, person: Person) -> None:
        self._open, self._person = open_bench, person
        self._in_use = threading.Lock()
        self._doors = ExitStack()
        self._bench: Bench | None = None
        self._let_go = False

    @contextmanager
    def in_use(self, audit: Audit) -> Iterator[Bench]:
        """The bench for one trial, on the trial's thread. Raises: BenchError when it cannot be opened."""
        with self._in_use:
            try:
                if self._bench is None:
                    self._bench = self._doors.enter_context(self._open(audit, self._person))
                yield self._bench
            finally:
                if self._let_go:
                    self._close()

    def let_go(self) -> None:
        """Close it now, or as soon as the trial under way ends."""
        self._let_go = True
        if self._in_use.acquire(blocking=False):
            try:
                self._close()
            finally:
                self._in_use.release()

    def _close(self) -> None:
        self._bench = None
        self._doors.close()
