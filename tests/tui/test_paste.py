"""The paste screen: a text is read, each proposal taken, mended or dropped, and each taking is undone by itself."""

from __future__ import annotations

from pathlib import Path
from threading import Event

import pytest
from textual.pilot import Pilot
from textual.widgets import Input, Static, TextArea

from auditra.core.advert import reader
from auditra.core.advert.proposal import MAX_TEXT_LENGTH, ReadText
from auditra.core.advert.reader import read_text
from auditra.tui.screens.audit import AuditScreen
from auditra.tui.screens.paste import PasteScreen
from auditra.tui.widgets.frame_lines import KeyLine
from tests.support.workshops import demo_app
from tests.tui.stages.test_claims import claims, open_claims
from tests.tui.test_application import WIDE, until

pytestmark = pytest.mark.usefixtures("quick")
BOX = "Works on laptop, tablet. Two USB-A ports, each 4.5 W. Lovely [b]colours[/b] \x1b[31m."


def told(screen: PasteScreen, widget: str) -> str:
    return str(screen.query_one(widget, Static).render())


async def read(pilot: Pilot[None], screen: PasteScreen) -> None:
    """Wait until the text was read, which is not done on the thread of the interface."""
    await until(pilot, lambda: "reading the text" not in told(screen, "#paste-head"))
    await pilot.pause()


async def pasted(pilot: Pilot[None], text: str) -> tuple[AuditScreen, PasteScreen]:
    audit = await open_claims(pilot)
    await pilot.press("g")
    await pilot.pause()
    screen = pilot.app.screen
    assert isinstance(screen, PasteScreen)
    screen.query_one(TextArea).text = text
    await pilot.press("ctrl+r")
    await read(pilot, screen)
    return audit, screen


async def test_proposals_are_taken_mended_and_dropped_and_nothing_enters_unseen(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        audit, screen = await pasted(pilot, BOX)
        before = claims(audit)
        assert "body works on laptop, tablet" in told(screen, "#proposed-text")
        assert "accept all sure" in str(screen.query_one(KeyLine).render())
        assert "[b]colours[/b]" in told(screen, "#proposed-text")
        assert "\x1b" not in told(screen, "#proposed-text")
        assert claims(audit) == before
        await pilot.press("y")
        assert claims(audit) == [*before, "body works on laptop, tablet"]
        assert audit.judged.audit.claims[-1].source.quoted == "Works on laptop, tablet"
        await pilot.press("e")
        line = screen.query_one("#edited", Input)
        assert line.value == "A1 gives 4.5 W"
        await pilot.press(*["backspace"] * 5, "7", "space", "W", "enter")
        await pilot.pause()
        assert claims(audit)[-1] == "A1 gives 7 W"
        await pilot.press("d", "escape")
        await pilot.pause()
        assert pilot.app.screen is audit
        assert claims(audit) == [*before, "body works on laptop, tablet", "A1 gives 7 W"]
        await pilot.press("u", "u")
        assert claims(audit) == before


async def test_a_socket_that_the_device_does_not_have_yet_is_added_with_its_claim(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        audit, _ = await pasted(pilot, "Four USB-A ports at 5 Gbps")
        await pilot.press("j", "j", "y", "escape")
        await pilot.pause()
        added = audit.judged.audit.device.port("A3")
        assert added is not None
        assert added.connector == "usb-a"
        await pilot.press("u")
        await pilot.pause()
        assert audit.judged.audit.device.port("A3") is None


async def test_all_that_is_sure_is_accepted_with_one_key_and_the_rest_is_left(tmp_path: Path) -> None:
    text = "Four USB-A ports at 5 Gbps. HDMI 4K at 3O Hz. Weight 85 g."
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        audit, screen = await pasted(pilot, text)
        before = claims(audit)
        await pilot.press("Y")
        assert [claim for claim in claims(audit) if claim not in before] == [
            "A3 data 5 Gb/s",
            "A4 data 5 Gb/s",
            "body weighs 85 g",
        ]
        assert "left for you to decide" in told(screen, "#paste-message")
        shown = told(screen, "#proposed-text")
        assert shown.index("USB-A") < shown.index("HDMI") < shown.index("the whole device")
        assert shown.count("taken") == 3
        await pilot.press("escape", "u", "u", "u")
        await pilot.pause()
        assert claims(audit) == before


async def test_what_does_not_fit_the_device_is_refused_in_words_and_stays(tmp_path: Path) -> None:
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        audit, screen = await pasted(pilot, "Four USB-A ports at 5 Gbps")
        await pilot.press("y")
        assert "already exists" in told(screen, "#paste-message")
        screen.query_one(TextArea).text = "x" * (MAX_TEXT_LENGTH + 1)
        await pilot.press("ctrl+r")
        await read(pilot, screen)
        assert "longer than" in told(screen, "#paste-message")
        assert len(claims(audit)) == 8


async def test_reading_leaves_the_interface_free_and_only_the_last_text_counts(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A text that takes long is read off the thread of the interface: keys are answered, leaving is possible."""
    held, begun = Event(), Event()

    def slowly(text: str) -> ReadText:
        begun.set()
        if "slow" in text:
            assert held.wait(60)
        return read_text(text)

    monkeypatch.setattr(reader, "read_text", slowly)
    async with demo_app(tmp_path).run_test(size=WIDE) as pilot:
        audit = await open_claims(pilot)
        await pilot.press("g")
        await pilot.pause()
        screen = pilot.app.screen
        assert isinstance(screen, PasteScreen)
        screen.query_one(TextArea).text = "slow. Weight 85 g."
        await pilot.press("ctrl+r")
        await until(pilot, begun.is_set)
        await until(pilot, lambda: "reading the text" in told(screen, "#paste-head"))
        await pilot.press("y", "Y")  # there is nothing yet to accept
        assert len(claims(audit)) == 8
        await pilot.press("ctrl+t")
        screen.query_one(TextArea).text = "Weight 95 g."
        await pilot.press("ctrl+r")
        await read(pilot, screen)
        held.set()
        await pilot.app.workers.wait_for_complete()
        await pilot.pause()
        assert "body weighs 95 g" in told(screen, "#proposed-text")
        assert "body weighs 85 g" not in told(screen, "#proposed-text")
