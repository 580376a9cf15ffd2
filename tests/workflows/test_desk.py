"""What a reviewer does to an audit: mark absent, take back, note."""

from __future__ import annotations

from auditra.bench.clock import SystemClock
from auditra.core.journal.facts import NoteWritten
from auditra.core.model.depth import Depth
from auditra.core.model.verdict import Verdict
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.workflows.audits.audit_session import AuditSession
from tests.support.benches import session_with

CLOCK = SystemClock()


def plain(session: AuditSession) -> PlannedTrial:
    """The claim tried just as it is promised."""
    return next(trial for trial in session.judged.judgement.sheet.down_to(Depth.QUICK) if trial.port is not None)


def test_did_not_appear_three_times_without_a_direct_trial_accuses_nobody() -> None:
    session = session_with("A1 data 5 Gb/s")
    on_device = plain(session)
    for _ in range(3):
        session.mark_absent(on_device, CLOCK)
    assert session.judged.judgement.claims[0].verdict is Verdict.UNPROVEN


def test_undo_takes_back_the_newest_first_and_says_what() -> None:
    session = session_with("A1 data 5 Gb/s")
    session.mark_absent(plain(session), CLOCK)
    session.write(lambda _: (NoteWritten("a rattle inside", "A1"),), "note", CLOCK)
    assert (session.undo(CLOCK), session.undo(CLOCK), session.undo(CLOCK)) == ("note 7", "T1", None)
    assert session.judged.audit.notes == ()
    assert session.judged.judgement.claims[0].verdict is Verdict.OPEN


def test_trials_are_numbered_on_after_an_undo() -> None:
    session = session_with("A1 data 5 Gb/s")
    planned = plain(session)
    session.mark_absent(planned, CLOCK)
    session.undo(CLOCK)
    session.mark_absent(planned, CLOCK)
    assert [record.trial.id for record in session.judged.audit.trials] == ["T2"]
