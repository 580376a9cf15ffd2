"""The head of the audit screen: title, faces, and on a narrow screen the chosen port written out."""

from __future__ import annotations

from collections.abc import Sequence

from textual.app import ComposeResult
from textual.containers import Vertical
from textual.content import Content

from auditra.core.claims.claim import Claim
from auditra.core.counted import counted
from auditra.core.sanitize import sanitize
from auditra.tui.audit_state import AuditState
from auditra.tui.renderables.cells import cut
from auditra.tui.renderables.tiles import tiles_of, with_moves, with_typed
from auditra.tui.widgets.faces import FacesMap
from auditra.tui.widgets.frame_lines import TitleLine
from auditra.tui.widgets.shown_text import ShownText

_MAX_CHOSEN_LENGTH = 160


class AuditHead(Vertical):
    """The device as it stands, on every stage."""

    DEFAULT_CSS = """
    AuditHead { height: auto; }
    AuditHead #chosen { display: none; height: 1; background: $panel; padding: 0 1; }
    AuditHead #space { height: 1; background: $panel; }
    """

    def compose(self) -> ComposeResult:
        yield TitleLine()
        yield FacesMap()
        yield ShownText(id="chosen")
        yield ShownText(id="space")

    def show(self, state: AuditState, typed: Sequence[Claim], *, shows_moves: bool) -> None:
        """Show an audit; of claims that are being typed, what they claim so far."""
        audit, judgement = state.judged.audit, state.judged.judgement
        title, score = self.query_one(TitleLine), judgement.score
        title.left = tuple(map(sanitize, (audit.device.name, audit.device.kind, f"rig {audit.rig.name}")))
        value = "no score yet" if score.value is None else f"score {score.value:.0f}"
        title.right = (
            counted(len(judgement.claims), "claim"), f"{judgement.decided} decided",
            f"{value} ({score.lowest:.0f} to {score.highest:.0f})", state.judged.bench,
        )  # fmt: skip
        self.show_faces(state, typed, shows_moves=shows_moves)
        self._show_chosen(state)

    def show_faces(self, state: AuditState, typed: Sequence[Claim], *, shows_moves: bool) -> None:
        """The ports where the next moves are, the one that is measured, what is being typed."""
        live = state.runner.live
        tiles = with_typed(tiles_of(state.judged.audit.device, state.judged.judgement), typed)
        running = live.planned.port if live.planned and state.runner.is_measuring else None
        moves = frozenset(move.port for move in live.moves if move.port is not None and shows_moves and not running)
        self.query_one(FacesMap).show(with_moves(tiles, moves, running), state.port)

    def show_port(self, state: AuditState) -> None:
        """Another port was chosen."""
        self.query_one(FacesMap).selected = state.port
        self._show_chosen(state)

    def neighbour(self, dx: int, dy: int) -> str | None:
        """The port next to the chosen one in a direction."""
        return self.query_one(FacesMap).neighbour_of_chosen(dx, dy)

    def _show_chosen(self, state: AuditState) -> None:
        if self.screen.has_class("-narrow"):
            port = state.port
            verdicts = state.judged.judgement.of_port(port or "")
            claims = "; ".join(f"{v.verdict.mark} {v.verdict.word}: {v.claim.promise}, {v.shown}" for v in verdicts)
            text = sanitize(f"{port}  {claims or 'no claims for this port'}", _MAX_CHOSEN_LENGTH)
            self.query_one("#chosen", ShownText).update(Content(cut(text, self.size.width - 2)))
