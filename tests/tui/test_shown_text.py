"""Only the lines that changed are painted, and what stands on the screen is what was said last."""

from __future__ import annotations

from collections.abc import Iterable

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from textual.app import App, ComposeResult
from textual.containers import VerticalScroll
from textual.content import Content

from auditra.tui.widgets.shown_text import ShownText

lines = st.lists(st.text("ab \U0001f50c漢", max_size=30), min_size=1, max_size=6)


class OneText(App[None]):
    CSS = """
    #text { margin: 1 0 0 0; border-top: hkey red; padding: 1 2 0 3; }
    #fixed { height: 5; padding: 1; }
    """

    def compose(self) -> ComposeResult:
        with VerticalScroll():
            yield ShownText(id="text")
        yield ShownText(id="fixed")


def painted(app: App[None]) -> list[str]:
    return [
        "".join(segment.text for segment in strip if segment.control is None)
        for strip in app.screen._compositor.render_strips()
    ]


@settings(max_examples=8, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(st.lists(lines, min_size=2, max_size=5))
@pytest.mark.parametrize("which", ["text", "fixed"])
async def test_after_any_changes_the_screen_is_as_if_it_had_been_painted_whole(
    which: str, texts: Iterable[list[str]]
) -> None:
    app = OneText()
    async with app.run_test(size=(40, 24)) as pilot:
        for number, text in enumerate(texts):
            app.query_one(f"#{which}", ShownText).update(Content("\n".join(text)))
            if number % 2:  # two changes, then a picture
                await pilot.pause()
        await pilot.pause()
        shown = painted(app)
        app.refresh(layout=True, repaint=True)
        app.query_one(f"#{which}", ShownText).refresh()
        await pilot.pause()
        assert painted(app) == shown


async def test_the_card_of_another_socket_is_painted_whole(tmp_path: object) -> None:
    app = OneText()
    async with app.run_test(size=(40, 24)) as pilot:
        text = app.query_one("#text", ShownText)
        for name in ("C1", "C2", "S1"):
            text.update(Content(f"SOCKET {name}\n\nthe same\n{name} again"))
            await pilot.pause()
        whole = "\n".join(painted(app))
        assert whole.count("S1") == 2
        assert "C2" not in whole
