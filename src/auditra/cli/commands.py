"""The commands. Each imports what it needs when it runs, so that the shelf opens at once."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from auditra import __version__
from auditra.cli.choices import BenchName, SchemaName
from auditra.cli.commands_bench import bench
from auditra.cli.commands_decode import decode, echo_json
from auditra.cli.commands_figures import figures
from auditra.cli.commands_library import library, search
from auditra.cli.commands_reader import AuditName, reader
from auditra.cli.composition import LibraryHandle, OnThisMachine, make_services
from auditra.cli.screen import DEMO_PACE, open_demo, open_screen
from auditra.cli.which_library import LIBRARY_VARIABLE, WRITER_VARIABLE, handle_of
from auditra.core.errors import AuditraError
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.depth import Depth
from auditra.core.sanitize import sanitize

app = typer.Typer(
    help="Audit every port of a dock, hub, adapter or cable against what its seller advertises.",
    epilog="Without a command, opens the shelf with all audits.",
    no_args_is_help=False,
    pretty_exceptions_enable=False,
    add_completion=False,
)

app.add_typer(decode, name="decode")
app.add_typer(reader)
app.add_typer(bench)
app.add_typer(figures)
app.add_typer(library, name="library")
app.add_typer(search)


WhichLibrary = Annotated[
    str,
    typer.Option(
        "--library",
        envvar=LIBRARY_VARIABLE,
        show_default=False,
        help="Folder that holds the audits, or a team's database: postgresql+psycopg://USER@HOST/DATABASE.",
    ),
]
Writer = Annotated[
    str,
    typer.Option(
        "--writer", envvar=WRITER_VARIABLE, show_default=False, help="Your name on what you record.", metavar="NAME"
    ),
]
Seed = Annotated[int, typer.Option(help="Random seed for the simulated bench.")]


def _version(wanted: bool) -> None:
    if wanted:
        typer.echo(f"auditra {__version__}")
        raise typer.Exit


@app.callback(invoke_without_command=True)
def shelf(
    context: typer.Context,
    library: WhichLibrary = "",
    writer: Writer = "",
    _: Annotated[
        bool, typer.Option("--version", callback=_version, is_eager=True, help="Show the version and exit.")
    ] = False,
) -> None:
    """Open the shelf with all audits."""
    context.obj = handle_of(library, writer)
    if context.invoked_subcommand is None:
        open_screen(context.obj, pace=DEMO_PACE)


@app.command()
def demo(
    context: typer.Context,
    pace: Annotated[float, typer.Option(min=0.1, help="Simulated seconds per real second.")] = DEMO_PACE,
    seed: Annotated[
        int | None, typer.Option(min=0, max=999_999_999, help="A practice device made from this number.")
    ] = None,
    tell: Annotated[bool, typer.Option("--tell", help="Show the hidden faults of the practice device.")] = False,
    prepare: Annotated[
        bool, typer.Option("--prepare", help="Run the trials that the shelf opens with, then exit.")
    ] = False,
) -> None:
    """Open the shelf with the demo audits, which run on the simulated bench."""
    from auditra.cli.demo_shelf import prepare_demos, print_practice, shelve_practice

    handle: LibraryHandle = context.obj
    if tell and seed is None:
        raise AuditraError("--tell", why="it needs a practice device", do="Add --seed with its number")
    if prepare and seed is not None:
        raise AuditraError("--prepare", why="it is for the demo's own shelf", do="Leave out --seed")
    if prepare:
        prepare_demos(handle)
    elif seed is not None and tell:
        print_practice(handle, seed)
    elif seed is not None:
        open_screen(handle, pace=pace, is_demo=True, audit=shelve_practice(handle, seed))
    else:
        open_demo(handle, pace=pace)


@app.command()
def run(
    context: typer.Context,
    audit: AuditName,
    bench: Annotated[
        BenchName | None, typer.Option(help="Run only if the audit is on this bench.", show_default=False)
    ] = None,
    sheet: Annotated[
        Depth | None,
        typer.Option(help="Which run sheet, from now on; the audit keeps its own otherwise.", show_default=False),
    ] = None,
    seed: Seed = 1,
) -> None:
    """Run all remaining trials of an audit without the screen."""
    from auditra.cli.run import run_sheet

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    services = make_services(handle, pace=None, seed=seed)
    runs_on = services.open_session(audit).judged.bench
    if bench is not None and (bench is BenchName.LIVE) != (runs_on == LIVE_BENCH):
        raise AuditraError(f"audit {audit}", why=f"it is on the {runs_on}", do="Leave --bench out")
    run_sheet(audit, services, sheet)


@app.command()
def new(
    context: typer.Context,
    name: Annotated[str, typer.Argument(help="Name for the audit.", show_default=False)],
    sheet: Annotated[Path, typer.Option(help="Claim sheet (TOML).", show_default=False)],
    rig: Annotated[Path, typer.Option(help="Rig file (TOML).", show_default=False)],
) -> None:
    """Start an audit of a real device from a claim sheet and your rig. Its trials run on this machine."""
    from auditra.cli.exchange import begin

    handle: LibraryHandle = context.obj
    begin(handle, name, sheet, rig)


@app.command()
def trial(
    context: typer.Context,
    audit: AuditName,
    port: Annotated[str, typer.Argument(help='A port such as A1, or "direct".', show_default=False)],
    path: Annotated[
        list[str] | None,
        typer.Option(help="Folder on the drive under test, or GEAR=FOLDER.", show_default=False),
    ] = None,
    gear: Annotated[str | None, typer.Option(help="Id of the gear to test with.", show_default=False)] = None,
    size: Annotated[str | None, typer.Option(help="Bytes to write per pass, such as 2GB.", show_default=False)] = None,
    plugged: Annotated[bool, typer.Option("--plugged", help="Everything is connected; skip the prompts.")] = False,
    host: Annotated[
        str | None, typer.Option(help="Id of the host in the rig that this machine is.", show_default=False)
    ] = None,
) -> None:
    """Run one trial of a port, or of gear direct, on this machine."""
    from auditra.cli.trial import named_folders, run_one, size_bytes

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    here = OnThisMachine(named_folders(path or ()), size_bytes(size) if size else None)
    services = make_services(handle, pace=None, here=here)
    run_one(audit, port, services, gear=gear, folders=bool(path), plugged=plugged or bool(path), host=host)


@app.command()
def attach(
    context: typer.Context,
    audit: AuditName,
    trial: Annotated[
        str, typer.Argument(help="Trial or host that the file is of; or a facts.jsonl.", show_default=False)
    ],
    file: Annotated[
        Path | None, typer.Argument(help="Any file; display descriptions, power logs and tables give readings.")
    ] = None,
    column: Annotated[
        list[str] | None, typer.Option(help='What a column of a table is: "bus (V)=voltage".', show_default=False)
    ] = None,
    logged_by: Annotated[
        str, typer.Option("--from", help="The rig's instrument that logged a table.", show_default=False)
    ] = "",
    use: Annotated[str, typer.Option(help="What is remembered of such a table.", show_default=False)] = "",
    remember: Annotated[str, typer.Option(help="A name to remember the columns by.", show_default=False)] = "",
) -> None:
    """Add a file as evidence of a trial or host; or, named alone, join the trials of an audit exported elsewhere."""
    from auditra.cli.exchange import attach_file

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    if file is not None and (column or use):
        from auditra.cli.logged_table import attach_table

        attach_table(handle, audit, trial, file, column or (), logged_by, use, remember)
        return
    attach_file(handle, audit, trial, file)


@app.command()
def judge(
    context: typer.Context,
    audit: AuditName,
    json: Annotated[bool, typer.Option("--json", help="Print JSON (auditra schema judgement).")] = False,
) -> None:
    """Show an audit's verdicts: what each rests on, what was set aside, and what it was not tried under."""
    from auditra.cli.judging import print_flaws, print_grounds

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    session = handle.session(audit)
    if json:
        from auditra.documents.judgement import judgement_file

        echo_json(judgement_file(session.checked()).model_dump_json(indent=2))
    else:
        print_grounds(session.judged)
        print_flaws(session.checked().flaws)


