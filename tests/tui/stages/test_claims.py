"""The Claims stage through the pilot: typing with completion, tiles that follow, sockets moved, everything undone."""

from __future__ import annotations

from pathlib import Path

import pytest
from textual import events
from textual.pilot import Pilot
from textual.widgets import Input

from auditra.tui.renderables.tiles import Tile
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.widgets.faces import FacesMap
from auditra.tui.widgets.frame_lines import KeyLine
from auditra.tui.widgets.typing_row import TypingRow
from tests.support.forms import fill_in
from tests.support.workshops import demo_app
from tests.tui.test_application import WIDE, open_audit, text_of, until

pytestmark = pytest.mark.usefixtures("quick")


async def open_claims(pilot: Pilot[None]) -> AuditScreen:
    screen = await open_audit(pilot)
    await pilot.press("1")
    await pilot.pause()
    return screen


async def type_in(pilot: Pilot[None], text: str) -> None:
    """All keys in one go, as from a fast hand: the application gives on each once the one before has done its work."""
    typed = pilot.app.screen.query_one("#typed", Input)
    before = typed.value
    for character in text:
        key = {" ": "space", "@": "at", ":": "colon", "-": "minus"}.get(character, character)
        pilot.app.post_message(events.Key(key, character))
    await until(pilot, lambda: typed.value == before + text)


def line(screen: AuditScreen) -> str:
    return screen.query_one("#typed", Input).value


def tile(screen: AuditScreen, port: str) -> Tile:
    return next(each for _, tiles in screen.query_one(FacesMap).faces for each in tiles if each.port == port)


def claims(screen: AuditScreen) -> list[str]:
    return [str(claim) for claim in screen.judged.audit.claims]


