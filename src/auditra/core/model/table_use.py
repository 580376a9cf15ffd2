"""What is made of a logged table: which quantity each column is, and which instrument or witness logged it."""

from __future__ import annotations

from dataclasses import dataclass

LEFT_OUT = "left out"


@dataclass(frozen=True)
class ColumnUse:
    """What a column of a name is; `quantity` is `LEFT_OUT` for one that is not wanted."""

    column: str
    quantity: str


@dataclass(frozen=True)
class TableUse:
    """Under a name, so that it can be offered again for tables with the same columns."""

    columns: tuple[ColumnUse, ...]
    witness: str
    name: str = ""

    @property
    def wanted(self) -> tuple[ColumnUse, ...]:
        return tuple(each for each in self.columns if each.quantity != LEFT_OUT)

    def fits(self, names: frozenset[str]) -> bool:
        """Whether a table has all the columns that are wanted."""
        return {each.column for each in self.wanted} <= names
