"""The commands that work out figures: what links and cables carry, what a supply leaves, what volts say."""

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
    ground_gauge: Annotated[int | None, typer.Option(help="Gauge of the ground wire, where it is another.")] = None,
    celsius: Annotated[float, typer.Option(help="Temperature of the wires.")] = 20.0,
    most: Annotated[str | None, typer.Option(help="Highest drop allowed; finds the gauge.", show_default=False)] = None,
    category: Annotated[str | None, typer.Option(help="Network cable category; needs --length and --data.")] = None,
) -> None:
    """Check whether links or a cable can carry a picture and data at the same time, with the arithmetic.

    Without a link, names the slowest links that can.
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
        do = 'Name one, such as "usb-c 8.1 + gen 2x1", or say what it has to carry with --show or --data'
        raise AuditraError("nothing to carry over", why="no link is named", do=do)
    typer.echo("\n".join(told))


@figures.command()
def supply(
    watts: Annotated[str, typer.Argument(help='What the supply gives, such as "100 W".', show_default=False)],
    own: Annotated[str, typer.Option(help="What the device itself uses.")] = "0 W",
    gives: Annotated[list[str] | None, typer.Option(help="What an output gives away; may be repeated.")] = None,
    marked: Annotated[
        str | None, typer.Option(help='Marker of the lead to the host, such as "5 A" or "50 V 5 A".')
    ] = None,
) -> None:
    """Work out what a supply leaves for the host behind a device, and which lead that takes."""
    from auditra.cli.power_sums import supply_answer

    typer.echo(supply_answer(watts, own, gives or [], marked))


@figures.command()
def volts(
    readings: Annotated[
        list[str], typer.Argument(help='Volts at a USB port, such as "4.83 V" or "4.83 V at 3 A".', show_default=False)
    ],
    bus_powered: Annotated[bool, typer.Option("--bus-powered", help="The port of a hub that its host feeds.")] = False,
    length: Annotated[str | None, typer.Option(help="Length of the lead between; gives the gauge.")] = None,
) -> None:
    """Hold volts at a USB 2.0 port against its limits; with currents, work out the resistance of the loop."""
    from auditra.cli.power_sums import volts_answer

    typer.echo(volts_answer(readings, bus_powered=bus_powered, length=length))
