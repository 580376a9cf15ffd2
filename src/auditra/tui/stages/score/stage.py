"""Stage 7, Score: the band, and the ledger that it is the sum of."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.content import Content

from auditra.core.advice.for_whom import for_whom
from auditra.core.advice.profile_change import profile_change
from auditra.core.advice.worth import Peer, worth_of
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import ProfileChosen
from auditra.core.judge.host_grid import host_grid
from auditra.core.judge.kit_fit import fit_kit, parse_kit
from auditra.core.judge.truth_table import truth_tables
from auditra.core.model.profile import Profile
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.messages import ChangeWanted, ChoiceWanted, PromptWanted
from auditra.tui.prompt import Facts, Prompt
from auditra.tui.renderables.labels import heading
from auditra.tui.renderables.scale import render_band
from auditra.tui.stages.score.advice_text import render_for_whom, render_moved, render_worth
from auditra.tui.stages.score.follow_up_text import render_follow_up
from auditra.tui.stages.score.hosts_text import render_host_grid
from auditra.tui.stages.score.kit_text import render_kit
from auditra.tui.stages.score.text import profile_line, render_ledger, score_summary
from auditra.tui.stages.score.truth_text import render_truth_tables
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import BigNumber, ShownText
from auditra.workflows.audits.log_events import facts_of_kit, kit_of
from auditra.workflows.audits.shelf import peers_of

_MIN_BAND_WIDTH, _MAX_BAND_WIDTH = 20, 46
_MIN_LEDGER_WIDTH, _MAX_LEDGER_WIDTH = 40, 130


class ScoreStage(Stage):
    """Shows where the score stands and why; the lines of the chosen port are highlighted."""

    NAME = "Score"
    PANELS = ("ledger", "summary")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    ScoreStage #summary { width: 52; }
    ScoreStage #ledger { width: 1fr; border-left: vkey $rule; }
    ScoreStage BigNumber { width: 1fr; text-style: bold; height: 3; margin: 1 0 0 0; }
    ScoreStage #band { height: 2; margin: 1 0; }
    ScoreStage #socket-card, ScoreStage #host-grid, ScoreStage #worth, ScoreStage #for-whom { margin: 2 0 0 0; }
    ScoreStage #follow-up, ScoreStage #kit, ScoreStage #buttons, ScoreStage #moved { display: none; margin: 2 0 0 0; }
    ScoreStage.is-moved #moved, ScoreStage.follows #follow-up { display: block; }
    ScoreStage.has-kit #kit, ScoreStage.has-buttons #buttons {
        display: block;
    }
    .-middle ScoreStage #summary { width: 36; }
    .-narrow ScoreStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow ScoreStage.front-ledger #ledger, .-narrow ScoreStage.front-summary #summary {
        display: block; width: 1fr; border-left: none;
    }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("p", "choose_profile", "profile"), Binding("k", "fit_kit", "fit a kit"), NEXT_PANEL,
    ]  # fmt: skip

    def __init__(self) -> None:
        super().__init__()
        self._texts = KeptTexts()
        self._peers: tuple[Peer, ...] | None = None
        """The rest of the shelf, read once: it may be long, and stays as it is while one audit is worked on."""

    def compose(self) -> ComposeResult:
        with Panel(id="summary"):
            yield ShownText(id="score-head")
            yield BigNumber("", id="score-digits")
            yield ShownText(id="band")
            yield ShownText(id="score-words")
        with Panel(id="ledger"):
            yield ShownText(id="ledger-text")
            yield ShownText(id="moved")
            yield ShownText(id="worth")
            yield ShownText(id="for-whom")
            yield ShownText(id="follow-up")
            yield ShownText(id="kit")
            yield ShownText(id="host-grid")
            yield ShownText(id="buttons")
            yield ShownText(id="socket-card")

    def action_fit_kit(self) -> None:
        """What somebody wants to plug in at the same time: whether there is a socket for each piece."""

        def facts(_: Audit, text: str) -> Facts:
            parse_kit(text)  # refused where it cannot be read
            return facts_of_kit(text, self.state.runner.event_moment())

        kit = kit_of(self.state.judged.audit)
        self.post_message(PromptWanted(Prompt("kit", facts), kit))

    def action_choose_profile(self) -> None:
        """What the score weighs and charges; each with the score that it would give."""
        judgement, profiles = self.state.judged.judgement, self.state.services.profiles()
        offers = {profile_line(profile, judgement.scored_with(profile)): profile for profile in profiles}
        names = [profile.name for profile in profiles]
        at = names.index(judgement.profile.name) if judgement.profile.name in names else 0
        notes = [profile.about for profile in profiles]
        self.post_message(
            ChoiceWanted("Score with which profile?", [*offers], lambda line: self._take(offers[line]), notes, at)
        )

    def _take(self, profile: Profile) -> None:
        if profile != self.state.judged.judgement.profile:
            done = f"Scored with the profile {profile.name}. Press u to undo."
            self.post_message(ChangeWanted(lambda _: (ProfileChosen(profile),), "choose the profile", done))

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.score(state)

    def paint(self, state: AuditState) -> None:
        judged, palette = state.judged, self.palette
        score = judged.judgement.score
        value = None if score.value is None else float(score.value)
        self.set_text("score-head", heading("score", palette, f"profile: {judged.judgement.profile.name}"))
        self.query_one("#score-digits", BigNumber).show("-" if value is None else f"{value:.1f}")
        width = max(_MIN_BAND_WIDTH, min(_MAX_BAND_WIDTH, self.panel("summary").text_width))
        band = render_band(float(score.lowest), value, float(score.highest), width, palette)
        ends = Content.styled(f"{score.lowest:.0f} to {score.highest:.0f} of 100", palette.quiet)
        self.set_text("band", Content("\n").join([band, ends]))
        self.set_text("score-words", score_summary(judged, palette))
        self._paint_ledger(state)

    def _paint_advice(self, state: AuditState, width: int) -> None:
        """What another profile than the usual one moved, what the device is worth, and for whom it is."""
        judged, palette, device = state.judged, self.palette, state.judged.audit.device
        judgement, usual = judged.judgement, state.session.profile
        self.set_class(judgement.profile != usual, "is-moved")
        if judgement.profile != usual:
            change = self._texts.once(
                ("moved",), judged, palette, lambda: profile_change(judgement, usual, judgement.profile, device.id)
            )
            self.set_text("moved", render_moved(change, width, palette))
        if self._peers is None:
            self._peers = peers_of(state.services.shelf.kept_rows(), judged.audit.name)
        worth = worth_of(device, judgement.score, judgement.profile.name, self._peers)
        self.set_text("worth", render_worth(worth, device, palette))
        users = self._texts.once(
            ("users",), judged, palette, lambda: for_whom(judged.audit, judgement, device, state.services.users())
        )
        self.set_text("for-whom", render_for_whom(users, width, palette))

    def _paint_ledger(self, state: AuditState) -> None:
        judged, port, palette = state.judged, state.port, self.palette
        room = self.panel("ledger").content_size.width
        width = max(_MIN_LEDGER_WIDTH, min(room, _MAX_LEDGER_WIDTH))
        self.set_text("ledger-text", self._texts.once(
            ("ledger", port, room), judged, palette, lambda: render_ledger(judged.judgement, port, width, palette)
        ))  # fmt: skip
        self._paint_advice(state, width)
        chosen = judged.audit.device.port(port) if port else None
        card_width = self.query_one("#socket-card").content_size.width
        self.set_text("socket-card", self._texts.card(chosen, judged, palette, card_width))
        if judged.audit.follows is not None:
            found = self._texts.once(("follow-up",), judged, palette, state.earlier.difference)
            self.set_class(found is not None, "follows")
            if found is not None:
                self.set_text("follow-up", render_follow_up(found, card_width, palette))
        kit = kit_of(judged.audit)
        self.set_class(bool(kit), "has-kit")
        if kit:
            placed = self._texts.once(
                ("kit",), judged, palette, lambda: fit_kit(parse_kit(kit), judged.audit.device, judged.judgement.claims)
            )
            self.set_text("kit", render_kit(placed, palette))
        tables = truth_tables(judged.judgement.claims)
        self.set_class(bool(tables), "has-buttons")
        if tables:
            self.set_text("buttons", render_truth_tables(tables, palette))
        hosts = judged.audit.rig.in_use.hosts
        rows = self._texts.once(("hosts",), judged, palette, lambda: host_grid(hosts, judged.judgement.claims))
        self.set_text("host-grid", render_host_grid(hosts, rows, port, card_width, palette))
