"""The chain of a claim: a bar for the ceiling of each part from the host outwards, and what was measured at its end."""

from __future__ import annotations

import math

from reportlab.graphics.shapes import Drawing, Line, Rect, String

from auditra.core.judge.reasoning.chain import ChainView
from auditra.core.model.reading import Quantity
from auditra.core.quantities.display import format_for
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import sanitize
from auditra.publish.drawings.paper import BOLD, COPPER, FONT, INK, OCHRE, QUIET, RULE, VERDIGRIS

WIDTH = 520.0
_NAME, _FIGURE, _ROW, _BAR = 190.0, 76.0, 15.0, 6.0
_SMALL = 7.5


def draw_chain(chain: ChainView) -> Drawing:
    """A row a part; the shown value and what is owed go through all of them."""
    dimension = Dimension.POWER if chain.quantity is Quantity.POWER else Dimension.BYTE_RATE
    finite = [stage.most for stage in chain.stages if math.isfinite(stage.most)]
    values = [*finite, chain.claimed, *([chain.shown.value] if chain.shown is not None else [])]
    scale = (WIDTH - _NAME - _FIGURE) / (max(values, default=1.0) or 1.0)
    fmt = format_for(dimension, max(values, default=1.0))
    height = (len(chain.stages) + 1) * _ROW + 14
    drawing = Drawing(WIDTH, height)
    top = height - 12
    for stage in chain.stages:
        limits = stage is chain.expected
        drawing.add(
            String(0, top, sanitize(stage.part, 44), fontName=BOLD if limits else FONT, fontSize=_SMALL, fillColor=INK)
        )
        if math.isfinite(stage.most):
            drawing.add(Rect(_NAME, top, max(0.5, stage.most * scale), _BAR, strokeColor=None,
                             fillColor=OCHRE if limits else RULE))  # fmt: skip
        figure = fmt.show(stage.most) if math.isfinite(stage.most) else "no limit known"
        drawing.add(String(WIDTH, top, figure, fontName=FONT, fontSize=_SMALL, fillColor=QUIET, textAnchor="end"))
        top -= _ROW
    _add_shown(drawing, chain, scale, top, fmt.show(chain.claimed))
    return drawing


def _add_shown(drawing: Drawing, chain: ChainView, scale: float, top: float, claimed: str) -> None:
    owed = _NAME + chain.claimed * scale
    drawing.add(
        Line(owed, top - 2, owed, drawing.height - 4, strokeColor=COPPER, strokeWidth=0.8, strokeDashArray=[2, 2])
    )
    drawing.add(String(0, top, f"measured; the dashed line is what is owed, {claimed}", fontName=FONT, fontSize=_SMALL,
                       fillColor=COPPER))  # fmt: skip
    if chain.shown is None:
        drawing.add(
            String(WIDTH, top, "not measured", fontName=FONT, fontSize=_SMALL, fillColor=QUIET, textAnchor="end")
        )
        return
    dimension = Dimension.POWER if chain.quantity is Quantity.POWER else Dimension.BYTE_RATE
    words = format_for(dimension, chain.shown.value).show(chain.shown.value)
    enough = chain.shown.value >= chain.claimed
    drawing.add(Rect(_NAME, top - _ROW / 2 + 1, max(0.5, chain.shown.value * scale), _BAR, strokeColor=None,
                     fillColor=VERDIGRIS if enough else COPPER))  # fmt: skip
    drawing.add(String(WIDTH, top, words, fontName=BOLD, fontSize=_SMALL, fillColor=INK, textAnchor="end"))
