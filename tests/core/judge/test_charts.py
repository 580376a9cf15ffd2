"""Charts as values, and as files that anybody opens."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest

from auditra.core.errors import InputError
from auditra.core.judge.charts import Chart, charts_of
from auditra.core.judge.judgement import judge
from auditra.publish.chart import write_chart
from auditra.tui.renderables.chart import render_chart
from auditra.tui.stages.traces.text import chart_foot, chart_head, list_of_charts
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from tests.support.audits import PROFILE
from tests.support.cause_cases import audit_from

PALETTE = PALETTES[DEFAULT_PALETTE]
KNEE = [[0, 3.7e9], [20, 0.9e9], [60, 0]]
LOADS = [["voltage", 5.15 - 0.1 * a, {"behind_a": a, "resolution": 0.001}] for a in (0.5, 1.0, 2.0, 3.0)]


def charts(*trials: dict[str, Any], place: str | None = None) -> tuple[Chart, ...]:
    audit = audit_from({"trials": trials})
    return charts_of(audit, judge(audit, PROFILE), place)


def test_a_trace_is_drawn_with_its_claim_its_direct_value_and_its_knee() -> None:
    (chart,) = charts({"mb": 470}, {"port": "A1", "mb": 150, "curve": KNEE}, place="A1")
    assert (chart.trial, chart.name, chart.x_unit, chart.fmt.symbol) == ("T2", "A1 write rate", "s", "MB/s")
    assert [level.name for level in chart.levels] == ["claim", "direct", "5 Gb/s link"]
    assert [series.is_fit for series in chart.series] == [False, True]
    assert chart.notes == ("falls from 462.5 MB/s to 112.5 MB/s at 20.0 s, after 9.25 GB",)


def test_volts_over_amperes_are_points_with_their_line() -> None:
    load = {"procedure": "POWER_OUT", "port": "C1", "gear": "load", "lead": "wire", "readings": LOADS}
    (chart,) = charts(load, place="C1")
    assert [(series.is_points, series.is_fit) for series in chart.series] == [(True, False), (False, True)]
    assert chart.notes == ("100 ± 1 mohm there and back",)
    assert (chart.x_unit, chart.y_name, chart.from_zero) == ("A", "voltage", False)


@pytest.mark.parametrize("ending", ["svg", "pdf"])
def test_the_same_chart_is_the_same_file(tmp_path: Path, ending: str) -> None:
    drawn = charts({"mb": 470}, {"port": "A1", "mb": 150, "curve": KNEE}, {"port": "A1", "mb": 150, "curve": KNEE})
    one, other = (write_chart(drawn, tmp_path / f"{name}.{ending}").read_bytes() for name in ("one", "other"))
    assert one == other
    assert one.startswith(b"<?xml" if ending == "svg" else b"%PDF")


def test_a_drawing_names_axes_units_claim_and_both_trials(tmp_path: Path) -> None:
    drawn = charts({"mb": 470}, {"port": "A1", "mb": 150, "curve": KNEE}, {"port": "A1", "mb": 150, "curve": KNEE})
    root = ElementTree.parse(write_chart(drawn, tmp_path / "a.svg")).getroot()
    words = " ".join("".join(each.itertext()) for each in root.iter("{http://www.w3.org/2000/svg}text"))
    for expected in ("time in s", "write rate in MB/s", "claim 425.0 MB/s", "A1 write rate, T2", "A1 write rate, T3"):
        assert expected in words


def test_what_has_other_axes_or_another_ending_is_refused(tmp_path: Path) -> None:
    load = {"procedure": "POWER_OUT", "port": "C1", "gear": "load", "lead": "wire", "readings": LOADS}
    mixed = charts({"port": "A1", "mb": 150, "curve": KNEE}, load)
    with pytest.raises(InputError, match="no axes in common"):
        write_chart(mixed, tmp_path / "a.svg")
    with pytest.raises(InputError, match=r"End the name in \.svg or \.pdf"):
        write_chart(mixed[:1], tmp_path / "a.png")


def test_the_screen_shows_levels_notes_and_the_values_at_the_cursor() -> None:
    both = charts({"mb": 470}, {"port": "A1", "mb": 150, "curve": KNEE}, {"port": "A1", "mb": 460, "curve": KNEE})
    drawn = render_chart(both, 0.5, 80, 16, PALETTE).plain
    assert "59.0 s" in drawn
    assert "│" in drawn
    assert render_chart(both, None, 10, 3, PALETTE).plain == ""
    foot = chart_foot(both, 0.5, PALETTE).plain
    for expected in ("claim 425.0 MB/s", "T2: falls from", "at 29.5 s:", "T3 112."):
        assert expected in foot
    assert "+ A1 write rate, T2" in chart_head(both, PALETTE).plain
    text, line, starts = list_of_charts(both, 1, {both[0].key}, "A1", PALETTE)
    assert text.plain.splitlines()[line].startswith("▸ T2")
    assert text.plain.splitlines()[starts[0]].startswith("+ T3")


def test_hostile_numbers_are_drawn_without_a_fault() -> None:
    wild = {"trace": [[0, 1e300], [9, -1e300], [19, 0]], "at": "case"}
    (chart,) = charts({"port": "A1", "readings": [["case temperature", 1.0, wild]]})
    assert render_chart((chart,), 0.0, 60, 12, PALETTE).plain
