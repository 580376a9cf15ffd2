"""The library: every audit's journal in one database, with its evidence beside it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from contextlib import AbstractContextManager, suppress
from datetime import datetime
from pathlib import Path

from sqlalchemy import Connection

from auditra.core.errors import NoSuchAudit, StoreError
from auditra.core.journal.facts import Entry, Fact
from auditra.core.sanitize import sanitize
from auditra.store.chain import FIRST_LINK
from auditra.store.dialects.dialect import Dialect
from auditra.store.evidence import EvidenceStore
from auditra.store.journal import StoredJournal, Unwritten
from auditra.store.patient_journal import PatientJournal
from auditra.store.place import LibraryPlace
from auditra.store.schema import ADD_AUDIT, AUDIT_BY_NAME, HEADS
from auditra.workflows.audits.shelf import Glance
from auditra.workflows.output_files import make_folder


class Library:
    """A folder with a library in it, made when it is not there; or a team's database, with a folder beside it.

    What is recorded through it is signed with the name of `writer`.
    Raises: LibraryTooNew, LibraryUnreachable, or StoreError when folder or database cannot be used.
    """

    def __init__(self, place: LibraryPlace | Path, writer: str = "") -> None:
        place = LibraryPlace(place) if isinstance(place, Path) else place
        self.folder, self.writer = place.folder, writer
        try:
            make_folder(self.folder)
        except OSError as error:
            do = "Choose another with --library"
            raise StoreError(f"{self.folder}", why=error.strerror or str(error), do=do) from error
        self._dialect = _open(place)
        self._is_of_team = place.is_of_team
        self._make_journal = PatientJournal if place.is_of_team else StoredJournal

    @property
    def writable(self) -> bool:
        return self._dialect.writable

    def close(self) -> None:
        self._dialect.close()

    def names(self) -> tuple[str, ...]:
        """The audits, as they were put on the shelf."""
        return tuple(name for name, _ in self.heads())

    def heads(self) -> tuple[tuple[str, str], ...]:
        """Each audit with the link that its journal ends in."""
        with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            rows = db.execute(HEADS).all()
        return tuple((str(row.name), str(row.head)) for row in rows)

    def create(self, name: str, facts: Iterable[Fact], at: datetime) -> StoredJournal:
        """A new audit that begins with these facts. Raises: StoreError when the name is taken, FactRefused."""
        return self._new(name, ((fact, "made", at, self.writer) for fact in facts))

    def restore(self, name: str, entries: Iterable[Entry]) -> StoredJournal:
        """A new audit with these entries, all or none. Raises: StoreError when the name is taken, FactRefused."""
        return self._new(name, ((entry.fact, entry.action, entry.at, entry.writer) for entry in entries))

    @property
    def evidence(self) -> EvidenceStore:
        return self._dialect.evidence

    def require_new(self, name: str) -> None:
        """Raises: StoreError when the name is taken."""
        with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            self._require_new(db, name)

    def _require_new(self, db: Connection, name: str) -> None:
        if db.execute(AUDIT_BY_NAME, {"audit_name": name}).first() is not None:
            why = "an audit of this name already exists"
            raise StoreError(f'audit "{sanitize(name)}"', why=why, do="Choose another name")

    def _new(self, name: str, facts: Iterable[Unwritten]) -> StoredJournal:
        journal = self._make_journal(self._dialect, self.folder, name, self.writer)
        with self._dialect.translate_errors(), self._dialect.writing(name) as db:
            self._require_new(db, name)
            db.execute(ADD_AUDIT, {"name": name, "entries": 0, "head": FIRST_LINK})
            journal.begin(db, facts)
        journal.note_head()
        return journal

    def journal(self, name: str) -> StoredJournal:
        """The journal of an audit. Raises: NoSuchAudit."""
        with self._dialect.translate_errors(), self._dialect.engine.connect() as db:
            found = db.execute(AUDIT_BY_NAME, {"audit_name": name}).first()
        if found is None:
            shelf = ", ".join(sanitize(each, 40) for each in self.names()[:40]) or "nothing yet"
            raise NoSuchAudit(f'audit "{sanitize(name)}"', why="it is not on the shelf", do=f"The shelf has: {shelf}")
        return self._make_journal(self._dialect, self.folder, name, self.writer)

    def share(self, folder: Path, kind: str) -> None:
        """Make a folder of small files the same as the team's; nothing where there is no team, or its database is known
        not to answer. Raises: StoreError."""
        if self._is_of_team and not self._dialect.seems_away:
            from auditra.store.dialects.shared_folder import SharedFolder

            SharedFolder(self._dialect, folder, kind, self.writer).sync()

    def judged_elsewhere(self, heads: Mapping[str, str]) -> dict[str, Glance]:
        """What other benches of the team have said of these audits, each with the link its journal ends in."""
        if not (self._is_of_team and heads):
            return {}
        from auditra.store.dialects.judged_rows import JudgedRows

        with suppress(StoreError):  # what is not known is judged here
            return JudgedRows(self._dialect).of(heads)
        return {}

    def share_judged(self, glances: Iterable[Glance]) -> None:
        """Let the other benches of the team know what was said here; where there is no team, nothing."""
        if self._is_of_team:
            from auditra.store.dialects.judged_rows import JudgedRows

            with suppress(StoreError):  # they judge for themselves then
                JudgedRows(self._dialect).keep(glances)

    def held_for_trials(self, name: str) -> AbstractContextManager[None]:
        """No other Auditra runs trials of this audit meanwhile. Raises: LibraryBusy when one does."""
        return self._dialect.held_for_trials(name)


def _open(place: LibraryPlace) -> Dialect:
    if place.is_of_team:
        from auditra.store.dialects.postgresql import PostgresqlDialect

        return PostgresqlDialect(place)
    from auditra.store.dialects.sqlite import SqliteDialect

    return SqliteDialect(place.folder)
