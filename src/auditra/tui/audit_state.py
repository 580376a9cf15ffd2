"""What one audit screen is about: the audit, the chosen port, and the controllers that change things."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Protocol

from textual.message import Message

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.tui.controllers.bench_lease import BenchLease
from auditra.tui.controllers.earlier_audit import EarlierAudit
from auditra.tui.controllers.explainer import Explainer
from auditra.tui.controllers.gear_share import GearShare
from auditra.tui.controllers.host_probes import HostProbes
from auditra.tui.controllers.recorder import Recorder
from auditra.tui.controllers.trial_runner import TrialRunner
from auditra.tui.controllers.tui_person import TuiPerson
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.services import Services


class Surface(Protocol):
    """What controllers need of the screen they work for. All but `post_message` is for its own thread."""

    def post_message(self, message: Message) -> bool:
        """Safe on any thread."""
        ...

    def run_in_background(self, work: Callable[[], None]) -> None:
        """Run a trial or a probe on a thread of its own."""
        ...

    def later(self, seconds: float, work: Callable[[], None]) -> None:
        """Do something on the interface's thread after a while, if the screen is still there."""
        ...

    def explain_in_background(self, work: Callable[[], None]) -> None:
        """Work out causes on a thread of its own, beside whatever else runs."""
        ...

    def repaint(self) -> None:
        """Show everything: the state has changed."""
        ...

    def repaint_progress(self) -> None:
        """Show what changes many times a second while a trial runs."""
        ...


class AuditState:
    """One audit under work. The screen owns it and hands it to whichever stage is current."""

    def __init__(self, services: Services, session: AuditSession, surface: Surface) -> None:
        self.services, self.session, self.surface = services, session, surface
        self._port: str | None = None
        person = TuiPerson(surface.post_message)
        self.lease = BenchLease(services, session.name, person)
        self.runner = TrialRunner(self, person)
        self.probes = HostProbes(self)
        self.gear = GearShare(self)
        self.earlier = EarlierAudit(self)
        self.recorder = Recorder(self)
        self.explainer = Explainer(self)

    @property
    def judged(self) -> JudgedAudit:
        """The audit as it was last read, judged."""
        return self.session.judged

    @property
    def port(self) -> str | None:
        """The chosen port; the first one where none was chosen, or where the chosen one has been removed."""
        device = self.judged.audit.device
        chosen = self._port is not None and device.port(self._port) is not None
        return self._port if chosen else next((port.id for port in device.ports()), None)

    def choose_port(self, port: str | None) -> None:
        """Make a port the chosen one, where the device has it."""
        if port is not None and self.judged.audit.device.port(port) is not None:
            self._port = port

    @contextmanager
    def keeping_port(self) -> Iterator[None]:
        """While the device changes: a renamed port stays chosen; after a removed one, the next in its place."""
        chosen = self.port
        place = [port.id for port in self.judged.audit.device.ports()].index(chosen) if chosen is not None else 0
        yield
        ports = [port.id for port in self.judged.audit.device.ports()]
        if chosen not in ports:
            self._port = ports[min(place, len(ports) - 1)] if ports else None

    def close(self) -> None:
        """Stop whatever runs, and release the bench."""
        self.runner.stop()
        self.lease.release()
