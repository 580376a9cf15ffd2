"""A chart with real axes and units; several of a kind on the same axes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from reportlab.graphics.charts.lineplots import LinePlot
from reportlab.graphics.shapes import Drawing, Line, String
from reportlab.graphics.widgets.markers import makeMarker
from reportlab.lib.colors import Color
from reportlab.pdfbase.pdfmetrics import stringWidth

from auditra.core.judge.charts import Chart, Series
from auditra.core.model.setup import MINUTE_S
from auditra.core.sanitize import sanitize
from auditra.publish.drawings.paper import BOLD, COPPER, FONT, INK, OCHRE, QUIET, RULE, SLATE, VERDIGRIS

WIDTH, HEIGHT = 520.0, 220.0
MAX_POINTS = 400
"""A line of more points than this looks no different, and makes the file long."""
_LEFT, _RIGHT, _TOP, _BOTTOM = 46.0, 10.0, 20.0, 30.0
_KEY_HEIGHT, _KEY_LINE, _KEY_GAP = 12.0, 18.0, 14.0
_SMALL, _HEAD = 7.0, 8.5
_MINUTES_FROM_S = 180.0
_INKS = (INK, COPPER, VERDIGRIS, SLATE, OCHRE)
_DASHES = ((5.0, 2.0), (1.0, 2.0), (5.0, 2.0, 1.0, 2.0))


@dataclass(frozen=True)
class _Drawn:
    """One line of the plot, in the units of the axes, with how it is drawn and called."""

    name: str
    points: tuple[tuple[float, float], ...]
    ink: Color
    dash: tuple[float, ...] = ()
    is_points: bool = False


def draw_chart(charts: Sequence[Chart], width: float = WIDTH) -> Drawing:
    """Charts that have their axes in common, in one drawing; sizes in points."""
    first = charts[0]
    per = MINUTE_S if first.x_unit == "s" and _longest(charts) >= _MINUTES_FROM_S else 1.0
    lines = tuple(_lines(charts, per))
    keys = _rows_of_keys(lines, width)
    height = HEIGHT + len(keys) * _KEY_HEIGHT
    drawing = Drawing(width, height)
    title = sanitize(", ".join(f"{chart.name} in {chart.trial}" for chart in charts), int(width / 4.6))
    drawing.add(String(0, height - 11, title, fontName=BOLD, fontSize=_HEAD, fillColor=INK))
    drawing.add(_plot(lines, width, len(keys) * _KEY_HEIGHT + _BOTTOM, height - _TOP - 8, from_zero=first.from_zero))
    unit = f" in {first.fmt.symbol}" if first.fmt.symbol else ""
    drawing.add(String(0, height - 23, f"{first.y_name}{unit}", fontName=FONT, fontSize=_SMALL, fillColor=QUIET))
    across = {"s": "time in min" if per > 1 else "time in s"}.get(first.x_unit, f"current in {first.x_unit}")
    drawing.add(String(width - _RIGHT, len(keys) * _KEY_HEIGHT + 6, across, fontName=FONT, fontSize=_SMALL,
                       fillColor=QUIET, textAnchor="end"))  # fmt: skip
    for turn, row in enumerate(keys):
        _add_keys(drawing, row, (len(keys) - 1 - turn) * _KEY_HEIGHT + 3)
    return drawing


def _lines(charts: Sequence[Chart], per: float) -> Iterator[_Drawn]:
    first = charts[0]
    in_si = first.fmt.in_si
    for number, chart in enumerate(charts):
        ink = _INKS[number % len(_INKS)]
        for series in chart.series:
            name = series.name if len(charts) == 1 else f"{series.name}, {chart.trial}"
            points = tuple((x / per, y / in_si) for x, y in _thinned(series))
            yield _Drawn(name, points, COPPER if series.is_fit and len(charts) == 1 else ink,
                         _DASHES[0] if series.is_fit else (), series.is_points)  # fmt: skip
    ends = [x for chart in charts for series in chart.series for x in series.x]
    for number, level in enumerate(first.levels if ends else ()):
        points = tuple((x / per, level.value / in_si) for x in (min(ends), max(ends)))
        name = f"{level.name} {first.fmt.show(level.value)}"
        yield _Drawn(name, points, (OCHRE, VERDIGRIS, SLATE)[number % 3], _DASHES[number % len(_DASHES)])


def _thinned(series: Series) -> Iterator[tuple[float, float]]:
    """At most so many points: more are finer than ink."""
    if len(series.x) <= MAX_POINTS:  # as nearly all are, and NumPy takes a moment to load
        yield from zip(series.x, series.y, strict=True)
        return
    import numpy as np

    from auditra.core.tables.extremes import extremes

    yield from ((series.x[at], series.y[at]) for at in extremes(np.asarray(series.y), MAX_POINTS))


def _plot(lines: Sequence[_Drawn], width: float, bottom: float, top: float, *, from_zero: bool) -> LinePlot:
    plot = LinePlot()
    plot.x, plot.y, plot.width, plot.height = _LEFT, bottom, width - _LEFT - _RIGHT, top - bottom
    plot.data = [list(line.points) for line in lines]
    plot.joinedLines = 1
    for number, line in enumerate(lines):
        style = plot.lines[number]
        style.strokeColor, style.strokeWidth = line.ink, 0.9
        style.strokeDashArray = list(line.dash) or None
        if line.is_points:
            style.strokeColor, style.symbol = (
                None,
                makeMarker("FilledCircle", size=4, fillColor=line.ink, strokeColor=None),
            )
    for axis in (plot.xValueAxis, plot.yValueAxis):
        axis.strokeColor, axis.strokeWidth = RULE, 0.5
        axis.maximumTicks, axis.labelTextFormat = (7 if width >= WIDTH else 5), _tick
        axis.labels.fontName, axis.labels.fontSize, axis.labels.fillColor = FONT, _SMALL, QUIET
        axis.rangeRound = "both"
    plot.yValueAxis.visibleGrid, plot.yValueAxis.gridStrokeColor, plot.yValueAxis.gridStrokeWidth = 1, RULE, 0.3
    lowest = min(y for line in lines for _, y in line.points)
    plot.yValueAxis.forceZero = from_zero and lowest >= 0
    return plot


def _tick(value: float) -> str:
    return f"{value:.4g}"


def _rows_of_keys(lines: Sequence[_Drawn], across: float) -> list[list[_Drawn]]:
    rows: list[list[_Drawn]] = []
    room = 0.0
    for line in lines:
        width = _KEY_LINE + _KEY_GAP + stringWidth(sanitize(line.name, 60), FONT, _SMALL)
        if not rows or width > room:
            rows.append([])
            room = across - _LEFT
        rows[-1].append(line)
        room -= width
    return rows


def _add_keys(drawing: Drawing, row: Sequence[_Drawn], y: float) -> None:
    left = _LEFT
    for line in row:
        name = sanitize(line.name, 60)
        dash = list(line.dash) or None
        drawing.add(
            Line(
                left,
                y + 2.5,
                left + _KEY_LINE - 4,
                y + 2.5,
                strokeColor=line.ink,
                strokeWidth=1.2,
                strokeDashArray=dash,
            )
        )
        drawing.add(String(left + _KEY_LINE, y, name, fontName=FONT, fontSize=_SMALL, fillColor=INK))
        left += _KEY_LINE + _KEY_GAP + stringWidth(name, FONT, _SMALL)


def _longest(charts: Sequence[Chart]) -> float:
    return max((max(series.x) for chart in charts for series in chart.series), default=0.0)
