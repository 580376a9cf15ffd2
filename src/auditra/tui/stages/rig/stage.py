"""Stage 3, Rig: all gear that takes part, the chosen part in full, and how far the rig reaches."""

from __future__ import annotations

from functools import partial
from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType

from auditra.core.journal.audit import Audit
from auditra.core.judge.reach import reach_of
from auditra.core.model.rig import Host, Part
from auditra.tui import narrator
from auditra.tui.audit_state import AuditState
from auditra.tui.forms.gear import copied_part, edited_part, new_part
from auditra.tui.messages import ChangeWanted, ChoiceWanted, FormWanted, PromptWanted, Said
from auditra.tui.prompt import Facts, Prompt, offers_from
from auditra.tui.stages.rig.drawer_text import drawer_list, parts_in_order
from auditra.tui.stages.rig.files import files_form
from auditra.tui.stages.rig.part_text import part_in_words
from auditra.tui.stages.rig.reach_text import reach_list
from auditra.tui.stages.stage import NEXT_PANEL, Panel, Stage, stepped
from auditra.tui.widgets.kept_texts import KeptTexts
from auditra.tui.widgets.shown_text import ShownText
from auditra.workflows.audits.rig_edits import KIND_OF_PART, PART_KINDS, part_removed, retirement_turned

_MIN_WIDTH = 24


