"""Stages 7 and 8 on a finished dock: another profile moves the score, the page turns, another reviewer is merged."""

from __future__ import annotations

import shutil
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import replace
from pathlib import Path

import pytest
from textual.pilot import Pilot
from textual.widgets import Static

from auditra.cli.bundling import bundle_of
from auditra.cli.composition import LibraryHandle, make_services
from auditra.core.journal.facts import RigNoted
from auditra.store.demos import DEMOS
from auditra.tui.app import AuditraApp
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.choice import ChoiceScreen
from auditra.tui.screens.shelf import ShelfScreen
from tests.support.audits import BEGIN
from tests.support.finished import finished_library
from tests.tui.test_application import text_of, until

_KEYS = {" ": "space", "/": "slash", ".": "full_stop", "-": "minus", "_": "underscore"}
pytestmark = pytest.mark.usefixtures("quick")


@pytest.fixture(scope="module")
def kept(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A shelf with both finished audits and a fresh one of the pocket hub, and a bundle of the finished one."""
    folder = tmp_path_factory.mktemp("finished")
    handle = finished_library(folder)
    facts = [replace(fact, rig=replace(fact.rig, name="attic")) if isinstance(fact, RigNoted) else fact
             for fact in DEMOS[0].facts()]  # fmt: skip
    handle.library.create("mine", facts, BEGIN)
    (folder / "theirs.zip").write_bytes(bundle_of(handle, handle.session("OP-6")))
    handle.shelf.rows()
    handle.library.close()
    return folder


@asynccontextmanager
async def opened(kept: Path, folder: Path, name: str) -> AsyncIterator[tuple[Pilot[None], AuditScreen]]:
    shutil.copytree(kept / "library", folder / "library")
    services = make_services(LibraryHandle(folder / "library"), pace=None)
    app = AuditraApp(replace(services, publish_folder=folder / "reports"))
    async with app.run_test(size=(160, 50)) as pilot:
        await until(pilot, lambda: isinstance(app.screen, ShelfScreen))
        app.open_audit(name)
        await until(pilot, lambda: isinstance(app.screen, AuditScreen) and app.screen.is_ready)
        screen = app.screen
        assert isinstance(screen, AuditScreen)
        yield pilot, screen


async def test_another_profile_is_chosen_by_its_score_and_what_it_moved_is_listed(kept: Path, tmp_path: Path) -> None:
    async with opened(kept, tmp_path, "BW-11") as (pilot, screen):
        await pilot.press("7")
        await until(pilot, lambda: "FOR WHOM" in text_of(screen, "#for-whom"))
        assert not screen.query_one("#moved").display
        before = screen.state.judged.judgement.score.value
        await pilot.press("p")
        await until(pilot, lambda: isinstance(pilot.app.screen, ChoiceScreen))
        offered = str(pilot.app.screen.query_one("#choices", Static).render())
        assert f"balanced      {before} " in offered
        await pilot.press("d")
        await until(pilot, lambda: "studio" in text_of(screen, "#score-head"))
        now = screen.state.judged.judgement.score.value
        assert f"studio        {now} " in offered
        moved = text_of(screen, "#moved")
        assert f"with balanced: {before}" in moved
        assert "N1 links 2.5 Gb/s" in moved
        await pilot.press("u")
        await until(pilot, lambda: "balanced" in text_of(screen, "#score-head"))
        assert screen.state.judged.judgement.score.value == before


async def test_every_page_of_a_finished_report_is_turned_to_and_says_something(kept: Path, tmp_path: Path) -> None:
    async with opened(kept, tmp_path, "BW-11") as (pilot, screen):
        await pilot.press("8")
        await until(pilot, lambda: "In short".upper() in text_of(screen, "#page-text").upper())
        titles = []
        for _ in range(20):
            page = text_of(screen, "#page-text").splitlines()
            assert len(page) >= 3
            titles.append(page[0])
            await pilot.press("j")
        assert len(set(titles)) >= 12
        assert titles[-1] == titles[-2], "the last page is the last"
        contents = text_of(screen, "#contents-text")
        assert "! Who pays for the work" in contents
        assert "paper check without an answer" in contents


async def test_another_reviewers_bundle_is_merged_from_stage_8(kept: Path, tmp_path: Path) -> None:
    async with opened(kept, tmp_path, "mine") as (pilot, screen):
        await pilot.press("8")
        await until(pilot, lambda: "DRAFT" in text_of(screen, "#contents-text").upper())
        await pilot.press("g")
        await until(pilot, lambda: bool(screen.query("TypingRow Input")))
        await pilot.press(*(_KEYS.get(each, each) for each in str(kept / "theirs.zip")), "enter")
        await until(pilot, lambda: len(screen.state.judged.audit.replications) == 1)
        await until(pilot, lambda: "What others found" in text_of(screen, "#contents-text"))


async def test_an_audit_is_signed_off_and_opened_again(kept: Path, tmp_path: Path) -> None:
    async with opened(kept, tmp_path, "OP-6") as (pilot, screen):
        await pilot.press("8", "o")
        await until(pilot, lambda: "Signed off: closed to others" in text_of(screen, "#contents-text"))
        assert screen.judged.audit.signed_off is not None
        await pilot.press("o")
        await until(pilot, lambda: screen.judged.audit.signed_off is None)
        await until(pilot, lambda: "Signed off" not in text_of(screen, "#contents-text"))


async def test_what_waits_for_a_team_s_database_is_said_at_any_stage(
    kept: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    async with opened(kept, tmp_path, "OP-6") as (pilot, screen):
        await pilot.press("7")
        for waiting, words in ((3, "3 facts wait on this machine"), (0, "is in the team's database now")):
            monkeypatch.setattr(type(screen.state.session), "waiting", waiting)
            screen._follow()
            await until(pilot, lambda words=words: words in text_of(screen, "#typing-message"))  # type: ignore[misc]
