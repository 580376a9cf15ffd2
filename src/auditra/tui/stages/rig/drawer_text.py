"""The parts of a rig as a list, grouped by what they can show, each with the figure that matters."""

from __future__ import annotations

from collections.abc import Mapping

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.model.rig import (
    Adapter,
    Card,
    Display,
    Drain,
    Drive,
    Host,
    Lead,
    Load,
    Meter,
    Origin,
    Part,
    Peer,
    Reader,
    Rig,
    Rule,
    Supply,
    Thermometer,
)
from auditra.core.quantities.display import bit_rate, byte_rate, length
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut, fill
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

GROUPS: Mapping[str, tuple[type[Part], ...]] = {
    "hosts": (Host,),
    "displays": (Display,),
    "drives and cards": (Drive, Card, Reader),
    "supplies and loads": (Supply, Drain, Load),
    "meters": (Meter, Thermometer, Rule),
    "network": (Peer,),
    "leads and adapters": (Lead, Adapter),
}
"""What a rig has, by what it can show."""
_NAME_WIDTH = 18


def parts_in_order(rig: Rig) -> tuple[Part, ...]:
    """Every part as the list shows them."""
    return tuple(part for kinds in GROUPS.values() for kind in kinds for part in rig.parts() if type(part) is kind)


def drawer_list(rig: Rig, chosen: str, state: str, width: int, palette: Palette) -> tuple[Content, int]:
    """The list, and the line of the chosen part. `state` is how the rig stands to the gear drawer."""
    parts = parts_in_order(rig)
    lines = [heading("gear", palette, f"rig {sanitize(rig.name, 30)}, {counted(len(parts), 'part')}")]
    lines += [Content.styled(cut(state, width), palette.quiet), Content("")]
    at = 0
    for group, kinds in GROUPS.items():
        members = [part for part in parts if type(part) in kinds]
        lines.append(Content.styled(group if members else f"{group}: none", palette.quiet))
        for part in members:
            if part.id == chosen:
                at = len(lines)
            lines.append(_line(part, rig, part.id == chosen, width, palette))
    return Content("\n").join(lines), at


def _line(part: Part, rig: Rig, chosen: bool, width: int, palette: Palette) -> Content:
    retired = part.id in rig.retired
    name = fill(sanitize(getattr(part, "name", part.id), 40), _NAME_WIDTH)
    words = "retired" if retired else figures_of(part)
    style = f"bold {palette.accent}" if chosen else palette.quiet if retired else palette.ink
    return Content.assemble(
        ("▸ " if chosen else "  ", palette.accent), (name, style),
        (f" {cut(sanitize(words, 80), max(0, width - _NAME_WIDTH - 3))}", palette.quiet),
    )  # fmt: skip


def figures_of(part: Part) -> str:
    """The figure by which a part is known: what it can do at most."""
    match part:
        case Host(sockets=sockets):
            return counted(len(sockets), "socket")
        case Drive(read_bps=read, write_bps=write) | Card(read_bps=read, write_bps=write):
            return f"{byte_rate(read)} read, {byte_rate(write)} write"
        case Display(modes=modes):
            return modes[0] if modes else "no mode"
        case Peer(rate_bps=rate):
            return bit_rate(rate)
        case Lead():
            return _of_lead(part)
        case Adapter(ends=ends):
            return f"{part.connector} to {', '.join(ends)}{_came(part.origin)}"
        case Supply() | Drain() | Load():
            return _of_power(part)
        case _:
            return _of_instrument(part)


def _of_lead(lead: Lead) -> str:
    known = (
        length(lead.length_m) if isinstance(lead.length_m, float) else "",
        bit_rate(lead.data_bps) if isinstance(lead.data_bps, float) else "",
        f"{lead.amperes:g} A" if isinstance(lead.amperes, float) else "",
        f"category {lead.category}" if isinstance(lead.category, str) else "",
    )
    return " ".join(filter(None, (f"{lead.ends[0]} to {lead.ends[1]}", *known))) + _came(lead.origin)


def _of_power(part: Supply | Drain | Load) -> str:
    match part:
        case Supply(volts=volts, watts=watts):
            return f"{watts:g} W, {volts:g} V{_came(part.origin)}"
        case Drain(draws_w=watts):
            return f"draws {watts:g} W"
        case Load(watts=watts):
            return f"draws up to {watts:g} W"


def _of_instrument(part: Part) -> str:
    match part:
        case Reader(bus=bus):
            return bus
        case Rule(division_m=division):
            return f"to {length(division)}"
        case Thermometer(error_k=error, spot=spot):
            return f"± {error:g} K{f', {sanitize(spot, 20)}' if isinstance(spot, str) else ''}"
        case Meter(end=end):
            return f"volts at the {end} end" if isinstance(end, str) else part.connector
        case _:
            return ""


def _came(origin: object) -> str:
    return ", supplied" if origin is Origin.SHIPPED else ""
