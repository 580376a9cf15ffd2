"""A chart as SVG or PDF, with real axes and units; several of a kind on the same axes."""

from __future__ import annotations

from collections.abc import Sequence
from io import BytesIO
from pathlib import Path
from typing import TYPE_CHECKING, Any

from auditra.core.errors import InputError, StoreError
from auditra.core.judge.charts import Chart, Series
from auditra.core.model.setup import MINUTE_S
from auditra.core.sanitize import sanitize
from auditra.publish.paper import COPPER, INK, QUIET, RULE
from auditra.workflows.output_files import make_folder, write_atomically

if TYPE_CHECKING:
    from matplotlib.axes import Axes

FORMATS = ("svg", "pdf")
_SIZE_IN = (7.2, 4.0)
_MINUTES_FROM_S = 180.0
_COLOURS = ("#26231e", "#b06a34", "#2f7d68", "#46698c", "#8a6d1f")
"""Ink, copper, verdigris, slate, ochre: dark enough for paper."""
_DASHES = ("-", "--", ":", "-.")


def write_chart(charts: Sequence[Chart], path: Path) -> Path:
    """The charts on one pair of axes, as the file's ending says. Raises: InputError, StoreError."""
    kind = path.suffix.removeprefix(".").lower()
    if kind not in FORMATS:
        raise InputError(str(path), why=f'"{kind}" is not a format of charts', do="End the name in .svg or .pdf")
    if not charts or not all(charts[0].beside(chart) for chart in charts):
        raise InputError(str(path), why="these charts have no axes in common", do="Choose charts of one quantity")
    try:
        make_folder(path.parent)
        write_atomically(path, _drawn(charts, kind))
    except OSError as error:
        raise StoreError(f"{path}", why=error.strerror or str(error), do="Choose another folder") from error
    return path


def _drawn(charts: Sequence[Chart], kind: str) -> bytes:
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib import rc_context
    from matplotlib.figure import Figure

    # The same chart is the same file: no date, and ids that do not depend on chance.
    with rc_context({"svg.hashsalt": "auditra", "svg.fonttype": "none", "font.family": "sans-serif", "font.size": 8}):
        figure = Figure(figsize=_SIZE_IN, layout="constrained")
        axes = figure.add_subplot()
        first = charts[0]
        scale = MINUTE_S if first.x_unit == "s" and _longest(charts) >= _MINUTES_FROM_S else 1.0
        for number, chart in enumerate(charts):
            for series in chart.series:
                name = series.name if len(charts) == 1 else f"{series.name}, {chart.trial}"
                _draw(axes, series, name, scale, first.fmt.in_si, _COLOURS[number % len(_COLOURS)])
        for number, level in enumerate(first.levels):
            style = _DASHES[(number + 1) % len(_DASHES)]
            label = f"{level.name} {first.fmt.show(level.value)}"
            axes.axhline(level.value / first.fmt.in_si, color=COPPER.hexval().replace("0x", "#"), linewidth=0.8,
                         linestyle=style, label=sanitize(label, 60))  # fmt: skip
        axes.set_xlabel(
            {"s": "time in min" if scale > 1 else "time in s"}.get(first.x_unit, f"current in {first.x_unit}")
        )
        axes.set_ylabel(f"{first.y_name} in {first.fmt.symbol}" if first.fmt.symbol else first.y_name)
        if first.from_zero:
            axes.set_ylim(bottom=min([0.0, *(min(series.y) for chart in charts for series in chart.series)]))
        _dress(axes, charts)
        buffer = BytesIO()
        figure.savefig(buffer, format=kind, metadata={"Date": None} if kind == "svg" else {"CreationDate": None})
        return buffer.getvalue()


def _draw(axes: Axes, series: Series, name: str, scale: float, in_si: float, colour: str) -> None:
    x, y = [each / scale for each in series.x], [each / in_si for each in series.y]
    style: dict[str, Any] = {"linewidth": 0.8, "linestyle": "--"} if series.is_fit else {"linewidth": 1.0}
    if series.is_points:
        style = {"linestyle": "none", "marker": "o", "markersize": 4}
    axes.plot(x, y, color=colour, label=sanitize(name, 60), **style)


def _dress(axes: Axes, charts: Sequence[Chart]) -> None:
    """Title, what was read off, legend, thin rules."""
    ink, quiet, rule = (each.hexval().replace("0x", "#") for each in (INK, QUIET, RULE))
    title = ", ".join(f"{chart.name} in {chart.trial}" for chart in charts)
    axes.set_title(sanitize(title, 120), loc="left", color=ink, fontsize=9)
    notes = "\n".join(sanitize(note, 120) for chart in charts for note in chart.notes)
    if notes:
        axes.annotate(notes, (0.01, 0.02), xycoords="axes fraction", color=quiet, fontsize=7)
    axes.grid(color=rule, linewidth=0.4)
    axes.legend(loc="best", frameon=False, fontsize=7)
    for side in ("top", "right"):
        axes.spines[side].set_visible(False)


def _longest(charts: Sequence[Chart]) -> float:
    return max((max(series.x) for chart in charts for series in chart.series), default=0.0)
