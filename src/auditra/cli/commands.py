"""The commands. Each imports what it needs when it runs, so that the shelf opens at once."""

from __future__ import annotations

import sys
from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from auditra import __version__
from auditra.cli.workshop import Opened, default_library, make_workshop
from auditra.core.errors import AuditraError
from auditra.store.demos import DEMOS

DEMO_PACE = 6.0
"""Virtual seconds a second in a demo: slow enough to watch, quick enough not to wait."""
DEFAULT_LIBRARY = default_library()

app = typer.Typer(
    help="Audits every port of a dock, hub, adapter or cable against what its seller promises.",
    epilog="Without a command, the shelf with all audits opens.",
    no_args_is_help=False,
    pretty_exceptions_enable=False,
    add_completion=False,
)


class BenchName(StrEnum):
    """Where trials are run."""

    SIMULATED = "simulated"


LibraryFolder = Annotated[
    Path,
    typer.Option("--library", envvar="AUDITRA_LIBRARY", help="The folder that audits are kept in.", show_default=False),
]
AuditName = Annotated[str, typer.Argument(help="The audit's name on the shelf, such as OP-6.", show_default=False)]
Seed = Annotated[int, typer.Option(help="Chance on the simulated bench; the same seed gives the same run.")]


def _version(wanted: bool) -> None:
    if wanted:
        typer.echo(f"auditra {__version__}")
        raise typer.Exit


@app.callback(invoke_without_command=True)
def shelf(
    context: typer.Context,
    library: LibraryFolder = DEFAULT_LIBRARY,
    _: Annotated[bool, typer.Option("--version", callback=_version, is_eager=True, help="Say the version.")] = False,
) -> None:
    """Open the shelf, where all audits stand."""
    context.obj = Opened(library)
    if context.invoked_subcommand is None:
        _open_application(context.obj, pace=DEMO_PACE)


@app.command()
def demo(
    context: typer.Context,
    pace: Annotated[
        float, typer.Option(min=0.1, help="Seconds on the simulated bench in one real second.")
    ] = DEMO_PACE,
) -> None:
    """Put the demo audits on the shelf, and open it. They run on the simulated bench."""
    opened: Opened = context.obj
    if not opened.has_demos():
        opened.put_demos_on_shelf()
        opened.rows()
    _open_application(opened, pace=pace)


@app.command()
def run(
    context: typer.Context,
    audit: AuditName,
    bench: Annotated[BenchName, typer.Option(help="Where the trials are run.")] = BenchName.SIMULATED,
    seed: Seed = 1,
) -> None:
    """Run what is left of an audit's run sheet, without a screen."""
    from auditra.cli.run import run_sheet

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    run_sheet(audit, make_workshop(opened, pace=None, seed=seed))


@app.command()
def publish(
    context: typer.Context,
    audit: AuditName,
    out: Annotated[Path, typer.Option(help="The folder to write into; it is made when it is not there.")] = Path(),
) -> None:
    """Write the drawing of the faces (SVG, PDF) and the report (PDF) of an audit."""
    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    workshop = make_workshop(opened, pace=None)
    for path in workshop.publish(workshop.open_desk(audit).standing, out):
        typer.echo(path)


def _shelve_if_demo(opened: Opened, name: str) -> None:
    """A demo audit asked for by name needs no other preparation."""
    if name in {demo.name for demo in DEMOS} and name not in opened.library.names():
        opened.put_demos_on_shelf()
        typer.echo(f"{name} is a demo audit; it now stands on the shelf.")


def _open_application(opened: Opened, *, pace: float) -> None:
    """Open the screen. Raises: AuditraError without a terminal: keys come from standard input, the picture goes to
    standard error, and a file in place of either would have the screen ask for its size for ever."""
    if not (sys.stdin.isatty() and sys.stderr.isatty()):
        why = "standard input or standard error is no terminal"
        raise AuditraError("the screen", why=why, do="Use auditra run and auditra publish without one")
    from auditra.tui.app import AuditraApp

    AuditraApp(make_workshop(opened, pace=pace)).run()
