"""The commands for what stands on the bench: this machine's links, a network peer, instruments."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from auditra.cli.commands_decode import echo_json
from auditra.cli.composition import LibraryHandle
from auditra.core.errors import InputError

bench = typer.Typer()


@bench.command()
def probe(
    json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
    root: Annotated[Path, typer.Option(help="Root of the kernel attributes, or a copy.")] = Path("/sys"),
    diff: Annotated[
        tuple[Path, Path] | None,
        typer.Option(help="Compare two --json files or two copied trees.", show_default=False),
    ] = None,
    watch: Annotated[bool, typer.Option("--watch", help="Print changes as they happen.")] = False,
    seconds: Annotated[
        float | None, typer.Option("--for", min=0, help="Seconds to watch; default: until stopped.")
    ] = None,
) -> None:
    """Show what the kernel reports about this machine's links."""
    from auditra.cli import probe as probing

    if diff is not None:
        found = probing.compare(*diff)
        echo_json(found.model_dump_json(indent=2)) if json else probing.tell_changes(found.changes)
    elif watch:
        probing.watch(root, seconds, as_json=json)
    else:
        told = probing.look(root)
        echo_json(told.model_dump_json(indent=2)) if json else probing.tell(told)


@bench.command(name="host-report")
def host_report(
    write: Annotated[
        Path | None,
        typer.Option(help="Write a program that prints this on a computer with only Python.", show_default=False),
    ] = None,
) -> None:
    """Print what this computer shows of its links, on any system, as probe --json does."""
    from auditra.bench.host_report import main, write_program

    if write is None:
        main()
        return
    try:
        write_program(write)
    except OSError as error:
        raise InputError(str(write), why=error.strerror or str(error), do="Name another file") from error
    typer.echo(f"On the other computer: python3 {write.name} > host.json")


@bench.command()
def peer(
    host: Annotated[str, typer.Option(help="The own address to serve on; default: every one.")] = "",
    port: Annotated[int, typer.Option(min=0, max=65535, help="TCP and UDP port; 0: any that is free.")] = 8620,
) -> None:
    """Serve network trials to another machine that knows the token shown here."""
    from auditra.cli.peer import serve

    serve(host, port)


@bench.command()
def instruments(
    context: typer.Context,
    copy: Annotated[str | None, typer.Option(help="Copy this description, to edit it.", show_default=False)] = None,
    name: Annotated[str, typer.Option("--as", help="Name of the copy.")] = "mine",
    ask: Annotated[
        str | None, typer.Option(help="Ask the instrument at this address for everything.", show_default=False)
    ] = None,
    speaks: Annotated[str, typer.Option(help="The description to ask it by.")] = "common",
) -> None:
    """List how instruments are spoken to, copy a description, or ask an instrument."""
    from auditra.cli.instruments import ask_instrument, copy_description, list_descriptions

    handle: LibraryHandle = context.obj
    if ask is not None:
        ask_instrument(handle, ask, speaks)
    elif copy is not None:
        copy_description(handle, copy, name)
    else:
        list_descriptions(handle)
