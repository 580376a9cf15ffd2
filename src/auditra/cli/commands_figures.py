"""The commands that calculate: link and cable capacity, host power, port voltages."""

from __future__ import annotations

from typing import Annotated

import typer

from auditra.core.errors import AuditraError

figures = typer.Typer()


@figures.command(name="carries")
def carries_(
    links: Annotated[
        list[str] | None,
        typer.Argument(
            help='Links in order from the host, such as "usb-c 8.1 + gen 2x1", "hdmi 600", "ethernet 2.5 Gb/s".',
            show_default=False,
        ),
    ] = None,
    show: Annotated[list[str] | None, typer.Option(help="Display mode; may be repeated.")] = None,
    data: Annotated[str | None, typer.Option(help='Data payload at the same time, such as "400 MB/s".')] = None,
    depth: Annotated[int, typer.Option(help="Bits per sample: 8, 10 or 12.")] = 8,
    chroma: Annotated[str, typer.Option(help="4:4:4, 4:2:2 or 4:2:0.")] = "4:4:4",
    compressed: Annotated[float | None, typer.Option(min=6, max=36, help="Compressed bits per pixel.")] = None,
    amperes: Annotated[str | None, typer.Option(help="Current through the cable; needs --length.")] = None,
    length: Annotated[str | None, typer.Option(help='Cable length, such as "1.2 m" or "6 ft".')] = None,
    gauge: Annotated[int | None, typer.Option(help="Wire gauge (AWG).")] = None,
    ground_gauge: Annotated[int | None, typer.Option(help="Gauge of the ground wire, if different.")] = None,
    celsius: Annotated[float, typer.Option(help="Wire temperature in degrees Celsius.")] = 20.0,
    most: Annotated[
        str | None, typer.Option(help="Maximum drop; finds the thinnest gauge.", show_default=False)
    ] = None,
    category: Annotated[str | None, typer.Option(help="Network cable category; needs --length and --data.")] = None,
) -> None:
    """Check whether links or a cable can carry a picture and data at the same time, with the arithmetic.

    Without a link, shows the slowest links that can.
    """
    from auditra.cli.carries import Asked, Wire, answer, category_answer, copper_answer, gauge_answer, slowest_answer

    asked = Asked(show or (), data, depth, chroma, compressed)
    told = []
    if amperes and length and gauge is not None:
        told.append(copper_answer(amperes, length, Wire(gauge, ground_gauge, celsius)))
    elif amperes and length and most:
        told.append(gauge_answer(amperes, length, most))
    if category and length and data:
        told.append(category_answer(category, length, data))
    if links:
        told.append(answer(links, asked))
    elif (show or data) and not told:
        told.append(slowest_answer(asked))
    if not told:
        do = 'Name one, such as "usb-c 8.1 + gen 2x1", or use --show or --data to find one'
        raise AuditraError("nothing to carry over", why="no link is named", do=do)
    typer.echo("\n".join(told))


@figures.command()
def supply(
    watts: Annotated[str, typer.Argument(help='Supply power, such as "100 W".', show_default=False)],
    own: Annotated[str, typer.Option(help="Power the device itself uses.")] = "0 W",
    gives: Annotated[list[str] | None, typer.Option(help="Power drawn by an output; may be repeated.")] = None,
    marked: Annotated[
        str | None, typer.Option(help='Marker of the cable to the host, such as "5 A" or "50 V 5 A".')
    ] = None,
) -> None:
    """Calculate the power a supply leaves for the host, and the cable it requires."""
    from auditra.cli.power_sums import supply_answer

    typer.echo(supply_answer(watts, own, gives or [], marked))


@figures.command()
def volts(
    readings: Annotated[
        list[str],
        typer.Argument(help='Voltage at a USB port, such as "4.83 V" or "4.83 V at 3 A".', show_default=False),
    ],
    bus_powered: Annotated[bool, typer.Option("--bus-powered", help="The port belongs to a bus-powered hub.")] = False,
    length: Annotated[str | None, typer.Option(help="Cable length; adds the equivalent wire gauge.")] = None,
) -> None:
    """Check port voltages against USB 2.0 limits; with currents, calculate the loop resistance."""
    from auditra.cli.power_sums import volts_answer

    typer.echo(volts_answer(readings, bus_powered=bus_powered, length=length))
