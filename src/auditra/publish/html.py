"""The report as one HTML file: readable on a phone, light and dark, printable, with nothing outside it."""

from __future__ import annotations

from pathlib import Path

from markupsafe import Markup

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.report.document import Block, ChainFigure, ChartFigure, Document, Faces, Photo
from auditra.publish.drawings.print import inline_svg
from auditra.publish.figures import drawing_of
from auditra.publish.pictures import Keeper, data_uri, page_picture
from auditra.publish.templates import render

TEMPLATE = "report.html.j2"


def html_of(document: Document, judged: JudgedAudit | None, evidence: Keeper, own_templates: Path | None) -> bytes:
    """The page. Raises: InputError for a template of the reviewer's that does not work."""

    def drawing(block: Block) -> Markup:
        if not isinstance(block, Faces | ChartFigure | ChainFigure):
            return Markup()
        wide = inline_svg(drawing_of(block, judged), block.caption.text)
        narrow = inline_svg(drawing_of(block, judged, narrow=True), block.caption.text)
        return Markup(f'<div class="wide">{wide}</div><div class="narrow">{narrow}</div>')

    def photo(block: Block) -> str:
        return data_uri(page_picture(block.sha256, evidence)) if isinstance(block, Photo) else ""

    return render(TEMPLATE, document, own_templates, {"drawing": drawing, "photo": photo}).encode()
