"""What the columns of a logged table are, as a file: said once, and offered for tables with the same columns."""

from __future__ import annotations

from pydantic import BaseModel, Field, ValidationError

from auditra.core.errors import SheetError
from auditra.core.model.table_use import ColumnUse, TableUse

MAX_COLUMNS = 256


class _Column(BaseModel, extra="forbid"):
    column: str = Field(max_length=60)
    quantity: str = Field(max_length=60)


class TableUseFile(BaseModel, extra="forbid"):
    """The columns of a kind of table, by their names."""

    format: str = "auditra table use"
    version: int = Field(default=1, ge=1, le=1)
    name: str = Field(max_length=60)
    witness: str = Field(max_length=60)
    columns: tuple[_Column, ...] = Field(max_length=MAX_COLUMNS)


def write_table_use(use: TableUse) -> str:
    columns = tuple(_Column(column=each.column, quantity=each.quantity) for each in use.columns)
    return TableUseFile(name=use.name, witness=use.witness, columns=columns).model_dump_json(indent=2) + "\n"


def read_table_use(text: str, file: str) -> TableUse:
    """Raises: SheetError."""
    try:
        told = TableUseFile.model_validate_json(text)
    except ValidationError as error:
        first = error.errors()[0]
        path = ".".join(map(str, first["loc"]))
        raise SheetError(first["msg"], file=file, line=None, key_path=path) from error
    columns = tuple(ColumnUse(each.column, each.quantity) for each in told.columns)
    return TableUse(columns, told.witness, told.name)
