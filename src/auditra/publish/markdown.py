"""The report as Markdown for a site, with its figures as files beside it."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.report.document import Block, ChainFigure, ChartFigure, Document, Faces, Photo
from auditra.publish.drawings.print import drawing_bytes
from auditra.publish.figures import drawing_of
from auditra.publish.pictures import Keeper, page_picture
from auditra.publish.templates import render

TEMPLATE = "report.md.j2"


def markdown_of(
    document: Document, judged: JudgedAudit | None, evidence: Keeper, own_templates: Path | None, figures: str
) -> tuple[bytes, dict[str, bytes]]:
    """The text, and the figures by the names that it has for them, in a folder of this name.

    Raises: InputError for a template of the reviewer's that does not work.
    """
    files: dict[str, bytes] = {}
    names: dict[int, str] = {}
    for number, block in enumerate(_figures(document), start=1):
        if isinstance(block, Photo):
            data, ending = page_picture(block.sha256, evidence), "jpg"
        else:
            data, ending = drawing_bytes(drawing_of(block, judged), "svg", block.caption.text), "svg"
        if data:
            names[id(block)] = name = f"{figures}/figure-{number:02}.{ending}"
            files[name] = data
    text = render(TEMPLATE, document, own_templates, {"file": lambda block: names.get(id(block), "")})
    return text.encode(), files


def _figures(document: Document) -> Iterator[Faces | ChartFigure | ChainFigure | Photo]:
    for chapter in document.chapters:
        for block in chapter.blocks:
            yield from _as_figure(block)


def _as_figure(block: Block) -> Iterator[Faces | ChartFigure | ChainFigure | Photo]:
    if isinstance(block, Faces | ChartFigure | ChainFigure | Photo):
        yield block
