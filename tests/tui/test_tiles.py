"""The faces as text: every port in its place at every width, and the arrow keys find their way."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.device import Device, Face, Port
from auditra.core.model.reading import Trace
from auditra.core.model.verdict import Verdict
from auditra.core.plan.planner import run_sheet_of
from auditra.core.quantities.display import MEGABYTES_A_SECOND
from auditra.core.report.material import Material
from auditra.core.report.report import make_report
from auditra.tui.controllers.live_trial import LiveTrial
from auditra.tui.renderables.recorded_trace import recorded_traces
from auditra.tui.renderables.report_page import render_chapter
from auditra.tui.renderables.scale import Mark, render_band, render_scale
from auditra.tui.renderables.tiles import TILE_WIDTH, TileSize, neighbour, place, render_faces, size_for, tiles_of
from auditra.tui.renderables.trace import render_trace
from auditra.tui.stages.run.sheet_text import left_to_do, sheet_items, sheet_list
from auditra.tui.stages.run.text import now_panel
from auditra.tui.stages.score.text import render_ledger
from auditra.tui.theme import PALETTES
from tests.support.audits import HUB, audit_of, judged, rates, with_trial

PALETTE = PALETTES["lamplight"]
AUDIT = with_trial(audit_of("A1 data 5 Gb/s", "P1 takes 90 W", "P1 no data"), "direct/storage", *rates("direct", 900))
FACES = tiles_of(HUB, judged(AUDIT))


@pytest.mark.parametrize(("width", "size"), [(160, TileSize.LARGE), (100, TileSize.SMALL), (80, TileSize.BARE)])
def test_room_decides_how_much_a_tile_tells(width: int, size: TileSize) -> None:
    assert size_for(width) is size
    shown = render_faces(place(FACES, width, size), size, "A1", PALETTE).plain
    assert all(port in shown for port in ("A1", "A2", "S1", "N1", "H1", "P1", "UP"))
    assert all(len(line) <= width for line in shown.splitlines())


def test_a_large_tile_has_promise_bar_mark_and_word() -> None:
    shown = render_faces(place(FACES, 160, TileSize.LARGE), TileSize.LARGE, None, PALETTE).plain
    assert "5 Gb/s" in shown
    assert "in 90 W +1" in shown
    assert ". open" in shown


@given(st.lists(st.integers(1, 14), min_size=1, max_size=5), st.integers(60, 220))
def test_no_tile_overlaps_another_or_leaves_the_screen(faces: list[int], width: int) -> None:
    names = iter(f"{letter}{n}" for letter in "ABCDEFGH" for n in range(1, 10))
    device = Device(
        "M", "X", "dock", tuple(Face("face", tuple(Port(next(names), "usb-a") for _ in range(n))) for n in faces)
    )
    size = size_for(width)
    if size is TileSize.BARE:
        return
    placed = place(tiles_of(device, judged(audit_of(device=device))), width, size)
    cells = [(x, y) for each in placed if each.tile for x in range(each.x, each.x + TILE_WIDTH)
             for y in range(each.y, each.y + each.height)]  # fmt: skip
    assert len(cells) == len(set(cells))
    assert max(x for x, _ in cells) < width


@given(st.sampled_from([160, 100, 80, 60]), st.lists(st.sampled_from([(1, 0), (-1, 0), (0, 1), (0, -1)]), max_size=30))
def test_arrows_always_lead_to_a_port(width: int, steps: list[tuple[int, int]]) -> None:
    placed, port = place(FACES, width, size_for(width)), "A1"
    for dx, dy in steps:
        there = neighbour(placed, port, dx, dy)
        assert there is not None
        assert HUB.port(there) is not None
        port = there


def test_right_walks_over_all_ports_and_stops_at_the_last() -> None:
    placed, port, seen = place(FACES, 160, TileSize.LARGE), "A1", ["A1"]
    for _ in range(9):
        port = neighbour(placed, port, 1, 0) or ""
        seen.append(port)
    assert seen[:7] == ["A1", "A2", "S1", "N1", "H1", "P1", "UP"]
    assert seen[-1] == "UP"


@given(st.floats(0, 1e10), st.floats(1, 1e10), st.integers(20, 120))
def test_the_scale_never_leaves_its_width(value: float, limit: float, width: int) -> None:
    marks = (Mark("claim", limit, "#ffffff"), Mark("a 5 Gb/s link at most", 4e9, "#ffffff"))
    lines = render_scale(value, marks, MEGABYTES_A_SECOND, width, PALETTE).plain.splitlines()
    assert len(lines) == 3
    assert all(len(line) <= width for line in lines)


@given(st.floats(0, 100), st.floats(0, 100), st.integers(10, 80))
def test_the_band_is_as_wide_as_its_room(one: float, other: float, width: int) -> None:
    low, high = sorted((one, other))
    assert len(render_band(low, low, high, width, PALETTE).plain) == width


@pytest.mark.parametrize("width", [50, 80, 110])
def test_the_ledger_adds_up_on_screen_too(width: int) -> None:
    judgement = judged(AUDIT)
    shown = render_ledger(judgement, "A1", width, PALETTE).plain
    assert "A1 data 5 Gb/s" in shown
    assert f"{judgement.score.earned} of {judgement.score.weight_decided}" in shown


def test_a_trace_is_drawn_only_where_there_is_room_and_something_to_draw() -> None:
    time_s, values = (0.1, 0.2, 0.3), (3.6e9, 3.7e9, 3.6e9)
    assert render_trace(time_s[:1], values[:1], None, MEGABYTES_A_SECOND, 60, 12, PALETTE).plain == ""
    assert render_trace(time_s, values, 3.4e9, MEGABYTES_A_SECOND, 10, 3, PALETTE).plain == ""
    assert "486" in render_trace(time_s, values, 3.4e9, MEGABYTES_A_SECOND, 60, 12, PALETTE).plain


def test_a_label_without_room_gives_up_its_words_before_its_value() -> None:
    mark = Mark("the most that a link of this kind ever carries", 4e9, "#ffffff")
    line = render_scale(
        None, (Mark("claim", 3.4e9, "#ffffff"), mark), MEGABYTES_A_SECOND, 30, PALETTE
    ).plain.splitlines()[2]
    assert "500.0 MB/s" in line
    assert "carries" not in line


@pytest.mark.parametrize("width", [40, 80, 120])
def test_a_page_of_the_report_tells_every_claim_with_verdict_and_sum_in_any_width(width: int) -> None:
    audit = with_trial(AUDIT, "A1/storage", *rates("A1", 200))
    judgement = judged(audit)
    document = make_report(Material(JudgedAudit(audit, judgement, "simulated bench"), "0" * 64, "Auditra"))
    chapter = next(each for each in document.chapters if each.id == "claims")
    page = render_chapter(chapter, width, PALETTE)
    told = " ".join(page.plain.split())
    assert "< short" in told
    assert all(line.cell_length <= width for line in page.split("\n")[2:-3])
    if width == 120:
        assert all(str(verdict.claim) in told for verdict in judgement.claims)
    if width == 40:
        assert "write: 200.0 + 0.19 < 425.0 MB/s" in told


def test_every_verdict_has_a_colour_in_every_palette_that_is_not_the_ground() -> None:
    for palette in PALETTES.values():
        assert all(palette.of(verdict) != palette.ground for verdict in Verdict)
        assert palette.of(Verdict.HOLDS) != palette.of(Verdict.BROKEN)
        assert palette.theme().name == palette.name


LIVE = LiveTrial(planned=run_sheet_of(AUDIT).trials[-1], moves=(), message="it went wrong", failed=True)


def test_the_now_panel_says_what_is_to_be_done_and_what_went_wrong() -> None:
    shown = now_panel(LIVE, AUDIT, judged(AUDIT), PALETTE).plain
    assert "everything is already connected" in shown
    assert "start the trial" in shown
    assert "it went wrong" in shown


def test_with_nothing_left_to_do_the_panel_says_what_the_rig_cannot_show() -> None:
    audit = audit_of("Z9 data 5 Gb/s")
    shown = now_panel(LiveTrial(), audit, judged(audit), PALETTE).plain
    assert "No trials planned" in shown
    assert "? Z9 data 5 Gb/s: the device has no port Z9" in shown


@pytest.mark.parametrize("room", [4, 8, 40])
def test_the_sheet_keeps_to_its_room_and_shows_the_chosen_trial(room: int) -> None:
    items, work = sheet_items(AUDIT, judged(AUDIT)), left_to_do(AUDIT, judged(AUDIT))
    shown = sheet_list(items, LIVE.planned, work, PALETTE, 33, room).plain.splitlines()
    assert any(line.startswith("▸") for line in shown)
    assert len(shown) <= max(4, room) + 1
    assert all(len(line) <= 33 for line in shown)


def test_the_last_trace_of_a_socket_is_shown_while_nothing_is_measured() -> None:
    link, write, read = rates("A1", 450)
    traced = replace(read, trace=Trace((0.1, 0.2), (3.6e9, 3.6e9)))
    audit = with_trial(AUDIT, "A1/storage", link, write, traced)
    (recorded,) = recorded_traces("A1", audit, judged(audit))
    assert (recorded.reading.at, recorded.reading.trace) == ("A1", traced.trace)
    assert "trial T2" in recorded.title
    assert recorded_traces("A2", audit, judged(audit)) == ()
