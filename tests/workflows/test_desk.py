"""What a reviewer does to an audit: mark absent, take back, note."""

from __future__ import annotations

from auditra.bench.clock import SystemClock
from auditra.core.model.verdict import Verdict
from tests.support.benches import desk_with

CLOCK = SystemClock()


def test_did_not_appear_three_times_without_a_direct_trial_accuses_nobody() -> None:
    desk = desk_with("A1 data 5 Gb/s")
    on_device = desk.judged.judgement.sheet.trials[-1]
    for _ in range(3):
        desk.mark_absent(on_device, CLOCK)
    assert desk.judged.judgement.claims[0].verdict is Verdict.UNPROVEN


def test_undo_takes_back_the_newest_first_and_says_what() -> None:
    desk = desk_with("A1 data 5 Gb/s")
    desk.mark_absent(desk.judged.judgement.sheet.trials[-1], CLOCK)
    desk.write_note("a rattle inside", "A1", CLOCK)
    assert (desk.undo(CLOCK), desk.undo(CLOCK), desk.undo(CLOCK)) == ("note 7", "T1", None)
    assert desk.judged.audit.notes == ()
    assert desk.judged.judgement.claims[0].verdict is Verdict.OPEN


def test_trials_are_numbered_on_after_an_undo() -> None:
    desk = desk_with("A1 data 5 Gb/s")
    planned = desk.judged.judgement.sheet.trials[-1]
    desk.mark_absent(planned, CLOCK)
    desk.undo(CLOCK)
    desk.mark_absent(planned, CLOCK)
    assert [record.trial.id for record in desk.judged.audit.trials] == ["T2"]
