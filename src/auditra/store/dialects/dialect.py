"""What the store asks of a database, whichever it is."""

from __future__ import annotations

from contextlib import AbstractContextManager
from typing import NamedTuple, Protocol

from sqlalchemy import Connection, Engine

from auditra.store.dialects.addition import Addition
from auditra.store.evidence import EvidenceStore


class Growth(NamedTuple):
    """How often an audit was heard to grow, and the link that its journal ended in then; "" where that was missed."""

    times: int
    head: str


class Dialect(Protocol):
    """A library in one database."""

    engine: Engine
    writable: bool
    has_traces: bool
    """Traces are beside the bodies of their entries, not in them."""
    has_writers: bool
    """Each entry says who wrote it."""

    adds_at_once: bool
    """An addition is one question, and outside of a transaction one of its own: no need to look first."""

    @property
    def evidence(self) -> EvidenceStore:
        """Where the bytes of evidence are."""
        ...

    def writing(self, audit: str) -> AbstractContextManager[Connection]:
        """A transaction that no other writer of this audit is in at the same time.

        Raises: LibraryBusy, LibraryReadOnly.
        """
        ...

    def add(self, db: Connection, addition: Addition) -> bool:
        """Where the journal still ends as the addition assumes. False: nothing of it may be committed."""
        ...

    def translate_errors(self) -> AbstractContextManager[None]:
        """The database's errors become ours. Raises: StoreError and what is derived from it."""
        ...

    def held_for_trials(self, audit: str) -> AbstractContextManager[None]:
        """No other Auditra runs trials of this audit meanwhile. Raises: LibraryBusy when one does, StoreError."""
        ...

    def growth_of(self, audit: str) -> Growth | None:
        """What was heard of an audit's growth; None where one has to look."""
        ...

    @property
    def seems_away(self) -> bool:
        """Whether the database was found not to answer: to ask it may take long."""
        ...

    def doubt(self) -> None:
        """It gave no answer: it seems away until it is heard again."""
        ...

    def close(self) -> None: ...
