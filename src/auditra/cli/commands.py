"""The commands. Each imports what it needs when it runs, so that the shelf opens at once."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from auditra import __version__
from auditra.cli.screen import DEMO_PACE, open_demo, open_screen
from auditra.cli.workshop import LIBRARY_VARIABLE, OnThisMachine, Opened, default_library, make_workshop
from auditra.core.errors import AuditraError
from auditra.core.sanitize import sanitize
from auditra.store.demos import DEMOS

DEFAULT_LIBRARY = default_library()

app = typer.Typer(
    help="Audits every port of a dock, hub, adapter or cable against what its seller promises.",
    epilog="Without a command, the shelf with all audits opens.",
    no_args_is_help=False,
    pretty_exceptions_enable=False,
    add_completion=False,
)


decode = typer.Typer(help="Say what bytes mean, and what is wrong with them.", no_args_is_help=True)
app.add_typer(decode, name="decode")


class SchemaName(StrEnum):
    """The formats that have a schema."""

    FACTS = "facts"
    CLAIMS = "claims"
    JUDGEMENT = "judgement"
    PROBE = "probe"
    DECODE_USB = "decode-usb"
    DECODE_EDID = "decode-edid"
    DECODE_PD = "decode-pd"
    DECODE_CABLE = "decode-cable"


class BenchName(StrEnum):
    """Where trials are run; an audit knows its own bench."""

    SIMULATED = "simulated"
    LIVE = "live"


LibraryFolder = Annotated[
    Path,
    typer.Option("--library", envvar=LIBRARY_VARIABLE, help="The folder that audits are kept in.", show_default=False),
]
AuditName = Annotated[str, typer.Argument(help="The audit's name on the shelf, such as OP-6.", show_default=False)]
Seed = Annotated[int, typer.Option(help="Chance on the simulated bench; the same seed gives the same run.")]


def _echo_json(text: str) -> None:
    """JSON for a terminal or a program: the same value, and nothing in it steers a terminal."""
    from auditra.core.sanitize import escaped_json

    typer.echo(escaped_json(text))


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
        open_screen(context.obj, pace=DEMO_PACE)


@app.command()
def demo(
    context: typer.Context,
    pace: Annotated[
        float, typer.Option(min=0.1, help="Seconds on the simulated bench in one real second.")
    ] = DEMO_PACE,
) -> None:
    """Put the demo audits on the shelf, and open it. They run on the simulated bench."""
    open_demo(context.obj, pace=pace)


@app.command()
def run(
    context: typer.Context,
    audit: AuditName,
    bench: Annotated[
        BenchName | None, typer.Option(help="Refuse to run on any other bench than this.", show_default=False)
    ] = None,
    seed: Seed = 1,
) -> None:
    """Run what is left of an audit's run sheet, without a screen."""
    from auditra.cli.run import run_sheet

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    workshop = make_workshop(opened, pace=None, seed=seed)
    runs_on = workshop.open_desk(audit).standing.bench
    if bench is not None and not runs_on.startswith(bench):
        raise AuditraError(f"audit {audit}", why=f"it is on the {runs_on}", do="Leave --bench out")
    run_sheet(audit, workshop)


@app.command()
def new(
    context: typer.Context,
    name: Annotated[str, typer.Argument(help="What the audit is to be called on the shelf.", show_default=False)],
    sheet: Annotated[Path, typer.Option(help="The claim sheet (TOML).", show_default=False)],
    rig: Annotated[Path, typer.Option(help="The rig file (TOML).", show_default=False)],
) -> None:
    """Begin the audit of a real thing, from its claim sheet and your rig. Its trials run on this machine."""
    from auditra.cli.exchange import begin

    opened: Opened = context.obj
    begin(opened, name, sheet, rig)


@app.command()
def trial(
    context: typer.Context,
    audit: AuditName,
    port: Annotated[str, typer.Argument(help='A port such as A1, or "direct".', show_default=False)],
    path: Annotated[
        list[str] | None,
        typer.Option(help="A folder on the drive that is tried, or GEAR=FOLDER.", show_default=False),
    ] = None,
    gear: Annotated[str | None, typer.Option(help="The gear to try with, by its id.", show_default=False)] = None,
    size: Annotated[
        str | None, typer.Option(help="How much is written in a pass, such as 2GB.", show_default=False)
    ] = None,
    plugged: Annotated[bool, typer.Option("--plugged", help="Everything stands already; ask for no moves.")] = False,
) -> None:
    """Do one trial of a port, or of gear direct, on this machine."""
    from auditra.cli.trial import named_folders, run_one, size_bytes

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    here = OnThisMachine(named_folders(path or ()), size_bytes(size) if size else None)
    workshop = make_workshop(opened, pace=None, here=here)
    run_one(audit, port, workshop, gear=gear, folders=bool(path), plugged=plugged or bool(path))


