"""The log: with hands on the gear, one key writes down what happens, at its moment, on the chosen port."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace
from datetime import datetime
from typing import ClassVar

from textual import on, work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.content import Content
from textual.message import Message
from textual.screen import ModalScreen
from textual.widget import Widget

from auditra.core.errors import AuditraError
from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.facts import EvidenceKept
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.event import EventKind
from auditra.core.sanitize import sanitize
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.form import Form
from auditra.tui.forms.notes import doubt_form, note_form, photo_form
from auditra.tui.messages import PortChosen
from auditra.tui.renderables.labels import heading
from auditra.tui.renderables.tiles import tiles_of
from auditra.tui.renderables.timeline import timeline_lines
from auditra.tui.screens.base import LeavingScreen
from auditra.tui.theme import Palette
from auditra.tui.widgets.faces import FacesMap
from auditra.tui.widgets.frame_lines import KeyLine, TitleLine, palette_of
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.log_events import facts_of_event
from auditra.workflows.hosts.plug_watch import other_socket

_KEYS: dict[str, EventKind] = {
    "c": EventKind.CONNECTED, "r": EventKind.REMOVED, "h": EventKind.CHIME, "p": EventKind.PICTURE,
    "l": EventKind.PICTURE_LOST, "b": EventKind.PICTURE_BACK, "x": EventKind.CRASH, "v": EventKind.RECOVERED,
    "w": EventKind.WARM,
}  # fmt: skip
_MAX_LINES = 400


class LogScreen(LeavingScreen, ModalScreen[None]):
    """Over the audit, also while a trial runs."""

    DEFAULT_CSS = """
    LogScreen { background: $background; }
    LogScreen #log-body { height: 1fr; }
    LogScreen #log-keys { width: 28; padding: 1 2 0 2; }
    LogScreen #log-right { width: 1fr; border-left: vkey $rule; }
    LogScreen #log-message { height: auto; min-height: 2; max-height: 4; padding: 1 2 0 2; }
    LogScreen #log-scroll { height: 1fr; padding: 1 2 0 2; scrollbar-size-vertical: 1; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        *(Binding(key, f"event('{kind.name}')", str(kind), show=False) for key, kind in _KEYS.items()),
        Binding("n", "note", "note"),
        Binding("d", "doubt", "doubt"),
        Binding("f", "photo", "photo"),
        Binding("u", "undo", "undo"),
        Binding("left", "choose(-1, 0)", "socket", key_display="←→↑↓"),
        Binding("right", "choose(1, 0)", "socket", key_display="←→↑↓"),
        Binding("up", "choose(0, -1)", "socket", key_display="←→↑↓"),
        Binding("down", "choose(0, 1)", "socket", key_display="←→↑↓"),
        Binding("pageup", "turn_page(-1)", "scroll", show=False, key_display="pgup pgdn"),
        Binding("pagedown", "turn_page(1)", "scroll", show=False, key_display="pgup pgdn"),
        Binding("escape", "leave", "back"),
        Binding("space", "leave", "back"),
        Binding("question_mark", "app.help", "help"),
    ]
    NEEDS: ClassVar[tuple[type[Widget], ...]] = (Vertical,)

    class HostLooked(Message):
        """What the host shows now, and the port that a connection was noted at."""

        def __init__(self, snapshot: Snapshot, said: str | None) -> None:
            super().__init__()
            self.snapshot, self.said = snapshot, said

    def __init__(self, state: AuditState) -> None:
        super().__init__()
        self._state = state
        self._host: Snapshot | None = None
        self._message, self._failed = "", False

    def compose(self) -> ComposeResult:
        with Vertical():
            yield TitleLine()
            yield FacesMap()
            with Horizontal(id="log-body"):
                yield ShownText(id="log-keys")
                with Vertical(id="log-right"):
                    yield ShownText(id="log-message")
                    with VerticalScroll(id="log-scroll", can_focus=False):
                        yield ShownText(id="log-lines")
            yield KeyLine()

    def on_mount(self) -> None:
        self.set_focus(None)
        with suppress(AuditraError):  # a trial that runs is in the journal, and not on the screen below yet
            self._state.session.refresh()
        self.call_after_refresh(self.repaint)
        self._look_at_host(None)

    def on_screen_resume(self) -> None:
        self.repaint()

    def on_resize(self) -> None:
        self.call_after_refresh(self.repaint)

    # Showing

    def show(self) -> None:
        state, palette = self._state, palette_of(self)
        audit, judgement = state.judged.audit, state.judged.judgement
        title = self.query_one(TitleLine)
        title.left = tuple(map(sanitize, ("Log", audit.device.name)))
        running = state.runner.live.planned if state.runner.is_measuring else None
        title.right = (f"during {sanitize(running.title, 40)}",) if running is not None else ("no trial is running",)
        self.query_one(FacesMap).show(tiles_of(audit.device, judgement), state.port)
        self.query_one("#log-keys", ShownText).update(_keys(state.port, palette_of(self)))
        style = palette.broken if self._failed else palette.accent
        self.query_one("#log-message", ShownText).update(Content.styled(self._message, style))
        width = max(30, self.query_one("#log-scroll").content_size.width - 1)
        titles = {
            record.trial.id: planned.title
            for record in audit.trials
            if (planned := judgement.sheet.trial(record.identity)) is not None
        }
        lines = timeline_lines(audit, titles, width, palette)[:_MAX_LINES]
        nothing = [Content.styled("Nothing is logged yet. A key on the left writes it down.", palette.quiet)]
        text = Content("\n").join([heading("timeline", palette, "newest first"), Content(""), *(lines or nothing)])
        self.query_one("#log-lines", ShownText).update(text)

    def _say(self, message: str, *, failed: bool = False) -> None:
        self._message, self._failed = sanitize(message, 300), failed
        self.repaint()

    # Keys

    def action_event(self, name: str) -> None:
        """Write an event down, at this moment."""
        kind, state = EventKind[name], self._state
        port, now = state.port, state.runner.event_moment()
        try:
            state.recorder.record(lambda audit: facts_of_event(audit, kind, port, now), f"log {kind}")
        except AuditraError as error:
            self._say(str(error), failed=True)
            return
        self._say(f"{now:%H:%M:%S}  {port or 'device'}  {kind}. Press u to undo.")
        if kind is EventKind.CONNECTED:
            self._look_at_host(port)

    def action_note(self) -> None:
        self._open(note_form(self._state.port, self._keep, self._now, self._state.recorder.saving))

    def action_doubt(self) -> None:
        self._open(doubt_form(self._state.port, self._now, self._state.recorder.saving))

    def action_photo(self) -> None:
        self._open(photo_form(self._state.port, self._keep, self._now, self._state.recorder.saving))

    def action_undo(self) -> None:
        if self._state.runner.is_measuring:
            self._say("A trial is running: undo when it is over.", failed=True)
            return
        try:
            self._say(self._state.recorder.undo(keeps_port=True))
        except AuditraError as error:
            self._say(str(error), failed=True)

    def action_choose(self, dx: int, dy: int) -> None:
        self._choose(self.query_one(FacesMap).neighbour_of_chosen(dx, dy))

    def action_turn_page(self, direction: int) -> None:
        scroll = self.query_one("#log-scroll", VerticalScroll)
        scroll.scroll_to(y=scroll.scroll_y + direction * scroll.size.height, animate=False)

    def action_leave(self) -> None:
        self.leave()

    @on(PortChosen)
    def _port_chosen(self, message: PortChosen) -> None:
        message.stop()
        self._choose(message.port)

    def _choose(self, port: str | None) -> None:
        if port is not None:
            self._state.choose_port(port)
            self.repaint()

    def _open(self, form: Form) -> None:
        from auditra.tui.screens.form import FormScreen

        named = replace(form, draft=f"{self._state.session.name} {form.draft}")
        screen = FormScreen(named, self._state.services.drafts)
        self.app.push_screen(screen, lambda _: self._say(screen.saved))

    def _now(self) -> datetime:
        return self._state.runner.event_moment()

    def _keep(self, path: str, about: str) -> EvidenceKept:
        name, data = self._state.services.load(path)
        return self._state.session.keep_photo(name, data, about)

    # What the host sees of it

    @work(thread=True, exclusive=True, group="host", exit_on_error=False)
    def _look_at_host(self, said: str | None) -> None:
        """Where the trials run on this machine: what hangs on it now."""
        if self._state.judged.bench == LIVE_BENCH:
            self.post_message(self.HostLooked(self._state.services.probe(), said))

    @on(HostLooked)
    def _host_looked(self, message: HostLooked) -> None:
        before, self._host = self._host, message.snapshot
        if before is None or message.said is None:
            return
        seen = other_socket(self._state.judged.audit, message.said, before, message.snapshot)
        if seen is not None:
            words = f"Look again: this machine sees it at {seen}, not at {message.said}. Press u, then choose {seen}."
            self._say(words, failed=True)


def _keys(port: str | None, palette: Palette) -> Content:
    lines = [heading("at", palette, port or "the device"), Content("")]
    lines += [
        Content.assemble((f" {key}  ", f"bold {palette.accent}"), (str(kind), palette.ink))
        for key, kind in _KEYS.items()
    ]
    lines.append(Content(""))
    for key, words in (("n", "note"), ("d", "doubt"), ("f", "photo"), ("u", "undo")):
        lines.append(Content.assemble((f" {key}  ", f"bold {palette.accent}"), (words, palette.quiet)))
    return Content("\n").join(lines)
