"""What is done on the Rig stage: a host is chosen, and asked what it is and what hangs on it."""

from __future__ import annotations

from textual import on, work

from auditra.core.errors import AuditraError
from auditra.core.host.snapshot import Snapshot
from auditra.tui.messages import HostAsked
from auditra.tui.screens.trials import TrialsScreen
from auditra.tui.widgets.faces import Track
from auditra.tui.widgets.rig_stage import RigStage
from auditra.workflows.desk import Desk
from auditra.workflows.workshop import Workshop

RIG = 3


class HostingScreen(TrialsScreen):
    """Keeps what each host said, as far as it was looked at."""

    def __init__(self, workshop: Workshop, desk: Desk) -> None:
        super().__init__(workshop, desk)
        self._host = next((each.id for each in desk.standing.audit.rig.hosts), "")
        self._probes: dict[str, Snapshot] = {}
        self._host_message = ""

    @property
    def _on_rig(self) -> bool:
        return self.query_one(Track).stage == RIG

    def show_rig(self) -> None:
        """The stage as it stands; what hosts said earlier is read from its evidence once."""
        self._read_probes()
        rig = self.standing.audit.rig
        self.query_one(RigStage).show(rig, self._host, self._probes, self._host_message)

    def _read_probes(self) -> None:
        for host in self.standing.audit.rig.hosts:
            if host.id in self._probes:
                continue
            try:
                found = self._desk.last_probe(host.id)
            except AuditraError as error:
                self._host_message = str(error)
                continue
            if found is not None:
                self._probes[host.id] = found

    def forget_probes(self) -> None:
        """Something was taken back: what still stands is read anew."""
        self._probes.clear()

    def choose_host(self, step: int) -> None:
        ids = [each.id for each in self.standing.audit.rig.hosts]
        if ids:
            at = ids.index(self._host) if self._host in ids else 0
            self._host = ids[min(len(ids) - 1, max(0, at + step))]
            self._host_message = ""
            self.show_rig()

    def action_ask_host(self) -> None:
        """Ask the chosen host; the bench is opened for it where no trial has done so."""
        if self._on_rig and not self.is_measuring:
            self._host_message = ""
            self._ask_host(self._host)

    @work(thread=True, exclusive=True, group="trial", exit_on_error=False)
    def _ask_host(self, host: str) -> None:
        found, error_words = None, ""
        try:
            with self._workshop.hold(self._desk.name), self._held_bench.in_use(self.standing.audit) as bench:
                self._hands.clock = bench.clock
                found = self._desk.probe_host(host, bench)
        except AuditraError as error:
            error_words = str(error)
        except Exception as error:
            self._workshop.log("fault in asking a host", error)
            error_words = f"Unexpected fault: {type(error).__name__}; the log has the details."
        self.post_message(HostAsked(host, found, error_words))

    @on(HostAsked)
    def _host_asked(self, message: HostAsked) -> None:
        self._host_message = message.error
        if message.found is not None:
            self._probes[message.host] = message.found
        if self._on_rig:
            self.show_rig()