@app.command()
def compare(
    context: typer.Context,
    audit: AuditName,
    one: Annotated[str, typer.Argument(help="A trial, such as T3.", show_default=False)],
    other: Annotated[str, typer.Argument(help="The trial to compare it with.", show_default=False)],
    json: Annotated[bool, typer.Option("--json", help="Print JSON (auditra schema comparison).")] = False,
) -> None:
    """Compare two trials: everything that differs, the ratio of their values, and whether the comparison is fair."""
    from auditra.cli.judging import compared, print_comparison

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    found = compared(handle, audit, one, other)
    if json:
        from auditra.documents.comparison import comparison_file

        echo_json(comparison_file(found).model_dump_json(indent=2))
    else:
        print_comparison(found)


@app.command()
def chart(
    context: typer.Context,
    audit: AuditName,
    trials: Annotated[list[str], typer.Argument(help="One trial or several, such as T3.", show_default=False)],
    at: Annotated[str | None, typer.Option("--at", help="The port, or direct.", show_default=False)] = None,
    of: Annotated[str | None, typer.Option("--of", help="The quantity: write rate, ...", show_default=False)] = None,
    out: Annotated[Path | None, typer.Option(help="File to write, .svg or .pdf.", show_default=False)] = None,
) -> None:
    """Draw the traces of trials as SVG or PDF, several on the same axes; without --out, list what can be drawn."""
    from auditra.cli.judging import draw_charts

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    draw_charts(handle, audit, trials, at, of, out)


