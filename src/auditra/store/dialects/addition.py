"""What is added to a journal in one go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Connection

from auditra.store.schema import ADD_ENTRIES, ADD_TRACES, GROW


@dataclass(frozen=True)
class Addition:
    """Entries that follow each other and the link `before`, with their traces, and where the journal ends then."""

    audit: str
    audit_id: int
    before: str
    entries: Sequence[dict[str, Any]]
    traces: Sequence[dict[str, Any]]
    length: int
    head: str

    def write(self, db: Connection) -> bool:
        """In three questions. False where the journal ended elsewhere: then the transaction must not be committed."""
        if self.entries:
            db.execute(ADD_ENTRIES, self.entries)
        if self.traces:
            db.execute(ADD_TRACES, self.traces)
        grown = {"audit_id": self.audit_id, "before": self.before, "entries": self.length, "head": self.head}
        return bool(db.execute(GROW, grown).rowcount)
