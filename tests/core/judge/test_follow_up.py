"""A follow-up beside the audit that it follows: what was decided otherwise, what was not tried again, what differs."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.journal.audit import Audit
from auditra.core.judge.follow_up import FollowUp, follow_up_of
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.verdict import Verdict
from tests.support.audits import audit_of, galley, judged, rates, with_trial


def beside(before: Audit, now: Audit) -> FollowUp:
    old, new = (JudgedAudit(each, judged(each), "live bench") for each in (before, now))
    return follow_up_of(old, new, "firmware 2")


def tried(audit: Audit, *rates_mb: float) -> Audit:
    audit = with_trial(audit, "direct/storage", *rates("direct", 1050, 1055, 1060))
    for _ in range(2):
        audit = with_trial(audit, "A1/storage", *rates("A1", *rates_mb))
    return audit


def test_a_claim_that_is_decided_otherwise_is_named_with_both_verdicts() -> None:
    found = beside(tried(audit_of("A1 data 5 Gb/s"), 200, 201, 202), tried(audit_of("A1 data 5 Gb/s"), 440, 441, 442))
    (change,) = found.claims
    assert change.is_new_verdict
    assert change.before is not None
    assert change.now is not None
    assert (change.before.verdict, change.now.verdict) == (Verdict.SHORT, Verdict.HOLDS)
    assert (found.parts, found.marks) == ((), ())


def test_what_was_not_tried_again_or_is_new_says_nothing_yet() -> None:
    found = beside(tried(audit_of("A1 data 5 Gb/s"), 200, 201, 202), audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s"))
    assert [(change.sentence, change.is_new_verdict) for change in found.claims] == [
        ("A1 data 5 Gb/s", False), ("A2 data 5 Gb/s", False),
    ]  # fmt: skip


def test_parts_and_marks_that_differ_are_named() -> None:
    rig = replace(galley(), leads=(replace(galley().leads[0], length_m=2.0), *galley().leads[1:]))
    audit = audit_of("A1 data 5 Gb/s")
    now = replace(audit, rig=rig, device=replace(audit.device, firmware="2"))
    found = beside(audit, now)
    assert (found.parts, found.marks) == (("lead CC-1",), ("firmware",))
