"""What each host of the rig reports about itself: read from evidence once, and probed on request."""

from __future__ import annotations

from typing import TYPE_CHECKING

from auditra.core.errors import AuditraError
from auditra.core.host.snapshot import Snapshot
from auditra.tui.messages import HostProbed

if TYPE_CHECKING:
    from auditra.tui.audit_state import AuditState


class HostProbes:
    """The newest probe of every host."""

    def __init__(self, state: AuditState) -> None:
        self._state = state
        self._read_of: object = None
        self.found: dict[str, Snapshot] = {}
        self.error = ""

    def read(self) -> None:
        """Read from evidence what was probed earlier; once for each state of the audit."""
        judged = self._state.judged
        if self._read_of is judged:
            return
        self._read_of, self.found = judged, {}
        for host in judged.audit.rig.hosts:
            try:
                found = self._state.session.last_probe(host.id)
            except AuditraError as error:
                self.error = str(error)
                continue
            if found is not None:
                self.found[host.id] = found

    def probe(self, host: str) -> None:
        """Probe a host on a thread of its own; the bench is opened for it where no trial has done so."""
        self.error = ""
        self._state.surface.run_in_background(lambda: self._probe(host))

    def take(self, message: HostProbed) -> None:
        """A probe ended; what it found is read from evidence with the next `read`."""
        self.error = message.error
        self._state.surface.repaint()

    def _probe(self, host: str) -> None:
        session = self._state.session
        _, error = self._state.lease.attempt(lambda bench: session.probe_host(host, bench), self._state.judged.audit)
        self._state.surface.post_message(HostProbed(error))
