"""Charts of trials as a file by themselves."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from auditra.core.errors import InputError
from auditra.core.judge.charts import Chart
from auditra.publish import write_files
from auditra.publish.drawings.chart import draw_chart
from auditra.publish.drawings.print import FORMATS, drawing_bytes


def write_chart(charts: Sequence[Chart], path: Path) -> Path:
    """The charts on one pair of axes, as the file's ending says. Raises: InputError, StoreError."""
    kind = path.suffix.removeprefix(".").lower()
    if kind not in FORMATS:
        raise InputError(str(path), why=f'"{kind}" is not a format of charts', do="End the name in .svg or .pdf")
    if not charts or not all(charts[0].beside(chart) for chart in charts):
        raise InputError(str(path), why="these charts have no axes in common", do="Choose charts of one quantity")
    title = ", ".join(chart.name for chart in charts)
    return write_files({path.name: drawing_bytes(draw_chart(charts), kind, title)}, path.parent)[0]
