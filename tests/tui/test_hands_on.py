"""Hands on the bench: trials are chosen, skipped and added; readings are typed; the log takes one key an event."""

from __future__ import annotations

from pathlib import Path

import pytest
from textual.pilot import Pilot
from textual.widgets import Static

from auditra.core.model.depth import Depth
from auditra.core.model.event import EventKind
from auditra.core.model.reading import Grade, Quantity
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.choice import ChoiceScreen
from auditra.tui.screens.form import FieldLine, FormScreen
from auditra.tui.screens.log import LogScreen
from auditra.tui.widgets.frame_lines import KeyLine
from auditra.tui.widgets.offers_line import OffersLine
from auditra.tui.widgets.typing_line import TypingLine
from tests.support.forms import fill_in
from tests.support.workshops import demo_app
from tests.tui.test_application import open_audit, text_of, until

pytestmark = pytest.mark.usefixtures("quick")
WIDE = (160, 50)


async def form_of(pilot: Pilot[None], key: str) -> FormScreen:
    await pilot.press(key)
    await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
    form = pilot.app.screen
    assert isinstance(form, FormScreen)
    return form


def chosen(screen: AuditScreen) -> str:
    planned = screen.state.runner.live.planned
    return planned.title if planned is not None else ""


async def choose(pilot: Pilot[None], screen: AuditScreen, title: str) -> None:
    """With the key that goes down the list, until this trial is set out."""
    for _ in range(40):
        if chosen(screen) == title:
            return
        before = chosen(screen)
        await pilot.press("j")
        await until(pilot, lambda before=before: chosen(screen) != before)  # type: ignore[misc]
    raise AssertionError(f"{title} is not on the sheet")


