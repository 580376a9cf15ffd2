"""An audit: the frame with its stages. This screen decides; its widgets show."""

from __future__ import annotations

from pathlib import Path
from typing import ClassVar

from textual import on, work
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Container
from textual.content import Content
from textual.widgets import ContentSwitcher

from auditra.core.errors import AuditraError
from auditra.core.sanitize import sanitize
from auditra.tui.messages import (
    PortChosen,
    StageChosen,
)
from auditra.tui.renderables.actions import action_in_words
from auditra.tui.renderables.tiles import tiles_of, with_moves, with_typed
from auditra.tui.screens.claiming import CLAIMS, PAPER, ClaimingScreen
from auditra.tui.screens.hosting import RIG
from auditra.tui.screens.trials import RUN
from auditra.tui.widgets.claims_stage import ClaimsStage
from auditra.tui.widgets.faces import FacesMap, Track
from auditra.tui.widgets.lines import KeyLine, TitleLine
from auditra.tui.widgets.paper_stage import PaperStage
from auditra.tui.widgets.quiet_stages import QuietStage
from auditra.tui.widgets.rig_stage import RigStage
from auditra.tui.widgets.run_stage import RunStage
from auditra.tui.widgets.score_stage import ScoreStage
from auditra.tui.widgets.shown_text import ShownText
from auditra.tui.widgets.typing_row import TypingRow
from auditra.workflows.desk import Desk
from auditra.workflows.workshop import Workshop

SCORE, PUBLISH = 7, 8
FOLLOWS_EVERY_S = 1.0
"""How soon a window shows what another one has recorded."""
_RUN_KEYS = (
    ("enter", "start trial", "start"),
    ("x", "did not appear", "mark_absent"),
    ("u", "undo", "undo"),
    ("a", "run all remaining", "run_all"),
    ("v", "add a file", "attach"),
    ("esc", "stop", "stop"),
    ("←→↑↓", "socket", "no_action"),
    ("1-8", "stage", "no_action"),
    ("p", "publish", "publish"),
    ("tab", "panel", "next_panel"),
    ("b", "shelf", "leave"),
    ("?", "help", "app.help"),
)
_CLAIMS_KEYS = (
    ("n", "new claim", "new_claim"),
    ("e", "edit", "mend_claim"),
    ("g", "paste text", "paste"),
    ("w", "quote", "note_words"),
    ("d", "drop", "drop_claim"),
    ("tab", "panel", "next_panel"),
    ("j k", "claim", "no_action"),
    ("s", "new socket", "new_socket"),
    ("r", "rename", "rename_socket"),
    ("< >", "move", "no_action"),
    ("x", "remove", "mark_absent"),
    ("f", "new face", "new_face"),
    ("i", "device details", "note_device"),
    ("u", "undo", "undo"),
    ("1-8", "stage", "no_action"),
    ("b", "shelf", "leave"),
    ("?", "help", "app.help"),
)
_PAPER_KEYS = (
    ("j k", "remark", "no_action"),
    ("n", "answer", "new_claim"),
    ("u", "undo", "undo"),
    ("1-8", "stage", "no_action"),
    ("b", "shelf", "leave"),
    ("?", "help", "app.help"),
)
_TYPING_KEYS = (
    ("enter", "record", "no_action"),
    ("tab", "accept the suggestion", "no_action"),
    ("↑↓", "other suggestions", "no_action"),
    ("esc", "cancel", "stop"),
)
_RIG_KEYS = (
    ("h", "probe the host", "ask_host"),
    ("j k", "host", "no_action"),
    ("tab", "next page", "next_panel"),
    ("u", "undo", "undo"),
    ("1-8", "stage", "no_action"),
    ("b", "shelf", "leave"),
    ("?", "help", "app.help"),
)
_OTHER_KEYS = (
    ("←→↑↓", "socket", "no_action"),
    ("1-8", "stage", "no_action"),
    ("p", "publish", "publish"),
    ("u", "undo", "undo"),
    ("tab", "panel", "next_panel"),
    ("b", "shelf", "leave"),
    ("?", "help", "app.help"),
)


