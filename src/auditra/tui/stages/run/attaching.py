"""A file that belongs to a trial, typed as ``T11 pd.log``."""

from __future__ import annotations

from auditra.core.journal.audit import Audit
from auditra.tui.audit_state import AuditState
from auditra.tui.prompt import Facts


def facts_of_attachment(state: AuditState, audit: Audit, text: str) -> Facts:
    """The file as evidence, with the readings that it gives. Raises: InputError, StoreError."""
    trial, _, path = text.partition(" ")
    return state.session.facts_of_file(audit, trial, *state.services.load(path))
