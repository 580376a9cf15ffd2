"""An audit on the desk: run its trials, take things down, take them back; always judged from its journal."""

from __future__ import annotations

from collections.abc import Iterable

from auditra.core.audit.audit import fold_audit
from auditra.core.audit.bench import SIMULATED_BENCH
from auditra.core.audit.facts import Fact, NoteWritten, Undone
from auditra.core.audit.trial import Outcome
from auditra.core.host.snapshot import Snapshot
from auditra.core.judge.judgement import judge
from auditra.core.judge.profile import Profile
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.workflows.host_probe import facts_of_probe, host_of, last_probe
from auditra.workflows.ports import Bench, Clock, Journal, Standing, Watcher
from auditra.workflows.trials import mark_absent, run_trial


class Desk:
    """One audit under work. `standing` is made anew from the journal after every change.

    A journal that names no bench is of the first version, which had the simulated one alone.
    """

    def __init__(self, name: str, journal: Journal, profile: Profile) -> None:
        self.name, self.profile, self._journal = name, profile, journal
        self.standing = self._stand()

    def refresh(self) -> Standing:
        """Read the journal again, with whatever another process has written."""
        self.standing = self._stand()
        return self.standing

    def run(self, planned: PlannedTrial, bench: Bench, watcher: Watcher) -> Outcome:
        """Do one trial. Raises: BenchError, StoreError; what was taken stays taken."""
        try:
            return run_trial(planned, self.refresh().audit, bench, self._journal, watcher)
        finally:
            self.refresh()

    def mark_absent(self, planned: PlannedTrial, clock: Clock) -> Standing:
        """The gear did not appear, says the reviewer."""
        mark_absent(planned, self.refresh().audit, self._journal, clock, self.standing.bench)
        return self.refresh()

    def write_note(self, text: str, port: str | None, clock: Clock) -> Standing:
        action = f"note {self.refresh().audit.entries + 1}"
        self._journal.append([NoteWritten(text, port)], action=action, at=clock.moment())
        return self.refresh()

    def write(self, facts: Iterable[Fact], what: str, clock: Clock) -> Standing:
        """Put facts on disk as one action, to be taken back together."""
        action = f"{what} {self.refresh().audit.entries + 1}"
        self._journal.append(facts, action=action, at=clock.moment())
        return self.refresh()

    def probe_host(self, host_id: str, bench: Bench) -> Snapshot:
        """Ask a host of the rig what it is and what hangs on it. Raises: InputError, StoreError."""
        host = host_of(self.refresh().audit, host_id)
        snapshot = bench.kernel.snapshot()
        self.write(facts_of_probe(host, snapshot, self._journal), "probe", bench.clock)
        return snapshot

    def last_probe(self, host_id: str) -> Snapshot | None:
        """What a host said when it was asked last. Raises: InputError, StoreError."""
        return last_probe(host_id, self.standing.audit, self._journal)

    def attach(self, trial: str, name: str, data: bytes, clock: Clock) -> Standing:
        """Keep a file as evidence of a trial, with the readings that it gives. Raises: InputError, StoreError."""
        return self.write(self.facts_of_file(trial, name, data), "attach", clock)

    def facts_of_file(self, trial: str, name: str, data: bytes) -> tuple[Fact, ...]:
        """What a file of a trial gives, its bytes kept already. Raises: InputError, StoreError."""
        from auditra.workflows.attach import facts_of_attachment  # its decoders are loaded once they are wanted

        return facts_of_attachment(self.refresh().audit, trial, name, data, self._journal)

    def undo(self, clock: Clock) -> str | None:
        """Take back what was done last, such as a trial or a claim; its name, or None where there is nothing."""
        audit = self.refresh().audit
        if not audit.undoable:
            return None
        action = audit.undoable[-1]
        self._journal.append([Undone(action)], action=f"undo {audit.entries + 1}", at=clock.moment())
        self.refresh()
        return action

    def _stand(self) -> Standing:
        audit = fold_audit(self.name, self._journal.entries())
        return Standing(audit, judge(audit, self.profile), audit.bench or SIMULATED_BENCH)
