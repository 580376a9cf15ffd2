"""Files of trials: one that belongs to a trial, typed as ``T11 pd.log``; trials that were run on another host."""

from __future__ import annotations

from auditra.core.counted import counted
from auditra.core.journal.audit import Audit
from auditra.core.model.table_use import TableUse
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.form import Form, FormField, Texts
from auditra.tui.prompt import Facts


def facts_of_attachment(state: AuditState, audit: Audit, text: str) -> Facts:
    """The file as evidence, with the readings that it gives. Raises: InputError, StoreError."""
    trial, _, path = text.partition(" ")
    return state.session.facts_of_file(audit, trial, *state.services.load(path))


def form_of_table(state: AuditState, audit: Audit, text: str) -> Form | None:
    """For a table that something logged: what its columns are. None for any other file. Raises: InputError."""
    from auditra.tui.forms.logged_table import LoggedTable, logged_table_form  # bring NumPy, which takes a moment
    from auditra.workflows.audits.attaching import is_known
    from auditra.workflows.audits.logged_tables import columns_of_values, layout_of

    trial, _, path = text.partition(" ")
    name, data = state.services.load(path)
    layout = None if is_known(data) else layout_of(data)
    if layout is None:
        return None
    session, uses = state.session, state.services.table_uses()
    remembered = uses.fitting(each.name for each in columns_of_values(layout))

    def facts(newest: Audit, use: TableUse) -> Facts:
        return session.facts_of_table(newest, trial, name, data, use)

    table = LoggedTable(trial, name, data, layout)
    return logged_table_form(audit, table, remembered, facts, state.recorder.record, uses.remember)


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
