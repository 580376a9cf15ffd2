"""A button's truth table: lids down, states of the host across, a press and its control in each cell."""

from __future__ import annotations

from collections.abc import Sequence

from textual.content import Content

from auditra.core.judge.truth_table import Press, TruthTable
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.cells import fill
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_LID, _CELL = 12, 30


def render_truth_tables(tables: Sequence[TruthTable], palette: Palette) -> Content:
    """One below the other."""
    lines: list[Content] = []
    for table in tables:
        lines += [heading(f"button {table.port}", palette, "with the press, and without it"), Content("")]
        states = "".join(fill(state or "any state", _CELL) for state in table.states)
        lines.append(Content.styled(" " * _LID + states, palette.quiet))
        for lid in table.lids:
            cells = [_cell(table.cells.get((lid, state), ()), palette) for state in table.states]
            lines.append(Content.assemble((fill(lid or "any lid", _LID), palette.quiet), *cells))
        lines.append(Content(""))
    return Content("\n").join(lines[:-1])


def _cell(presses: tuple[Press, ...], palette: Palette) -> Content:
    if not presses:
        return Content.styled(fill("no claim", _CELL), palette.quiet)
    press = presses[0]
    without = f", by itself {press.by_itself}" if press.by_itself else ""
    more = f" +{len(presses) - 1}" if len(presses) > 1 else ""
    words = sanitize(f"{press.verdict.mark} {press.what} {press.worked}{without}{more}", 80)
    return Content.styled(fill(words, _CELL), palette.of(press.verdict))
