"""The grid of hosts and functions: a mark for what each host has shown, a dot for what was not tried on it."""

from __future__ import annotations

from collections.abc import Sequence

from textual.content import Content

from auditra.core.counted import counted
from auditra.core.judge.host_grid import HostRow
from auditra.core.model.rig import Host
from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import cut, fill
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_CELL = 12
_MIN_CLAIM = 16


def render_host_grid(
    hosts: Sequence[Host], rows: Sequence[HostRow], port: str | None, width: int, palette: Palette
) -> Content:
    """Claims down, hosts across; those of the chosen port stand out."""
    shown = hosts[: max(1, (width - _MIN_CLAIM) // _CELL)]
    first = max(_MIN_CLAIM, min(46, width - _CELL * len(shown)))
    empty = sum(verdict is None for row in rows for verdict in row.verdicts)
    tail = f"{counted(empty, 'cell')} empty" if empty else "every host tried"
    lines = [heading("hosts", palette, tail), Content("")]
    names = "".join(fill(sanitize(host.name, 30), _CELL - 1) + " " for host in shown)
    lines.append(Content.styled(" " * first + names, palette.quiet))
    for row in rows:
        style = f"bold {palette.accent}" if port in row.claim.ports else palette.ink
        cells = [_cell(verdict, palette) for verdict in row.verdicts[: len(shown)]]
        claim = fill(cut(sanitize(str(row.claim), 80), first - 2), first)
        lines.append(Content.assemble((claim, style), *cells))
    return Content("\n").join(lines)


def _cell(verdict: Verdict | None, palette: Palette) -> Content:
    if verdict is None:
        return Content.styled(fill("not tried", _CELL), palette.quiet)
    return Content.styled(fill(f"{verdict.mark} {verdict.word}", _CELL), f"bold {palette.of(verdict)}")
