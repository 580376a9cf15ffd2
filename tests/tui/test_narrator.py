"""In the demo `?` says what happens at each step and why; on a real bench it does not."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from textual.pilot import Pilot
from textual.widgets import Static

from auditra.core.model.circumstance import Aspect
from auditra.core.model.trial import ProcedureId
from auditra.tui.app import AuditraApp
from auditra.tui.narrator import run
from auditra.tui.screens.help import HelpScreen
from tests.support.finished import finished
from tests.support.workshops import demo_services
from tests.tui.test_application import WIDE, open_audit, until

STAGES = {
    "1": "seller promises", "2": "against physics", "3": "as far as your own gear", "4": "without the device",
    "5": "measured over time", "6": "Suspects are all", "7": "Each claim has a weight", "8": "made of what was",
}  # fmt: skip


async def told_at(pilot: Pilot[None]) -> str:
    await pilot.press("question_mark")
    await until(pilot, lambda: isinstance(pilot.app.screen, HelpScreen))
    words = str(pilot.app.screen.query_one("#help-text", Static).render())
    await pilot.press("z")
    return words


async def test_every_stage_of_the_demo_is_explained(tmp_path: Path) -> None:
    async with AuditraApp(replace(demo_services(tmp_path), is_demo=True)).run_test(size=WIDE) as pilot:
        assert "Each line is an audit of one device" in await told_at(pilot)
        await open_audit(pilot)
        for key, words in STAGES.items():
            await pilot.press(key)
            await pilot.pause()
            told = await told_at(pilot)
            assert "what happens here" in told.lower()
            assert words in told


async def test_the_shelf_of_somebody_at_work_is_not_explained(tmp_path: Path) -> None:
    async with AuditraApp(demo_services(tmp_path)).run_test(size=WIDE) as pilot:
        assert "what happens here" not in (await told_at(pilot)).lower()


@pytest.mark.parametrize("name", ["OP-6", "BW-11"])
def test_every_trial_of_the_sheet_has_words_of_its_own_and_names_what_is_special(name: str) -> None:
    judged = finished(name)
    sheet = judged.judgement.sheet
    for planned in sheet.trials:
        told = " ".join(run(judged, planned))
        assert told.endswith("nothing that was taken is lost.")
        assert "{" not in told
        if planned.port is None:
            assert "First without the device" in told
        elif Aspect.SIDE in planned.setup.departs:
            assert "turned over" in told
    kinds = {planned.procedure for planned in sheet.trials if planned.port is not None}
    assert kinds <= set(ProcedureId)
    assert "Every trial of this sheet is done" in " ".join(run(judged, None))
