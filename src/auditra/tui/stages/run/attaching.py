"""Files of trials: one that belongs to a trial, typed as ``T11 pd.log``; trials that were run on another host."""

from __future__ import annotations

from auditra.core.counted import counted
from auditra.core.journal.audit import Audit
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.form import Form, FormField, Texts
from auditra.tui.prompt import Facts


def facts_of_attachment(state: AuditState, audit: Audit, text: str) -> Facts:
    """The file as evidence, with the readings that it gives. Raises: InputError, StoreError."""
    trial, _, path = text.partition(" ")
    return state.session.facts_of_file(audit, trial, *state.services.load(path))


_INTRO = (
    "On the other computer: auditra import this audit, auditra trial with --host, then auditra export. "
    "Name the folder or its facts.jsonl; trials that are here already are left out."
)


def join_form(state: AuditState) -> Form:
    """Where the trials of another host are read from."""

    def save(texts: Texts) -> str:
        names = state.services.join(state.session, texts["path"])
        state.runner.renew()
        done = f"{counted(len(names), 'trial')} joined: {', '.join(names)}. u undoes the last."
        return done if names else "Every trial of it is here already."

    fields = (FormField("path", "facts", required=True, hint="an exported folder, or its facts.jsonl"),)
    return Form("Trials from another host", _INTRO, fields, save, "join trials")
