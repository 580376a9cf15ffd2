"""An audit on the shelf, in two lines or four: what it is, where its score stands, and every port's mark."""

from __future__ import annotations

from textual.content import Content

from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.scale import render_band
from auditra.tui.theme import Palette
from auditra.workflows.audits.shelf import ShelfRow

_BAND_WIDTH = 30
_FOLDS_BELOW, _NO_BAND_BELOW, _WIDEST = 100, 70, 150
_VERDICT_OF_WORD = {verdict.word: verdict for verdict in Verdict}


def lines_a_row(width: int) -> int:
    """How many lines a row takes, the empty one after it included."""
    return 5 if width < _FOLDS_BELOW else 3


def render_row(row: ShelfRow, width: int, palette: Palette) -> list[Content]:
    """The lines of a row, without the empty one after it."""
    if row.trouble:
        return _trouble_lines(row, width, palette)
    score = f"score {row.score}" if row.score else "no score"
    left = Content.assemble(
        (sanitize(row.device, 40), f"bold {palette.ink}"), (f"  {sanitize(row.kind, 30)}", palette.quiet)
    )
    right = Content.assemble((score, f"bold {palette.accent}"), (f"  ({row.lowest} to {row.highest})", palette.quiet))
    todo = f"{row.to_do} trials to do" if row.to_do else "all trials done"
    after = f", follows {sanitize(row.follows, 20)}" if row.follows else ""
    away = ", archived" if row.archived else ""
    below = Content.styled(
        f"{sanitize(row.name, 20)} on {sanitize(row.rig, 20)}{after}{away}, "
        f"{row.decided} of {row.claims} claims decided, {todo}",
        palette.quiet,
    )
    all_marks = [_mark(port, word, palette) for port, word in row.marks]
    marks = Content("  ").join(all_marks)
    band = render_band(
        float(row.lowest), float(row.score) if row.score else None, float(row.highest), _BAND_WIDTH, palette
    )
    if width < _FOLDS_BELOW:
        return [left, Content.assemble(right, "  ", band) if width >= _NO_BAND_BELOW else right, below, marks]
    room = min(width, _WIDEST) - 6
    fitting = _fitting(all_marks, room - below.cell_length - 2, palette)
    return [_apart(left, Content.assemble(band, "  ", right), room), _apart(below, fitting, room)]


def _trouble_lines(row: ShelfRow, width: int, palette: Palette) -> list[Content]:
    """An audit that cannot be opened, and why."""
    lines = [
        Content.styled(sanitize(row.name, 60), f"bold {palette.ink}"),
        Content.styled(f"cannot be opened: {sanitize(row.trouble, max(20, width - 24))}", palette.broken),
    ]
    return lines + [Content("")] * (lines_a_row(width) - 1 - len(lines))


def _mark(port: str, word: str, palette: Palette) -> Content:
    verdict = _VERDICT_OF_WORD.get(word, Verdict.OPEN)
    return Content.assemble((f"{sanitize(port, 8)}", palette.quiet), (verdict.mark, f"bold {palette.of(verdict)}"))


def _fitting(marks: list[Content], room: int, palette: Palette) -> Content:
    """As many marks as there is room for, and how many more there are."""
    for count in range(len(marks), 0, -1):
        more = f"  +{len(marks) - count}" if count < len(marks) else ""
        shown = Content.assemble(Content("  ").join(marks[:count]), (more, palette.quiet))
        if shown.cell_length <= room:
            return shown
    return Content("")


def _apart(left: Content, right: Content, width: int) -> Content:
    return Content.assemble(left, " " * max(2, width - left.cell_length - right.cell_length), right)
