"""The drawing of a figure of the report."""

from __future__ import annotations

from reportlab.graphics.shapes import Drawing

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.report.document import ChainFigure, ChartFigure, Faces
from auditra.publish.drawings.chain import draw_chain
from auditra.publish.drawings.chart import draw_chart
from auditra.publish.drawings.faces import draw_faces


def drawing_of(figure: Faces | ChartFigure | ChainFigure, judged: JudgedAudit | None) -> Drawing:
    """Faces need the judged audit; the others have all that they show."""
    match figure:
        case ChartFigure():
            return draw_chart([figure.chart])
        case ChainFigure():
            return draw_chain(figure.chain)
        case Faces():
            return draw_faces(judged) if judged is not None else Drawing(1, 1)
