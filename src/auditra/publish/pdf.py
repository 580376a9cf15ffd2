"""The report as PDF: a first page with the verdict, contents with page numbers, chapters, figures as vectors."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    CondPageBreak,
    Flowable,
    Frame,
    Image,
    KeepTogether,
    PageTemplate,
    Paragraph,
    Spacer,
    Table,
    TableStyle,
)

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.report import document as doc
from auditra.core.report.document import band_text
from auditra.core.sanitize import sanitize
from auditra.publish.drawings.paper import BOLD, COPPER, FONT, INK, INKS, OXIDE, QUIET, RULE, VERDICT_INK
from auditra.publish.figures import drawing_of
from auditra.publish.pictures import Keeper, page_picture

_BODY = ParagraphStyle("body", fontName=FONT, fontSize=8.6, leading=11.6, textColor=INK, splitLongWords=1)
_LEAD = ParagraphStyle(
    "lead", parent=_BODY, fontSize=10.2, leading=14.4, borderPadding=(6, 8, 6, 8), backColor="#f6f1e7", spaceBefore=8,
    spaceAfter=10,
)  # fmt: skip
_SMALL = ParagraphStyle("small", parent=_BODY, fontSize=7.2, leading=9.2, textColor=QUIET)
_SMALL_RIGHT = ParagraphStyle("small right", parent=_SMALL, alignment=2)
_RIGHT = ParagraphStyle("right", parent=_BODY, alignment=2)
_CODE = ParagraphStyle("code", parent=_BODY, fontName="Courier", fontSize=7.6, leading=10)
_ITEM = ParagraphStyle("item", parent=_BODY, leftIndent=9, bulletIndent=0, spaceBefore=2)
_CHAPTER = ParagraphStyle(
    "chapter", parent=_BODY, fontName=BOLD, fontSize=13, leading=17, textColor=COPPER, spaceBefore=14, spaceAfter=4,
)  # fmt: skip
_HEAD = ParagraphStyle("head", parent=_BODY, fontName=BOLD, fontSize=9.4, leading=12.5, spaceBefore=8, spaceAfter=2)
_TITLE = ParagraphStyle("title", parent=_BODY, fontName=BOLD, fontSize=22, leading=27)
_SCORE = ParagraphStyle("score", parent=_BODY, fontSize=12, leading=24)
_CONTENTS_SIZE, _CONTENTS_LINE = 8.6, 14.0
_FIGURES = (doc.Faces, doc.ChartFigure, doc.ChainFigure, doc.Photo)
_MARGIN, _FOOT = 18 * mm, 9 * mm
_PICTURE_HEIGHT = 110 * mm


def pdf_of(document: doc.Document, judged: JudgedAudit | None, evidence: Keeper) -> bytes:
    """The report, A4. The same document is the same bytes."""
    buffer = BytesIO()
    made = _Template(buffer, document)
    setter = _Setter(judged, evidence, made.width)
    made.build(list(setter.story(document)))
    return buffer.getvalue()


class _Template(BaseDocTemplate):  # type: ignore[misc]
    """Pages with a foot, and chapters that tell the contents where they stand."""

    def __init__(self, buffer: BytesIO, document: doc.Document) -> None:
        title = sanitize(document.title, 120)
        super().__init__(
            buffer, pagesize=A4, leftMargin=_MARGIN, rightMargin=_MARGIN, topMargin=16 * mm, bottomMargin=17 * mm,
            title=title, author=sanitize(document.summary.reviewer, 80) if document.summary else "Auditra",
            subject=sanitize(document.version, 120), invariant=1,
        )  # fmt: skip
        frame = Frame(self.leftMargin, self.bottomMargin, self.width, self.height, 0, 0, 0, 0)
        self.begins_on: dict[str, int] = {}
        self.foot = f"{title}   {sanitize(document.version, 80)}"
        self.addPageTemplates([PageTemplate("page", [frame], onPage=self._add_foot)])

    def _add_foot(self, canvas: Canvas, _: object) -> None:
        canvas.saveState()
        canvas.setFont(FONT, 7)
        canvas.setFillColor(QUIET)
        canvas.drawString(self.leftMargin, _FOOT, self.foot)
        canvas.drawRightString(A4[0] - self.rightMargin, _FOOT, f"{canvas.getPageNumber()}")
        canvas.restoreState()

    def afterFlowable(self, flowable: Flowable) -> None:
        if isinstance(flowable, _ChapterTitle):
            self.canv.bookmarkPage(flowable.anchor)
            self.canv.addOutlineEntry(flowable.words, flowable.anchor, 0, closed=True)
            self.begins_on[flowable.anchor] = self.page

    def _endBuild(self) -> None:
        """The page numbers of the contents are drawn last, when they are known: two passes would take twice as long."""
        for anchor, page in self.begins_on.items():
            self.canv.beginForm(_number_form(anchor), -40, -4, 40, 12)
            self.canv.setFont(FONT, _CONTENTS_SIZE)
            self.canv.setFillColor(INK)
            self.canv.drawRightString(0, 0, f"{page}")
            self.canv.endForm()
        super()._endBuild()


def _number_form(anchor: str) -> str:
    """A name that PDF takes: letters and digits alone."""
    return "number" + "".join(filter(str.isalnum, anchor))


class _Contents(Flowable):  # type: ignore[misc]
    """The chapters with dots up to their page numbers; each leads to its chapter."""

    def __init__(self, chapters: Sequence[doc.Chapter]) -> None:
        super().__init__()
        self._chapters = [(sanitize(chapter.title, 90), chapter.id) for chapter in chapters]

    def wrap(self, width: float, _: float) -> tuple[float, float]:
        self.width, self.height = width, _CONTENTS_LINE * len(self._chapters)
        return self.width, self.height

    def draw(self) -> None:
        y = self.height - _CONTENTS_SIZE
        for title, anchor in self._chapters:
            self.canv.setFont(FONT, _CONTENTS_SIZE)
            self.canv.setFillColor(INK)
            self.canv.drawString(0, y, title)
            self.canv.setStrokeColor(QUIET)
            self.canv.setDash(0.5, 3)
            self.canv.line(stringWidth(title, FONT, _CONTENTS_SIZE) + 6, y + 1, self.width - 22, y + 1)
            self.canv.setDash()
            self.canv.saveState()
            self.canv.translate(self.width, y)
            self.canv.doForm(_number_form(anchor))
            self.canv.restoreState()
            self.canv.linkRect("", anchor, (0, y - 3, self.width, y + _CONTENTS_SIZE), relative=1, thickness=0)
            y -= _CONTENTS_LINE


class _ChapterTitle(Paragraph):  # type: ignore[misc]
    def __init__(self, chapter: doc.Chapter) -> None:
        self.words, self.anchor = sanitize(chapter.title, 120), chapter.id
        super().__init__(escape(chapter.title), _CHAPTER)


class _Setter:
    """Sets blocks as flowables of a width."""

    def __init__(self, judged: JudgedAudit | None, evidence: Keeper, width: float) -> None:
        self._judged, self._evidence, self._width = judged, evidence, width

    def story(self, document: doc.Document) -> Iterator[Flowable]:
        yield Paragraph(escape(document.subtitle), _SMALL)
        yield Paragraph(escape(document.title), _TITLE)
        if document.summary is not None:
            yield Paragraph(_score(document.summary), _SCORE)
        by = f", by {document.summary.reviewer}" if document.summary and document.summary.reviewer else ""
        yield Paragraph(escape(f"{document.version}{by}"), _SMALL)
        for chapter in document.chapters[:1]:
            yield from self._chapter(chapter)
        yield Paragraph("Contents", _HEAD)
        yield _Contents(document.chapters)
        for chapter in document.chapters[1:]:
            yield from self._chapter(chapter)

    def _chapter(self, chapter: doc.Chapter) -> Iterator[Flowable]:
        is_drawn = isinstance(chapter.blocks[0], _FIGURES) if chapter.blocks else False
        yield CondPageBreak((100 if is_drawn else 40) * mm)
        yield _ChapterTitle(chapter)
        for block, following in zip(chapter.blocks, (*chapter.blocks[1:], None), strict=True):
            if isinstance(block, doc.Heading):
                yield CondPageBreak((100 if isinstance(following, _FIGURES) else 22) * mm)
            yield from self._block(block)

    def _block(self, block: doc.Block) -> Iterator[Flowable]:
        match block:
            case doc.Para(said, lead):
                yield Paragraph(_line(said), _LEAD if lead else _BODY)
            case doc.Heading(text):
                yield Paragraph(escape(text), _HEAD)
            case doc.Items(items):
                yield from (Paragraph(_line(item), _ITEM, bulletText="\N{EN DASH}") for item in items)
            case doc.Table():
                yield self._table(block)
            case doc.Paste(lines):
                yield from self._paste(lines)
            case doc.Photo():
                yield from self._photo(block)
            case doc.Faces() | doc.ChartFigure() | doc.ChainFigure():
                drawing = _scaled(drawing_of(block, self._judged), self._width)
                yield KeepTogether([Spacer(1, 4), drawing, Paragraph(_said(block.caption), _SMALL), Spacer(1, 4)])

    def _paste(self, lines: Iterable[doc.Said]) -> Iterator[Flowable]:
        yield Spacer(1, 3)
        for line in lines:
            text = escape(line.text)
            yield Paragraph(f"<b>{text}</b>" if line.tone is doc.Tone.STRONG else text, _CODE)
        yield Spacer(1, 3)

    def _photo(self, photo: doc.Photo) -> Iterator[Flowable]:
        caption = Paragraph(_said(photo.caption), _SMALL)
        data = page_picture(photo.sha256, self._evidence)
        if not data:
            yield caption
            return
        picture = Image(BytesIO(data))
        factor = min(1.0, self._width / picture.imageWidth, _PICTURE_HEIGHT / picture.imageHeight)
        picture.drawWidth, picture.drawHeight = picture.imageWidth * factor, picture.imageHeight * factor
        picture.hAlign = "LEFT"
        yield KeepTogether([Spacer(1, 4), picture, caption, Spacer(1, 4)])

    def _table(self, table: doc.Table) -> Flowable:
        rows: list[list[Any]] = []
        if any(table.head):
            styles = (_SMALL_RIGHT if column in table.numbers else _SMALL for column in range(len(table.head)))
            rows.append([Paragraph(escape(each), style) for each, style in zip(table.head, styles, strict=True)])
        rows += [self._row(row, table) for row in table.rows]
        style: list[tuple[object, ...]] = [
            ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE),
            ("TOPPADDING", (0, 0), (-1, -1), 2), ("BOTTOMPADDING", (0, 0), (-1, -1), 2.4),
            ("LEFTPADDING", (0, 0), (-1, -1), 0), ("RIGHTPADDING", (0, 0), (-1, -1), 5),
        ]  # fmt: skip
        if table.foot:
            rows.append(self._row(table.foot, table))
            style.append(("LINEABOVE", (0, -1), (-1, -1), 0.7, INK))
        widths = [share * self._width for share in table.shares]
        made = Table(rows, colWidths=widths, hAlign="LEFT", repeatRows=int(any(table.head)), splitInRow=1)
        made.setStyle(TableStyle(style))
        return made

    @staticmethod
    def _row(row: Sequence[doc.Cell], table: doc.Table) -> list[Any]:
        return [
            [Paragraph(_said(each), _style(each, is_number=column in table.numbers)) for each in cell] or ""
            for column, cell in enumerate(row)
        ]


def _style(said: doc.Said, *, is_number: bool) -> ParagraphStyle:
    return _RIGHT if is_number else _SMALL if said.tone is doc.Tone.QUIET else _BODY


def _line(said: Iterable[doc.Said]) -> str:
    return " ".join(map(_said, said))


def _said(said: doc.Said) -> str:
    text = escape(said.text)
    if said.verdict is not None:
        ink = VERDICT_INK[said.verdict].hexval()[2:]
        mark = f'<font color="#{ink}"><b>{escape(said.verdict.mark)} {said.verdict.word}</b></font>'
        return mark if said.text == said.verdict.word else f"{mark} {text}"
    match said.tone:
        case doc.Tone.STRONG:
            return f"<b>{text}</b>"
        case doc.Tone.ALARM:
            return f'<font color="#{OXIDE.hexval()[2:]}"><b>{text}</b></font>'
        case doc.Tone.QUIET:
            return f'<font color="#{INKS["quiet"].hexval()[2:]}">{text}</font>'
        case _:
            return text


def _score(summary: doc.Summary) -> str:
    value = "no score" if summary.score is None else f"{summary.score}"
    number = f'<font size="20" color="#{COPPER.hexval()[2:]}"><b>{value}</b></font>'
    return f"{number}  {escape(summary.advice)}{escape(band_text(summary))}"


def _scaled(drawing: Drawing, width: float) -> Drawing:
    factor = min(1.0, width / drawing.width)
    drawing.scale(factor, factor)
    drawing.width, drawing.height = drawing.width * factor, drawing.height * factor
    drawing.hAlign = "LEFT"
    return drawing
