"""A chapter of the report as a page of text, and the list of chapters beside it."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator, Sequence

from textual.content import Content

from auditra.core.report.document import (
    Block,
    Cell,
    ChainFigure,
    Chapter,
    ChartFigure,
    Document,
    Faces,
    Heading,
    Items,
    Para,
    Paste,
    Photo,
    Said,
    Table,
    Tone,
)
from auditra.core.report.missing import Missing
from auditra.tui.renderables.labels import heading
from auditra.tui.theme import Palette

_GAP = 2
_MIN_COLUMN = 8


def render_contents(document: Document, at: int, missing: Sequence[Missing], palette: Palette) -> Content:
    """The chapters, the shown one marked; then what is missing before it can go out."""
    lines = [heading("report", palette, document.version), Content("")]
    for number, chapter in enumerate(document.chapters):
        style = f"bold {palette.accent}" if number == at else palette.ink
        lines.append(Content.styled(f"{'▸' if number == at else ' '} {number + 1:>2}  {chapter.title}", style))
    lines += [Content(""), heading("missing", palette, "before it goes out" if missing else "nothing")]
    for each in missing:
        colour = palette.broken if each.blocks else palette.ink
        lines.append(Content.assemble(("! " if each.blocks else "- ", colour), (each.text, colour),
                                      (f"  {each.where}", palette.quiet)))  # fmt: skip
    return Content("\n").join(lines)


def render_chapter(chapter: Chapter, width: int, palette: Palette) -> Content:
    """One chapter, as the reader will have it."""
    lines = [heading(chapter.title, palette), Content("")]
    for block in chapter.blocks:
        lines += [*_block(block, width, palette), Content("")]
    return Content("\n").join(lines)


def _block(block: Block, width: int, palette: Palette) -> Iterator[Content]:
    match block:
        case Para(said):
            yield _line(said, palette)
        case Heading(text):
            yield Content.styled(text, f"bold {palette.accent}")
        case Items(items):
            yield from (Content.assemble(("- ", palette.accent), _line(item, palette)) for item in items)
        case Paste(lines):
            yield from (Content.styled(f"  {each.text}", palette.ink) for each in lines)
        case Table():
            yield from _table(block, width, palette)
        case Faces() | ChartFigure() | ChainFigure() | Photo():
            kind = {Faces: "drawing", ChartFigure: "chart", ChainFigure: "chain", Photo: "picture"}[type(block)]
            yield Content.assemble((f"[{kind}] ", palette.quiet), (block.caption.text, palette.ink))


def _line(said: Sequence[Said], palette: Palette) -> Content:
    return Content(" ").join(_said(each, palette) for each in said)


def _said(said: Said, palette: Palette) -> Content:
    if said.verdict is not None:
        mark = Content.styled(f"{said.verdict.mark} {said.verdict.word}", palette.of(said.verdict))
        return mark if said.text == said.verdict.word else Content.assemble(mark, " ", (said.text, palette.ink))
    return Content.styled(said.text, _style(said, palette))


def _style(said: Said, palette: Palette) -> str:
    match said.tone:
        case Tone.STRONG:
            return f"bold {palette.ink}"
        case Tone.ALARM:
            return f"bold {palette.broken}"
        case Tone.QUIET:
            return palette.quiet
        case _:
            return palette.ink


def _table(table: Table, width: int, palette: Palette) -> Iterator[Content]:
    """Columns side by side, each wrapped; one below the other where there is no room for them."""
    rows = (*table.rows, *((table.foot,) if table.foot else ()))
    columns = [int(share * (width - _GAP * len(table.shares))) for share in table.shares]
    if min(columns) < _MIN_COLUMN:
        yield from (line for row in rows for line in _stacked(row, table, width, palette))
        return
    if any(table.head):
        names = [each[: columns[turn]] for turn, each in enumerate(table.head)]
        yield Content.styled(_padded(names, columns).rstrip(), palette.quiet)
    for row in rows:
        yield from _side_by_side([_cell(cell, columns[turn], palette) for turn, cell in enumerate(row)], columns)


def _side_by_side(cells: Sequence[Sequence[Content]], columns: Sequence[int]) -> Iterator[Content]:
    for line in range(max(map(len, cells), default=0)):
        parts = [cell[line] if line < len(cell) else Content("") for cell in cells]
        gaps = (" " * max(0, columns[turn] + _GAP - part.cell_length) for turn, part in enumerate(parts[:-1]))
        yield Content.assemble(*(piece for part, gap in zip(parts, (*gaps, ""), strict=True) for piece in (part, gap)))


def _stacked(row: Sequence[Cell], table: Table, width: int, palette: Palette) -> Iterator[Content]:
    for turn, cell in enumerate(row):
        name = table.head[turn] if table.head else ""
        for line, part in enumerate(_cell(cell, width - _MIN_COLUMN - _GAP, palette)):
            label = name[:_MIN_COLUMN] if line == 0 else ""
            yield Content.assemble((label.ljust(_MIN_COLUMN + _GAP), palette.quiet), part)
    yield Content("")


def _padded(texts: Sequence[str], columns: Sequence[int]) -> str:
    return "".join(text.ljust(columns[turn] + _GAP) for turn, text in enumerate(texts))


def _cell(cell: Sequence[Said], width: int, palette: Palette) -> list[Content]:
    lines: list[Content] = []
    for said in cell:
        if said.verdict is not None and said.text != said.verdict.word:
            mark = Content.styled(f"{said.verdict.mark} {said.verdict.word}", palette.of(said.verdict))
            lines += [mark, *(Content.styled(part, palette.ink) for part in textwrap.wrap(said.text, width))]
        elif said.verdict is not None:
            lines.append(_said(said, palette))
        else:
            lines += [Content.styled(part, _style(said, palette)) for part in textwrap.wrap(said.text, width) or [""]]
    return lines
