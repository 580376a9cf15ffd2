"""Names from old journals that hold escapes, C1 controls and bidi marks: shown, and never obeyed, wherever they go."""

from __future__ import annotations

import json
import unicodedata
import xml.etree.ElementTree as ElementTree
from dataclasses import fields, is_dataclass, replace
from pathlib import Path
from typing import Any

import pytest
from textual.app import App
from typer.testing import CliRunner

from auditra.cli.commands import app as commands
from auditra.cli.composition import LibraryHandle, make_services
from auditra.core.journal.admission import Known
from auditra.core.journal.facts import BenchNoted, ClaimMade, EvidenceKept, Fact, NoteWritten
from auditra.store.demos import DEMOS
from auditra.tui.app import AuditraApp
from tests.support.audits import BEGIN

HOSTILE = "\x1b]2;pwned\x07\x9b31m\u202e\x1b[2J"
"""Sets a pane's title, paints by a C1 control, turns text round, clears the screen."""
SPARED = {
    "id", "gear", "bus", "usb_id", "usb_ids", "reader", "modes", "connector", "ends", "sentence", "device", "kind",
    "money", "marker", "bench", "quantity",
}  # fmt: skip
"""What names other parts, or is of a closed list."""


def poisoned(noun: Any, name: str = "") -> Any:
    """The noun with hostile text behind every word that is free."""
    if isinstance(noun, str) and type(noun) is str and name not in SPARED:
        return noun + HOSTILE
    if isinstance(noun, tuple):
        return tuple(poisoned(each, name) for each in noun)
    if is_dataclass(noun) and not isinstance(noun, type):
        return replace(noun, **{each.name: poisoned(getattr(noun, each.name), each.name) for each in fields(noun)})
    return noun


@pytest.fixture
def handle(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> LibraryHandle:
    """A shelf on which an early Auditra put such an audit."""
    facts: list[Fact] = [each if isinstance(each, BenchNoted) else poisoned(each) for each in DEMOS[0].facts()]
    facts += [NoteWritten(HOSTILE, "A1"), EvidenceKept("0" * 64, HOSTILE, 3), ClaimMade("odd", f"A1 hums {HOSTILE}")]
    monkeypatch.setenv("AUDITRA_LIBRARY", str(tmp_path / "library"))
    shelf = LibraryHandle(tmp_path / "library")
    with monkeypatch.context() as early:
        early.setattr(Known, "problems", lambda _, __: ())  # it admitted sentences that cannot be read, too
        shelf.library.create(f"hostile {HOSTILE}"[:60], facts, BEGIN)
    return shelf


def harmful(text: str, allowed: str = "") -> set[str]:
    return {hex(ord(c)) for c in text if unicodedata.category(c) in ("Cc", "Cf", "Cs", "Zl", "Zp") and c not in allowed}


def painted(app: App[None]) -> str:
    """Every character that the screen puts on the terminal."""
    strips = app.screen._compositor.render_strips()
    return "".join(segment.text for strip in strips for segment in strip if segment.control is None)


@pytest.mark.parametrize("size", [(160, 50), (100, 30), (80, 24)])
async def test_no_screen_puts_a_control_character_on_the_terminal(
    handle: LibraryHandle, tmp_path: Path, size: tuple[int, int]
) -> None:
    services = replace(make_services(handle, pace=None), publish_folder=tmp_path / "reports")
    application = AuditraApp(services)
    async with application.run_test(size=size) as pilot:
        await pilot.pause(0.3)
        assert harmful(painted(application)) == set()
        await pilot.press("enter")
        await pilot.pause()
        for key in "12345678" if size[0] > 100 else "147":
            await pilot.press(key)
            await pilot.pause()
            assert harmful(painted(application)) == set(), key
        for keys in (("tab",), ("1", "n"), ("escape", "i"), ("escape", "question_mark"), ("escape", "u")):
            await pilot.press(*keys)
            await pilot.pause()
            assert harmful(painted(application)) == set(), keys


@pytest.mark.parametrize(
    "words", [("judge", "NAME"), ("judge", "NAME", "--json"), ("run", "NAME"), ("export", "NAME", "--to", "OUT")]
)
def test_no_command_prints_a_control_character(handle: LibraryHandle, tmp_path: Path, words: tuple[str, ...]) -> None:
    name = handle.library.names()[0]
    said = [{"NAME": name, "OUT": str(tmp_path / "out")}.get(word, word) for word in words]
    ran = CliRunner().invoke(commands, said)
    assert harmful(ran.output, allowed="\n") == set()
    if "--json" in words:
        assert json.loads(ran.output)["audit"] == name


def test_drawing_and_report_are_well_formed(handle: LibraryHandle, tmp_path: Path) -> None:
    name = handle.library.names()[0]
    files = handle.write_report(handle.session(name), tmp_path)
    for path in (path for path in files if path.suffix in (".svg", ".html", ".md")):
        text = path.read_text()
        assert harmful(text, allowed="\n\r\t") == set()
        if path.suffix == ".svg":
            ElementTree.fromstring(text)
