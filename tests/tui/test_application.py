"""The screens through Textual's pilot: keys, mouse, messages, and what is shown when something refuses."""

from __future__ import annotations

import asyncio
import gc
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

import pytest
from textual.pilot import Pilot
from textual.screen import Screen
from textual.widgets import Input, Static

from auditra.cli.composition import LibraryHandle, make_services
from auditra.core.errors import LibraryBusy
from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, NoteWritten, RigNoted
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.source import Source
from auditra.core.model.trial import Outcome
from auditra.store.demos import DEMOS
from auditra.tui.app import AuditraApp
from auditra.tui.messages import PortChosen
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.base import TooSmall
from auditra.tui.screens.help import HelpScreen
from auditra.tui.screens.shelf import ShelfScreen
from auditra.tui.widgets.faces import FacesMap
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine
from auditra.tui.widgets.shelf_list import ShelfList
from auditra.tui.widgets.track import Track
from tests.support.audits import BEGIN, HUB, galley
from tests.support.workshops import demo_app, demo_services

pytestmark = pytest.mark.usefixtures("quick")
WIDE = (160, 50)


async def until(pilot: Pilot[None], true: Callable[[], bool], within_s: float = 60.0) -> None:
    for _ in range(int(within_s / 0.02)):
        if true():
            await pilot.pause()
            return
        await asyncio.sleep(0.02)
    shown = "\n".join(str(each.render()) for each in pilot.app.screen.query(Static) if each.display)
    raise AssertionError(f"it did not come to this; {pilot.app.screen} had:\n{shown}")


async def open_audit(pilot: Pilot[None]) -> AuditScreen:
    await pilot.press("enter")
    await until(pilot, lambda: isinstance(pilot.app.screen, AuditScreen))
    await pilot.pause()
    screen = pilot.app.screen
    assert isinstance(screen, AuditScreen)
    screen.post_message(PortChosen("A1"))
    await pilot.pause()
    return screen


def text_of(screen: Screen[None], widget: str) -> str:
    return str(screen.query_one(widget, Static).render())


def done(screen: AuditScreen) -> int:
    return sum(record.outcome is Outcome.COMPLETE for record in screen.judged.audit.trials)


async def test_the_shelf_shows_the_demo_and_enter_opens_it(tmp_path: Path) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=WIDE) as pilot:
        assert isinstance(app.screen, ShelfScreen)
        assert app.screen.query_one(TitleLine).right == ("2 audits",)
        screen = await open_audit(pilot)
        assert screen.query_one(TitleLine).right[-1] == "simulated bench"
        assert "start the trial" in text_of(screen, "#now-text")
        assert screen.judged.judgement.to_do[0].title in text_of(screen, "#now-text")
        await pilot.press("b")
        assert isinstance(app.screen, ShelfScreen)


async def test_memory_is_looked_after_again_once_the_shelf_stands(tmp_path: Path) -> None:
    gc.disable()
    try:
        async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
            await until(pilot, gc.isenabled)
    finally:
        gc.enable()