class AuditScreen(ClaimingScreen):
    """One audit on the desk."""

    AUTO_FOCUS = ""
    DEFAULT_CSS = """
    AuditScreen ContentSwitcher { height: 1fr; }
    AuditScreen #chosen { display: none; height: 1; background: $panel; padding: 0 1; }
    AuditScreen.-narrow #chosen { display: block; }
    AuditScreen #space { height: 1; background: $panel; }
    AuditScreen.-narrow #space { display: none; }
    AuditScreen.-middle #space { display: none; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        *(Binding(str(stage), f"stage({stage})", show=False) for stage in range(1, 9)),
        Binding("left", "neighbour(-1, 0)", show=False),
        Binding("right", "neighbour(1, 0)", show=False),
        Binding("up", "neighbour(0, -1)", show=False),
        Binding("down", "neighbour(0, 1)", show=False),
        Binding("enter", "start", "start the trial"),
        Binding("x", "mark_absent", "did not appear"),
        Binding("u", "undo", "undo"),
        Binding("a", "run_all", "run all remaining"),
        Binding("escape", "stop", "stop the trial"),
        Binding("p", "publish", "publish"),
        Binding("n", "new_claim", "new claim"),
        Binding("e", "mend_claim", "edit the claim"),
        Binding("g", "paste", "read a seller's text"),
        Binding("w", "note_words", "the seller's words"),
        Binding("d", "drop_claim", "drop the claim"),
        Binding("j", "next_claim(1)", show=False),
        Binding("k", "next_claim(-1)", show=False),
        Binding("s", "new_socket", "new socket"),
        Binding("r", "rename_socket", "rename the socket"),
        Binding("less_than_sign", "move_socket(-1)", show=False),
        Binding("greater_than_sign", "move_socket(1)", show=False),
        Binding("f", "new_face", "new face"),
        Binding("F", "rename_face", "rename the face"),
        Binding("i", "note_device", "device details"),
        Binding("h", "ask_host", "probe the host"),
        Binding("v", "attach", "add a file as evidence"),
        Binding("tab", "next_panel", show=False, priority=True),
        Binding("b", "leave", "the shelf"),
        Binding("q", "app.quit", "quit"),
        Binding("question_mark", "app.help", "help"),
    ]

    def __init__(self, workshop: Workshop, desk: Desk) -> None:
        super().__init__(workshop, desk)
        self._published = ""

    @property
    def keys(self) -> tuple[tuple[str, str, str], ...]:
        if self.is_typing:
            return _TYPING_KEYS
        keys = {CLAIMS: _CLAIMS_KEYS, PAPER: _PAPER_KEYS, RIG: _RIG_KEYS, RUN: _RUN_KEYS}
        return keys.get(self.query_one(Track).stage, _OTHER_KEYS)

    def compose(self) -> ComposeResult:
        yield TitleLine()
        yield FacesMap()
        yield ShownText(id="chosen")
        yield ShownText(id="space")
        yield Track()
        with ContentSwitcher(initial="run"):
            with Container(id="claims"):
                yield ClaimsStage()
            with Container(id="paper"):
                yield PaperStage()
            with Container(id="rig"):
                yield RigStage()
            with Container(id="run"):
                yield RunStage()
            with Container(id="score"):
                yield ScoreStage()
            with Container(id="quiet"):
                yield QuietStage()
        yield TypingRow()
        yield KeyLine()

    def on_mount(self) -> None:
        self._prepare_next()
        self.call_after_refresh(self.repaint)
        self.set_interval(FOLLOWS_EVERY_S, self._follow)

    def _follow(self) -> None:
        """Show what another window or command has recorded; while a trial runs, that one reads it."""
        if self.is_measuring or not self.is_ready:
            return
        before = self.standing
        try:
            after = self._desk.refresh()
        except AuditraError:
            return  # what is wrong is said when something is done
        if after is not before:
            self.forget_probes()
            self._prepare_next(keeps_port=True)
            self._say("Another window or command has changed this audit.")

    # Showing

    def show(self) -> None:
        """Paint everything from the audit as it stands."""
        audit, judgement = self.standing.audit, self.standing.judgement
        title = self.query_one(TitleLine)
        title.left = tuple(map(sanitize, (audit.device.name, audit.device.kind, f"rig {audit.rig.name}")))
        score = judgement.score
        value = "no score yet" if score.value is None else f"score {score.value:.0f}"
        title.right = (
            f"{len(judgement.claims)} claims", f"{judgement.decided} decided",
            f"{value} ({score.lowest:.0f} to {score.highest:.0f})", self.standing.bench,
        )  # fmt: skip
        self.show_faces()
        self._show_chosen()
        self._show_stage()

    def show_faces(self) -> None:
        """The device as it stands: what the next moves are at, what is measured, what is being typed."""
        audit, judgement = self.standing.audit, self.standing.judgement
        moves = frozenset(move.port for move in self._live.moves if move.port is not None)
        running = self._live.planned.port if self._live.planned and self.is_measuring else None
        tiles = tiles_of(audit.device, judgement)
        if self._on_claims:
            tiles = with_typed(tiles, self._being_typed)
        else:
            tiles = with_moves(tiles, frozenset() if running else moves, running)
        self.query_one(FacesMap).show(tiles, self._port)

    def _show_chosen(self) -> None:
        """On a narrow screen the chosen socket is written out below the faces."""
        if not self.has_class("-narrow"):
            return
        verdicts = self.standing.judgement.of_port(self._port or "")
        told = "; ".join(
            f"{each.verdict.mark} {each.verdict.word}: {each.claim.promise}, {each.shown}" for each in verdicts
        )
        self.query_one("#chosen", ShownText).update(
            Content(sanitize(f"{self._port}  {told or 'no claims for this port'}", 160))
        )

    def _show_stage(self) -> None:
        stage = self.query_one(Track).stage
        self.query_one(KeyLine).keys = self.keys
        self.query_one(ContentSwitcher).current = {
            CLAIMS: "claims", PAPER: "paper", RIG: "rig", RUN: "run", SCORE: "score",
        }.get(stage, "quiet")  # fmt: skip
        if stage == CLAIMS:
            chosen = self._chosen_claim()
            self.query_one(ClaimsStage).show(self.standing, chosen.id if chosen else None, self._port)
        elif stage == PAPER:
            self.query_one(PaperStage).show(self.standing, self._chosen_remark())
        elif stage == RIG:
            self.show_rig()
        elif stage == RUN:
            port = self.standing.audit.device.port(self._port or "")
            self.query_one(RunStage).show(self.standing, self._live, port, self._log)
        elif stage == SCORE:
            self.query_one(ScoreStage).show(self.standing, self._desk.profile.name, self._port)
        else:
            self.query_one(QuietStage).show(stage, self._published if stage == PUBLISH else "", self.standing.judgement)

    # What the reviewer does

    def action_stage(self, stage: int) -> None:
        if self.is_typing:
            self.leave_typing()
        self.query_one(Track).stage = stage
        self._tell("")
        self.call_after_refresh(self.repaint)

    def action_neighbour(self, dx: int, dy: int) -> None:
        port = self.query_one(FacesMap).neighbour_of_chosen(dx, dy)
        if port is not None and port != self._port:
            self._choose_port(port)

    def action_next_panel(self) -> None:
        stage = self.query_one(Track).stage
        panels: dict[int, type[ClaimsStage | RunStage | ScoreStage]] = {
            CLAIMS: ClaimsStage, RUN: RunStage, SCORE: ScoreStage,
        }  # fmt: skip
        if stage == RIG:
            self.query_one(RigStage).next_page()
        elif stage in panels:
            self.query_one(panels[stage]).next_panel()
            self.call_after_refresh(self.repaint)

    def action_stop(self) -> None:
        if self.is_typing:
            self.leave_typing()
        else:
            super().action_stop()

    def action_mark_absent(self) -> None:
        """On the Claims stage the same key takes a socket away."""
        if self._on_claims:
            self.remove_socket()
        else:
            super().action_mark_absent()

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        """While something is typed, tab is the line's own."""
        return super().check_action(action, parameters) and not (action == "next_panel" and self.is_typing)

    def action_next_claim(self, step: int) -> None:
        """On the Rig stage the same keys choose a host."""
        if self.query_one(Track).stage == RIG:
            self.choose_host(step)
        else:
            super().action_next_claim(step)

    def action_no_action(self) -> None:
        """For keys that stand for several."""

    def action_undo(self) -> None:
        if self.is_measuring:
            return
        audit = self.standing.audit
        if not audit.undoable:
            self._say("There is nothing to undo.")
            self._tell("There is nothing to undo.")
            return
        words = action_in_words(audit.undoable[-1], audit.undoable_facts[-1], audit, self.standing.judgement)
        if self._change(lambda: self._desk.undo(self._clock)):
            self.forget_probes()
            self._write_log(self._clock.moment(), f"undone: {words}")
            self._prepare_next(keeps_port=self._on_claims or self._on_paper)
            self._say(f"Undone: {words}.")
            self._tell(f"Undone: {words}.")

    def action_publish(self) -> None:
        self.query_one(Track).stage = PUBLISH
        self._published = "Writing ..."
        self.show()
        self._publish()

    def action_leave(self) -> None:
        if self.is_measuring:
            self._say("A trial is running. Press Esc to stop it.")
        else:
            self.leave()

    @on(PortChosen)
    def _choose(self, message: PortChosen) -> None:
        self._choose_port(message.port)

    def _choose_port(self, port: str) -> None:
        """All that shows the chosen socket, in one go: a key is one picture."""
        self._port = port
        self.query_one(FacesMap).selected = port
        self._show_chosen()
        stage = self.query_one(Track).stage
        if stage == RUN:
            self.query_one(RunStage).show_socket(self.standing.audit.device.port(port))
        elif stage in (SCORE, CLAIMS):
            self._claim = None
            self._show_stage()

    @on(StageChosen)
    def _turn_to(self, message: StageChosen) -> None:
        self.action_stage(message.stage)

    @work(thread=True, exclusive=True, group="publish", exit_on_error=False)
    def _publish(self) -> None:
        try:
            files = self._workshop.publish(self._desk.checked(), self._workshop.publish_folder)
            self._published = "Written:\n" + "\n".join(str(Path(path)) for path in files)
        except AuditraError as error:
            self._published = str(error)
        except Exception as error:
            self._workshop.log("fault in publishing", error)
            self._published = f"Unexpected fault: {type(error).__name__}; the log has the details."
        self.app.call_from_thread(self.show)
