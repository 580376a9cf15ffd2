"""Every key that works is listed where it works, and means one thing there."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

import pytest
from textual.binding import Binding

from auditra.tui.key_hints import key_hints
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.help import HelpScreen
from auditra.tui.stages.registry import STAGES
from auditra.tui.stages.stage import Panel, Stage
from auditra.tui.widgets.frame_lines import KeyLine
from auditra.tui.widgets.shown_text import ShownText
from tests.support.workshops import demo_app
from tests.tui.test_application import open_audit, until

pytestmark = pytest.mark.usefixtures("quick")
LIBRARY_KEYS = ("ctrl+q", "ctrl+c")
"""Bound by the library's application for every program: quit, and the hint how to quit where nothing is selected."""


def working(screen: AuditScreen) -> list[tuple[str, Binding]]:
    """Every binding that would run now, with its key: of everything from the part in focus to the application."""
    assert screen.focused is not None
    return [
        (key, binding)
        for node in screen.focused.ancestors_with_self
        for key, bindings in node._bindings.key_to_bindings.items()
        for binding in bindings
        if key not in LIBRARY_KEYS and node.app._check_action_state(binding.action, node)
    ]


async def test_every_binding_of_every_stage_is_listed_and_no_two_share_a_key(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_audit(pilot)
        for number, stage in enumerate(STAGES, start=1):
            await pilot.press(str(number))
            await pilot.pause()
            keys = [key for key, _ in working(screen)]
            assert [key for key, count in Counter(keys).items() if count > 1] == [], stage.NAME
            listed = {hint.words for hint in key_hints(screen)}
            assert {binding.description for _, binding in working(screen)} <= listed
            await until(pilot, lambda: {hint.words for hint in screen.query_one(KeyLine).hints} <= listed)  # noqa: B023
            assert all(isinstance(binding, Binding) and binding.description for binding in stage.BINDINGS)
            await pilot.press("question_mark")
            await until(pilot, lambda: isinstance(pilot.app.screen, HelpScreen))
            words = str(pilot.app.screen.query_one("#help-text", ShownText).render())
            assert all(hint in words for hint in listed)
            await pilot.press("escape")
            await until(pilot, lambda: pilot.app.screen is screen)


async def test_a_key_is_listed_only_while_it_does_something(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_audit(pilot)

        def listed() -> set[str]:
            return {hint.words for hint in key_hints(screen)}

        assert {"start trial", "run all remaining"} <= listed()
        assert not {"stop", "done, continue", "add a file"} & listed()
        shut = next(trial for trial in screen.judged.judgement.to_do if trial.key.startswith("P1/appearance"))
        screen.state.runner.begin(shut)
        await until(pilot, lambda: "done, continue" in listed())
        assert {"stop", "did not appear"} <= listed()
        assert not {"start trial", "run all remaining", "undo"} & listed()
        assert screen.query_one(KeyLine).hints[0].words == "done, continue"
        await pilot.press("escape")
        await until(pilot, lambda: not screen.is_measuring)
        assert {"start trial", "undo"} <= listed()


async def test_everything_that_scrolls_can_be_scrolled_by_keys(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(80, 24)) as pilot:
        screen = await open_audit(pilot)
        for number in range(1, len(STAGES) + 1):
            await pilot.press(str(number))
            await pilot.pause()
            stage: Stage = screen.stage
            for _ in stage.PANELS:
                panel = stage.front
                assert isinstance(screen.focused, Panel)
                assert panel is screen.focused
                await pilot.press("end")
                await until(pilot, lambda panel=panel: panel.scroll_offset.y == panel.max_scroll_y)  # type: ignore[misc]
                await pilot.press("home")
                await until(pilot, lambda panel=panel: panel.scroll_offset.y == 0)  # type: ignore[misc]
                await pilot.press("tab")
                await pilot.pause()
