"""A table that some other program logged, as readings of a trial: each wanted column with its trace.

Which column is what is said by a person, who sees the first rows; what was said once is remembered by name, and offered
for tables with the same columns. The whole file stays as evidence; a trace keeps the lowest and the highest of each
stretch.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

import numpy as np
import numpy.typing as npt

from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import EvidenceKept, Fact, ReadingTaken
from auditra.core.model.reading import Number, Quantity, Reading, Trace, known_quantity
from auditra.core.model.table_use import LEFT_OUT, ColumnUse, TableUse
from auditra.core.sanitize import sanitize
from auditra.core.tables.extremes import extremes
from auditra.core.tables.layout import LOOKED_AT_BYTES, Column, Layout, cells_of, detect_layout
from auditra.core.tables.reader import Table, read_table
from auditra.workflows.audits.attaching import record_of
from auditra.workflows.audits.typed_readings import standing_of
from auditra.workflows.trials.doors import Journal

Values = npt.NDArray[np.float64]

MAX_POINTS = 4000
"""Of a trace: more than any screen or page has columns."""
_PREVIEW_ROWS, _PREVIEW_CELLS, _LOOKED_AT_ROWS = 2, 120, 2000
_BY_DIMENSION = {
    "V": Quantity.VOLTAGE, "A": Quantity.CURRENT, "W": Quantity.POWER, "C": Quantity.CASE_TEMPERATURE,
    "J": Quantity.ENERGY, "ohm": Quantity.RESISTANCE,
}  # fmt: skip
_HIGHEST, _LAST = (Quantity.CASE_TEMPERATURE, Quantity.AMBIENT_TEMPERATURE), (Quantity.ENERGY, Quantity.MOVED)


def layout_of(data: bytes) -> Layout | None:
    """How a table is written, where the bytes are one that may be logged values; None for what is none."""
    try:
        layout = detect_layout(data)
    except InputError:
        return None
    return layout if len(layout.columns) > 1 or layout.time is None else None


def columns_of_values(layout: Layout) -> tuple[Column, ...]:
    return tuple(column for column in layout.columns if column.number != layout.time)


def titled(column: Column) -> str:
    return f"{column.name} ({column.unit})" if column.unit else column.name


def likely_use(layout: Layout, witness: str, remembered: TableUse | None = None) -> TableUse:
    """By what was said of such a table before, else by the units of the columns."""
    known = {each.column: each.quantity for each in remembered.columns} if remembered is not None else {}
    columns = tuple(
        ColumnUse(column.name, known.get(column.name) or str(_BY_DIMENSION.get(column.dimension, LEFT_OUT)))
        for column in columns_of_values(layout)
    )
    return TableUse(columns, remembered.witness if remembered is not None else witness)


def preview_of(layout: Layout, data: bytes) -> tuple[str, ...]:
    """The names with their units, and the first rows below them, as far as they fit."""
    lines = data[:LOOKED_AT_BYTES].decode(layout.encoding, "replace").splitlines()[layout.first_row - 1 :]
    lines = [line for line in lines if line.strip()][:_PREVIEW_ROWS]
    if layout.is_json:
        return tuple(sanitize(line, _PREVIEW_CELLS) for line in lines)
    names = [titled(each) for each in layout.columns]
    rows = [names, *(cells_of(line, layout.delimiter) for line in lines)]
    widths = [max(len(row[n]) for row in rows if n < len(row)) for n in range(len(names))]
    told = ("  ".join(cell.ljust(width) for cell, width in zip(row, widths, strict=False)) for row in rows)
    return tuple(sanitize(line, _PREVIEW_CELLS).rstrip() for line in told)


def facts_of_table(
    audit: Audit, trial: str, name: str, data: bytes, use: TableUse, journal: Journal
) -> tuple[Fact, ...]:
    """The file as evidence, and a reading for each column that is wanted. Raises: InputError, StoreError."""
    record = record_of(audit, trial)
    layout = detect_layout(data, name)
    numbers = _numbers_of(layout, use)
    table = read_table([data], layout, sorted(numbers))
    if not len(table):
        raise InputError(sanitize(name, 80), why="no row of it has numbers in all columns that are wanted")
    sha256 = journal.keep(data)
    _refuse_twice(record, numbers.values(), sha256)
    kept = EvidenceKept(sha256, sanitize(name, 80), len(data), media_type="text/csv", about=f"trial {trial}")
    readings = _readings(audit, record, layout, table, numbers, use.witness, sha256)
    return (kept, *(ReadingTaken(reading) for reading in readings))


def _numbers_of(layout: Layout, use: TableUse) -> dict[int, str]:
    """Quantities by column. Raises: InputError for a column that is not there, is wanted twice, or has another unit."""
    known = {column.name: column for column in columns_of_values(layout)}
    found: dict[int, str] = {}
    for each in use.wanted:
        column = known.get(each.column)
        if column is None:
            names = ", ".join(known)
            raise InputError(f'column "{sanitize(each.column, 40)}"', why="the table has none of this name", do=names)
        quantity = known_quantity(each.quantity)
        if quantity is not None and column.dimension and column.dimension not in ("", quantity.unit):
            why = f"it is in {column.unit}, and {quantity.value} is in {quantity.unit}"
            raise InputError(f'column "{sanitize(each.column, 40)}"', why=why, do="Choose another quantity")
        if each.quantity in found.values():
            raise InputError(each.quantity, why="two columns are said to be it", do=f"Set one to {LEFT_OUT}")
        found[column.number] = each.quantity
    if not found:
        raise InputError("the columns", why="none of them is wanted", do="Say what at least one of them is")
    return found


def _refuse_twice(record: TrialRecord, quantities: Iterable[str], sha256: str) -> None:
    """Raises: InputError where the same file has given the trial such a reading before."""
    taken = {str(each.quantity) for each in record.readings if sha256 in each.evidence}
    if again := sorted(taken & set(quantities)):
        why = f"{record.trial.id} has its {again[0]} from this file already"
        raise InputError("the table", why=why, do="Undo that first, or leave the column out")


def _readings(
    audit: Audit, record: TrialRecord, layout: Layout, table: Table, numbers: dict[int, str], witness: str, sha256: str
) -> Iterator[Reading]:
    columns = {quantity: table.columns[number] for number, quantity in numbers.items()}
    steps = {quantity: _step(values[np.isfinite(values)]) for quantity, values in columns.items()}
    _with_power(columns, steps)
    rows = f"{len(table)} rows" if not table.left_out else f"{len(table)} rows, {table.left_out} left out"
    for words, values in columns.items():
        quantity = known_quantity(words) or words
        known = values[np.isfinite(values)]
        if not len(known):
            continue
        value = Number((_counts(quantity, known),))
        grade, error, name = standing_of(audit.rig, witness, quantity, value)
        note = f"{rows}; lowest {known.min():.6g}, highest {known.max():.6g}"
        unit = "" if isinstance(quantity, Quantity) else _unit_of(layout, numbers, words)
        yield Reading(
            record.trial.id, quantity, record.trial.place, name, grade, value, error=error, resolution=steps[words],
            note=note, unit=unit, trace=_trace(table.time_s, values), evidence=(sha256,),
        )  # fmt: skip


def _unit_of(layout: Layout, numbers: dict[int, str], words: str) -> str:
    number = next(number for number, quantity in numbers.items() if quantity == words)
    column = layout.columns[number]
    return column.dimension or column.unit


def _counts(quantity: Quantity | str, values: Values) -> float:
    """What a log comes to: the highest warmth, the last sum, the middle of anything else."""
    if quantity in _HIGHEST:
        return float(values.max())
    return float(values[-1] if quantity in _LAST else np.median(values))


def _with_power(columns: dict[str, Values], steps: dict[str, float]) -> None:
    """Volts and amperes of the same moments are watts; a step of either moves them by as much of the other."""
    volts, amperes = columns.get(Quantity.VOLTAGE.value), columns.get(Quantity.CURRENT.value)
    if volts is None or amperes is None or Quantity.POWER.value in columns:
        return
    columns[Quantity.POWER.value] = volts * amperes
    steps[Quantity.POWER.value] = float(
        abs(np.nanmedian(amperes)) * steps[Quantity.VOLTAGE.value]
        + abs(np.nanmedian(volts)) * steps[Quantity.CURRENT.value]
    )


def _step(values: Values) -> float:
    """The smallest step between values of the log: what its last digit counts."""
    steps = np.diff(np.unique(values[:_LOOKED_AT_ROWS]))
    return float(steps.min()) if len(steps) else 0.0


def _trace(time_s: Values, values: Values) -> Trace:
    known = np.isfinite(values) & np.isfinite(time_s)
    time_s, values = time_s[known], values[known]
    chosen = extremes(values, MAX_POINTS)
    return Trace(tuple(time_s[chosen].tolist()), tuple(values[chosen].tolist()))


def table_in_words(layout: Layout) -> Sequence[str]:
    """Its columns, for somebody who has to say what they are."""
    told = []
    for column in layout.columns:
        what = "time" if column.number == layout.time else column.unit or "no unit"
        told.append(f"{column.name} ({what})")
    return told
