"""A kit beside the sockets of a device: which piece goes where, and what is left without one."""

from __future__ import annotations

from collections.abc import Sequence

from textual.content import Content

from auditra.core.judge.kit_fit import Fit, Placed
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import fill
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_NAME = 26


def render_kit(placed: Sequence[Placed], palette: Palette) -> Content:
    """A line a piece; what has no socket stands out."""
    without = sum(each.port is None for each in placed)
    tail = f"{without} of {len(placed)} without a socket" if without else "a socket for every piece"
    lines = [heading("kit", palette, tail), Content("")]
    for each in placed:
        name = fill(sanitize(f"{each.piece.name} {each.piece.connector}", 60), _NAME)
        if each.port is None:
            lines.append(Content.assemble((name, palette.ink), ("no socket is left for it", palette.broken)))
            continue
        style = palette.holds if each.fit is Fit.GOOD else palette.partly
        lines.append(Content.assemble((name, palette.ink), (f"{each.port:5}", palette.accent), (str(each.fit), style)))
    return Content("\n").join(lines)
