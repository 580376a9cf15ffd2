"""``auditra attach ... --column``: a table that something logged, as readings of a trial."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.cli.exchange import tell_readings
from auditra.core.errors import InputError
from auditra.core.model.table_use import ColumnUse, TableUse
from auditra.core.sanitize import sanitize
from auditra.store.files import load_evidence
from auditra.workflows.trials.measure.look import WITNESS


def attach_table(
    handle: LibraryHandle, name: str, trial: str, file: Path, columns: Sequence[str], witness: str, use: str, kept: str
) -> None:
    """Record what the columns say, and print it. Raises: InputError, StoreError."""
    remembered = handle.table_uses.use(use) if use else TableUse((), WITNESS)
    own = tuple(_column(text) for text in columns)
    said = replace(remembered, columns=(*own, *_others(remembered, own)), witness=witness or remembered.witness)
    session = handle.session(name)
    audit = session.attach_table(trial, *load_evidence(str(file)), said, SystemClock()).audit
    tell_readings(audit, trial)
    if kept:
        handle.table_uses.remember(said, kept)


def _column(text: str) -> ColumnUse:
    """Raises: InputError."""
    column, equals, quantity = text.rpartition("=")
    if not equals or not column.strip() or not quantity.strip():
        why = "it is no column with what it is"
        raise InputError(f'"{sanitize(text, 60)}"', why=why, do='Write it as "bus=voltage"')
    return ColumnUse(column.strip(), quantity.strip())


def _others(remembered: TableUse, own: Sequence[ColumnUse]) -> tuple[ColumnUse, ...]:
    named = {each.column for each in own}
    return tuple(each for each in remembered.columns if each.column not in named)