async def test_any_trial_is_chosen_skipped_with_a_reason_and_wanted_again(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await choose(pilot, screen, "film server, direct")
        await pilot.press("s")
        await until(pilot, lambda: screen.is_typing)
        screen.query_one(TypingLine).value = "the server is lent"
        await pilot.press("enter")
        await until(pilot, lambda: len(screen.judged.audit.skipped) == 1)
        assert "film server, direct: the" in text_of(screen, "#next-text")
        assert "23 of 24 left" in text_of(screen, "#next-text")
        assert chosen(screen) == "film server, direct"
        await pilot.press("s")
        await until(pilot, lambda: screen.judged.audit.skipped == ())
        await pilot.press("u")
        await until(pilot, lambda: len(screen.judged.audit.skipped) == 1)


async def test_a_trial_that_is_done_is_chosen_and_run_again(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await choose(pilot, screen, "fast SSD, direct")
        for turn in (1, 2):
            await pilot.press("enter")
            await until(pilot, lambda turn=turn: len(screen.judged.audit.trials) == turn and not screen.is_measuring)  # type: ignore[misc]
            await choose(pilot, screen, "fast SSD, direct")
        first, second = screen.judged.audit.trials
        assert first.identity == second.identity


async def test_the_quick_sheet_is_chosen_says_what_it_leaves_out_and_is_undone(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("d")
        await until(pilot, lambda: isinstance(pilot.app.screen, ChoiceScreen))
        choices = pilot.app.screen
        assert "24 trials left" in str(choices.query_one("#choices", Static).render())
        assert "every two together" in str(choices.query_one("#note", Static).render())
        await pilot.press("up")
        assert "side of the host plug" in str(choices.query_one("#note", Static).render())
        await pilot.press("enter")
        await until(pilot, lambda: screen.judged.audit.depth is Depth.QUICK)
        quick = screen.judged.judgement.to_do
        assert f"QUICK SHEET   {len(quick)} of {len(quick)} left" in text_of(screen, "#next-text")
        assert {trial.depth for trial in quick} == {Depth.QUICK}
        await pilot.press("u")
        await until(pilot, lambda: screen.judged.audit.depth is Depth.FULL)
        assert len(screen.judged.judgement.to_do) > len(quick)


async def test_an_own_trial_is_on_the_sheet_runs_and_is_undone(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await choose(pilot, screen, "A1 write and read back")
        form = await form_of(pilot, "o")
        assert form.texts["lead"] == "AC-1"
        await fill_in(pilot, lead="AC-9")
        assert "no such lead" in str(form.query_one("#form-message", Static).render())
        await fill_in(pilot, title="A1 with the other lead", lead="AC-2")
        await until(pilot, lambda: len(screen.judged.audit.own_trials) == 1)
        assert screen.judged.judgement.sheet.own[0].title == "A1 with the other lead"
        await choose(pilot, screen, "A1 with the other lead")
        await pilot.press("enter")
        await until(pilot, lambda: len(screen.judged.audit.trials) == 1 and not screen.is_measuring)
        assert screen.judged.audit.trials[0].trial.setup.plugged[-1].lead == "AC-2"
        assert screen.judged.judgement.sheet.own[0] not in screen.judged.judgement.to_do
        await pilot.press("u", "u")
        await until(pilot, lambda: screen.judged.audit.own_trials == ())


async def test_a_reading_is_typed_into_a_new_trial_questioned_and_into_an_old_one(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await choose(pilot, screen, "A1 write and read back")
        form = await form_of(pilot, "y")
        await fill_in(pilot, quantity="read rate", value="440 Mb/s")
        assert "save again to confirm" in str(form.query_one("#form-message", Static).render())
        await fill_in(pilot, value="440 MB/s; 441 MB/s")
        await until(pilot, lambda: len(screen.judged.audit.trials) == 1)
        (reading,) = screen.judged.audit.trials[0].readings
        assert (reading.quantity, reading.grade, reading.at) == (Quantity.READ, Grade.TYPED, "A1")
        assert reading.values == (440e6 * 8, 441e6 * 8)
        await form_of(pilot, "y")
        await fill_in(
            pilot,
            trial="T1 A1",
            quantity="case temperature",
            at="case",
            value="41.5 C",
            witness="thermometer",
            note="lid",
        )
        await until(pilot, lambda: len(screen.judged.audit.trials[0].readings) == 2)
        warm = screen.judged.audit.trials[0].readings[1]
        assert (warm.grade, warm.error, warm.note) == (Grade.READ, 1.0, "lid")
        await pilot.press("u")
        await until(pilot, lambda: len(screen.judged.audit.trials[0].readings) == 1)
        await pilot.press("u")
        await until(pilot, lambda: screen.judged.audit.trials == ())


async def test_the_log_takes_events_notes_doubts_and_photos_and_undoes_each(tmp_path: Path) -> None:
    photo = tmp_path / "seam.png"
    photo.write_bytes(b"\x89PNG\r\n")
    async with demo_app(tmp_path).run_test(size=(100, 30)) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("space")
        await until(pilot, lambda: isinstance(pilot.app.screen, LogScreen))
        log = pilot.app.screen
        await pilot.press("right", "c", "p")
        await until(pilot, lambda: len(screen.judged.audit.events) == 2)
        assert [event.what for event in screen.judged.audit.events] == [EventKind.CONNECTED, EventKind.PICTURE]
        assert {event.port for event in screen.judged.audit.events} == {"A2"}
        assert "time to picture" in str(log.query_one("#log-lines", Static).render())
        await form_of(pilot, "n")
        await fill_in(pilot, text="the seam gapes", about="build", standing="opinion", photo=str(photo))
        await until(pilot, lambda: len(screen.judged.audit.notes) == 1)
        note = screen.judged.audit.notes[0]
        assert (note.about, note.is_opinion, note.port) == ("build", True, "A2")
        assert note.evidence == (screen.judged.audit.evidence[0].sha256,)
        await form_of(pilot, "d")
        await fill_in(pilot, question="is it the lead?", suspect="rig part")
        await until(pilot, lambda: len(screen.judged.audit.doubts) == 1)
        await form_of(pilot, "f")
        await fill_in(pilot, photo=str(photo))
        await until(pilot, lambda: len(screen.judged.audit.evidence) == 2)
        await until(pilot, lambda: "file seam.png" in str(log.query_one("#log-lines", Static).render()))
        for _ in range(5):
            await pilot.press("u")
        await until(pilot, lambda: screen.judged.audit.undoable == ())
        audit = screen.judged.audit
        assert (audit.events, audit.notes, audit.doubts, audit.evidence) == ((), (), (), ())
        await pilot.press("escape")
        await until(pilot, lambda: pilot.app.screen is screen)


async def test_events_are_logged_while_a_trial_runs_and_belong_to_it(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("a")
        await until(pilot, lambda: len(screen.judged.audit.trials) >= 1 and screen.is_measuring)
        await pilot.press("space")
        await until(pilot, lambda: isinstance(pilot.app.screen, LogScreen))
        await pilot.press("x")
        await until(pilot, lambda: len(screen.judged.audit.events) >= 1)
        await pilot.press("escape")
        screen.stop_trial()
        await until(pilot, lambda: not screen.is_measuring, within_s=60)
        (crash,) = [event for event in screen.judged.audit.events if event.what == EventKind.CRASH]
        assert crash.moment is not None
        assert len(screen.judged.audit.trials) > 1


async def test_a_mouse_chooses_a_kind_a_field_a_suggestion_and_saves(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("3", "n")
        await until(pilot, lambda: isinstance(pilot.app.screen, ChoiceScreen))
        kinds = str(pilot.app.screen.query_one("#choices", Static).render()).splitlines()
        at = next(number for number, line in enumerate(kinds) if "lead" in line)
        await pilot.click("#choices", offset=(4, at))
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        form = pilot.app.screen
        assert isinstance(form, FormScreen)
        form.query_one("#field-id", FieldLine).value = "CC-9"
        await pilot.click("#field-ends")
        await pilot.press(*"usb-c, usb-c")
        await pilot.click("#field-origin")
        await until(pilot, lambda: "shipped" in str(form.query_one(OffersLine).render()))
        await pilot.click(OffersLine, offset=(9, 0))
        assert form.texts["origin"] == "shipped"
        key_line = form.query_one(KeyLine)
        at = str(key_line.render()).index("ctrl+s")
        await pilot.click(KeyLine, offset=(at + 1, 0))
        await until(pilot, lambda: screen.judged.audit.rig.part("CC-9") is not None)
