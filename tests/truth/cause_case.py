"""An audit with one planted cause."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.journal.audit import Audit


@dataclass(frozen=True)
class Planted:
    """An audit with its one cause: the kind of finding, and a word that its subject must have."""

    name: str
    audit: Audit
    kind: str
    subject: str
    can_tell: bool
    """Whether its trials are enough to name it."""
