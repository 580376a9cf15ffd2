"""One audit under work: run its trials, record and undo; always judged from its journal."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

from auditra.core.errors import AuditraError, InputError
from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Entry, EvidenceKept, Fact, SignedOff, Undone
from auditra.core.judge.comparison import TrialComparison, compare_in
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import Judge
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.profile import Profile
from auditra.core.model.trial import Outcome
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.sanitize import sanitize
from auditra.workflows.audits.collecting import without_collecting
from auditra.workflows.audits.photos import photo_of
from auditra.workflows.audits.recording import Action, record_action
from auditra.workflows.audits.rig_edits import host_filled_in
from auditra.workflows.hosts.probing import facts_of_probe, host_of, last_probe, require_this_host
from auditra.workflows.trials.doors import Bench, Clock, EvidenceKeeper, Journal, Watcher
from auditra.workflows.trials.run import facts_of_absence, run_trial

if TYPE_CHECKING:
    from auditra.core.model.table_use import TableUse
    from auditra.workflows.audits.conversations import RecordedConversation


class AuditSession:
    """One audit under work. `judged` is rebuilt from the journal after every change.

    A journal that names no bench is of the first version, which had the simulated one alone.
    """

    def __init__(self, name: str, journal: Journal, profile: Profile) -> None:
        self.name, self.profile, self._journal = name, profile, journal
        self._judge = Judge(profile)
        self._judging = threading.RLock()
        self._stand()

    @property
    def head_link(self) -> str:
        """The link that its journal ends in, as far as it was read."""
        return self._head.link

    def entries(self) -> tuple[Entry, ...]:
        """The whole journal. Raises: StoreError."""
        return self._journal.entries()

    @property
    def evidence_keeper(self) -> EvidenceKeeper:
        """Keeps bytes under their SHA-256."""
        return self._journal

    def evidence_of(self, sha256: str) -> bytes:
        """The bytes of a piece of evidence. Raises: StoreError where they are missing, or not what they were."""
        return self._journal.evidence_of(sha256)

    def refresh(self) -> JudgedAudit:
        """Read what came since, also from another process; nothing is judged again where nothing came."""
        if self._journal.has_grown(self._head):
            self._stand()
        return self.judged

    def run(self, planned: PlannedTrial, bench: Bench, watcher: Watcher) -> Outcome:
        """Do one trial. Raises: BenchError, StoreError; what was taken stays taken."""
        try:
            return run_trial(planned, self.refresh().audit, bench, self._journal, watcher)
        finally:
            self._stand()

    def mark_absent(self, planned: PlannedTrial, clock: Clock, *, again: bool = False) -> JudgedAudit:
        """The gear did not appear, says the reviewer; `again` where a trial is repeated that is not due.

        Raises: InputError where the trial is not due any more.
        """

        def make(audit: Audit) -> Action:
            judged = self._judge_audit(audit)
            if not again and planned.identity not in {each.identity for each in judged.judgement.left}:
                why = "another window or command has done it meanwhile"
                raise InputError(sanitize(planned.title), why=why, do="The run sheet shows what comes next")
            return facts_of_absence(planned, audit, judged.bench)

        record_action(make, self._journal, clock)
        return self._stand()

    def write(self, facts: Callable[[Audit], Iterable[Fact]], what: str, clock: Clock) -> JudgedAudit:
        """Record, as one action that can be undone, what these facts are of the newest audit.

        Raises: InputError, StoreError; then nothing was recorded.
        """
        record_action(lambda audit: (f"{what} {audit.entries + 1}", tuple(facts(audit))), self._journal, clock)
        return self._stand()

    def keep_photo(self, name: str, data: bytes, about: str) -> EvidenceKept:
        """A photo with its bytes on disk, to be recorded with what it shows. Raises: InputError, StoreError."""
        return photo_of(name, data, about, self._journal)

    def checked(self) -> JudgedAudit:
        """The audit as it stands, with what is wrong with its evidence: looked at before anything is published."""
        kept = {each.sha256: each.name for each in self.judged.audit.evidence}
        flaws = tuple(flaw for sha256, name in kept.items() if (flaw := self._flaw_of(sha256, name)))
        return replace(self.judged, flaws=flaws)

    def _flaw_of(self, sha256: str, name: str) -> str:
        try:
            self._journal.evidence_of(sha256)
        except AuditraError as error:
            return f"evidence {sanitize(name, 60)} ({sha256[:12]}): {error.why}"
        return ""

    def probe_host(self, host_id: str, bench: Bench) -> Snapshot:
        """Ask this machine what it is and what hangs on it. Raises: InputError for another host, StoreError."""
        host = host_of(self.refresh().audit, host_id)
        require_this_host(self.judged.audit, host)
        snapshot = bench.kernel.snapshot()
        facts = facts_of_probe(host, snapshot, self._journal)
        self.write(lambda audit: (*facts, *host_filled_in(audit, host_id, snapshot)), "probe", bench.clock)
        return snapshot

    def add_probe(self, host_id: str, data: bytes, name: str, clock: Clock) -> Snapshot:
        """Keep what another host of the rig said of itself, from its own probe file. Raises: InputError, StoreError."""
        from auditra.documents.probe import read_probe_file  # an audit opens without it

        host, snapshot = host_of(self.refresh().audit, host_id), read_probe_file(data, name)
        facts = facts_of_probe(host, snapshot, self._journal)
        self.write(lambda audit: (*facts, *host_filled_in(audit, host_id, snapshot)), "probe", clock)
        return snapshot

    def last_probe(self, host_id: str) -> Snapshot | None:
        """What a host said when it was asked last. Raises: InputError, StoreError."""
        return last_probe(host_id, self.judged.audit, self._journal)

    def join(self, entries: Sequence[Entry], clock: Clock) -> tuple[str, ...]:
        """Take over trials that were run on another host, each an action that can be undone; their new names.

        Raises: InputError, StoreError; what was taken over before stays.
        """
        from auditra.workflows.audits.joining import trials_to_join

        names = []
        while joined := trials_to_join(self.refresh().audit, entries):
            first = joined[0]
            record_action(lambda _, first=first: (first.trial, first.facts), self._journal, clock)  # type: ignore[misc]
            self._stand()
            names.append(first.trial)
        return tuple(names)

    def attach(self, trial: str, name: str, data: bytes, clock: Clock) -> JudgedAudit:
        """Keep a file as evidence of a trial, with the readings that it gives. Raises: InputError, StoreError."""
        return self.write(lambda audit: self.facts_of_file(audit, trial, name, data), "attach", clock)

    def facts_of_file(self, audit: Audit, trial: str, name: str, data: bytes) -> tuple[Fact, ...]:
        """What a file of a trial gives, its bytes kept already. Raises: InputError, StoreError."""
        from auditra.workflows.audits.attaching import (
            facts_of_attachment,  # its decoders are loaded once they are wanted
        )

        return facts_of_attachment(audit, trial, name, data, self._journal)

    def facts_of_table(self, audit: Audit, trial: str, name: str, data: bytes, use: TableUse) -> tuple[Fact, ...]:
        """What a logged table of a trial gives, its bytes kept already. Raises: InputError, StoreError."""
        from auditra.workflows.audits.logged_tables import facts_of_table  # brings NumPy, which takes a moment

        return facts_of_table(audit, trial, name, data, use, self._journal)

    def attach_table(self, trial: str, name: str, data: bytes, use: TableUse, clock: Clock) -> JudgedAudit:
        """Keep a logged table as evidence of a trial, with its readings. Raises: InputError, StoreError."""
        return self.write(lambda audit: self.facts_of_table(audit, trial, name, data, use), f"log {trial}", clock)

    def facts_of_part_file(self, audit: Audit, part: str, name: str, data: bytes) -> tuple[Fact, ...]:
        """What a file about a part of the rig gives, its bytes kept already. Raises: InputError, StoreError."""
        from auditra.workflows.audits.part_files import facts_of_part_file  # its decoders are loaded once wanted

        return facts_of_part_file(audit, part, name, data, self._journal)

    def conversations(self, port: str | None) -> tuple[RecordedConversation, ...]:
        """The power conversations of a port, from the evidence of its trials."""
        from auditra.workflows.audits.conversations import conversations_at  # its decoder is loaded once it is wanted

        return conversations_at(self.judged.audit, port, self._journal.evidence_of)

    def compare(self, one: str, other: str) -> TrialComparison | None:
        """Two trials side by side; None where the audit does not have both."""
        return compare_in(self.judged.audit, one, other)

    @property
    def writer(self) -> str:
        """Whose name is on what is recorded; empty for none."""
        return self._journal.writer

    @property
    def waiting(self) -> int:
        """How many facts wait on this machine for a database that does not answer."""
        return self._journal.waiting

    def sign_off(self, clock: Clock) -> JudgedAudit:
        """Close the audit to others; or open it again. Raises: AuditClosed where another has closed it, StoreError."""
        return self.write(self.facts_of_signing, "sign off", clock)

    def facts_of_signing(self, audit: Audit) -> tuple[SignedOff]:
        """That this writer signs an audit off, or opens it again."""
        return (SignedOff(self.writer, is_open=audit.signed_off is not None),)

    def undo(self, clock: Clock) -> str | None:
        """Undo what was done last, as far as this window has shown it; its name, or None where there is nothing.

        What another window has recorded since stays. Raises: InputError where that one has undone it already.
        """
        if not self.judged.audit.undoable:
            return None
        last = self.judged.audit.undoable[-1]

        def facts(audit: Audit) -> tuple[Fact, ...]:
            if last not in audit.undoable:
                raise InputError("the last action", why="another window has undone it already", do="Press u again")
            return (Undone(last),)

        self.write(facts, "undo", clock)
        return last

    def _stand(self) -> JudgedAudit:
        with without_collecting(), self._judging:
            audit, self._head = self._journal.read()
            self.judged = self._judge_audit(audit)
            return self.judged

    def _judge_audit(self, audit: Audit) -> JudgedAudit:
        with self._judging:  # while a trial runs, its thread and the interface's both come here
            return JudgedAudit(audit, self._judge.judge(audit), audit.bench or SIMULATED_BENCH)
