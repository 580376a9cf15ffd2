"""The remaining trials of an audit, one after another, without a screen."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.errors import BenchError, TrialStopped
from auditra.core.model.trial import TrialIdentity
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Bench, Watcher


def run_left(session: AuditSession, bench: Bench, watcher: Watcher) -> Iterator[BenchError | None]:
    """Run the remaining trials and yield after each: its error if the bench failed, else None.

    A trial that failed is not tried again. Raises: TrialStopped, StoreError.
    """
    failed: set[TrialIdentity] = set()
    while planned := next((trial for trial in session.judged.judgement.to_do if trial.identity not in failed), None):
        error: BenchError | None = None
        try:
            session.run(planned, bench, watcher)
        except TrialStopped:
            raise
        except BenchError as failure:
            failed.add(planned.identity)
            error = failure
        yield error
