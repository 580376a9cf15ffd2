"""Forms filled in as a person would, but for the single keys."""

from __future__ import annotations

from textual.pilot import Pilot

from auditra.tui.screens.form import FieldLine, FormScreen


async def fill_in(pilot: Pilot[None], *, save: bool = True, **texts: str) -> None:
    """Put a text into each named field of the form on the screen, and save it."""
    form = pilot.app.screen
    assert isinstance(form, FormScreen)
    for key, text in texts.items():
        line = form.query_one(f"#field-{key}", FieldLine)
        form.set_focus(line)
        line.value = text
        await pilot.pause()
    if save:
        await pilot.press("ctrl+s")
        await pilot.pause()
