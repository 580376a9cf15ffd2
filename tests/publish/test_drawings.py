"""Drawings: charts keep every dip, axes hold their lines, chains name what limits, and colours follow the page."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from reportlab.graphics.shapes import Drawing, Rect, String

from auditra.core.decide.estimates import Estimate
from auditra.core.errors import InputError, StoreError
from auditra.core.judge.charts import Chart, Level, Series, charts_of
from auditra.core.judge.part_limits import Limit
from auditra.core.judge.reasoning.chain import ChainView
from auditra.core.model.reading import Quantity
from auditra.core.quantities.display import WATTS, Format
from auditra.publish.chart import write_chart
from auditra.publish.drawings.chain import draw_chain
from auditra.publish.drawings.chart import MAX_POINTS, WIDTH, _thinned, draw_chart
from auditra.publish.drawings.paper import INKS
from auditra.publish.drawings.print import drawing_bytes, inline_svg
from auditra.publish.figures import NARROW
from tests.support.finished import finished

PLAIN = Format("", 1.0, 1)


def chart(*values: float, **more: object) -> Chart:
    series = Series("A1 write rate", tuple(float(n) for n in range(len(values))), values)
    made = Chart("T3", "A1", "write rate", "s", PLAIN, (series,), (Level("claim", 40.0),))
    return replace(made, **more)  # type: ignore[arg-type]


def texts(drawing: Drawing) -> list[str]:
    return [each.text for each in drawing.getContents() if isinstance(each, String)]


@given(st.lists(st.floats(0, 1e6), min_size=2, max_size=3000))
def test_a_thinned_line_keeps_its_least_and_its_most_and_stays_in_order(values: list[float]) -> None:
    made = list(_thinned(chart(*values).series[0]))
    assert len(made) <= MAX_POINTS + 2
    assert min(y for _, y in made) == min(values)
    assert max(y for _, y in made) == max(values)
    assert [x for x, _ in made] == sorted(x for x, _ in made)


@given(st.lists(st.floats(-50, 1e9, allow_subnormal=False), min_size=1, max_size=30), st.booleans())
def test_any_values_are_drawn_inside_their_frame(values: list[float], narrow: bool) -> None:
    width = NARROW if narrow else WIDTH
    svg = ET.fromstring(drawing_bytes(draw_chart([chart(*values)], width), "svg", "x"))
    assert float(svg.attrib["width"]) == width
    for line in (each for each in svg.iter() if each.tag.endswith("polyline")):
        numbers = [float(each) for each in re.findall(r"-?[\d.]+(?:e-?\d+)?", line.attrib["points"])]
        assert all(-1 <= x <= width + 1 for x in numbers[::2])
        assert all(-1 <= y <= float(svg.attrib["height"]) + 1 for y in numbers[1::2])


def test_a_chart_names_its_axes_its_lines_and_its_levels() -> None:
    told = texts(draw_chart([chart(30.0, 50.0, fmt=WATTS, title="power")]))
    assert "A1 power in T3" in told
    assert "power in W" in told
    assert "time in s" in told
    assert "claim 40.0 W" in told
    long = chart(*([5.0] * 400))
    assert "time in min" in texts(draw_chart([long]))


def test_several_charts_share_axes_and_say_which_trial_each_is_of(tmp_path: Path) -> None:
    pair = [chart(1.0, 2.0), chart(2.0, 3.0, trial="T9")]
    told = texts(draw_chart(pair))
    assert {"A1 write rate, T3", "A1 write rate, T9"} <= set(told)
    path = write_chart(pair, tmp_path / "new" / "a.svg")
    assert path.read_bytes() == drawing_bytes(draw_chart(pair), "svg", "x")
    assert write_chart(pair, tmp_path / "a.pdf").read_bytes().startswith(b"%PDF")
    with pytest.raises(InputError, match="no axes in common"):
        write_chart([*pair, chart(1.0, fmt=WATTS)], tmp_path / "b.svg")
    with pytest.raises(InputError, match="not a format"):
        write_chart(pair, tmp_path / "b.gif")
    (tmp_path / "file").write_text("")
    with pytest.raises(StoreError):
        write_chart(pair, tmp_path / "file" / "b.svg")


@pytest.mark.parametrize("name", ["OP-6", "BW-11"])
def test_every_chart_of_a_finished_audit_is_drawn(name: str) -> None:
    judged = finished(name)
    made = charts_of(judged.audit, judged.judgement)
    assert len(made) > 10
    for each in made[:20]:
        ET.fromstring(drawing_bytes(draw_chart([each]), "svg", each.name))


def view(shown: float | None) -> ChainView:
    stages = (Limit("socket C1", 100.0, 100.0), Limit("lead AC-1", 60.0, 60.0), Limit("a part", float("inf"), 0.0))
    estimate = None if shown is None else Estimate(shown, 0.5, 3)
    return ChainView(Quantity.POWER, stages, 65.0, estimate, "T4")


def bars(drawing: Drawing) -> Iterator[float]:
    yield from (each.width for each in drawing.getContents() if isinstance(each, Rect))


@pytest.mark.parametrize("width", [WIDTH, NARROW])
def test_a_chain_has_a_bar_for_every_known_ceiling_and_one_for_what_was_measured(width: float) -> None:
    made = draw_chain(view(44.0), width)
    assert len(list(bars(made))) == 3
    socket, lead, measured = bars(made)
    assert lead / socket == pytest.approx(0.6)
    assert measured / socket == pytest.approx(0.44)
    assert {"no limit known", "44.0 W", "65.0 W"} <= set(texts(made))
    assert "not measured" in texts(draw_chain(view(None), width))


def test_a_drawing_in_a_page_has_the_colours_of_its_style_sheet_and_no_id_twice() -> None:
    for name, colour in INKS.items():
        drawing = Drawing(10, 10)
        drawing.add(Rect(0, 0, 5, 5, fillColor=colour, strokeColor=None))
        assert f"var(--{name})" in inline_svg(drawing, "x")
    made = inline_svg(draw_chart([chart(1.0, 2.0)]), 'a "label" <b>')
    assert "rgb(" not in re.sub(r"rgb\(0%,0%,0%\)", "", made)
    assert 'id="clip"' not in made
    assert 'aria-label="a &quot;label&quot; &lt;b&gt;"' in made
    ET.fromstring(made.replace("xmlns:xlink", "xmlns:x"))


def test_a_format_that_is_none_is_refused() -> None:
    with pytest.raises(InputError, match="not a format"):
        drawing_bytes(Drawing(1, 1), "bmp", "x")
