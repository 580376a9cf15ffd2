"""Stage 3, Rig: the hosts that take part, and what each reports about itself."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import Binding, BindingType

from auditra.core.model.rig import Host
from auditra.tui.audit_state import AuditState
from auditra.tui.stages.rig.text import hosts_in_words
from auditra.tui.stages.stage import Panel, Stage, stepped
from auditra.tui.widgets.shown_text import ShownText

_MIN_WIDTH = 40


class RigStage(Stage):
    """Hosts are chosen and probed here."""

    NAME = "Rig"
    PANELS = ("rig",)
    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("h", "probe_host", "probe the host"),
        Binding("j", "next_host(1)", "host"),
        Binding("k", "next_host(-1)", "host"),
    ]

    def __init__(self) -> None:
        super().__init__()
        self._chosen_id: str | None = None

    def compose(self) -> ComposeResult:
        with Panel(id="rig"):
            yield ShownText(id="hosts")

    def paint(self, state: AuditState) -> None:
        state.probes.read()
        chosen, width = self.chosen_host, max(_MIN_WIDTH, self.front.text_width)
        chosen_id, probes = chosen.id if chosen else "", state.probes
        rig = state.judged.audit.rig
        self.set_text("hosts", hosts_in_words(rig, chosen_id, probes.found, probes.error, width, self.palette))

    @property
    def chosen_host(self) -> Host | None:
        hosts = self.state.judged.audit.rig.hosts
        return next((host for host in hosts if host.id == self._chosen_id), None) or next(iter(hosts), None)

    def check_action(self, action: str, parameters: tuple[object, ...]) -> bool | None:
        if not super().check_action(action, parameters):
            return False
        if action == "probe_host":
            return self.chosen_host is not None and not self.state.runner.is_measuring
        return action != "next_host" or self.chosen_host is not None

    def action_next_host(self, step: int) -> None:
        if (chosen := self.chosen_host) is not None:
            self._chosen_id = stepped(self.state.judged.audit.rig.hosts, chosen, step).id
            self.state.probes.error = ""
            self.paint(self.state)

    def action_probe_host(self) -> None:
        if (host := self.chosen_host) is not None:
            self.state.probes.probe(host.id)
