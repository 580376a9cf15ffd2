"""``auditra verify``: whether an audit still is what was recorded: its chain, its second witness, its evidence."""

from __future__ import annotations

import typer

from auditra.cli.composition import LibraryHandle
from auditra.core.counted import counted
from auditra.core.errors import AuditraError
from auditra.core.journal.admission import Known
from auditra.core.sanitize import sanitize
from auditra.store.evidence import problems_of_evidence

MAX_SHOWN = 100


def verify(handle: LibraryHandle, name: str) -> None:
    """Walk all of it and print what was found. Raises: AuditraError where something is not as it was."""
    journal = handle.library.journal(name)
    entries = journal.entries()
    typer.echo(f"chain: {counted(len(entries), 'entry')}, each tied to the one before")
    noted = journal.witness.read()
    if noted is None:
        typer.echo(f"second witness: none at {sanitize(str(journal.witness.file), 300)}")
    else:
        typer.echo(f"second witness: agrees at entry {noted[0]}; it does not prove anything if both were changed")
    problems = [*problems_of_evidence((entry.fact for entry in entries), journal.evidence)]
    known = Known(name)
    traces = 0
    for entry in entries:
        reading = getattr(entry.fact, "reading", None)
        traces += reading is not None and reading.trace is not None
        problems += [f"entry {entry.number}: {why}" for why in known.problems(entry.fact)]
        known.take(entry)
    typer.echo(f"traces: {traces}, each tied into the chain")
    typer.echo(f"evidence: {len({each.sha256 for each in known.fold.audit().evidence})} files named")
    for problem in problems[:MAX_SHOWN]:
        typer.echo(f"! {sanitize(problem, 300)}")
    if problems:
        why = counted(len(problems), "problem")
        raise AuditraError(f'audit "{sanitize(name)}"', why=why, do="Restore what is missing from a copy")
    typer.echo("everything is unchanged since it was recorded")
