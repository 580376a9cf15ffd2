"""The shelf: an audit begins, is followed up, put away and found there, without a file and without leaving it."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from textual.pilot import Pilot
from textual.widgets import Static, TextArea

from auditra.cli.composition import LibraryHandle, make_services
from auditra.core.host.snapshot import HubPort, Maker, Snapshot, UsbDevice
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.verdict import Verdict
from auditra.tui.app import AuditraApp
from auditra.tui.renderables.counts import CountsLayout
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.base import TooSmall
from auditra.tui.screens.counts import CountsScreen
from auditra.tui.screens.form import FormScreen
from auditra.tui.screens.line_up import LineUpScreen
from auditra.tui.screens.paste import PasteScreen
from auditra.tui.screens.shelf import ShelfScreen
from auditra.tui.stages.claims.stage import ClaimsStage
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from auditra.tui.widgets.counts_list import CountsList
from auditra.tui.widgets.shelf_list import ShelfList
from auditra.workflows.services import Services
from tests.support.forms import fill_in
from tests.support.workshops import demo_app
from tests.tui.test_application import text_of, until

pytestmark = pytest.mark.usefixtures("quick")
WIDE = (160, 50)
_BUS = UsbDevice(
    "usb2", None, 10_000.0, 0x1D6B, 3, port_count=1, ports=(HubPort("usb2-port1", 1, connect_type="hotplug"),)
)
MACHINE = Snapshot(Maker("Wherry", "W-14", system="Linux 6.1"), usb=(_BUS,))


def empty_services(folder: Path) -> Services:
    """An empty shelf on a machine with one socket."""
    return replace(make_services(LibraryHandle(folder / "library"), pace=None), probe=lambda: MACHINE)


def shelf_of(pilot: Pilot[None]) -> ShelfList:
    return pilot.app.screen.query_one(ShelfList)


def message(pilot: Pilot[None]) -> str:
    return str(pilot.app.screen.query_one("#shelf-message", Static).render())


async def ask(pilot: Pilot[None], key: str) -> None:
    await pilot.press(key)
    await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))


async def test_an_audit_begins_on_an_empty_shelf_with_a_pasted_text(tmp_path: Path) -> None:
    async with AuditraApp(empty_services(tmp_path)).run_test(size=WIDE) as pilot:
        await until(pilot, lambda: "Press n to start one" in message(pilot))
        await ask(pilot, "n")
        await fill_in(pilot, name="quay", maker="Brackwater", model="BW-11", kind="dock", plug="usb-a plug")
        await until(pilot, lambda: isinstance(pilot.app.screen, AuditScreen))
        screen = pilot.app.screen
        assert isinstance(screen, AuditScreen)
        audit = screen.judged.audit
        assert (audit.device.name, audit.device.kind, audit.bench) == ("Brackwater BW-11", "dock", LIVE_BENCH)
        assert [(socket.id, socket.data_bps) for socket in audit.rig.hosts[0].sockets] == [("A1", 10e9)]
        assert isinstance(screen.stage, ClaimsStage)
        await pilot.press("g")
        await until(pilot, lambda: isinstance(pilot.app.screen, PasteScreen))
        pilot.app.screen.query_one(TextArea).text = "Two USB-A ports at 5 Gbps. HDMI 3840x2160 at 60 Hz."
        await pilot.press("ctrl+r")
        await pilot.pause()
        await pilot.press("y", "y", "y", "escape")
        await until(pilot, lambda: len(screen.judged.audit.claims) == 3)
        ports = {port.id: port.connector for port in screen.judged.audit.device.ports()}
        assert ports == {"A1": "usb-a", "A2": "usb-a", "H1": "hdmi", "UP": "usb-a plug"}


async def test_a_name_that_is_taken_or_missing_is_refused_and_the_form_stays(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await ask(pilot, "n")
        form = pilot.app.screen
        await fill_in(pilot, name="OP-6", maker="x", model="", kind="hub")
        assert "model" in str(form.query_one("#form-message", Static).render())
        await fill_in(pilot, model="y")
        assert "already exists" in str(form.query_one("#form-message", Static).render())
        assert pilot.app.screen is form


async def test_a_follow_up_keeps_claims_and_rig_and_names_what_changed(tmp_path: Path) -> None:
    services = demo_app(tmp_path)._services
    async with AuditraApp(services).run_test(size=WIDE) as pilot:
        await until(pilot, lambda: len(shelf_of(pilot).rows) == 2)
        earlier = services.open_session("OP-6").judged.audit
        await ask(pilot, "f")
        await fill_in(pilot)
        assert "nothing is named" in str(pilot.app.screen.query_one("#form-message", Static).render())
        await fill_in(pilot, changed="firmware 1.4")
        await until(pilot, lambda: isinstance(pilot.app.screen, AuditScreen))
        later = services.open_session("OP-6-2").judged.audit
        assert later.follows is not None
        assert (later.follows.earlier, later.follows.changed) == ("OP-6", "firmware 1.4")
        assert (later.claims, later.rig, later.device) == (earlier.claims, earlier.rig, earlier.device)
        assert later.trials == ()


async def test_an_archived_audit_is_put_away_shown_again_and_taken_out(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await until(pilot, lambda: len(shelf_of(pilot).rows) == 2)
        await pilot.press("z")
        await until(pilot, lambda: [row.name for row in shelf_of(pilot).rows] == ["BW-11"])
        await pilot.press("v")
        await until(pilot, lambda: len(shelf_of(pilot).rows) == 2)
        assert [row.archived for row in shelf_of(pilot).rows] == [True, False]
        await pilot.press("z")
        await until(pilot, lambda: [row.archived for row in shelf_of(pilot).rows] == [False, False])
    handle = LibraryHandle(tmp_path / "library")
    assert len(handle.shelf.kept_rows()) == 2


async def test_the_shelf_is_filtered_while_typing_and_ordered(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(80, 24)) as pilot:
        await until(pilot, lambda: len(shelf_of(pilot).rows) == 2)
        await pilot.press("slash", "q", "u", "a", "y")
        await until(pilot, lambda: [row.name for row in shelf_of(pilot).rows] == ["BW-11"])
        await pilot.press("enter")
        await pilot.press("escape")
        await until(pilot, lambda: len(shelf_of(pilot).rows) == 2)
        await pilot.press("o")
        await until(pilot, lambda: [row.name for row in shelf_of(pilot).rows] == ["BW-11", "OP-6"])
        assert isinstance(pilot.app.screen, ShelfScreen)


async def test_marked_audits_are_lined_up_turned_through_and_written(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await until(pilot, lambda: "n starts an audit" in message(pilot))
        await pilot.press("m")
        assert "Mark another" in message(pilot)
        await pilot.press("l")
        assert isinstance(pilot.app.screen, ShelfScreen), "one audit is no line-up"
        await pilot.press("down", "m")
        assert shelf_of(pilot).marked == ("OP-6", "BW-11")
        await pilot.press("l")
        await until(pilot, lambda: isinstance(pilot.app.screen, LineUpScreen))
        screen = pilot.app.screen
        await until(pilot, lambda: "Rows won" in text_of(screen, "#line-up-text"))
        await pilot.press("j", "j")
        assert "has none" in text_of(screen, "#line-up-text")
        await pilot.resize_terminal(80, 24)
        await until(pilot, lambda: "LIKE PORTS" in text_of(screen, "#line-up-text").upper())
        await pilot.press("p")
        await until(pilot, lambda: "line-up.csv" in text_of(screen, "#line-up-message"))
        written = {path.suffix for path in (tmp_path / "reports").iterdir()}
        assert written == {".html", ".pdf", ".md", ".csv"}
        await pilot.press("b")
        await until(pilot, lambda: isinstance(pilot.app.screen, ShelfScreen))
        await pilot.press("m", "up", "m")
        assert shelf_of(pilot).marked == ()


async def test_the_shelf_is_searched_by_what_claims_say(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await until(pilot, lambda: "n starts an audit" in message(pilot))
        await pilot.press("slash", *"15", "space", *"cm", "space", *"open")
        await until(pilot, lambda: [row.name for row in shelf_of(pilot).rows] == ["OP-6"])
        await pilot.press(*"xyz")
        await until(pilot, lambda: shelf_of(pilot).rows == [])


async def test_verdicts_are_counted_by_maker_and_a_chosen_group_is_looked_for(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await until(pilot, lambda: len(shelf_of(pilot).rows) == 2)
        await pilot.press("c")
        await until(pilot, lambda: isinstance(pilot.app.screen, CountsScreen))
        counts = pilot.app.screen.query_one(CountsList)
        assert [(name, each["open"]) for name, each in counts.groups] == [("Brackwater", 12), ("Osierpell", 8)]
        await pilot.press("c", "down", "enter")
        await until(pilot, lambda: [row.name for row in shelf_of(pilot).rows] == ["OP-6"])
        await pilot.press("slash", *"short", "enter", "c")
        await until(pilot, lambda: isinstance(pilot.app.screen, CountsScreen))
        assert pilot.app.screen.query_one(CountsList).groups == []
        assert "No claim to count" in str(pilot.app.screen.query_one("#counts-message", Static).render())


async def test_an_empty_shelf_counts_nothing_and_a_small_window_says_what_it_needs(tmp_path: Path) -> None:
    async with AuditraApp(empty_services(tmp_path)).run_test(size=(58, 15)) as pilot:
        await until(pilot, lambda: isinstance(pilot.app.screen, TooSmall))
        assert "58x15 is too small" in str(pilot.app.screen.query_one(Static).render())
        await pilot.resize_terminal(*WIDE)
        await until(pilot, lambda: isinstance(pilot.app.screen, ShelfScreen))
        await pilot.press("c", "c", "c")
        await until(pilot, lambda: isinstance(pilot.app.screen, CountsScreen))
        await pilot.press("down", "enter", "b")
        await until(pilot, lambda: isinstance(pilot.app.screen, ShelfScreen))


_COUNTS = st.dictionaries(st.sampled_from([each.word for each in Verdict]), st.integers(1, 90_000), min_size=1)


@given(st.lists(st.tuples(st.text(max_size=60), _COUNTS.map(Counter)), min_size=1, max_size=5), st.integers(54, 200))
def test_every_group_fits_its_line_with_all_its_counts(groups: list[tuple[str, Counter[str]]], width: int) -> None:
    layout = CountsLayout(groups, width, PALETTES[DEFAULT_PALETTE])
    for name, counts in groups:
        line = layout.line(name, counts)
        assert "\n" not in line.plain
        assert line.cell_length <= width
        if width >= 100:
            words = line.plain.split()
            assert [int(each) for each in words if each.isdigit()][-len(counts) :] == [
                counts[verdict.word] for verdict in Verdict if counts[verdict.word]
            ]