async def test_one_key_runs_a_trial_and_its_reading_is_judged(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("enter")
        await until(pilot, lambda: done(screen) == 1 and not screen.is_measuring)
        assert "trial 2 of 24" in text_of(screen, "#now-text")
        assert "complete" in text_of(screen, "#now-text")
        assert "T1 complete" in text_of(screen, "#next-text")


async def test_all_that_is_left_runs_by_itself_until_everything_is_decided(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("a")
        await until(pilot, lambda: screen.judged.judgement.to_do == () and not screen.is_measuring, within_s=150)
        assert screen.judged.judgement.decided == 8
        await pilot.press("7")
        await pilot.pause()
        assert "consumes 11" in text_of(screen, "#ledger-text")
        assert "31.0 of 32" in text_of(screen, "#ledger-text")


async def test_did_not_appear_is_one_key_and_undo_takes_it_back(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("x")
        assert screen.judged.audit.trials[0].outcome is Outcome.DID_NOT_APPEAR
        assert "Press u to undo" in text_of(screen, "#now-text")
        await pilot.press("u")
        assert screen.judged.audit.trials == ()
        await pilot.press("u")
        assert "nothing to undo" in text_of(screen, "#now-text")


async def test_moves_within_a_trial_are_asked_for(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        shut = next(each for each in screen.judged.judgement.to_do if each.key.startswith("P1/appearance"))
        screen.state.runner.begin(shut)
        for _ in range(2):
            await until(pilot, lambda: "done, continue" in text_of(screen, "#now-text"))
            await pilot.press("enter")
        await until(pilot, lambda: not screen.is_measuring)
        assert screen.judged.audit.trials[-1].readings[0].count is not None


async def test_escape_stops_a_trial_which_then_counts_for_nothing(tmp_path: Path) -> None:
    services = demo_services(tmp_path)
    async with AuditraApp(services).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        shut = next(each for each in screen.judged.judgement.to_do if each.key.startswith("P1/appearance"))
        screen.state.runner.begin(shut)
        await until(pilot, lambda: "done, continue" in text_of(screen, "#now-text"))
        await pilot.press("b")
        assert isinstance(pilot.app.screen, AuditScreen)
        await pilot.press("escape")
        await until(pilot, lambda: not screen.is_measuring)
        assert screen.judged.audit.trials[-1].outcome is Outcome.STOPPED


async def test_did_not_appear_may_be_said_while_the_trial_waits(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        shut = next(each for each in screen.judged.judgement.to_do if each.key.startswith("P1/appearance"))
        screen.state.runner.begin(shut)
        await until(pilot, lambda: "done, continue" in text_of(screen, "#now-text"))
        await pilot.press("x")
        await until(pilot, lambda: len(screen.judged.audit.trials) == 2)
        outcomes = [record.outcome for record in screen.judged.audit.trials]
        assert outcomes == [Outcome.STOPPED, Outcome.DID_NOT_APPEAR]


async def test_a_trial_is_begun_only_where_its_moves_are_in_sight(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("7", "enter", "a", "x")
        await pilot.pause()
        assert not screen.is_measuring
        assert screen.judged.audit.trials == ()


async def test_arrows_and_mouse_move_over_the_tiles(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("right", "right")
        assert screen.query_one(FacesMap).selected == "S1"
        assert "SOCKET S1" in text_of(screen, "#socket")
        await pilot.click(FacesMap, offset=(75, 3))
        assert screen.query_one(FacesMap).selected == "P1"
        assert "no data" in text_of(screen, "#socket")


async def test_stages_are_reached_by_key_and_mouse_and_empty_ones_say_what_belongs_there(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        for stage, widget in (("5", "#traces-text"), ("6", "#findings-text"), ("8", "#contents-text")):
            await pilot.press(stage)
            await pilot.pause()
            assert len(text_of(screen, widget).splitlines()) >= 3
        await pilot.click(Track, offset=(3, 0))
        assert screen.query_one(Track).stage == 1
        await pilot.click(KeyLine, offset=(30, 0))


async def test_publish_is_a_key_and_says_what_it_wrote(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("8")
        await until(pilot, lambda: "DRAFT" in text_of(screen, "#contents-text").upper())
        assert "In short".upper() in text_of(screen, "#page-text").upper()
        await pilot.press("j", "j")
        assert "THE CLAIMS" in text_of(screen, "#page-text").upper()
        await pilot.press("p")
        await until(pilot, lambda: "OP-6-report.pdf" in text_of(screen, "#contents-text"))
        written = {path.name for path in (tmp_path / "reports").iterdir()}
        assert {"OP-6-report.html", "OP-6-report.md", "OP-6-report.pdf", "OP-6-faces.svg"} < written
        await until(pilot, lambda: "version 1" in text_of(screen, "#contents-text").lower())


async def test_a_second_version_asks_for_its_reason_and_says_it(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("8", "p")
        await until(pilot, lambda: "OP-6-report.pdf" in text_of(screen, "#contents-text"))
        await pilot.press("7", "k", *"drive", "space", *"usb-a", "enter")
        await until(pilot, lambda: "drive" in text_of(screen, "#kit"))
        await pilot.press("8", "p")
        await until(pilot, lambda: bool(screen.query("TypingRow Input")))
        assert len(screen.state.judged.audit.published) == 1
        await pilot.press(*"added", "enter")
        await until(pilot, lambda: len(screen.state.judged.audit.published) == 2)
        page = tmp_path / "reports" / "OP-6-report.html"
        await until(pilot, lambda: "Version 2: added" in page.read_text())


async def test_every_size_works_and_a_tiny_one_says_so(tmp_path: Path) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=(80, 24)) as pilot:
        screen = await open_audit(pilot)
        assert screen.has_class("-narrow")
        await pilot.press("tab")
        assert screen.query_one("#reading").display
        await pilot.resize_terminal(100, 30)
        await pilot.pause()
        assert screen.has_class("-middle")
        await pilot.resize_terminal(40, 10)
        await until(pilot, lambda: isinstance(app.screen, TooSmall))
        assert "40x10 is too small" in str(app.screen.query_one(Static).render())
        await pilot.resize_terminal(120, 40)
        await until(pilot, lambda: app.screen is screen)


async def test_help_explains_every_verdict_and_closes_with_any_key(tmp_path: Path) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=WIDE) as pilot:
        await open_audit(pilot)
        await pilot.press("question_mark")
        await until(pilot, lambda: isinstance(app.screen, HelpScreen))
        words = str(app.screen.query_one("#help-text", Static).render())
        assert all(word in words for word in ("= holds", "x broken", "~ too close", "! unstated", "did not appear"))
        await pilot.press("z")
        assert isinstance(app.screen, AuditScreen)


async def test_another_process_running_the_audit_is_told_and_nothing_is_recorded(tmp_path: Path) -> None:
    @contextmanager
    def held(name: str) -> Iterator[None]:
        raise LibraryBusy(f'audit "{name}"', why="another Auditra (process 7) is running its trials", do="Wait")
        yield

    services = replace(demo_services(tmp_path), hold=held)
    async with AuditraApp(services).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("enter")
        await until(pilot, lambda: "process 7" in text_of(screen, "#now-text"))
        assert screen.judged.audit.trials == ()


async def test_what_another_process_wrote_is_seen_at_the_next_change(tmp_path: Path) -> None:
    services = demo_services(tmp_path)
    async with AuditraApp(services).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        services.open_session("OP-6")._journal.append([NoteWritten("from elsewhere")], action="other", at=BEGIN)
        await pilot.press("x")
        assert [note.text for note in screen.judged.audit.notes] == ["from elsewhere"]


@pytest.mark.parametrize("theme", ["lamplight", "chart-paper", "colour-safe"])
async def test_every_theme_paints_every_stage(tmp_path: Path, theme: str) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        app.theme = theme
        for stage in "478":
            await pilot.press(stage)
            await pilot.pause()
        assert screen.query_one(Track).stage == 8


HOSTILE = "[red]X[/red] [@click=app.quit]\x1b[2J[/"


@pytest.mark.parametrize("size", [(160, 50), (80, 24)])
async def test_markup_and_escape_codes_from_a_sheet_are_shown_as_text(tmp_path: Path, size: tuple[int, int]) -> None:
    device = replace(HUB, maker=HOSTILE, kind=HOSTILE, faces=(replace(HUB.faces[0], name=HOSTILE), *HUB.faces[1:]))
    claim = ClaimMade("claim1", "A1 data 5 Gb/s", Source(quoted=HOSTILE))
    handle = LibraryHandle(tmp_path / "library")
    handle.library.create(HOSTILE, [DeviceNoted(device), RigNoted(replace(galley(), name=HOSTILE)), claim], BEGIN)
    handle.shelf.rows()
    async with AuditraApp(make_services(handle, pace=None)).run_test(size=size) as pilot:
        screen = await open_audit(pilot)
        for stage in "4785":
            await pilot.press(stage)
            await pilot.pause()
        assert screen.query_one(TitleLine).left[0].startswith("[red]X[/red]")
        assert "\x1b" not in text_of(screen, "#socket")
        assert "[red]X[/red]" in text_of(screen, "#socket")


async def type_answer(pilot: Pilot[None], screen: AuditScreen, answer: str) -> None:
    """Type it once it is asked for, and see it taken."""
    asked = screen.query_one("#answer", Input)
    await until(pilot, lambda: asked.has_focus)
    assert "everything is already connected" not in text_of(screen, "#now-text")
    asked.value = answer
    await pilot.press("enter")
    await until(pilot, lambda: not asked.has_focus or asked.value == "")


async def test_a_live_audit_asks_for_what_this_machine_cannot_measure_and_says_which_bench_it_is(
    tmp_path: Path,
) -> None:
    handle = LibraryHandle(tmp_path / "library")
    claims = [ClaimMade("claim1", "H1 shows 3840x2160@30")]
    handle.library.create("real", [BenchNoted(LIVE_BENCH), DeviceNoted(HUB), RigNoted(galley()), *claims], BEGIN)
    handle.shelf.rows()
    app = AuditraApp(make_services(handle, pace=None))
    async with app.run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        assert "live bench" in screen.query_one(TitleLine).right
        for answers in (["yes", "3840x2160@60"], ["yes", "big", "3840x2160@30"]):
            await pilot.press("enter")
            for answer in answers:
                await type_answer(pilot, screen, answer)
            await until(pilot, lambda: not screen.is_measuring)
        verdict = screen.judged.judgement.claims[0]
        assert verdict.verdict.word == "holds"
        assert screen.judged.audit.trials[1].trial.bench == LIVE_BENCH


async def test_arrow_keys_that_come_quickly_are_all_counted(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("right", "right", "right")
        await pilot.pause()
        assert screen.query_one(FacesMap).selected == "N1"


async def test_a_long_shelf_scrolls_to_what_is_chosen_and_opens_what_is_clicked(tmp_path: Path) -> None:
    handle = LibraryHandle(tmp_path / "library")
    for number in range(40):
        handle.library.create(f"audit {number}", DEMOS[0].facts(), BEGIN)
    app = AuditraApp(make_services(handle, pace=None))
    async with app.run_test(size=(100, 30)) as pilot:
        shelf = app.screen.query_one(ShelfList)
        await until(pilot, lambda: len(shelf.rows) == 40)
        for key, chosen in (("end", 39), ("down", 39), ("up", 38), ("home", 0), ("pagedown", 8), ("pageup", 0)):
            await pilot.press(key)
            assert shelf.chosen == chosen
            assert f"audit {chosen} on galley" in str(shelf.render())
        await pilot.press("end", "enter")
        await until(pilot, lambda: isinstance(app.screen, AuditScreen))
        assert app.screen.judged.audit.name == "audit 39"  # type: ignore[attr-defined]
        await pilot.press("b")
        await pilot.pause()
        await pilot.press("home")
        await pilot.click(ShelfList, offset=(10, 5))
        await until(pilot, lambda: isinstance(app.screen, AuditScreen))
        assert app.screen.judged.audit.name == "audit 1"  # type: ignore[attr-defined]