class RigStage(Stage):
    """Parts are added, edited, copied and retired here, and hosts are probed."""

    NAME = "Rig"
    PANELS = ("drawer", "part", "reach")
    SCOPED_CSS = False
    DEFAULT_CSS = """
    RigStage #drawer { width: 58; }
    RigStage #part { width: 1fr; border-left: vkey $rule; }
    RigStage #reach { width: 52; border-left: vkey $rule; }
    .-middle RigStage #drawer { width: 48; }
    .-middle RigStage #reach { display: none; }
    .-middle RigStage.front-reach #reach { display: block; width: 1fr; }
    .-middle RigStage.front-reach #part { display: none; }
    .-narrow RigStage Panel { display: none; width: 1fr; padding: 0 1; border-left: none; }
    .-narrow RigStage.front-drawer #drawer { display: block; width: 1fr; }
    .-narrow RigStage.front-part #part { display: block; border-left: none; }
    .-narrow RigStage.front-reach #reach { display: block; width: 1fr; border-left: none; }
    """
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("n", "new_part", "new part"),
        Binding("e", "edit_part", "edit"),
        Binding("c", "copy_part", "copy"),
        Binding("x", "retire_part", "retire, use again"),
        Binding("h", "probe_host", "probe the host"),
        Binding("v", "add_file", "photo, description"),
        NEXT_PANEL,
        Binding("j", "next_part(1)", "part"),
        Binding("k", "next_part(-1)", "part"),
        Binding("d", "remove_part", "remove", show=False),
        Binding("g", "take_rig", "take a rig from the drawer", show=False),
        Binding("s", "save_rig", "save the rig in the drawer", show=False),
        Binding("w", "files", "import, export", show=False),
    ]

    def __init__(self) -> None:
        super().__init__()
        self._chosen_id: str | None = None
        self._texts = KeptTexts()

    def compose(self) -> ComposeResult:
        with Panel(id="drawer"):
            yield ShownText(id="drawer-text")
        with Panel(id="part"):
            yield ShownText(id="part-text")
        with Panel(id="reach"):
            yield ShownText(id="reach-text")

    # Showing

    def narrate(self, state: AuditState) -> tuple[str, ...]:
        return narrator.rig(state)

    def paint(self, state: AuditState) -> None:
        state.probes.read()
        judged, chosen, palette = state.judged, self.chosen, self.palette
        rig, chosen_id = judged.audit.rig, chosen.id if chosen is not None else ""
        drawer = self.panel("drawer")
        width = max(_MIN_WIDTH, drawer.text_width)
        text, line = drawer_list(rig, chosen_id, self._state_of_drawer(state), width, palette)
        self.set_text("drawer-text", text)
        drawer.keep_in_sight(line)
        probe = state.probes.found.get(chosen_id)
        width = max(_MIN_WIDTH, self.panel("part").text_width)
        message = state.probes.error
        self.set_text("part-text", part_in_words(chosen, rig, probe, message, width, palette))
        self._paint_reach(state)

    def _paint_reach(self, state: AuditState) -> None:
        judged, palette, width = state.judged, self.palette, max(_MIN_WIDTH, self.panel("reach").text_width)
        chosen = self.chosen
        name = getattr(chosen, "name", chosen.id) if chosen is not None else ""
        reach = self._texts.once(("reach",), judged, palette, lambda: reach_of(judged.audit, judged.judgement.sheet))
        self.set_text("reach-text", reach_list(reach, state.port, str(name), width, palette))

    def show_port(self, state: AuditState) -> None:
        self._paint_reach(state)

    @staticmethod
    def _state_of_drawer(state: AuditState) -> str:
        known, rig = state.gear.in_drawer(), state.judged.audit.rig
        if known is None:
            return "not in the gear drawer yet; s saves it there"
        return "as it is in the gear drawer" if known == rig else "the drawer's differs: g takes it, s saves over it"

    # Keys

    @property
    def chosen(self) -> Part | None:
        """The chosen part; the first one where none was chosen, or where it has been removed."""
        parts = parts_in_order(self.state.judged.audit.rig)
        return next((part for part in parts if part.id == self._chosen_id), None) or next(iter(parts), None)

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        chosen, busy = self.chosen, self.state.runner.is_measuring
        match action:
            case "probe_host":
                return isinstance(chosen, Host) and not busy
            case "edit_part" | "copy_part" | "retire_part" | "remove_part" | "add_file" | "next_part":
                return chosen is not None
        return True

    def action_next_part(self, step: int) -> None:
        if (chosen := self.chosen) is not None:
            self._chosen_id = stepped(parts_in_order(self.state.judged.audit.rig), chosen, step).id
            self.state.probes.error = ""
            self.paint(self.state)

    def action_new_part(self) -> None:
        """Which kind first; that of the chosen part is offered as the first one."""
        kinds = list(PART_KINDS)
        if (chosen := self.chosen) is not None:
            kinds.sort(key=lambda kind: kind != KIND_OF_PART[type(chosen)])
        self.post_message(ChoiceWanted("New part of the rig", kinds, self._open_new))

    def _open_new(self, kind: str) -> None:
        rig, saving = self.state.judged.audit.rig, self.state.recorder.saving
        self.post_message(FormWanted(new_part(rig, kind, saving, self.state.services.instruments())))

    def action_edit_part(self) -> None:
        if (chosen := self.chosen) is not None:
            rig, speaks = self.state.judged.audit.rig, self.state.services.instruments()
            self.post_message(FormWanted(edited_part(rig, chosen, self.state.recorder.saving, speaks)))

    def action_copy_part(self) -> None:
        if (chosen := self.chosen) is not None:
            rig, speaks = self.state.judged.audit.rig, self.state.services.instruments()
            self.post_message(FormWanted(copied_part(rig, chosen, self.state.recorder.saving, speaks)))

    def action_retire_part(self) -> None:
        if (chosen := self.chosen) is not None:
            used = "used again" if chosen.id in self.state.judged.audit.rig.retired else "retired"
            done = f"{getattr(chosen, 'name', chosen.id)} is {used}. Press u to undo."
            self.post_message(
                ChangeWanted(lambda audit: retirement_turned(audit, chosen.id), f"retire {chosen.id}", done)
            )

    def action_remove_part(self) -> None:
        if (chosen := self.chosen) is not None:
            done = f"{getattr(chosen, 'name', chosen.id)} is removed. Press u to undo."
            self.post_message(ChangeWanted(lambda audit: part_removed(audit, chosen.id), f"remove {chosen.id}", done))

    def action_probe_host(self) -> None:
        if isinstance(host := self.chosen, Host):
            self.state.probes.probe(host.id)

    def action_add_file(self) -> None:
        """A photo, a display's description, a cable's capture, or another host's probe file."""
        if (chosen := self.chosen) is not None:
            facts = partial(self._facts_of_file, chosen)
            self.post_message(PromptWanted(Prompt("file", facts, action=f"file for {chosen.id}")))

    def _facts_of_file(self, part: Part, audit: Audit, text: str) -> Facts:
        name, data = self.state.services.load(text)
        return self.state.session.facts_of_part_file(audit, part.id, name, data)

    # The gear drawer

    def action_take_rig(self) -> None:
        names = self.state.gear.names
        self.post_message(
            PromptWanted(Prompt("rig", self.state.gear.facts_of, offers_from(names), action="take a rig"))
        )

    def action_save_rig(self) -> None:
        self.post_message(Said(self.state.gear.save()))
        self.paint(self.state)

    def action_files(self) -> None:
        self.post_message(FormWanted(files_form(self.state)))
