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
_NAME_SHARE, _FIGURE, _ROW, _BAR = 0.365, 76.0, 15.0, 6.0
_SMALL = 7.5


def draw_chain(chain: ChainView, width: float = WIDTH) -> Drawing:
    """A row a part; the shown value and what is owed go through all of them."""
    dimension = _dimension(chain)
    finite = [stage.most for stage in chain.stages if math.isfinite(stage.most)]
    values = [*finite, chain.claimed, *([chain.shown.value] if chain.shown is not None else [])]
    left = _NAME_SHARE * width
    scale = (width - left - _FIGURE) / (max(values, default=1.0) or 1.0)
    fmt = format_for(dimension, max(values, default=1.0))
    height = (len(chain.stages) + 2) * _ROW + 14
    drawing = Drawing(width, height)
    top = height - 12
    for stage in chain.stages:
        limits = stage is chain.expected
        drawing.add(
            String(
                0,
                top,
                sanitize(stage.part, int(left / 4.3)),
                fontName=BOLD if limits else FONT,
                fontSize=_SMALL,
                fillColor=INK,
            )
        )
        if math.isfinite(stage.most):
            drawing.add(Rect(left, top, max(0.5, stage.most * scale), _BAR, strokeColor=None,
                             fillColor=OCHRE if limits else RULE))  # fmt: skip
        figure = fmt.show(stage.most) if math.isfinite(stage.most) else "no limit known"
        drawing.add(String(width, top, figure, fontName=FONT, fontSize=_SMALL, fillColor=QUIET, textAnchor="end"))
        top -= _ROW
    _add_shown(drawing, chain, left, scale, top, fmt.show(chain.claimed))
    return drawing


def _add_shown(drawing: Drawing, chain: ChainView, left: float, scale: float, top: float, claimed: str) -> None:
    """What was measured as a bar below the ceilings, and what is owed as a line through all of it."""
    enough = chain.shown is not None and chain.shown.value >= chain.claimed
    words = "not measured"
    if chain.shown is not None:
        ink = VERDIGRIS if enough else COPPER
        drawing.add(Rect(left, top, max(0.5, chain.shown.value * scale), _BAR, strokeColor=None, fillColor=ink))
        words = format_for(_dimension(chain), chain.shown.value).show(chain.shown.value)
    for y, name, figure in ((top, "measured", words), (top - _ROW, "owed, the dashed line", claimed)):
        drawing.add(String(0, y, name, fontName=FONT, fontSize=_SMALL, fillColor=COPPER))
        drawing.add(String(drawing.width, y, figure, fontName=BOLD, fontSize=_SMALL, fillColor=INK, textAnchor="end"))
    owed, bottom = left + chain.claimed * scale, top - _ROW
    dash = [2, 2]
    drawing.add(Line(owed, bottom, owed, drawing.height - 4, strokeColor=COPPER, strokeWidth=0.8, strokeDashArray=dash))


def _dimension(chain: ChainView) -> Dimension:
    return Dimension.POWER if chain.quantity is Quantity.POWER else Dimension.BYTE_RATE