@app.command()
def attach(
    context: typer.Context,
    audit: AuditName,
    trial: Annotated[str, typer.Argument(help="The trial that it belongs to, such as T3.", show_default=False)],
    file: Annotated[Path, typer.Argument(help="A file: a display's description, a power log, anything.")],
) -> None:
    """Keep a file as evidence of a trial; what a display's description or a power log says becomes readings."""
    from auditra.cli.exchange import attach_file

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    attach_file(opened, audit, trial, file)


@app.command()
def judge(
    context: typer.Context,
    audit: AuditName,
    json: Annotated[bool, typer.Option("--json", help="All of it as JSON (auditra schema judgement).")] = False,
) -> None:
    """Say what is decided of an audit as it stands, and on what it rests."""
    from auditra.cli.run import print_flaws, print_judgement

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    desk = opened.desk(audit)
    if json:
        from auditra.documents.judgement import judgement_file

        _echo_json(judgement_file(desk.checked(), desk.profile.name).model_dump_json(indent=2))
    else:
        print_judgement(desk.standing.judgement)
        print_flaws(desk.checked().flaws)


@app.command()
def verify(context: typer.Context, audit: AuditName) -> None:
    """Check that an audit is as it was recorded: chain, second witness, traces and evidence."""
    from auditra.cli.verify import verify as walk

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    walk(opened, audit)


@app.command()
def export(
    context: typer.Context,
    audit: AuditName,
    to: Annotated[Path, typer.Option(help="The folder to write into.", show_default=False)],
) -> None:
    """Write an audit as claim sheet, rig and facts (JSON lines), for another machine or another program."""
    from auditra.cli.exchange import export_to

    opened: Opened = context.obj
    _shelve_if_demo(opened, audit)
    export_to(opened, audit, to)


@app.command(name="import")
def import_(
    context: typer.Context,
    folder: Annotated[Path, typer.Argument(help="A folder with facts.jsonl.", show_default=False)],
    name: Annotated[
        str | None, typer.Option("--as", help="What it is to be called on the shelf.", show_default=False)
    ] = None,
) -> None:
    """Put an audit from files on the shelf; nothing is taken unless every line is right."""
    from auditra.cli.exchange import import_from

    opened: Opened = context.obj
    import_from(opened, folder, name)


@app.command()
def probe(
    json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
    root: Annotated[Path, typer.Option(help="Where the kernel's attributes are, or a copy of them.")] = Path("/sys"),
    diff: Annotated[
        tuple[Path, Path] | None,
        typer.Option(help="What changed between two files of --json, or two copied trees.", show_default=False),
    ] = None,
    watch: Annotated[bool, typer.Option("--watch", help="Say every change as it happens.")] = False,
    seconds: Annotated[
        float | None, typer.Option("--for", min=0, help="How long to watch; else until it is stopped.")
    ] = None,
) -> None:
    """Say what the kernel tells of this machine's links, and what it does not."""
    from auditra.cli import probe as probing

    if diff is not None:
        found = probing.compare(*diff)
        _echo_json(found.model_dump_json(indent=2)) if json else probing.tell_changes(found.changes)
    elif watch:
        probing.watch(root, seconds, as_json=json)
    else:
        told = probing.look(root)
        _echo_json(told.model_dump_json(indent=2)) if json else probing.tell(told)


DecodeFile = Annotated[Path | None, typer.Argument(help="A file, or - for standard input.", show_default=False)]
Hexadecimal = Annotated[str | None, typer.Option("--hex", help="The bytes, in hexadecimal.", show_default=False)]
AsJson = Annotated[bool, typer.Option("--json", help="As JSON.")]


@decode.command(name="usb")
def decode_usb(file: DecodeFile = None, written: Hexadecimal = None, json: AsJson = False) -> None:
    """USB descriptors, capabilities and hubs, as a device or the kernel gives them."""
    from auditra.cli.decode import as_json, bytes_of, usb_in_words, usb_of

    found = usb_of(bytes_of(file, written))
    _echo_json(as_json(found)) if json else usb_in_words(found)


@decode.command(name="edid")
def decode_edid(
    file: DecodeFile = None,
    written: Hexadecimal = None,
    beside: Annotated[
        Path | None,
        typer.Option("--beside", help="The same display's description through something else.", show_default=False),
    ] = None,
    json: AsJson = False,
    as_rig: Annotated[bool, typer.Option("--as-rig", help="As a display of a rig file (TOML).")] = False,
) -> None:
    """A display's own description (EDID, CTA-861, DisplayID), and how another of the same display differs."""
    from auditra.cli.decode import as_json, bytes_of, edid_as_rig, edid_in_words
    from auditra.documents.decode_edid import edid_of

    found = edid_of(bytes_of(file, written), bytes_of(beside, None) if beside is not None else None)
    if as_rig:
        edid_as_rig(found)
    else:
        _echo_json(as_json(found)) if json else edid_in_words(found)


