"""A journal in a database that may not answer: what a trial takes meanwhile waits on this machine."""

from __future__ import annotations

import time
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from datetime import datetime
from pathlib import Path

from auditra.core.counted import counted
from auditra.core.errors import FactRefused, LibraryBusy, LibraryUnreachable, StoreError
from auditra.core.journal.admission import Known
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Entry, EvidenceKept, Fact
from auditra.core.sanitize import sanitize
from auditra.documents.facts import encode_fact
from auditra.store.chain import chain
from auditra.store.dialects.dialect import Dialect
from auditra.store.journal import StoredJournal, Unwritten
from auditra.store.spool import Spool
from auditra.workflows.trials.doors import Head

ASKS_AGAIN_AFTER_S = 5.0
"""An audit that another bench holds is not asked for more often."""
ASKS_ANYWAY_AFTER_S = 30.0
"""A database that is away is left alone until it is heard again: to ask one that is cut off takes seconds. But a server
that has no room for those who listen may answer all the same.
"""

_AWAY = (LibraryUnreachable, LibraryBusy)


class PatientJournal(StoredJournal):
    """Readings of a trial that has begun are taken whether the database answers or not; all else has to wait for it.

    What waits is appended, in order and once, as soon as it answers again.
    """

    def __init__(self, dialect: Dialect, folder: Path, name: str, writer: str = "") -> None:
        super().__init__(dialect, folder, name, writer)
        self._spool = Spool(folder, name)
        self._known_last: tuple[Entry, ...] = ()
        """What was read while the database last answered, and what has waited since."""
        self._head_last: Head | None = None
        self._offline_known: Known | None = None
        self._waiting = list(self._spool.entries())
        self._ask_again_at_s = 0.0
        self._is_held = False
        """By another bench, when it was asked last."""

    @property
    def waiting(self) -> int:
        """How many facts wait on this machine."""
        return len(self._waiting)

    def read(self) -> tuple[Audit, Head]:
        """As it is in the database with all that waits; while that does not answer, as it was known last."""
        with self._lock:
            try:
                with self._asking():
                    self._append_what_waits()
                    audit, head = super().read()
            except _AWAY:
                if self._head_last is None or not self._waiting:
                    raise
                return self._offline().fold.audit(), self._head_last
            self._note_last()
            return audit, head

    def entries(self) -> tuple[Entry, ...]:
        """Every fact in order, as `read`."""
        with self._lock:
            try:
                with self._asking():
                    self._append_what_waits()
                    return super().entries()
            except _AWAY:
                if self._head_last is None or not self._waiting:
                    raise
                return self._known_last

    def has_grown(self, since: Head) -> bool:
        """Whether there is more than was known then. While the database is away it is not asked: to ask one that is cut
        off takes seconds, and this is asked each second.
        """
        if self._dialect.growth_of(self.name) is None and self._dialect.seems_away:
            return self._head_last is not None and self._head_last != since
        try:
            with self._asking():
                return super().has_grown(since)
        except LibraryUnreachable:
            if not self._waiting:
                raise
            return self._head_last != since

    def append(self, facts: Iterable[Fact], *, action: str, at: datetime, after: Head | None = None) -> None:
        """As of any journal; what goes on behind whatever there is, as the readings of a trial do, may wait.

        Raises: LibraryUnreachable for an action that was made of what is there.
        """
        unwritten = [(fact, action, at, self.writer) for fact in facts]
        with self._lock:
            try:
                with self._asking():
                    self._append_what_waits()
                    self._carry_evidence(fact for fact, *_ in unwritten)
                    self._append(unwritten, after)
            except _AWAY:
                if after is not None or self._head_last is None:
                    raise
                self._let_wait(unwritten)
            else:
                self._note_last()

    def keep(self, data: bytes) -> str:
        """A piece of evidence waits too."""
        with self._lock, suppress(LibraryUnreachable), self._asking():
            return super().keep(data)
        return self._spool.evidence.keep(data)

    def evidence_of(self, sha256: str) -> bytes:
        """From what waits, or from the database."""
        if (data := self._kept_here(sha256)) is not None:
            return data
        with self._asking():
            return super().evidence_of(sha256)

    @property
    def _is_to_be_left_alone(self) -> bool:
        return time.monotonic() < self._ask_again_at_s and (self._is_held or self._dialect.seems_away)

    def _require_not_away(self) -> None:
        """Raises: LibraryUnreachable at once where the answer would be awaited in vain."""
        if self._is_to_be_left_alone and not self._is_held:
            raise LibraryUnreachable(f'audit "{sanitize(self.name)}"', why="its database does not answer", do="Wait")

    def _note_failure(self, error: StoreError) -> None:
        if self._is_to_be_left_alone:
            return  # it was not asked
        self._is_held = isinstance(error, LibraryBusy)
        wait_s = ASKS_AGAIN_AFTER_S if self._is_held else ASKS_ANYWAY_AFTER_S
        self._ask_again_at_s = time.monotonic() + wait_s
        if not self._is_held:
            self._dialect.doubt()

    @contextmanager
    def _asking(self) -> Iterator[None]:
        """What is asked of the database in this block; if it does not answer, it is left alone for a while.

        Raises: LibraryUnreachable, LibraryBusy.
        """
        self._require_not_away()
        try:
            yield
        except _AWAY as error:
            self._note_failure(error)
            raise

    def _note_last(self) -> None:
        self._known_last, self._head_last, self._offline_known = tuple(self._entries), self._head, None

    def _offline(self) -> Known:
        """What was known last, with what waits."""
        if self._offline_known is None:
            self._offline_known = Known(self.name)
            for entry in self._known_last:
                self._offline_known.take(entry)
        return self._offline_known

    def _let_wait(self, unwritten: Iterable[Unwritten]) -> None:
        """Raises: FactRefused for what does not fit what is known here; StoreError, LibraryFull of this machine."""
        assert self._head_last is not None
        known, head, entries = self._offline(), self._head_last, []
        for fact, action, at, writer in unwritten:
            if problems := known.problems(fact):
                self._offline_known = None
                raise FactRefused(f'audit "{sanitize(self.name)}"', why="; ".join(problems), do="Nothing was recorded")
            entry = Entry(head.entries + 1, at, action, fact, writer)
            link = chain(head.link, self.name, entry.number, at.isoformat(), action, encode_fact(fact), writer)
            known.take(entry)
            head = Head(entry.number, link)
            entries.append(entry)
        try:
            self._spool.add(entries)
        except StoreError:
            self._offline_known = None
            raise
        self._waiting += entries
        self._known_last, self._head_last = (*self._known_last, *entries), head

    def _append_what_waits(self) -> None:
        """All of it in one go, without what came to be committed after all. Raises: LibraryUnreachable; StoreError
        where it does not fit any more: then it is kept aside.
        """
        if not self._waiting:
            return
        if self._is_to_be_left_alone:
            raise LibraryBusy(f'audit "{sanitize(self.name)}"', why="another bench holds it", do="Wait a moment")
        try:
            self._carry_evidence(entry.fact for entry in self._waiting)
            self.append_all(self._not_there_yet())
        except FactRefused as error:
            waited, self._waiting = len(self._waiting), []
            why = f"{counted(waited, 'fact')} that waited here do not fit any more ({error.why})"
            raise StoreError(
                f"{self._spool.put_aside()}", why=why, do="The file has them; open the audit again"
            ) from error
        self._spool.drop(self._waiting)
        self._waiting = []

    def _not_there_yet(self) -> Iterator[Unwritten]:
        """Worked out in the transaction that appends it: another window may append the same meanwhile."""
        for entry in _without_those_there(self._waiting, tuple(self._entries)):
            yield entry.fact, entry.action, entry.at, entry.writer

    def _carry_evidence(self, facts: Iterable[Fact]) -> None:
        """Bytes that were kept here meanwhile come before what names them. Raises: LibraryUnreachable."""
        for fact in facts:
            data = self._kept_here(fact.sha256) if isinstance(fact, EvidenceKept) else None
            if data is not None:
                super().keep(data)

    def _kept_here(self, sha256: str) -> bytes | None:
        with suppress(StoreError):
            return self._spool.evidence.read(sha256)
        return None


def _without_those_there(waiting: Iterable[Entry], there: Iterable[Entry]) -> list[Entry]:
    """What waits and is not in the journal: an append whose answer was lost may have been committed all the same.

    Facts are known again by all that they say, the moment and the writer; their order is kept.
    """
    left = list(waiting)
    first = min((entry.number for entry in left), default=0)
    for entry in there:
        if left and entry.number >= first and _is_same(entry, left[0]):
            del left[0]
    return left


def _is_same(one: Entry, other: Entry) -> bool:
    return (one.at, one.action, one.writer, encode_fact(one.fact)) == (
        other.at, other.action, other.writer, encode_fact(other.fact)
    )  # fmt: skip
