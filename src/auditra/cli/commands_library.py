"""``auditra library``: bring a team's database up to date, copy a library, look through one."""

from __future__ import annotations

import re
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from auditra.cli.choices import Group, Role, VerdictWord
from auditra.core.counted import counted
from auditra.core.errors import AuditraError, InputError
from auditra.core.sanitize import sanitize

if TYPE_CHECKING:
    from collections.abc import Iterator

    from auditra.cli.composition import LibraryHandle
    from auditra.store.copying import Step

library = typer.Typer(help="Libraries as a whole: a folder, or a team's database.", no_args_is_help=True)
search = typer.Typer()
MAX_SHOWN = 100
_DAY = re.compile(r"\d{4}(-\d\d(-\d\d)?)?")
Place = Annotated[str, typer.Argument(help="A folder, or the URL of a team's database.", show_default=False)]


@search.command()
def find(
    context: typer.Context,
    words: Annotated[str, typer.Argument(help='Words of the claim or its device: "data 10 Gb/s".')] = "",
    verdict: Annotated[
        list[VerdictWord] | None, typer.Option(help="Only with this verdict; may be given again.", show_default=False)
    ] = None,
    maker: Annotated[str, typer.Option(help="A part of the maker's name.", show_default=False)] = "",
    kind: Annotated[str, typer.Option(help="A part of the kind, such as dock.", show_default=False)] = "",
    since: Annotated[str, typer.Option(help="Audits written to since then: 2026-01.", show_default=False)] = "",
    until: Annotated[str, typer.Option(help="Audits last written to until then.", show_default=False)] = "",
    count: Annotated[Group | None, typer.Option(help="Count verdicts by this instead.", show_default=False)] = None,
    out: Annotated[
        Path | None, typer.Option(help="Write .csv, .jsonl or .parquet instead.", show_default=False)
    ] = None,
) -> None:
    """Find claims in all audits of the library."""
    from auditra.cli.find import find as look
    from auditra.workflows.audits.claim_rows import Wanted

    for option, day in (("--since", since), ("--until", until)):
        if day and not _DAY.fullmatch(day):
            raise InputError(option, why=f'"{sanitize(day, 20)}" is no date', do="Write 2026, 2026-01 or 2026-01-31")
    wanted = Wanted(words, tuple(each.value for each in verdict or ()), maker, kind, since, until)
    look(context.obj, wanted, count.value if count else "", out)


@library.command()
def upgrade(context: typer.Context) -> None:
    """Make the tables of a team's library in its database, or bring them up to date."""
    from auditra.store.dialects.postgresql import upgrade_database

    handle: LibraryHandle = context.obj
    _require_team(handle)
    before, now = upgrade_database(handle.place)
    done = "is up to date" if before == now else f"was of version {before}" if before else "was empty"
    typer.echo(f"{handle.place.words} {done}; it is of version {now}.")


@library.command()
def grant(
    context: typer.Context,
    user: Annotated[str, typer.Argument(help="A user of the database.", show_default=False)],
    role: Annotated[Role, typer.Argument(help="What they may do.", show_default=False)],
) -> None:
    """Let a user of the database read the library, or record in it too."""
    from auditra.store.dialects.postgresql import grant_role

    handle: LibraryHandle = context.obj
    _require_team(handle)
    grant_role(handle.place, user, role.value)
    typer.echo(sanitize(f"{user} is a {role.value} of {handle.place.words}.", 200))


@library.command(name="copy")
def copy_(source: Annotated[str, Place], target: Annotated[str, Place]) -> None:
    """Copy every audit of one library into another, with its evidence. A copy that was stopped goes on."""
    from auditra.cli.which_library import handle_of
    from auditra.store.copying import Copied, copy_library

    come_from = handle_of(source)
    if not (come_from.place.is_of_team or come_from.folder.is_dir()):
        raise InputError(sanitize(source, 200), why="there is no library", do="Name the folder that holds it")
    steps = copy_library(come_from.library, handle_of(target).library)
    done = _watched(steps, "copied")
    for what in Copied:
        if number := sum(step.done is what for step in done):
            typer.echo(f"{what}: {counted(number, 'audit')}")
    typer.echo(f"{counted(sum(step.entries for step in done), 'entry')} compared, each with its link")
    _show_problems(done)


@library.command()
def check(context: typer.Context) -> None:
    """Check every audit of the library: its chain, and each piece of evidence."""
    from auditra.store.copying import check_library

    handle: LibraryHandle = context.obj
    done = _watched(check_library(handle.library), "checked")
    typer.echo(f"{counted(len(done), 'audit')}, {counted(sum(step.entries for step in done), 'entry')}")
    _show_problems(done)
    typer.echo("everything is unchanged since it was recorded")


def _require_team(handle: LibraryHandle) -> None:
    if not handle.place.is_of_team:
        raise InputError("--library", why="a folder needs none of that", do="Name a team's database")


def _watched(steps: Iterator[Step], what: str) -> list[Step]:
    """All of them, with a line of progress where somebody looks."""
    done: list[Step] = []
    for step in steps:
        done.append(step)
        if typer.get_text_stream("stderr").isatty():
            typer.echo(f"\r{len(done)} of {step.of} {what}", nl=len(done) == step.of, err=True)
    return done


def _show_problems(done: list[Step]) -> None:
    """Raises: AuditraError where there are any."""
    problems = [f"{step.name}: {problem}" for step in done for problem in step.problems]
    for problem in problems[:MAX_SHOWN]:
        typer.echo(f"! {sanitize(problem, 300)}")
    if problems:
        raise AuditraError("the library", why=counted(len(problems), "problem"), do="Restore what is missing")
