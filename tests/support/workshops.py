"""The application joined as the command line joins it, on a library in a temporary folder."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from auditra.cli.composition import LibraryHandle, make_services
from auditra.tui.app import AuditraApp
from auditra.workflows.services import Services


def demo_services(folder: Path) -> Services:
    """The demo audit on its shelf; the simulated bench goes as fast as it can."""
    handle = LibraryHandle(folder / "library")
    handle.put_demos_on_shelf()
    handle.rows()
    return replace(make_services(handle, pace=None), publish_folder=folder / "reports")


def demo_app(folder: Path) -> AuditraApp:
    return AuditraApp(demo_services(folder))