async def test_the_seller_s_words_stand_beside_the_claims_and_the_grid_beside_both(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_claims(pilot)
        said, grid = text_of(screen, "#said-text"), text_of(screen, "#for-text")
        assert "two sockets for drives" in said
        assert "A2 data 5 Gb/s" in said
        assert '"6 in 1" on the box, and 6 ports are listed' in grid
        assert "no data" in grid
        assert "variant not noted" in grid


async def test_a_claim_is_completed_shown_on_its_tile_written_and_taken_back(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_claims(pilot)
        before = claims(screen)
        await pilot.press("n")
        await pilot.pause()
        await until(pilot, lambda: screen.query_one(KeyLine).hints[0].words == "record")
        await pilot.press("ctrl+u")
        await type_in(pilot, "N1 fr")
        await pilot.press("tab")
        assert line(screen) == "N1 frames "
        await type_in(pilot, "4000 B")
        assert (tile(screen, "N1").brief, tile(screen, "N1").word) == ("4 kB", "typing")
        assert "3.906 KiB" in text_of(screen, "#typing-message")
        await type_in(pilot, " whi")
        assert tile(screen, "N1").word == "typing"
        await pilot.press(*["backspace"] * 4, "enter")
        await pilot.pause()
        assert claims(screen) == [*before, "N1 frames 4 kB"]
        assert not screen.query_one(TypingRow).has_class("types")
        assert tile(screen, "N1").brief == "1 Gb/s +1"
        await pilot.press("u")
        assert claims(screen) == before


async def test_what_cannot_be_read_says_where_and_stays_on_the_line(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_claims(pilot)
        before = screen.judged.audit.entries
        await pilot.press("n")
        await type_in(pilot, "dta 5 Gb/s")
        await pilot.press("enter")
        assert 'did you mean "data"?' in text_of(screen, "#typing-message")
        assert line(screen).endswith("dta 5 Gb/s")
        await pilot.press("escape")
        assert not screen.is_typing
        assert screen.judged.audit.entries == before


async def test_hostile_text_is_shown_as_text(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_claims(pilot)
        await pilot.press("n")
        screen.query_one(TypingRow).line.put("A1 works with [bold]markup[/bold] \x1b[31mred")
        await pilot.press("enter")
        await pilot.pause()
        assert "\x1b" not in text_of(screen, "#typing-message")
        screen.query_one(TypingRow).line.put("A1 works with [bold]markup[/bold]")
        await pilot.press("enter")
        await pilot.pause()
        assert "[bold]markup[/bold]" in text_of(screen, "#said-text")


async def test_a_claim_is_chosen_mended_given_its_words_and_dropped(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_claims(pilot)
        await pilot.press("j", "e")
        assert line(screen) == "A2 data 5 Gb/s"
        await pilot.press(*["backspace"] * len("5 Gb/s"))
        await type_in(pilot, "10 Gb/s")
        await pilot.press("enter")
        assert claims(screen)[1] == "A2 data 10 Gb/s"
        await pilot.press("w", "ctrl+u")
        await type_in(pilot, "manual 2026-03-01: ten gigabit")
        await pilot.press("enter")
        await pilot.pause()
        assert screen.judged.audit.claims[1].source.quoted == "ten gigabit"
        await pilot.press("d")
        assert "A2 data 10 Gb/s" not in claims(screen)
        await pilot.press("u", "u", "u")
        assert claims(screen)[1] == "A2 data 5 Gb/s"


async def test_sockets_and_faces_are_put_in_place_from_the_keyboard(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_claims(pilot)

        def faces() -> list[tuple[str, list[str]]]:
            return [(face.name, [port.id for port in face.ports]) for face in screen.judged.audit.device.faces]

        await pilot.press("s")
        await type_in(pilot, "A3 usb-")
        await pilot.press("tab", "enter")
        assert faces()[0] == ("left", ["A1", "A3", "A2", "S1"])
        assert tile(screen, "A3").word == "no claim"
        await pilot.press("right", "r", "backspace")
        await type_in(pilot, "4")
        await pilot.press("enter")
        await pilot.pause()
        assert faces()[0] == ("left", ["A1", "A4", "A2", "S1"])
        await pilot.press("f")
        await type_in(pilot, "top")
        await pilot.press("enter", "left", "greater_than_sign")
        assert faces()[0] == ("left", ["A4", "A1", "A2", "S1"])
        assert faces()[-1] == ("top", [])
        await pilot.press("x")
        assert "Drop its claims first" in text_of(screen, "#typing-message")
        await pilot.press("left", "x")
        assert faces()[0] == ("left", ["A1", "A2", "S1"])
        await pilot.press("i")
        await pilot.pause()
        await fill_in(pilot, revision="B")
        assert "revision B" in text_of(screen, "#for-text")


async def test_offers_are_turned_through_and_narrow_screens_show_one_panel(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=(80, 24)) as pilot:
        screen = await open_claims(pilot)
        assert screen.query_one("#said").display
        assert not screen.query_one("#for").display
        await pilot.press("tab")
        await pilot.pause()
        assert screen.query_one("#for").display
        await pilot.press("n", "down", "down", "up", "tab")
        assert line(screen) == "A1 gives "
        await pilot.press("4")
        await pilot.pause()
        assert screen.query_one("#typed", Input).has_focus


async def test_remarks_are_chosen_answered_and_the_answer_is_taken_back(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        screen = await open_audit(pilot)
        await pilot.press("2")
        await pilot.pause()
        assert "what reaches the host is not stated" in text_of(screen, "#remarks")
        assert "1 not answered" in text_of(screen, "#remarks")
        await pilot.press("j", "n")
        await type_in(pilot, "79 W, measured")
        await pilot.press("enter")
        await pilot.pause()
        assert "answered: 79 W, measured" in text_of(screen, "#remarks")
        assert "0 not answered" in text_of(screen, "#remarks")
        await pilot.press("u")
        await pilot.pause()
        assert "1 not answered" in text_of(screen, "#remarks")
        await pilot.press("e", "s", "x", "d", "i")
        assert not screen.is_typing
