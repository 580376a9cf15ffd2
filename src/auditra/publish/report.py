"""The report: claims, verdicts, readings and ledger on a page."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from io import BytesIO
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Drawing
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from auditra import __version__
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Finding, Role
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.score import Line, Score
from auditra.core.model.verdict import UNSTATED_MARK, Verdict
from auditra.core.sanitize import sanitize
from auditra.publish.faces_drawing import draw_faces, in_words
from auditra.publish.paper import BOLD, COPPER, FONT, INK, QUIET, RULE, VERDICT_INK
from auditra.workflows.output_files import write_atomically

_BODY = ParagraphStyle("body", fontName=FONT, fontSize=8, leading=10.5, textColor=INK)
_SMALL = ParagraphStyle("small", parent=_BODY, fontSize=6.8, leading=8.4, textColor=QUIET)
_HEAD = ParagraphStyle("head", parent=_BODY, fontName=BOLD, fontSize=9, leading=12, textColor=COPPER, spaceBefore=5)
_TITLE = ParagraphStyle("title", parent=_BODY, fontName=BOLD, fontSize=17, leading=21)
_RIGHT = ParagraphStyle("right", parent=_BODY, alignment=2)
_FRAME_PADDING = 12.0
_SAFE_WORDS = {
    Verdict.HOLDS: "shown, with uncertainty, and nothing tried contradicts it",
    Verdict.HOLDS_IF: "shown only under named set-ups",
    Verdict.SHORT: "works, but gives less than promised",
    Verdict.BROKEN: "does not do it at all, or not reliably",
    Verdict.TOO_CLOSE: "the uncertainty straddles the limit",
    Verdict.UNPROVEN: "this rig or evidence cannot show it",
    Verdict.OPEN: "not tried yet",
}


def write_report(judged: JudgedAudit, path: Path) -> None:
    """The report as PDF, A4."""
    device, buffer = judged.audit.device, BytesIO()
    document = SimpleDocTemplate(
        buffer, pagesize=A4, leftMargin=17 * mm, rightMargin=17 * mm, topMargin=13 * mm, bottomMargin=12 * mm,
        title=f"Audit of the {sanitize(device.name)}", author="Auditra", invariant=1,
    )  # fmt: skip
    document.build(list(_story(judged, document.width - _FRAME_PADDING)))
    write_atomically(path, buffer.getvalue())


def _story(judged: JudgedAudit, width: float) -> Iterator[Flowable]:
    audit, judgement = judged.audit, judged.judgement
    yield Paragraph(_safe(audit.device.name), _TITLE)
    yield Paragraph(_subtitle(judged), _BODY)
    yield Paragraph(_score_sentence(judgement.score, judgement), _BODY)
    yield Spacer(1, 3 * mm)
    yield _scaled(draw_faces(judged), width)
    yield Paragraph("Claims, and what was shown", _HEAD)
    yield _claims_table(judgement, width)
    yield from _findings(judgement)
    for device, score in (judgement.scores or {judgement.device: judgement.score}).items():
        title = "Where every point went" + (f": {device}" if len(judgement.scores) > 1 else "")
        yield KeepTogether([Paragraph(_safe(title), _HEAD), _ledger_table(score, width)])
    if judged.flaws:
        yield Paragraph("Evidence that is missing or changed", _HEAD)
        yield from (Paragraph(_safe(flaw), _BODY) for flaw in judged.flaws)
    yield Spacer(1, 2 * mm)
    yield Paragraph(_legend(judgement), _SMALL)


_SECTIONS = (
    ("Danger", (Role.DANGER,)),
    ("Why claims fail", (Role.CAUSE, Role.CONTENTION)),
    ("What the rig could not show", (Role.RIG_LIMIT,)),
    ("What does not fit together", (Role.CONTRADICTION,)),
    ("What is only chance", (Role.CHANCE,)),
    ("Undisclosed behaviour", (Role.UNSTATED,)),
)


def _findings(judgement: Judgement) -> Iterator[Flowable]:
    """Findings by what they are for, each with its sum and how sure it is; then doubts with their answers."""
    for title, roles in _SECTIONS:
        found = [finding for finding in judgement.findings if finding.role in roles]
        if found:
            yield Paragraph(title, _HEAD)
            yield from (Paragraph(_finding(finding), _BODY) for finding in found)
    if judgement.doubts:
        yield Paragraph("Doubts", _HEAD)
        for answer in judgement.doubts:
            yield Paragraph(f"{_safe(answer.question)} <b>{answer.end}</b>: {_safe(answer.why)}", _BODY)


def _finding(finding: Finding) -> str:
    mark = f"{UNSTATED_MARK} " if finding.role is Role.UNSTATED else ""
    at = f" at {', '.join(finding.ports)}" if finding.role is Role.UNSTATED and finding.ports else ""
    trials = f"trials {', '.join(finding.trials)}" if finding.trials else ""
    sums = "; ".join(filter(None, (finding.arithmetic, trials, str(finding.sure))))
    return f"{mark}{_safe(finding.sentence)}{_safe(at)} ({_safe(sums)})"


def _subtitle(judged: JudgedAudit) -> str:
    audit = judged.audit
    until = f", until {audit.last_at:%Y-%m-%d}" if audit.last_at else ""
    trials = len(audit.trials)
    return _safe(
        f"{audit.device.kind}, examined on the rig {audit.rig.name} in {trials} trials{until}, on a {judged.bench}."
    )


def _score_sentence(score: Score, judgement: Judgement) -> str:
    decided = f"{judgement.decided} of {len(judgement.claims)} claims decided"
    if score.value is None:
        return f"{decided}; no score yet."
    band = f"open claims can move it between {score.lowest} and {score.highest}"
    if judgement.decided == len(judgement.claims):
        band = "all claims are decided"
    text = f"<b>Score {score.value}</b> of 100. {decided}; {band}."
    return f"{text} <b>Danger: {_safe(score.danger)}; the score is capped.</b>" if score.danger else text


def _claims_table(judgement: Judgement, width: float) -> Table:
    rows: list[list[object]] = []
    style = [("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE), ("VALIGN", (0, 0), (-1, -1), "TOP")]
    for verdict in judgement.claims:
        ink = VERDICT_INK[verdict.verdict].hexval()[2:]
        mark = Paragraph(f'<font color="#{ink}"><b>{_safe(in_words(verdict.verdict))}</b></font>', _BODY)
        honest = judgement.honest_sentence(verdict.claim.id)
        said = [Paragraph(_safe(f"honest: {honest}"), _SMALL)] if honest else []
        rows.append([mark, [Paragraph(_safe(str(verdict.claim)), _BODY), _quote(verdict), *said], _shown(verdict)])
    return _table(rows or [["", Paragraph("no claims", _BODY), ""]], (0.14, 0.36, 0.5), width, style)


def _quote(verdict: ClaimVerdict) -> Paragraph:
    quoted = verdict.claim.source.quoted
    return Paragraph(f"\N{LEFT DOUBLE QUOTATION MARK}{_safe(quoted)}\N{RIGHT DOUBLE QUOTATION MARK}", _SMALL) if (
        isinstance(quoted, str)
    ) else Paragraph("", _SMALL)  # fmt: skip


def _shown(verdict: ClaimVerdict) -> list[Paragraph]:
    beside = sorted({set_up.text for set_up in verdict.set_ups if set_up.trials})
    trials = ", ".join(name for each in verdict.set_ups for name in each.trials)
    condition = f", {verdict.condition}" if verdict.condition else ""
    lines = [Paragraph(_safe(verdict.shown + condition), _BODY)]
    if verdict.why:
        lines.append(Paragraph(_safe(verdict.why), _SMALL))
    if trials:
        lines.append(Paragraph(_safe(f"trials {trials}: {'; '.join(beside)}"), _SMALL))
    if verdict.not_tried and verdict.verdict is not Verdict.OPEN:
        lines.append(Paragraph(_safe(f"not yet tried: {'; '.join(verdict.not_tried)}"), _SMALL))
    aside = [f"set aside: {each.trial}, {each.why}" for each in verdict.set_aside]
    return [*lines, *(Paragraph(_safe(words), _SMALL) for words in aside)]


def _ledger_table(score: Score, width: float) -> Table:
    rows: list[list[object]] = [[Paragraph(_safe(_line_text(line)), _BODY), *_figures(line)] for line in score.ledger]
    foot = [
        Paragraph("<b>earned of the decided claims</b>", _BODY),
        _right(f"<b>{score.earned}</b>"),
        _right(f"of {score.weight_decided}"),
    ]
    style = [("LINEABOVE", (0, -1), (-1, -1), 0.6, INK)]
    return _table([*rows, foot], (0.7, 0.18, 0.12), width, style)


def _line_text(line: Line) -> str:
    return f"{line.verdict.mark}  {line.text}" if line.verdict else f"{UNSTATED_MARK}  unstated: {line.text}"


def _figures(line: Line) -> tuple[Paragraph, Paragraph]:
    earned = f"{line.lowest} to {line.highest}" if line.earned is None else str(line.earned)
    return _right(earned), _right(f"of {line.weight}" if line.weight else "")


def _right(text: str) -> Paragraph:
    return Paragraph(text, _RIGHT)


def _legend(judgement: Judgement) -> str:
    used = dict.fromkeys(verdict.verdict for verdict in judgement.claims)
    marks = "; ".join(f"{verdict.mark} {verdict.word}: {_SAFE_WORDS[verdict]}" for verdict in used)
    return _safe(f"{marks}. Uncertainties are expanded to 95 %. Judged by Auditra {__version__}.")


def _table(
    rows: list[list[object]], shares: tuple[float, ...], width: float, style: Sequence[tuple[object, ...]]
) -> Table:
    table = Table(rows, colWidths=[share * width for share in shares], hAlign="LEFT")
    padding = [
        ("TOPPADDING", (0, 0), (-1, -1), 1.6),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.8),
        ("LEFTPADDING", (0, 0), (-1, -1), 0),
    ]
    table.setStyle(TableStyle([*padding, *style]))
    return table


def _scaled(drawing: Drawing, width: float) -> Drawing:
    factor = min(1.0, width / drawing.width)
    drawing.scale(factor, factor)
    drawing.width, drawing.height = drawing.width * factor, drawing.height * factor
    return drawing


def _safe(text: str) -> str:
    """Words from outside, shown as words."""
    return escape(sanitize(text, 400))
