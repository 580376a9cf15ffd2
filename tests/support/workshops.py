"""The application joined as the command line joins it, on a library in a temporary folder."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from auditra.cli.workshop import Opened, make_workshop
from auditra.tui.app import AuditraApp
from auditra.workflows.workshop import Workshop


def demo_workshop(folder: Path) -> Workshop:
    """The demo audit on its shelf; the simulated bench goes as fast as it can."""
    opened = Opened(folder / "library")
    opened.put_demos_on_shelf()
    opened.rows()
    return replace(make_workshop(opened, pace=None), publish_folder=folder / "reports")


def demo_app(folder: Path) -> AuditraApp:
    return AuditraApp(demo_workshop(folder))
