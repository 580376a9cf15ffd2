"""The application: themes, screens, and what ends it."""

from __future__ import annotations

import os
import select
import sys
from collections.abc import Iterable
from typing import TYPE_CHECKING, ClassVar

from textual.app import App, SystemCommand
from textual.binding import Binding, BindingType
from textual.screen import Screen

from auditra.core.errors import AuditraError
from auditra.core.inert import inert
from auditra.tui.screens.room import RoomyScreen
from auditra.tui.screens.shelf import ShelfScreen
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES

if TYPE_CHECKING:
    from auditra.workflows.workshop import Workshop

_LOOKS_FOR_TERMINAL_S = 1.0


class AuditraApp(App[None]):
    """Auditra on a terminal."""

    TITLE = "Auditra"
    ENABLE_COMMAND_PALETTE = True
    CSS_PATH = "auditra.tcss"
    HORIZONTAL_BREAKPOINTS = [(0, "-narrow"), (96, "-middle"), (140, "-wide")]  # noqa: RUF012 (Textual's own form)
    BINDINGS: ClassVar[list[BindingType]] = [Binding("t", "next_theme", "theme", show=False)]

    def __init__(self, workshop: Workshop) -> None:
        super().__init__()
        self._workshop = workshop
        for palette in PALETTES.values():
            self.register_theme(palette.theme())
        self.theme = DEFAULT_PALETTE

    def get_theme_variable_defaults(self) -> dict[str, str]:
        palette = PALETTES[DEFAULT_PALETTE]
        return {"rule": palette.rule, "quiet": palette.quiet}

    def get_default_screen(self) -> Screen[None]:
        """The shelf is the first thing painted."""
        return ShelfScreen(self._workshop)

    def on_mount(self) -> None:
        if sys.__stdin__ is not None and sys.__stdin__.isatty():
            self.set_interval(_LOOKS_FOR_TERMINAL_S, self._end_without_terminal)

    def open_audit(self, name: str) -> None:
        """Put an audit on the desk."""
        from auditra.tui.screens.audit import AuditScreen  # the shelf is painted before this is loaded

        try:
            desk = self._workshop.open_desk(name)
        except AuditraError as error:
            self.notify(inert(str(error), 300), severity="error", markup=False)
            return
        self.push_screen(AuditScreen(self._workshop, desk))

    def action_open_chosen(self) -> None:
        if isinstance(self.screen, ShelfScreen):
            self.screen.open_chosen()

    def action_help(self) -> None:
        keys = getattr(self.screen, "keys", ())
        if keys:
            from auditra.tui.screens.help import HelpScreen

            self.push_screen(HelpScreen(keys))

    def action_no_action(self) -> None:
        """For keys that stand for several."""

    def action_next_theme(self) -> None:
        names = list(PALETTES)
        self.theme = names[(names.index(self.theme) + 1) % len(names)] if self.theme in names else DEFAULT_PALETTE
        for screen in self.screen_stack:
            if isinstance(screen, RoomyScreen):
                screen.show()

    def get_system_commands(self, screen: Screen[object]) -> Iterable[SystemCommand]:
        """The palette of commands: everything that a key does, by its words."""
        yield SystemCommand("Help", "What this screen shows, in words", self.action_help)
        yield SystemCommand("Theme", "The next of: lamplight, chart paper, colour-safe", self.action_next_theme)
        yield SystemCommand("Quit", "Leave; everything taken is on disk", self.action_quit)
        for _, words, action in getattr(screen, "keys", ()):
            if "." not in action and action != "no_action":
                yield SystemCommand(words.capitalize(), "", getattr(screen, f"action_{action}"))

    def _end_without_terminal(self) -> None:
        """End when the terminal is gone, even where its hang-up signal is ignored. What was taken is on disk."""
        if sys.__stdin__ is None:
            return
        poll = select.poll()
        poll.register(sys.__stdin__.fileno(), select.POLLIN)
        gone = select.POLLHUP | select.POLLERR | select.POLLNVAL
        if any(event & gone for _, event in poll.poll(0)):
            os._exit(1)  # nothing can be painted any more, and the driver would wait for its dead input for ever
