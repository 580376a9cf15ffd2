"""The drawing of a figure of the report."""

from __future__ import annotations

from reportlab.graphics.shapes import Drawing

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.report.document import ChainFigure, ChartFigure, Faces
from auditra.publish.drawings.chain import draw_chain
from auditra.publish.drawings.chart import draw_chart
from auditra.publish.drawings.faces import draw_faces

NARROW, TILES_IN_NARROW = 300.0, 3
"""What still has letters that can be read on a telephone, in points; and how many sockets beside each other that is."""


def drawing_of(
    figure: Faces | ChartFigure | ChainFigure, judged: JudgedAudit | None, *, narrow: bool = False
) -> Drawing:
    """Faces need the judged audit; the others have all that they show."""
    match figure:
        case ChartFigure():
            return draw_chart([figure.chart], NARROW) if narrow else draw_chart([figure.chart])
        case ChainFigure():
            return draw_chain(figure.chain, NARROW) if narrow else draw_chain(figure.chain)
        case Faces() if judged is not None:
            return draw_faces(judged, TILES_IN_NARROW) if narrow else draw_faces(judged)
    return Drawing(1, 1)
