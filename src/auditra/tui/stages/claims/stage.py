"""Stage 1, Claims: the seller's words beside the claims, port capabilities, and the device itself."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType

from auditra.core.claims.claim import Claim
from auditra.core.journal.audit import UnreadableClaim
from auditra.core.model.source import Source
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.device import details_form, socket_form
from auditra.tui.messages import ChangeWanted, FormWanted, PasteWanted, PortChosen, PromptWanted
from auditra.tui.prompt import Prompt
from auditra.tui.stages.claims import prompts
from auditra.tui.stages.claims.text import listed_claims, said_and_claimed, sentence_of, what_it_is_for
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage, stepped
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.claim_edits import claim_dropped, port_moved, port_removed

_ON_A_CLAIM = ("edit_claim", "quote_claim", "drop_claim", "next_claim")
_ON_A_PORT = ("rename_port", "describe_port", "move_port", "remove_port", "rename_face")


class ClaimsStage(Stage):
    """Claims are typed, edited and dropped here; ports and faces are put in their places."""

    NAME = "Claims"
    PANELS = ("said", "for")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    ClaimsStage #said { width: 5fr; }
    ClaimsStage #for { width: 4fr; border-left: vkey $rule; }
    .-middle ClaimsStage Panel, .-narrow ClaimsStage Panel { display: none; width: 1fr; border-left: none; }
    .-narrow ClaimsStage Panel { padding: 0 1; }
    .-middle ClaimsStage.front-said #said, .-narrow ClaimsStage.front-said #said { display: block; width: 1fr; }
    .-middle ClaimsStage.front-for #for, .-narrow ClaimsStage.front-for #for {
        display: block; width: 1fr; border-left: none;
    }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("n", "new_claim", "new claim"),
        Binding("e", "edit_claim", "edit"),
        Binding("g", "paste", "paste text"),
        Binding("w", "quote_claim", "quote"),
        Binding("d", "drop_claim", "drop"),
        NEXT_PANEL,
        Binding("j", "next_claim(1)", "claim"),
        Binding("k", "next_claim(-1)", "claim"),
        Binding("s", "new_port", "new socket"),
        Binding("r", "rename_port", "rename"),
        Binding("p", "describe_port", "socket details", show=False),
        Binding("less_than_sign", "move_port(-1)", "move"),
        Binding("greater_than_sign", "move_port(1)", "move"),
        Binding("x", "remove_port", "remove"),
        Binding("f", "new_face", "new face", show=False),
        Binding("F", "rename_face", "rename face", show=False),
        Binding("i", "note_device", "device details"),
    ]

    def __init__(self) -> None:
        super().__init__()
        self._chosen: tuple[str, str | None] = ("", None)
        """The claim that was chosen, and the port that was chosen with it."""
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with Panel(id="said"):
            yield ShownText(id="said-text")
        with Panel(id="for"):
            yield ShownText(id="for-text")

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.claims(state)

    def paint(self, state: AuditState) -> None:
        judged, port, palette = state.judged, state.port, self.palette
        chosen, said = self.chosen_claim, self.panel("said")
        chosen_id, width = chosen.id if chosen else None, said.text_width
        text, line = self._texts.once(
            ("said", chosen_id, width), judged, palette,
            lambda: said_and_claimed(judged.audit, judged.judgement, chosen_id, width, palette),
        )  # fmt: skip
        self.set_text("said-text", text)
        said.keep_in_sight(line)
        width = self.panel("for").text_width
        self.set_text("for-text", self._texts.once(
            ("for", port, width), judged, palette,
            lambda: what_it_is_for(judged.audit, judged.judgement, port, width, palette),
        ))  # fmt: skip

    @property
    def chosen_claim(self) -> Claim | UnreadableClaim | None:
        """The claim that was chosen, until another port is; then the first claim of that port."""
        listed, port = listed_claims(self.state.judged.audit), self.state.port
        chosen = (claim for claim in listed if (claim.id, port) == self._chosen)
        of_port = (claim for claim in listed if isinstance(claim, Claim) and port in claim.ports)
        return next(chosen, None) or next(of_port, None) or next(iter(listed), None)

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        if action in _ON_A_CLAIM:
            return self.chosen_claim is not None
        return action not in _ON_A_PORT or self.state.port is not None

    # Claims

    def action_next_claim(self, step: int) -> None:
        audit, before = self.state.judged.audit, self.chosen_claim
        if before is None:
            return
        listed = listed_claims(audit)
        chosen, port = stepped(listed, before, step), self.state.port
        if isinstance(chosen, Claim) and audit.device.port(chosen.port) is not None:
            port = chosen.port
        self._chosen = (chosen.id, port)
        if port is not None and port != self.state.port:
            self.post_message(PortChosen(port))
        else:
            self.paint(self.state)

    def action_new_claim(self) -> None:
        chosen, port = self.chosen_claim, self.state.port
        prompt = prompts.new_claim(self.state.judged.audit, chosen.source if chosen else Source())
        self._prompt(prompt, f"{port} " if port else "")

    def action_edit_claim(self) -> None:
        if (chosen := self.chosen_claim) is not None:
            self._prompt(prompts.edited_claim(self.state.judged.audit, chosen.id), sentence_of(chosen))

    def action_quote_claim(self) -> None:
        if (chosen := self.chosen_claim) is not None:
            self._prompt(*prompts.quote(chosen))

    def action_drop_claim(self) -> None:
        if (chosen := self.chosen_claim) is not None:
            done = f'"{sentence_of(chosen)}" is dropped. Press u to undo.'
            self.post_message(ChangeWanted(lambda audit: claim_dropped(audit, chosen.id), "drop", done))

    def action_paste(self) -> None:
        """Have a seller's text read for claims; they take over when and where the chosen claim was seen."""
        chosen = self.chosen_claim
        self.post_message(PasteWanted(chosen.source if chosen else Source()))

    # The device

    def action_new_port(self) -> None:
        self._prompt(prompts.new_port(self.state.port))

    def action_rename_port(self) -> None:
        if (port := self.state.port) is not None:
            self._prompt(prompts.renamed_port(port), port)

    def action_describe_port(self) -> None:
        """Connector, role, and what stands beside it on the case."""
        audit = self.state.judged.audit
        port = audit.device.port(self.state.port or "")
        if port is not None:
            self.post_message(FormWanted(socket_form(audit, port, self.state.recorder.saving)))

    def action_move_port(self, step: int) -> None:
        if (port := self.state.port) is not None:
            done = f"{port} is moved. Press u to undo."
            self.post_message(ChangeWanted(lambda audit: port_moved(audit, port, step), f"move {port}", done))

    def action_remove_port(self) -> None:
        """Remove the chosen port, where nothing names it."""
        if (port := self.state.port) is not None:
            done = f"{port} is removed. Press u to undo."
            self.post_message(ChangeWanted(lambda audit: port_removed(audit, port), f"remove {port}", done))

    def action_new_face(self) -> None:
        self._prompt(prompts.new_face())

    def action_rename_face(self) -> None:
        if (port := self.state.port) is not None:
            self._prompt(prompts.renamed_face(port))

    def action_note_device(self) -> None:
        self.post_message(FormWanted(details_form(self.state.judged.audit, self.state.recorder.saving)))

    def _prompt(self, prompt: Prompt, text: str = "") -> None:
        self.post_message(PromptWanted(prompt, text))
