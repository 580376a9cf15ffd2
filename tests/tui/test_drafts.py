"""Nothing typed is lost: what was on a line when the application ended is there when the same is asked again."""

from __future__ import annotations

from pathlib import Path

import pytest
from textual.widgets import Input, TextArea

from auditra.tui.messages import TextAsked
from auditra.tui.screens.paste import PasteScreen
from auditra.tui.widgets.typing_line import TypingLine
from auditra.tui.widgets.typing_row import TypingRow
from tests.support.workshops import demo_app
from tests.tui.test_application import open_audit, text_of, until

pytestmark = pytest.mark.usefixtures("quick")
WIDE = (160, 50)


async def test_a_claim_that_was_not_finished_is_on_the_line_again(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("1", "n")
        await until(pilot, lambda: screen.is_typing)
        screen.query_one(TypingLine).value = "A1 gives 4.5"
        await pilot.pause()
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("1", "n")
        await until(pilot, lambda: screen.is_typing)
        assert screen.query_one(TypingLine).value == "A1 gives 4.5"
        assert "last time" in text_of(screen, "#typing-message")
        screen.query_one(TypingLine).value = "A1 gives 4.5 W"
        await pilot.press("enter")
        await until(pilot, lambda: not screen.is_typing)
        await pilot.press("n")
        await until(pilot, lambda: screen.is_typing)
        assert "4.5" not in screen.query_one(TypingRow).line.value


async def test_a_pasted_text_is_there_again_until_something_of_it_was_accepted(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await open_audit(pilot)
        await pilot.press("1", "g")
        await until(pilot, lambda: isinstance(pilot.app.screen, PasteScreen))
        pilot.app.screen.query_one(TextArea).text = "Four USB-A ports at 5 Gbps"
        await pilot.pause()
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        await open_audit(pilot)
        await pilot.press("1", "g")
        await until(pilot, lambda: isinstance(pilot.app.screen, PasteScreen))
        assert pilot.app.screen.query_one(TextArea).text == "Four USB-A ports at 5 Gbps"
        await pilot.press("ctrl+r")
        await pilot.app.workers.wait_for_complete()
        await pilot.pause()
        await pilot.press("j", "j", "y", "escape")
        await pilot.pause()
        await pilot.press("g")
        await until(pilot, lambda: isinstance(pilot.app.screen, PasteScreen))
        assert pilot.app.screen.query_one(TextArea).text == ""


async def test_an_answer_that_a_trial_asked_for_is_there_when_it_asks_again(tmp_path: Path) -> None:
    for turn in (1, 2):
        async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
            screen = await open_audit(pilot)
            screen.post_message(TextAsked("How long is it?", "15 cm"))
            await until(pilot, lambda screen=screen: screen.state.runner.live.asks_text)  # type: ignore[misc]
            line = screen.query_one("#answer", Input)
            assert line.value == ("" if turn == 1 else "15 c")
            line.value = "15 c"
            await pilot.pause()
