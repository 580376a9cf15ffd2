"""The application: themes, screens, and what ends it."""

from __future__ import annotations

import asyncio
import gc
from collections.abc import Iterable
from functools import partial
from typing import TYPE_CHECKING, Any, ClassVar

from textual import events
from textual.app import App, SystemCommand
from textual.await_complete import AwaitComplete
from textual.binding import Binding, BindingType
from textual.command import CommandPalette
from textual.dom import DOMNode
from textual.screen import Screen
from textual.worker import WorkerFailed

from auditra.core.errors import AuditraError
from auditra.core.sanitize import sanitize
from auditra.tui.ending import Ending
from auditra.tui.key_hints import KeyHint, key_hints
from auditra.tui.key_queue import MAX_WAIT_S, KeyQueue
from auditra.tui.screens.base import ResponsiveScreen
from auditra.tui.screens.shelf import ShelfScreen
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES

if TYPE_CHECKING:
    from auditra.workflows.services import Services

_SETTLES_AFTER_S = 0.4


def _settle_memory() -> None:
    """An open audit lives long: looking through all of it for garbage costs 100 ms every dozen keys."""
    gc.unfreeze()
    gc.collect()
    gc.freeze()


class AuditraApp(App[None]):
    """Auditra on a terminal."""

    TITLE = "Auditra"
    ENABLE_COMMAND_PALETTE = True
    CSS_PATH = "auditra.tcss"
    HORIZONTAL_BREAKPOINTS = [(0, "-narrow"), (96, "-middle"), (140, "-wide")]  # noqa: RUF012 (Textual's own form)
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("t", "next_theme", "theme", show=False),
        Binding("ctrl+p", "command_palette", "commands", show=False),
    ]

    def __init__(self, services: Services, first: str = "") -> None:
        super().__init__()
        self._services, self._first = services, first
        self._keys = KeyQueue(self._give_on)
        for palette in PALETTES.values():
            self.register_theme(palette.theme())
        self.theme = DEFAULT_PALETTE

    # Keys and screens

    async def on_event(self, event: events.Event) -> None:
        if isinstance(event, events.Key) and not event.is_forwarded:
            await self._keys.put(event)
        else:
            await super().on_event(event)

    async def _give_on(self, key: events.Event) -> None:
        """The next key waits until this one has done what it does: a key that opens the typing line moves the focus.

        A key goes from the widget in focus up to the application, and what it causes goes the same way once more; a
        callback that is sent after both comes last.
        """
        hold, way = self._keys.hold(), list((self.focused or self.screen).ancestors_with_self)
        await super().on_event(key)
        self._follow_key(way + way, hold)

    def _follow_key(self, way: list[DOMNode], hold: int) -> None:
        if way:
            if not way[0].call_later(self._follow_key, way[1:], hold):
                self._follow_key(way[1:], hold)
        else:
            self.call_later(self._keys.release, hold)

    def push_screen(self, *args: Any, **options: Any) -> Any:
        pushed = super().push_screen(*args, **options)
        self._hold_keys()
        return pushed

    def pop_screen(self) -> AwaitComplete:
        if len(self.screen_stack) <= 1:  # a screen that was left twice is gone already
            return AwaitComplete()
        popped = super().pop_screen()
        self._hold_keys()
        return popped

    def _hold_keys(self) -> None:
        """Until the screen that is on top now has been painted."""
        self.screen.call_after_refresh(self._keys.release, self._keys.hold())

    def action_command_palette(self) -> None:
        if not any(isinstance(screen, CommandPalette) for screen in self.screen_stack):
            from auditra.tui.palette import SafePalette  # loaded once it is wanted

            self.push_screen(SafePalette())

    def _handle_exception(self, error: Exception) -> None:
        """A worker that failed ends nothing but itself; what was recorded is on disk."""
        if isinstance(error, WorkerFailed):
            self._services.log("fault in a worker", error.error)
            return
        super()._handle_exception(error)

    def get_theme_variable_defaults(self) -> dict[str, str]:
        palette = PALETTES[DEFAULT_PALETTE]
        return {"rule": palette.rule, "quiet": palette.quiet}

    def get_default_screen(self) -> Screen[None]:
        """The shelf is the first thing painted."""
        return ShelfScreen(self._services)

    def on_mount(self) -> None:
        self.call_after_refresh(gc.enable)  # a quick start has switched it off
        self.set_interval(MAX_WAIT_S / 2, self._keys.give)  # for what waits on a screen that never came
        if self._first:
            self.call_after_refresh(self.open_audit, self._first)
        if not self.is_headless:
            loop = asyncio.get_running_loop()
            ending = Ending(
                lambda code: loop.call_soon_threadsafe(self._end_in_order, code), self._services.leave_bench
            )
            ending.heed_signals()
            ending.start()

    def open_audit(self, name: str) -> None:
        """Open an audit."""
        from auditra.tui.screens.audit import AuditScreen  # the shelf is painted before this is loaded

        try:
            session = self._services.open_session(name)
        except AuditraError as error:
            self.notify(sanitize(str(error), 300), severity="error", markup=False)
            return
        self.push_screen(AuditScreen(self._services, session))
        self.set_timer(_SETTLES_AFTER_S, _settle_memory)

    def action_open_chosen(self) -> None:
        if isinstance(self.screen, ShelfScreen):
            self.screen.open_chosen()

    def action_help(self) -> None:
        """Explain the screen, with every key that works there now."""
        from auditra.tui.screens.help import HelpScreen

        narration = self.screen.narrate() if isinstance(self.screen, ResponsiveScreen) else ()
        self.push_screen(HelpScreen(key_hints(self.screen), narration))

    def action_next_theme(self) -> None:
        names = list(PALETTES)
        self.theme = names[(names.index(self.theme) + 1) % len(names)] if self.theme in names else DEFAULT_PALETTE
        for screen in self.screen_stack:
            if isinstance(screen, ResponsiveScreen):
                screen.repaint()

    def get_system_commands(self, screen: Screen[object]) -> Iterable[SystemCommand]:
        """The palette of commands: everything that a key does, by its words."""
        yield SystemCommand("Help", "Explain this screen", self.action_help)
        yield SystemCommand("Theme", "The next of: lamplight, chart paper, colour-safe", self.action_next_theme)
        yield SystemCommand("Quit", "Quit; everything recorded is on disk", self.action_quit)
        for hint in key_hints(screen):
            if hint.is_one_action and "app." not in hint.action:
                yield SystemCommand(hint.words.capitalize(), "", partial(self._run_on, screen, hint))

    async def _run_on(self, screen: Screen[object], hint: KeyHint) -> None:
        """As its key does: not at all on a screen that has gone meanwhile."""
        if screen.is_running and screen.is_current:
            await self.run_action(hint.action, hint.node)

    def _end_in_order(self, code: int) -> None:
        """Trials end at their next breath, and the terminal gets its own picture back."""
        for screen in self.screen_stack:
            getattr(screen, "stop_trial", lambda: None)()
        self._services.leave_bench()
        self.exit(return_code=code)
