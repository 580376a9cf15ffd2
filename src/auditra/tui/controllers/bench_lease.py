"""The bench of an audit: opened at its first trial, kept for the next, closed exactly once, on whichever thread."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from typing import TypeVar

from auditra.core.errors import AuditraError, TrialStopped
from auditra.core.journal.audit import Audit
from auditra.tui.controllers.tui_person import TuiPerson
from auditra.workflows.services import Services
from auditra.workflows.trials.doors import Bench

Result = TypeVar("Result")


class BenchLease:
    """Instruments stay connected between trials. A bench that is never closed would hold up the program's end."""

    def __init__(self, services: Services, name: str, person: TuiPerson) -> None:
        self._services, self._name, self._person = services, name, person
        self._in_use = threading.Lock()
        self._doors = ExitStack()
        self._bench: Bench | None = None
        self._released = False

    def attempt(
        self, work: Callable[[Bench], Result], audit: Audit, *, if_stopped: Result | None = None
    ) -> tuple[Result | None, str]:
        """Do something on the bench while no other process runs trials of this audit: its result, or the error.

        An unexpected fault goes to the log: what was recorded before it is on disk.
        """
        try:
            with self._services.hold(self._name), self._use(audit) as bench:
                self._person.clock = bench.clock
                return work(bench), ""
        except TrialStopped:
            return if_stopped, ""
        except AuditraError as error:
            return None, str(error)
        except Exception as error:
            self._services.log("fault on the bench", error)
            words = f"Unexpected fault: {type(error).__name__}. Readings so far are kept; the log has the details."
            return None, words

    def release(self) -> None:
        """Close the bench now, or as soon as the trial under way ends."""
        self._released = True
        if self._in_use.acquire(blocking=False):
            try:
                self._close()
            finally:
                self._in_use.release()

    @contextmanager
    def _use(self, audit: Audit) -> Iterator[Bench]:
        """The bench for one trial, on the trial's thread. Raises: BenchError when it cannot be opened."""
        with self._in_use:
            try:
                if self._bench is None:
                    self._bench = self._doors.enter_context(self._services.open_bench(audit, self._person))
                yield self._bench
            finally:
                if self._released:
                    self._close()

    def _close(self) -> None:
        self._bench = None
        self._doors.close()
