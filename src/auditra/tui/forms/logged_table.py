"""The form of a logged table: what each column is, with the first rows before one's eyes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from auditra.core.decide.instrument_error import instruments_of
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.core.model.reading import Quantity
from auditra.core.model.table_use import LEFT_OUT, ColumnUse, TableUse
from auditra.core.tables.layout import Layout
from auditra.tui.forms.form import Form, FormField, Texts, fixed
from auditra.workflows.audits.logged_tables import columns_of_values, likely_use, preview_of, titled
from auditra.workflows.audits.typed_readings import WITNESSES

MAX_FIELDS = 24
"""Columns that are asked for; a wider table has those with a known unit first."""


@dataclass(frozen=True)
class LoggedTable:
    """A file that was named for a trial."""

    trial: str
    name: str
    data: bytes
    layout: Layout


def logged_table_form(
    audit: Audit,
    table: LoggedTable,
    remembered: TableUse | None,
    facts: Callable[[Audit, TableUse], tuple[Fact, ...]],
    record: Callable[[Callable[[Audit], tuple[Fact, ...]], str], None],
    remember: Callable[[TableUse, str], object],
) -> Form:
    """What is saved is recorded as one action; a name that is given is remembered for tables with such columns."""
    instruments = [each.name for each in instruments_of(audit.rig.in_use)]
    witnesses = (*instruments, *WITNESSES)
    use = likely_use(table.layout, witnesses[0], remembered)
    columns = sorted(columns_of_values(table.layout), key=lambda each: each.dimension == "")[:MAX_FIELDS]
    by_name = {each.column: each.quantity for each in use.columns}

    def save(texts: Texts) -> str:
        said = TableUse(
            tuple(ColumnUse(each.name, texts[f"column_{each.number}"].strip() or LEFT_OUT) for each in columns),
            texts["witness"].strip(),
        )
        record(lambda newest: facts(newest, said), f"log {table.trial}")
        if name := texts["name"].strip():
            remember(said, name)
        kept = f", remembered as {name}" if name else ""
        return f"{len(said.wanted)} columns of {table.name} are readings of {table.trial}{kept}. Press u to undo."

    quantities = (LEFT_OUT, *(each.value for each in Quantity))
    asked = tuple(
        FormField(
            f"column_{each.number}", titled(each), by_name.get(each.name, LEFT_OUT),
            "what it is, or left out" if each.unit else "what it is, or left out; the table names no unit",
            choices=fixed(*quantities),
        )
        for each in columns
    )  # fmt: skip
    fields = (
        *asked,
        FormField("witness", "logged by", use.witness, "an instrument of the rig, or who reported it", required=True,
                  choices=fixed(*witnesses)),
        FormField("name", "remember as", remembered.name if remembered is not None else "",
                  "a name, for tables with the same columns; empty: not kept"),
    )  # fmt: skip
    return Form(f"{table.name} for {table.trial}", _intro(table), fields, save, f"log {table.trial}")


def _intro(table: LoggedTable) -> str:
    layout = table.layout
    named = "no column of time: rows are counted"
    if layout.time is not None:
        column = layout.columns[layout.time]
        named = f"the time is in {column.name}"
    rows = "\n".join(preview_of(layout, table.data))
    return f"Say what each column is; {named}, and numbers begin in line {layout.first_row}.\n{rows}"
