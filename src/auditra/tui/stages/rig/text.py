"""The rig's hosts in words: their sockets, and what each said when it was asked."""

from __future__ import annotations

from collections.abc import Mapping

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.host.report import Weight, report_lines
from auditra.core.host.snapshot import Snapshot
from auditra.core.model.noted import in_words as noted_in_words
from auditra.core.model.rig import Host, Rig
from auditra.core.quantities.display import bit_rate
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette
from auditra.workflows.hosts.probing import unlike_the_rig


def hosts_in_words(
    rig: Rig, chosen: str, probes: Mapping[str, Snapshot], message: str, width: int, palette: Palette
) -> Content:
    """Every host a line, then the chosen one: what the rig says of it, and what it says itself."""
    lines = [heading("hosts", palette, f"rig {sanitize(rig.name, 40)}, {counted(len(rig.hosts), 'host')}"), Content("")]
    lines += [_host_line(each, each.id == chosen, each.id in probes, palette) for each in rig.hosts]
    host = rig.host(chosen)
    if host is None:
        return Content("\n").join(lines)
    lines += [Content(""), heading(sanitize(host.name, 40), palette, "from the rig file"), Content("")]
    lines += [_socket_line(host, index, palette) for index in range(len(host.sockets))]
    lines += [Content("")]
    if message:
        lines += [Content.styled(message, palette.broken), Content("")]
    found = probes.get(chosen)
    if found is None:
        ask = "Press h to probe this host; the result is kept as evidence."
        lines.append(Content.styled(ask, palette.quiet))
        return Content("\n").join(lines)
    lines += [heading(sanitize(host.name, 40), palette, "as probed"), Content("")]
    lines += [
        Content.styled(f"! {sanitize(words, width - 2)}", palette.partly) for words in unlike_the_rig(host, found)
    ]
    styles = {
        Weight.PLAIN: palette.ink, Weight.HEADING: palette.accent,
        Weight.DETAIL: palette.quiet, Weight.SHORT: palette.partly,
    }  # fmt: skip
    lines += [
        Content.styled(sanitize(line.text, width) if line.text else "", styles[line.weight])
        for line in report_lines(found)
    ]
    return Content("\n").join(lines)


def _host_line(host: Host, chosen: bool, asked: bool, palette: Palette) -> Content:
    style = f"bold {palette.accent}" if chosen else palette.ink
    wants = (
        f"draws {host.wants_w:g} W"
        if isinstance(host.wants_w, float | int)
        else f"power {noted_in_words(host.wants_w)}"
    )
    return Content.assemble(
        ("▸ " if chosen else "  ", palette.accent), (f"{sanitize(host.name, 24):24}", style),
        (f"  {counted(len(host.sockets), 'port')}, {wants}{', probed' if asked else ''}", palette.quiet),
    )  # fmt: skip


def _socket_line(host: Host, index: int, palette: Palette) -> Content:
    socket = host.sockets[index]
    picture = ", pictures" if socket.display else ""
    words = f"  {sanitize(socket.id, 8):8} {sanitize(socket.connector, 12):12} {bit_rate(socket.data_bps)}{picture}"
    return Content.styled(words, palette.ink)
