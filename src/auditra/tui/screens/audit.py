"""An audit: head, track, the current stage and the typing line. The screen owns the state and routes messages."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.widget import Widget
from textual.widgets import ContentSwitcher

from auditra.core.claims.claim import Claim
from auditra.core.counted import counted
from auditra.core.errors import AuditraError
from auditra.core.journal.audit import Audit
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.sanitize import sanitize
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.form import Form
from auditra.tui.messages import (
    ChangeWanted,
    ChoiceWanted,
    FormWanted,
    HostProbed,
    PasteWanted,
    PortChosen,
    PromptWanted,
    ReasonsFound,
    Said,
    StageChosen,
    TrialChosen,
    TrialMessage,
)
from auditra.tui.prompt import Facts, Preview, Prompt
from auditra.tui.screens.base import ResponsiveScreen
from auditra.tui.stages.registry import FIRST_STAGE, STAGES
from auditra.tui.stages.stage import Stage
from auditra.tui.widgets.audit_head import AuditHead
from auditra.tui.widgets.frame_lines import KeyLine
from auditra.tui.widgets.track import Track
from auditra.tui.widgets.typing_row import TypingRow
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.services import Services

FOLLOWS_EVERY_S = 1.0
"""How soon a window shows what another one has recorded."""
_BUSY = "A trial is running. Press Esc in stage 4 to stop it."


class AuditScreen(ResponsiveScreen):
    """One audit under work."""

    AUTO_FOCUS = ""
    NEEDS: ClassVar[tuple[type[Widget], ...]] = (AuditHead, Track, ContentSwitcher, TypingRow, KeyLine)
    DEFAULT_CSS = """
    AuditScreen ContentSwitcher { height: 1fr; }
    AuditScreen.-narrow #chosen { display: block; }
    AuditScreen.-narrow #space, AuditScreen.-middle #space { display: none; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("space", "log", "log"),
        Binding("u", "undo", "undo"),
        Binding("left", "choose_neighbour(-1, 0)", "socket", key_display="←→↑↓"),
        Binding("right", "choose_neighbour(1, 0)", "socket", key_display="←→↑↓"),
        Binding("up", "choose_neighbour(0, -1)", "socket", key_display="←→↑↓"),
        Binding("down", "choose_neighbour(0, 1)", "socket", key_display="←→↑↓"),
        *(Binding(str(n), f"turn_to({n})", "stage", key_display=f"1-{len(STAGES)}") for n in range(1, len(STAGES) + 1)),
        Binding("b", "leave", "shelf"),
        Binding("q", "app.quit", "quit", show=False),
        Binding("question_mark", "app.help", "help"),
    ]

    def __init__(self, services: Services, session: AuditSession) -> None:
        super().__init__()
        self.state = AuditState(services, session, self)
        self._typed: tuple[Claim, ...] = ()
        self._waiting = 0
        """How many facts were last said to wait for a team's database."""
        self._leads_to: Callable[[Audit, str], Form | None] | None = None
        """What is typed now leads to a form, if this gives one."""

    def compose(self) -> ComposeResult:
        yield AuditHead()
        yield Track(tuple(stage.NAME for stage in STAGES), self._first_stage + 1)
        stages = [stage() for stage in STAGES]
        with ContentSwitcher(initial=stages[self._first_stage].id):
            yield from stages
        yield TypingRow(self._record_typed, self._show_typed, self.state.services.drafts, self.state.session.name)
        yield KeyLine()

    @property
    def _first_stage(self) -> int:
        """Where trials are run; of an audit that has no claims yet, where those are recorded."""
        return FIRST_STAGE if self.judged.audit.claims else 0

    def on_mount(self) -> None:
        self.state.runner.prepare_next()
        self.call_after_refresh(self.repaint)
        self.set_interval(FOLLOWS_EVERY_S, self._follow)

    def on_unmount(self) -> None:
        self.state.close()

    def stop_trial(self) -> None:
        """The trial stops at its next progress report."""
        self.state.runner.stop()

    @property
    def judged(self) -> JudgedAudit:
        return self.state.judged

    @property
    def stage(self) -> Stage:
        """The stage that is current."""
        return self.query_one(f"#{self.query_one(ContentSwitcher).current}", Stage)

    @property
    def is_measuring(self) -> bool:
        return self.state.runner.is_measuring

    @property
    def is_typing(self) -> bool:
        return self.query_one(TypingRow).is_open

    # Showing

    def narrate(self) -> tuple[str, ...]:
        return self.stage.narrate(self.state) if self.judged.bench == SIMULATED_BENCH else ()

    def show(self) -> None:
        """Paint everything from the audit as it stands."""
        self.query_one(AuditHead).show(self.state, self._typed, shows_moves=self.stage.SHOWS_TRIAL)
        self.stage.show(self.state)
        self.state.explainer.want()
        if self.focused is None:
            self.set_focus(self.stage.focus_target, scroll_visible=False)
        self.refresh_bindings()

    def repaint_progress(self) -> None:
        if self.is_ready:
            self.stage.show_progress(self.state)

    def run_in_background(self, work: Callable[[], None]) -> None:
        self.run_worker(work, thread=True, exclusive=True, group="trial", exit_on_error=False)

    def later(self, seconds: float, work: Callable[[], None]) -> None:
        self.set_timer(seconds, work)

    def explain_in_background(self, work: Callable[[], None]) -> None:
        self.run_worker(work, thread=True, exclusive=True, group="causes", exit_on_error=False)

    def say(self, message: str, *, failed: bool = False) -> None:
        """Beside the trial where that is in sight, else above the typing line."""
        if self.stage.SHOWS_TRIAL:
            self.state.runner.say(message, failed=failed)
        else:
            self.query_one(TypingRow).say(sanitize(message, 300), failed=failed)
            self.repaint()

    def _follow(self) -> None:
        """Show what another window or command has recorded; while a trial runs, the trial reads it. Say what waits."""
        if (waiting := self.state.session.waiting) != self._waiting:
            self._waiting = waiting
            wait = "waits" if waiting == 1 else "wait"
            gone = "What waited is in the team's database now."
            words = f"{counted(waiting, 'fact')} {wait} on this machine until the team's database answers."
            self.say(words if waiting else gone)
        if self.is_ready and not self.is_measuring and self.state.recorder.follow():
            self.state.runner.say("Another window or command has changed this audit.")

    # What the reviewer does

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        is_allowed = action != "undo" or not self.is_measuring
        return super().check_action(action, parameters) and is_allowed

    def action_turn_to(self, number: int) -> None:
        """Turn to a stage; stages count from 1."""
        self.query_one(TypingRow).close()
        self.query_one(TypingRow).say("")
        self.query_one(Track).stage = number
        self.query_one(ContentSwitcher).current = STAGES[number - 1].__name__.lower()
        self.set_focus(self.stage.focus_target, scroll_visible=False)
        self.call_after_refresh(self.repaint)

    def action_choose_neighbour(self, dx: int, dy: int) -> None:
        self._choose_port(self.query_one(AuditHead).neighbour(dx, dy))

    def action_undo(self) -> None:
        try:
            self.say(self.state.recorder.undo(keeps_port=not self.stage.SHOWS_TRIAL))
        except AuditraError as error:
            self.say(str(error), failed=True)

    def action_log(self) -> None:
        """Write down what happens, with hands on the gear; also while a trial runs."""
        from auditra.tui.screens.log import LogScreen  # loaded once it is wanted

        self.app.push_screen(LogScreen(self.state), lambda _: self.repaint())

    def action_leave(self) -> None:
        if self.is_measuring:
            self.say(_BUSY)
        else:
            self.leave()

    # What stages and workers ask for or report

    @on(PortChosen)
    def _port_chosen(self, message: PortChosen) -> None:
        self._choose_port(message.port)

    def _choose_port(self, port: str | None) -> None:
        """Paint only what shows the chosen port: a key must not cost a whole screen."""
        if port is not None and port != self.state.port:
            self.state.choose_port(port)
            self.query_one(AuditHead).show_port(self.state)
            if self.stage.has_audit:
                self.stage.show_port(self.state)

    @on(StageChosen)
    def _stage_chosen(self, message: StageChosen) -> None:
        self.action_turn_to(message.stage)

    @on(PromptWanted)
    def _prompt_wanted(self, message: PromptWanted) -> None:
        if self._may_change():
            self._leads_to = message.form
            self.query_one(TypingRow).open(message.prompt, message.text)
            self.refresh_bindings()

    @on(ChangeWanted)
    def _change_wanted(self, message: ChangeWanted) -> None:
        if self._record(message.facts, message.action):
            self.say(message.done)

    @on(PasteWanted)
    def _paste_wanted(self, message: PasteWanted) -> None:
        if self._may_change():
            from auditra.tui.screens.paste import PasteScreen  # the reader's tables are loaded once they are wanted

            take = partial(self.state.recorder.record_proposed, message.source)
            drafts, name = self.state.services.drafts, f"{self.state.session.name} paste"
            self.app.push_screen(PasteScreen(take, drafts, name), lambda _: self.repaint())

    @on(Said)
    def _said(self, message: Said) -> None:
        self.say(message.words)

    @on(FormWanted)
    def _form_wanted(self, message: FormWanted) -> None:
        if message.while_measuring or self._may_change():
            self._open_form(message.form)

    def _open_form(self, form: Form) -> None:
        from auditra.tui.screens.form import FormScreen

        named = replace(form, draft=f"{self.state.session.name} {form.draft}")
        screen = FormScreen(named, self.state.services.drafts)
        self.app.push_screen(screen, lambda _: self._form_done(screen.saved))

    def _form_done(self, saved: str) -> None:
        self.repaint()
        if saved:
            self.say(saved)

    @on(ChoiceWanted)
    def _choice_wanted(self, message: ChoiceWanted) -> None:
        if self._may_change():
            from auditra.tui.screens.choice import ChoiceScreen

            self.app.push_screen(ChoiceScreen(message.title, message.choices, message.take, message.notes, message.at))

    @on(HostProbed)
    def _host_probed(self, message: HostProbed) -> None:
        self.state.probes.take(message)

    @on(ReasonsFound)
    def _reasons_found(self) -> None:
        self.repaint()

    @on(TrialChosen)
    def _trial_chosen(self, message: TrialChosen) -> None:
        """Set the trial out in the stage where trials are run."""
        if self._may_change():
            self.state.runner.prepare(message.planned)
            self.action_turn_to(FIRST_STAGE + 1)

    @on(TrialMessage)
    def _trial_message(self, message: TrialMessage) -> None:
        self.state.runner.take(message)

    # Recording

    def _may_change(self) -> bool:
        """A trial under way has the audit to itself."""
        if self.is_measuring:
            self.say(_BUSY, failed=True)
        return not self.is_measuring

    def _record(self, facts: Callable[[Audit], Facts], action: str) -> bool:
        """Record facts as one action; an error is shown, and nothing is changed."""
        if not self._may_change():
            return False
        try:
            self.state.recorder.record(facts, action)
        except AuditraError as error:
            self.query_one(TypingRow).say(sanitize(str(error), 300), failed=True)
            return False
        self.repaint()
        return True

    def _record_typed(self, prompt: Prompt, text: str) -> bool:
        if self._leads_to is not None:
            try:
                form = self._leads_to(self.judged.audit, text)
            except AuditraError as error:
                self.query_one(TypingRow).say(sanitize(str(error), 300), failed=True)
                return False
            if form is not None:
                self._open_form(form)
                return True
        return self._record(lambda audit: prompt.facts(audit, text), prompt.action_name)

    def _show_typed(self, preview: Preview) -> None:
        """The tile of the port shows what is claimed so far."""
        self._typed = preview.claims
        claimed, device = preview.claims[0].ports if preview.claims else (), self.judged.audit.device
        self.state.choose_port(next((port for port in claimed if device.port(port)), None))
        self.query_one(AuditHead).show_faces(self.state, self._typed, shows_moves=self.stage.SHOWS_TRIAL)
