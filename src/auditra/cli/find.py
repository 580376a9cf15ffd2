"""``auditra find``: claims of the whole library that fit, in lines, in counts, or as a file."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path

import typer

from auditra.cli.composition import LibraryHandle
from auditra.core.counted import counted
from auditra.core.sanitize import sanitize
from auditra.workflows.audits.claim_rows import ClaimRow, Wanted, count_by

MOST_LINES = 1000


def find(handle: LibraryHandle, wanted: Wanted, group: str, out: Path | None, most: int = MOST_LINES) -> None:
    """Print what fits, or write it. Raises: InputError, StoreError."""
    rows = list(wanted.among(_every_row(handle)))
    if out is not None:
        from auditra.publish.claim_files import write_claims_table

        typer.echo(sanitize(f"{write_claims_table(rows, out)}: {counted(len(rows), 'claim')}", 400))
        return
    if group:
        _print_counts(rows, group)
        return
    _print_lines(rows[:most])
    audits = len({row.audit for row in rows})
    left = f"; the first {most} are shown" if len(rows) > most else ""
    typer.echo(f"{counted(len(rows), 'claim')} in {counted(audits, 'audit')}{left}")


def _every_row(handle: LibraryHandle) -> Iterator[ClaimRow]:
    """With a line of progress where somebody looks and it takes a while."""
    watched = typer.get_text_stream("stderr").isatty()
    for number, (rows, of) in enumerate(handle.shelf.each_audits_claims(), start=1):
        if watched and (number % 100 == 0 or number == of > 100):
            typer.echo(f"\r{number} of {counted(of, 'audit')} looked at", nl=number == of, err=True)
        yield from rows


def _print_lines(rows: Sequence[ClaimRow]) -> None:
    cells = [
        (
            row.audit,
            f"{row.maker} {row.model}",
            row.claim,
            " ".join(filter(None, (row.verdict, row.condition))),
            row.shown,
        )
        for row in rows
    ]
    widths = [max(map(len, column), default=0) for column in zip(*cells, strict=True)]
    for cell in cells:
        padded = "  ".join(sanitize(text, 80).ljust(min(width, 40)) for text, width in zip(cell, widths, strict=True))
        typer.echo(padded.rstrip())


def _print_counts(rows: Sequence[ClaimRow], group: str) -> None:
    found = count_by(rows, group)
    words = sorted({word for _, counts in found for word in counts})
    width = max((len(name) for name, _ in found), default=0)
    typer.echo("  ".join([group.ljust(min(width, 40)), "claims", *words]))
    for name, counts in found:
        each = [str(counts[word]).rjust(len(word)) for word in words]
        typer.echo("  ".join([sanitize(name, 40).ljust(min(width, 40)), str(counts.total()).rjust(6), *each]))
