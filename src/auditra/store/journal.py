"""One audit's journal: append-only, each entry chained to the one before and admitted only where it fits."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterable, Sequence
from datetime import datetime
from pathlib import Path
from typing import Any

from sqlalchemy import Connection

from auditra.core.errors import AuditClosed, FactRefused, JournalDamaged, NoSuchAudit, StaleHead
from auditra.core.journal.admission import Known
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Entry, Fact
from auditra.core.sanitize import sanitize
from auditra.documents.facts import Encoded, decode_fact, encode_fact
from auditra.store.chain import FIRST_LINK, chain
from auditra.store.dialects.addition import Addition
from auditra.store.dialects.dialect import Dialect, Growth
from auditra.store.head_witness import HeadWitness
from auditra.store.schema import (
    AUDIT_BY_NAME,
    ENTRIES_AFTER,
    ENTRIES_WITHOUT_WRITERS_AFTER,
    TRACES_AFTER,
)
from auditra.workflows.audits.collecting import without_collecting
from auditra.workflows.trials.doors import Head

_RESTORE = "Restore the library from a copy"
ASKS_FIRST_FOR_S = 5.0
"""Where another bench writes to the same audit, to append without asking mostly fails, and all is read again."""
Unwritten = tuple[Fact, str, datetime, str]
"""A fact with its action, its time and who writes it."""


class StoredJournal:
    """What was read stays folded; only what came since, from here or from another process, is read and folded.

    Safe to use from several threads.
    """

    def __init__(self, dialect: Dialect, folder: Path, name: str, writer: str = "") -> None:
        self.name, self.writer = name, writer
        self.evidence = dialect.evidence
        self._id: int | None = None
        self._still: tuple[str, int] | None = None
        """Where the journal ended when it was last looked at, and what was heard of it by then."""
        self.witness = HeadWitness(folder, name)
        self._asks_first_until_s = 0.0
        self._dialect = dialect
        self._lock = threading.RLock()
        self._forget()

    @property
    def waiting(self) -> int:
        """Nothing waits where the database is a file."""
        return 0

    def read(self) -> tuple[Audit, Head]:
        """The audit that the facts on disk make, and how far they go.

        Raises: JournalDamaged, StoreError; InputError where they name no device or no rig.
        """
        with self._lock:
            heard = self._heard()
            if not self._is_still(heard):
                with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
                    self._catch_up(db)
                self._note_still(self._head.link, heard)
            return self._known.fold.audit(), self._head

    def _heard(self) -> Growth | None:
        """Only `has_grown` begins to listen: what is read or written once need not."""
        return self._dialect.growth_of(self.name) if self._still is not None else None

    def _is_still(self, heard: Growth | None) -> bool:
        """Where growth is heard of: nothing was heard since it was last looked at, or only of what is known here."""
        if heard is None or self._still is None:
            return False
        return self._still == (self._head.link, heard.times) or heard.head == self._head.link

    def _note_still(self, link: str, heard: Growth | None) -> None:
        """What was heard before it was looked at: what came meanwhile is looked at again."""
        self._still = (link, heard.times) if heard is not None else None

    def entries(self) -> tuple[Entry, ...]:
        """Every fact in order, all of them read from disk again. Raises: JournalDamaged when the chain does not fit."""
        with self._lock, self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            self._forget()
            self._catch_up(db)
            return tuple(self._entries)

    def has_grown(self, since: Head) -> bool:
        """Whether there is more than was known then; where that is heard of, nothing is asked. Raises: StoreError."""
        heard = self._dialect.growth_of(self.name)
        if self._is_still(heard):
            return since != self._head
        with self._lock, self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            head = str(self._row(db).head)
        self._note_still(head, heard)
        return head != since.link

    def append(self, facts: Iterable[Fact], *, action: str, at: datetime, after: Head | None = None) -> None:
        """Put facts on disk, all or none.

        Raises: StaleHead where the journal goes on after `after`, FactRefused for a fact that does not fit what is
        there, LibraryBusy, LibraryFull, StoreError.
        """
        self._append([(fact, action, at, self.writer) for fact in facts], after)

    def _append(self, facts: Sequence[Unwritten], after: Head | None) -> None:
        with self._lock:
            if not self._append_unread(facts, after):
                self.append_all(facts, after=after)

    def _append_unread(self, facts: Sequence[Unwritten], after: Head | None) -> bool:
        """Append to what is known, without asking first what came since: False where that is not known, or something
        did come. Then nothing was written.
        """
        is_known = bool(self._entries and facts) and after in (None, self._head)
        if not is_known or not self._dialect.adds_at_once or time.monotonic() < self._asks_first_until_s:
            return False
        heard = self._heard()
        try:
            with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
                self._add(db, facts)
        except (StaleHead, FactRefused, AuditClosed):
            self._asks_first_until_s = time.monotonic() + ASKS_FIRST_FOR_S
            self._forget()
            return False
        except BaseException:
            self._forget()  # what was folded in advance may not have come about
            raise
        self._note_still(self._head.link, heard)
        self.note_head()
        return True

    def append_all(self, facts: Iterable[Unwritten], *, after: Head | None = None) -> None:
        """Facts with the action, time and writer of each, all or none. Raises: as `append`."""
        with self._lock:
            try:
                with self._dialect.translate_errors(), self._dialect.writing(self.name) as db:
                    self._catch_up(db)
                    if after is not None and after != self._head:
                        raise self._stale()
                    self._add(db, facts)
            except BaseException:
                self._forget()  # what was folded in advance did not come about
                raise
            self.note_head()

    def begin(self, db: Connection, facts: Iterable[Unwritten]) -> None:
        """The first facts of a journal that was made in this transaction. Raises: FactRefused."""
        with without_collecting():
            self._add(db, facts)

    def note_head(self) -> None:
        """Leave word outside the database of what was committed."""
        self.witness.note(self._head.entries, self._head.link)

    def keep(self, data: bytes) -> str:
        """Put the bytes of a piece of evidence on disk. Raises: LibraryFull, StoreError."""
        return self.evidence.keep(data)

    def evidence_of(self, sha256: str) -> bytes:
        """The bytes of a piece of evidence. Raises: StoreError where they are missing or were changed."""
        return self.evidence.read(sha256)

    def _forget(self) -> None:
        self._known = Known(self.name)
        self._entries: list[Entry] = []
        self._links = [FIRST_LINK]

    @property
    def _head(self) -> Head:
        return Head(len(self._entries), self._links[-1])

    def _row(self, db: Connection) -> Any:
        row = db.execute(AUDIT_BY_NAME, {"audit_name": self.name}).first()
        if row is None:
            why = "it is not on the shelf any more"
            raise NoSuchAudit(f'audit "{sanitize(self.name)}"', why=why, do="Choose another")
        return row

    def _id_in(self, db: Connection) -> int:
        """Its number in the database, which stays."""
        if self._id is None:
            self._id = int(self._row(db).id)
        return self._id

    def _catch_up(self, db: Connection) -> None:
        """Read what came since. Raises: JournalDamaged."""
        noted = None if self._entries else self.witness.read()  # first: what is read afterwards is never behind it
        audit = self._row(db)
        self._id = int(audit.id)
        if audit.head == self._head.link and audit.entries == self._head.entries:
            return
        wanted = {"audit_id": audit.id, "seen": self._head.entries, "up_to": audit.entries}
        try:
            with without_collecting():
                traces = self._traces(db, wanted)
                columns = ENTRIES_AFTER if self._dialect.has_writers else ENTRIES_WITHOUT_WRITERS_AFTER
                for row in db.execute(columns, wanted):
                    self._take_row(row, traces.pop(row.number, None) if traces else None)
                if traces:
                    raise self._damaged("there is a trace that belongs to none of its entries")
            if self._head.link != audit.head:
                raise self._damaged("entries at its end are missing")
            if noted is not None:
                self._check_witness(*noted)
        except JournalDamaged:
            self._forget()
            raise

    def _traces(self, db: Connection, wanted: dict[str, int]) -> dict[int, str]:
        """The traces beside these entries, by number."""
        if not self._dialect.has_traces:
            return {}
        return {row.number: row.columns for row in db.execute(TRACES_AFTER, wanted)}

    def _take_row(self, row: Any, trace: str | None) -> None:
        number, moment, action, kind, body, noted, writer = row
        expected, encoded = len(self._links), Encoded(kind, body, trace)
        link = chain(self._links[-1], self.name, expected, moment, action, encoded, writer)
        if number != expected or noted != link:
            raise self._damaged("it was changed, or one before it removed", expected)
        fact = decode_fact(encoded, lambda: self._where(expected))
        try:
            at = datetime.fromisoformat(moment)
        except ValueError:
            raise self._damaged(f'"{sanitize(moment, 40)}" is no time', expected) from None
        self._take(Entry(expected, at, action, fact, writer), link)

    def _take(self, entry: Entry, link: str) -> None:
        self._known.take(entry)
        self._entries.append(entry)
        self._links.append(link)

    def _check_witness(self, number: int, link: str) -> None:
        """Raises: JournalDamaged where the chain is whole, and is not the one that was written here."""
        if self.link_of(number) != link:
            why = f"its chain is intact, but entry {number} is not the one that {self.witness.file} noted"
            do = f"{_RESTORE}; where this is a restored copy already, delete that file"
            raise JournalDamaged(f'audit "{sanitize(self.name)}"', why=why, do=do)

    def link_of(self, number: int) -> str | None:
        """The link of an entry, as it was worked out when it was read; None where there are not so many."""
        return self._links[number] if number < len(self._links) else None

    def _add(self, db: Connection, facts: Iterable[Unwritten]) -> None:
        rows, traces, audit_id, before = [], [], self._id_in(db), self._links[-1]
        for fact, action, at, writer in facts:
            self._require_open(writer)
            if problems := self._known.problems(fact):
                raise FactRefused(f'audit "{sanitize(self.name)}"', why="; ".join(problems), do="Nothing was recorded")
            entry = Entry(len(self._links), at, action, fact, writer)
            encoded, moment = encode_fact(fact), at.isoformat()
            link = chain(self._links[-1], self.name, entry.number, moment, action, encoded, writer)
            rows.append(
                {
                    "audit": audit_id, "number": entry.number, "at": moment, "action": action, "kind": encoded.kind,
                    "body": encoded.body, "link": link, "writer": writer,
                }
            )  # fmt: skip
            if encoded.trace is not None:
                traces.append({"audit": audit_id, "number": entry.number, "columns": encoded.trace})
            self._take(entry, link)
        addition = Addition(self.name, audit_id, before, rows, traces, self._head.entries, self._head.link)
        if not self._dialect.add(db, addition):
            raise self._stale()

    def _require_open(self, writer: str) -> None:
        """Raises: AuditClosed where another writer has signed it off."""
        signed = self._known.fold.signed_off
        if signed is not None and signed.by != writer:
            why = f"{sanitize(signed.by, 80) or 'its reviewer'} has signed it off"
            raise AuditClosed(f'audit "{sanitize(self.name)}"', why=why, do="Only they can open it again")

    def _stale(self) -> StaleHead:
        return StaleHead(f'audit "{sanitize(self.name)}"', why="it was changed meanwhile", do="Try again")

    def _where(self, number: int) -> str:
        return f'audit "{sanitize(self.name)}", entry {number}'

    def _damaged(self, why: str, number: int | None = None) -> JournalDamaged:
        where = f'audit "{sanitize(self.name)}"' if number is None else self._where(number)
        return JournalDamaged(where, why=why, do=_RESTORE)
