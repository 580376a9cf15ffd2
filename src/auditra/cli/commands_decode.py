"""``auditra decode``: the commands that read bytes, and how JSON is printed."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

decode = typer.Typer(help="Decode binary data and report errors in it.", no_args_is_help=True)


def echo_json(text: str) -> None:
    """JSON for a terminal or a program: the same value, and nothing in it steers a terminal."""
    from auditra.core.sanitize import escaped_json

    typer.echo(escaped_json(text))


def end_unless(anything: bool) -> None:
    """What could not be read at all ends with 1, whatever was printed of why not."""
    if not anything:
        raise typer.Exit(1)


DecodeFile = Annotated[Path | None, typer.Argument(help="File, or - for standard input.", show_default=False)]
Hexadecimal = Annotated[str | None, typer.Option("--hex", help="Bytes in hexadecimal.", show_default=False)]
AsJson = Annotated[bool, typer.Option("--json", help="As JSON.")]


@decode.command(name="usb")
def decode_usb(file: DecodeFile = None, written: Hexadecimal = None, json: AsJson = False) -> None:
    """Decode USB descriptors, capabilities and hubs."""
    from auditra.cli.decode import as_json, bytes_of, is_anything_read, usb_in_words, usb_of

    found = usb_of(bytes_of(file, written))
    echo_json(as_json(found)) if json else usb_in_words(found)
    end_unless(is_anything_read(found.descriptors))


@decode.command(name="edid")
def decode_edid(
    file: DecodeFile = None,
    written: Hexadecimal = None,
    beside: Annotated[
        Path | None,
        typer.Option("--beside", help="Another description of the display, to compare.", show_default=False),
    ] = None,
    json: AsJson = False,
    as_rig: Annotated[bool, typer.Option("--as-rig", help="Print it as a display for a rig file (TOML).")] = False,
) -> None:
    """Decode a display's description (EDID, CTA-861, DisplayID), and compare it with another of the same display."""
    from auditra.cli.decode import as_json, bytes_of, edid_as_rig, edid_in_words
    from auditra.documents.decode_edid import edid_of

    found = edid_of(bytes_of(file, written), bytes_of(beside, None) if beside is not None else None)
    if as_rig:
        edid_as_rig(found)
    else:
        echo_json(as_json(found)) if json else edid_in_words(found)
    end_unless(found.edid.is_readable)


@decode.command(name="pd")
def decode_pd(
    file: DecodeFile = None,
    written: Hexadecimal = None,
    json: AsJson = False,
    wire: Annotated[str, typer.Option("--wire", help="Wire of a capture; otherwise the one with most messages.")] = "",
) -> None:
    """Decode USB Power Delivery messages, from a log or a captured CC line (VCD): offers, requests, contracts, and why
    power was limited."""
    from auditra.cli.decode import as_json, power_in_words, power_of

    found = power_of(file, written, wire)
    echo_json(as_json(found)) if json else power_in_words(found)
    end_unless(bool(found.conversation.messages))


@decode.command(name="cable")
def decode_cable(file: DecodeFile = None, written: Hexadecimal = None, json: AsJson = False) -> None:
    """Compare a cable's marker, wires, copper and advertised ratings; --hex takes only the marker."""
    from auditra.cli.decode import as_json, cable_in_words, cable_of

    found = cable_of(file, written)
    echo_json(as_json(found)) if json else cable_in_words(found)
