"""``auditra line-up``: audits side by side in a terminal."""

from __future__ import annotations

from collections.abc import Sequence

from auditra.cli.composition import LibraryHandle
from auditra.cli.judging import say
from auditra.core.line_up.line_up import Gap, reason_of


def print_line_up(handle: LibraryHandle, names: Sequence[str]) -> None:
    """A row a line: each device's cell, then the best and why. Raises: InputError, StoreError."""
    made = handle.lined_up(names)
    for row in made.rows:
        say(row.title)
        for number, cell in enumerate(row.cells):
            if isinstance(cell, Gap):
                words = cell.value
            else:
                mark = f"{cell.verdict.mark} {cell.verdict.word} " if cell.verdict is not None else ""
                words = f"{mark}{cell.words}"
            best = "*" if number in row.leaders else " "
            say(f"  {best} {made.names[number]:24} {words}")
        if reason := reason_of(row, made.names):
            say(f"    {reason}")
    for checked in made.superlatives:
        say(f"? {made.names[checked.audit]}: {checked.claim}: {checked.answer}")
    for each in made.differences:
        say(f"  not alike: {each}")
    say(f"rows won: {', '.join(f'{name} {count}' for name, count in zip(made.names, made.wins, strict=True))}")