@decode.command(name="pd")
def decode_pd(file: DecodeFile = None, written: Hexadecimal = None, json: AsJson = False) -> None:
    """A log of USB Power Delivery messages: who offered, asked and granted what, and why it was not more."""
    from auditra.cli.decode import as_json, power_in_words, power_of

    found = power_of(file, written)
    _echo_json(as_json(found)) if json else power_in_words(found)


@decode.command(name="cable")
def decode_cable(file: DecodeFile = None, written: Hexadecimal = None, json: AsJson = False) -> None:
    """A cable's marker, wires, copper and seller's words side by side; --hex is its marker alone."""
    from auditra.cli.decode import as_json, cable_in_words, cable_of

    found = cable_of(file, written)
    _echo_json(as_json(found)) if json else cable_in_words(found)


@app.command()
def read(
    text: Annotated[
        Path, typer.Argument(help="A file with the seller's text, or - for standard input.", show_default=False)
    ],
    json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Propose claims for a seller's text, each with the words it came from and how sure the reading is."""
    from auditra.cli.read import as_json, load_text, tell
    from auditra.core.advert.reader import read_text

    found = read_text(load_text(text))
    _echo_json(as_json(found)) if json else tell(found)


@app.command()
def check(
    sheet: Annotated[Path, typer.Argument(help="A claim sheet (TOML).", show_default=False)],
    json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Say what a sheet's own sums say before any testing; ends with 1 where something cannot be."""
    from auditra.cli.check import as_json, look_at, tell
    from auditra.core.paper_check.remark import Weight

    remarks = look_at(sheet)
    _echo_json(as_json(remarks)) if json else tell(remarks)
    if any(remark.weight is Weight.CANNOT_BE for remark in remarks):
        raise typer.Exit(1)


@app.command(name="carries")
def carries_(
    links: Annotated[
        list[str] | None,
        typer.Argument(
            help='Links in the order of the way, such as "usb-c 8.1 + gen 2x1", "hdmi 600", "ethernet 2.5 Gb/s".',
            show_default=False,
        ),
    ] = None,
    show: Annotated[list[str] | None, typer.Option(help="A display mode; may be said again for more.")] = None,
    data: Annotated[str | None, typer.Option(help='Data payload beside it, such as "400 MB/s".')] = None,
    depth: Annotated[int, typer.Option(help="Bits a sample: 8, 10 or 12.")] = 8,
    chroma: Annotated[str, typer.Option(help="4:4:4, 4:2:2 or 4:2:0.")] = "4:4:4",
    compressed: Annotated[float | None, typer.Option(min=6, max=36, help="Bits a pixel it is compressed to.")] = None,
    amperes: Annotated[str | None, typer.Option(help="A current through copper: with --length and --gauge.")] = None,
    length: Annotated[str | None, typer.Option(help='How long the cable is, such as "1.2 m" or "6 ft".')] = None,
    gauge: Annotated[int | None, typer.Option(help="Its wires, AWG.")] = None,
    category: Annotated[str | None, typer.Option(help="Of a network cable: with --length and --data.")] = None,
) -> None:
    """Say whether links, or a cable, can carry something by their standards, with the sum."""
    from auditra.cli.carries import Asked, answer, category_answer, copper_answer

    if amperes and length and gauge is not None:
        typer.echo(copper_answer(amperes, length, gauge))
    if category and length and data:
        typer.echo(category_answer(category, length, data))
    if links:
        typer.echo(answer(links, Asked(show or (), data, depth, chroma, compressed)))
    elif not (length and ((amperes and gauge is not None) or (category and data))):
        raise AuditraError(
            "nothing to carry over", why="no link is named", do='Name one, such as "usb-c 8.1 + gen 2x1"'
        )


@app.command()
def schema(of: Annotated[SchemaName, typer.Argument(help="Which format.", show_default=False)]) -> None:
    """Print the JSON Schema of a format."""
    from auditra.cli.exchange import schema_of

    typer.echo(schema_of(of))


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
    for path in workshop.publish(workshop.open_desk(audit).checked(), out):
        typer.echo(sanitize(str(path), 400))


def _shelve_if_demo(opened: Opened, name: str) -> None:
    """A demo audit asked for by name needs no other preparation."""
    if name in {demo.name for demo in DEMOS} and name not in opened.library.names():
        opened.put_demos_on_shelf()
        typer.echo(f"{name} is a demo audit; it now is on the shelf.")