@app.command(name="set-aside")
def set_aside(
    context: typer.Context,
    audit: AuditName,
    trial: Annotated[str, typer.Argument(help="The trial, such as T3.", show_default=False)],
    why: Annotated[str, typer.Option("--why", help="The reason, kept with it.")] = "",
    count: Annotated[bool, typer.Option("--count", help="Count it, whatever else speaks against it.")] = False,
) -> None:
    """Set a trial aside so that it decides nothing, or count one again. It stays visible with the reason."""
    from auditra.cli.judging import rule_on

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    rule_on(handle, audit, trial, why, counts=count)


@app.command()
def verify(
    context: typer.Context,
    audit: Annotated[str, typer.Argument(help="Name of an audit, or a bundle (.zip).", show_default=False)],
) -> None:
    """Check an audit for changes since it was recorded; or a bundle, which is judged again too."""
    from auditra.cli.verify import verify as walk

    if audit.endswith(".zip"):
        from auditra.cli.bundling import verify_bundle

        verify_bundle(Path(audit))
        return
    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    walk(handle, audit)


@app.command(name="sign-off")
def sign_off(context: typer.Context, audit: AuditName) -> None:
    """Sign an audit off, which closes it to others; or open it again."""
    from auditra.bench.clock import SystemClock

    handle: LibraryHandle = context.obj
    signed = handle.session(audit).sign_off(SystemClock()).audit.signed_off
    words = "is open again" if signed is None else f"is signed off by {signed.by or 'its reviewer'}"
    typer.echo(sanitize(f"{audit} {words}.", 200))


@app.command()
def export(
    context: typer.Context,
    audit: AuditName,
    to: Annotated[Path, typer.Option(help="Output folder.", show_default=False)],
) -> None:
    """Export an audit as claim sheet, rig file and facts (JSON lines)."""
    from auditra.cli.exchange import export_to

    handle: LibraryHandle = context.obj
    handle.shelve_if_demo(audit)
    export_to(handle, audit, to)


@app.command(name="import")
def import_(
    context: typer.Context,
    folder: Annotated[Path, typer.Argument(help="Folder with facts.jsonl, or a bundle (.zip).", show_default=False)],
    name: Annotated[str | None, typer.Option("--as", help="Name for the audit.", show_default=False)] = None,
) -> None:
    """Import an audit from exported files or a bundle; nothing is imported unless every line is valid."""
    from auditra.cli.exchange import import_from

    handle: LibraryHandle = context.obj
    import_from(handle, folder, name)


@app.command()
def read(
    text: Annotated[
        Path, typer.Argument(help="File with the seller's text, or - for standard input.", show_default=False)
    ],
    json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Propose claims from a seller's text, each with its source words and confidence."""
    from auditra.cli.read import as_json, load_text, tell
    from auditra.core.advert.reader import read_text

    found = read_text(load_text(text))
    echo_json(as_json(found)) if json else tell(found)


@app.command()
def check(
    sheet: Annotated[Path, typer.Argument(help="Claim sheet (TOML).", show_default=False)],
    json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Check a claim sheet for contradictions before any testing. Exits with status 1 if a claim is impossible."""
    from auditra.cli.check import as_json, look_at, tell
    from auditra.core.paper_check.remark import Weight

    remarks = look_at(sheet)
    echo_json(as_json(remarks)) if json else tell(remarks)
    if any(remark.weight is Weight.CANNOT_BE for remark in remarks):
        raise typer.Exit(1)


@app.command()
def schema(of: Annotated[SchemaName, typer.Argument(help="Format name.", show_default=False)]) -> None:
    """Print the JSON Schema of a format."""
    from auditra.cli.exchange import schema_of

    typer.echo(schema_of(of))
