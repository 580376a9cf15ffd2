"""A file added to a trial from the Run stage: it is kept, read, told, and can be taken back."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from textual.screen import Screen
from textual.widgets import Input

from auditra.tui.screens.form import FormScreen
from tests.support import power
from tests.support.forms import fill_in
from tests.support.workshops import demo_app
from tests.tui.test_application import done, open_audit, text_of, until

pytestmark = pytest.mark.usefixtures("quick")


async def test_a_power_log_is_added_to_the_newest_trial(tmp_path: Path) -> None:
    (tmp_path / "pd.log").write_text("\n".join(power.log(*power.conversation())))
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("v")  # there is nothing to begin with
        assert not screen.is_typing, "there is no trial yet that it could belong to"
        await pilot.press("enter")
        await until(pilot, lambda: done(screen) == 1 and not screen.is_measuring)
        kept = len(screen.judged.audit.evidence)
        await pilot.press("v", *"nowhere", "enter")
        await until(pilot, lambda: "No such file" in text_of(screen, "#typing-message"))
        assert screen.is_typing
        await pilot.press("escape", "v")
        screen.query_one("#typed", Input).value = f"T1 {tmp_path / 'pd.log'}"
        await pilot.press("enter")
        await until(pilot, lambda: len(screen.judged.audit.evidence) == kept + 1)
        assert screen.judged.audit.evidence[-1].name == "pd.log"
        await pilot.press("u")
        await until(pilot, lambda: len(screen.judged.audit.evidence) == kept)


async def test_keys_of_the_claims_stage_ask_nothing_on_the_run_stage(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("n", "w", "r", "f")
        assert not screen.is_typing


async def test_the_columns_of_a_logged_table_are_asked_for(tmp_path: Path) -> None:
    rows = "".join(f"{n / 10},{5 + n / 1000},0.5\n" for n in range(40))
    (tmp_path / "bench.csv").write_text(f"time (s),bus (V),[b]load[/] (A)\n{rows}")
    async with demo_app(tmp_path).run_test(size=(160, 50)) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("enter")
        await until(pilot, lambda: done(screen) == 1 and not screen.is_measuring)
        kept = len(screen.judged.audit.evidence)
        await pilot.press("v")
        screen.query_one("#typed", Input).value = f"T1 {tmp_path / 'bench.csv'}"
        await pilot.press("enter")
        await until(pilot, lambda: isinstance(pilot.app.screen, FormScreen))
        form: Screen[Any] = pilot.app.screen
        assert "time (s)  bus (V)" in text_of(form, "#form-intro")
        assert "[b]load[/]" in text_of(form, "#form-intro"), "markup of a file is shown as it is"
        await fill_in(pilot, column_2="left out", name="bench log")
        await until(pilot, lambda: len(screen.judged.audit.evidence) == kept + 1)
        taken = [each for each in screen.judged.audit.trials[0].readings if each.evidence]
        assert [str(each.quantity) for each in taken] == ["voltage"]
        await pilot.press("u")
        await until(pilot, lambda: len(screen.judged.audit.evidence) == kept)
        assert (tmp_path / "library" / "tables" / "bench-log.json").exists()
