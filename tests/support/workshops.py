"""The application joined as the command line joins it, on a library in a temporary folder."""

from __future__ import annotations

import atexit
import shutil
import tempfile
from dataclasses import replace
from functools import cache
from pathlib import Path

from auditra.cli.composition import LibraryHandle, make_services
from auditra.tui.app import AuditraApp
from auditra.workflows.services import Services


@cache
def _demo_library() -> Path:
    """A library with two of the demos on its shelf, made once for all tests of a process."""
    folder = Path(tempfile.mkdtemp(prefix="auditra-tests-"))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    handle = LibraryHandle(folder / "library")
    for name in ("OP-6", "BW-11"):
        handle.shelve_if_demo(name)
    handle.shelf.rows()
    handle.library.close()
    return folder / "library"


def demo_services(folder: Path) -> Services:
    """The demo audit on its shelf; the simulated bench goes as fast as it can."""
    if not (folder / "library").exists():
        shutil.copytree(_demo_library(), folder / "library")
    handle = LibraryHandle(folder / "library")
    return replace(make_services(handle, pace=None), publish_folder=folder / "reports")


def demo_app(folder: Path) -> AuditraApp:
    return AuditraApp(demo_services(folder))
