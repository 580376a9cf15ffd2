"""Listens for the database's notice that an audit grew, instead of asking it again and again."""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Mapping
from contextlib import suppress
from typing import Any

from auditra.store.dialects.dialect import Growth

CHANNEL = "auditra_grew"
"""Rung by a trigger of the database, with the link that the journal ends in now: migration 0005."""
_LOOKS_UP_EVERY_S, _CONNECTS_AGAIN_AFTER_S = 0.5, 2.0


class Bell:
    """Listens on a connection of its own, in a thread that begins when it is first asked.

    While it does not listen, `growth` knows nothing. After each new connection every count goes up: what rang meanwhile
    was not heard.
    """

    def __init__(self, connect: Mapping[str, Any]) -> None:
        self._connect = connect
        """What the driver is told to connect with."""
        self._lock = threading.Lock()
        self._heard: Counter[str] = Counter()
        self._ends: dict[str, str] = {}
        self._connections = 0
        self._listens = self._is_cut = self._is_doubted = False
        self._ended = threading.Event()
        self._thread: threading.Thread | None = None

    def growth(self, audit: str) -> Growth | None:
        """What was heard of an audit so far; None while nothing can be heard."""
        with self._lock:
            self._start()
            if not self._listens:
                return None
            return Growth(self._heard[audit] + self._connections, self._ends.get(audit, ""))

    def doubt(self) -> None:
        """Somebody else got no answer: the line counts as cut until a new connection stands."""
        with self._lock:
            self._is_doubted, self._is_cut, self._listens = True, True, False
            self._start()

    @property
    def is_cut(self) -> bool:
        """The database did not let it listen, or no longer does."""
        with self._lock:
            return self._is_cut

    def _start(self) -> None:
        if self._thread is None:
            self._thread = threading.Thread(target=self._listen, name="bell", daemon=True)
            self._thread.start()

    def close(self) -> None:
        self._ended.set()
        if self._thread is not None:
            self._thread.join(timeout=2 * _LOOKS_UP_EVERY_S)

    def _listen(self) -> None:
        import psycopg

        while not self._ended.is_set():
            with (
                suppress(psycopg.Error, OSError),
                psycopg.connect(**self._connect, autocommit=True) as connection,
            ):
                connection.execute(f"LISTEN {CHANNEL}")
                self._begin()
                while not self._ended.is_set() and not self._is_doubted:
                    for heard in connection.notifies(timeout=_LOOKS_UP_EVERY_S):
                        self._take(heard.payload)
            with self._lock:
                was_doubted, self._listens, self._is_cut = self._is_doubted, False, True
                self._is_doubted = False
            if not was_doubted:
                self._ended.wait(_CONNECTS_AGAIN_AFTER_S)

    def _begin(self) -> None:
        with self._lock:
            self._connections += 1
            self._ends.clear()
            if not self._is_doubted:
                self._listens, self._is_cut = True, False

    def _take(self, heard: str) -> None:
        head, _, audit = heard.partition(" ")
        with self._lock:
            self._heard[audit] += 1
            self._ends[audit] = head
