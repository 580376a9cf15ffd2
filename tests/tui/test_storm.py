"""Quick hands: keys in any order, faster than any screen opens, never end the application nor freeze it."""

from __future__ import annotations

import random
from pathlib import Path

import pytest
from textual import events
from textual.pilot import Pilot

from auditra.tui.screens.audit import AuditScreen
from tests.support.workshops import demo_app

KEYS = (
    "enter", "escape", "tab", "backspace", "up", "down", "left", "right", "question_mark", "t", "p", "u", "a", "x", "n",
    "e", "g", "w", "d", "j", "k", "s", "r", "less_than_sign", "greater_than_sign", "f", "F", "i", "h", "v", "b",
    "ctrl+p", "pageup", "pagedown", "home", "end", *"12345678", "space", "A", "9", "m", "l", "o",
)  # fmt: skip
"""Every key that any screen knows, and some that none does; not the one that quits."""


def character(key: str) -> str | None:
    return key if len(key) == 1 else {"space": " ", "less_than_sign": "<", "greater_than_sign": ">"}.get(key)


async def storm(pilot: Pilot[None], seed: int, keys: int) -> None:
    """Bursts of keys without a pause, and short rests between them."""
    chance = random.Random(seed)
    left = keys
    while left > 0 and pilot.app.is_running:
        burst = chance.randint(1, 25)
        for key in ["enter"] * (chance.random() < 0.3) + [chance.choice(KEYS) for _ in range(burst)]:
            pilot.app.post_message(events.Key(key, character(key)))
        left -= burst
        await pilot.pause(chance.choice((0.0, 0.0, 0.01, 0.05)))


@pytest.mark.parametrize(("seed", "size"), [(1, (160, 50)), (2, (100, 30)), (3, (80, 24))])
async def test_a_storm_of_keys_leaves_the_application_running(
    tmp_path: Path, seed: int, size: tuple[int, int], monkeypatch: pytest.MonkeyPatch
) -> None:
    app = demo_app(tmp_path)
    monkeypatch.setattr(app, "action_quit", app.action_hide_help_panel)  # the palette of commands has it too
    async with app.run_test(size=size) as pilot:
        await storm(pilot, seed, keys=160)
        await pilot.press(*["escape"] * 6)
        assert app.is_running
        await pilot.press("question_mark")
        await pilot.pause()


async def test_keys_that_come_before_a_screen_is_there_are_its_own(tmp_path: Path) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=(160, 50)) as pilot:
        for key in ("enter", "7"):
            app.post_message(events.Key(key, character(key)))
        await pilot.pause(0.5)
        assert "Audit" in type(app.screen).__name__


async def test_what_is_left_twice_is_left_once(tmp_path: Path) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=(160, 50)) as pilot:
        await pilot.press("enter")
        await pilot.pause()
        await pilot.press("question_mark")
        for burst in (("escape", "escape", "escape"), ("b", "b", "b")):
            for key in burst:
                app.post_message(events.Key(key, character(key)))
            await pilot.pause(0.3)
        assert "Shelf" in type(app.screen).__name__
        assert app.is_running


async def test_a_socket_may_be_chosen_before_a_stage_has_been_shown(tmp_path: Path) -> None:
    app = demo_app(tmp_path)
    async with app.run_test(size=(160, 50)) as pilot:
        await pilot.press("enter")
        await pilot.pause(0.5)
        assert isinstance(app.screen, AuditScreen)
        for stage in range(1, 9):
            app.screen.action_turn_to(stage)
            app.screen.action_choose_neighbour(-1, 0)
        await pilot.pause()
        assert app.is_running
