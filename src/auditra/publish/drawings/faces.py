"""The device as it stands on the desk, every port in its place with its verdict: one drawing, as SVG or PDF."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from reportlab.graphics.shapes import Drawing, Group, Line, Rect, String
from reportlab.pdfbase.pdfmetrics import stringWidth

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import Judgement
from auditra.core.model.device import Face, Port
from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize
from auditra.publish.drawings.paper import BOLD, FONT, INK, QUIET, RULE, VERDICT_INK

TILE_WIDTH, TILE_GAP, LINE_HEIGHT = 88.0, 6.0, 10.5
FACE_GAP = 18.0
MAX_TILES_A_ROW = 6
_HEAD_HEIGHT, _PADDING, _NAME_HEIGHT = 16.0, 6.0, 14.0
_PROMISE_SIZE = 7.0


@dataclass(frozen=True)
class _Run:
    """Some neighbouring ports of a face; the name stands over the first run."""

    name: str
    ports: tuple[Port, ...]


def draw_faces(judged: JudgedAudit, tiles_a_row: int = MAX_TILES_A_ROW) -> Drawing:
    """The drawing: faces side by side as far as they fit, then below; sizes in points."""
    judgement = judged.judgement
    rows = list(_rows(judged.audit.device.faces, tiles_a_row))
    heights = [_tile_height(row, judgement) for row in rows]
    width = tiles_a_row * (TILE_WIDTH + TILE_GAP) + FACE_GAP
    drawing = Drawing(width, sum(heights) + len(rows) * (_NAME_HEIGHT + FACE_GAP / 2))
    top = drawing.height
    for row, height in zip(rows, heights, strict=True):
        left = 0.0
        for run in row:
            name = sanitize(run.name, 40)
            drawing.add(String(left, top - 9, name, fontName=FONT, fontSize=7.5, fillColor=QUIET))
            for port in run.ports:
                drawing.add(_tile(port, judgement, left, top - _NAME_HEIGHT - height, height))
                left += TILE_WIDTH + TILE_GAP
            left += FACE_GAP - TILE_GAP
        top -= height + _NAME_HEIGHT + FACE_GAP / 2
    return drawing


def _rows(faces: Iterable[Face], most: int) -> Iterator[list[_Run]]:
    """Faces in rows of at most so many tiles; one with more ports than that is cut."""
    row: list[_Run] = []
    for face in faces:
        for cut in range(0, len(face.ports), most):
            run = _Run(face.name if cut == 0 else "", face.ports[cut : cut + most])
            if row and sum(len(each.ports) for each in row) + len(run.ports) > most:
                yield row
                row = []
            row.append(run)
    if row:
        yield row


def _tile_height(row: list[_Run], judgement: Judgement) -> float:
    claims = max(len(judgement.of_port(port.id)) for run in row for port in run.ports)
    return _HEAD_HEIGHT + _PADDING + LINE_HEIGHT * 2 * max(1, claims)


def _tile(port: Port, judgement: Judgement, x: float, y: float, height: float) -> Group:
    verdicts = judgement.of_port(port.id)
    worst = judgement.worst_of_port(port.id)
    ink = VERDICT_INK[worst] if worst else QUIET
    tile = Group(Rect(x, y, TILE_WIDTH, height, rx=2, ry=2, fillColor=None, strokeColor=ink, strokeWidth=0.8))
    top = y + height - 12
    tile.add(String(x + _PADDING, top, sanitize(port.id, 12), fontName=BOLD, fontSize=9, fillColor=INK))
    tile.add(
        String(x + TILE_WIDTH - _PADDING, top, sanitize(port.connector, 14), fontName=FONT, fontSize=7.5,
               fillColor=QUIET, textAnchor="end")
    )  # fmt: skip
    tile.add(Line(x, top - 5, x + TILE_WIDTH, top - 5, strokeColor=RULE, strokeWidth=0.5))
    for turn, verdict in enumerate(verdicts):
        _add_claim(tile, verdict, x + _PADDING, top - _HEAD_HEIGHT - turn * 2 * LINE_HEIGHT)
    if not verdicts:
        text = "no claims"
        tile.add(String(x + _PADDING, top - _HEAD_HEIGHT, text, fontName=FONT, fontSize=7.5, fillColor=QUIET))
    return tile


def _add_claim(tile: Group, verdict: ClaimVerdict, x: float, y: float) -> None:
    promise = fit(str(verdict.claim.promise), FONT, _PROMISE_SIZE, TILE_WIDTH - 2 * _PADDING)
    tile.add(String(x, y, promise, fontName=FONT, fontSize=_PROMISE_SIZE, fillColor=INK))
    tile.add(String(x, y - LINE_HEIGHT + 1, in_words(verdict.verdict), fontName=BOLD, fontSize=8,
                    fillColor=VERDICT_INK[verdict.verdict]))  # fmt: skip


def in_words(verdict: Verdict) -> str:
    """Mark and word; they are never apart."""
    return f"{verdict.mark}  {verdict.word}"


def fit(text: str, font: str, size: float, width: float) -> str:
    """The text, cut with an ellipsis where it would be wider."""
    text = sanitize(text)
    if stringWidth(text, font, size) <= width:
        return text
    while text and stringWidth(text + "...", font, size) > width:
        text = text[:-1]
    return text + "..."
