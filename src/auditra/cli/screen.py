"""Open the screen: on the shelf, or on the demo."""

from __future__ import annotations

import sys

from auditra.cli.composition import LibraryHandle, make_services
from auditra.core.errors import AuditraError

DEMO_PACE = 6.0
"""Virtual seconds a second in a demo: slow enough to watch, quick enough not to wait."""

_SWITCHES_EVERY_S = 0.001
"""How long whatever works beside the interface may keep it waiting. (Python's own is 5 ms, several times a key.)"""


def open_demo(handle: LibraryHandle, *, pace: float = DEMO_PACE) -> None:
    """Put the demo audits on the shelf where they are not, and open it. Raises: AuditraError."""
    if not handle.has_demos():
        handle.put_demos_on_shelf()
        handle.shelf.rows()
    open_screen(handle, pace=pace, is_demo=True)


def open_screen(handle: LibraryHandle, *, pace: float = DEMO_PACE, is_demo: bool = False, audit: str = "") -> None:
    """Open the shelf, or an audit on it. Raises: AuditraError without a terminal: keys come from standard input, the
    picture goes to standard error, and a file in place of either would have the screen ask for its size for ever."""
    if not (sys.stdin.isatty() and sys.stderr.isatty()):
        why = "standard input or standard error is no terminal"
        raise AuditraError("the screen", why=why, do="Use auditra run and auditra publish without one")
    from auditra.tui.app import AuditraApp

    sys.setswitchinterval(_SWITCHES_EVERY_S)
    app = AuditraApp(make_services(handle, pace=pace, is_demo=is_demo), first=audit)
    app.run()
    if app.return_code:
        sys.exit(app.return_code)
