"""What is seen at a glance to hold is what the rules say too; and judging again is judging anew."""

from __future__ import annotations

from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import worst_of
from auditra.core.judge.judgement import Judge, judge
from auditra.core.judge.records import Records
from auditra.core.judge.set_ups import SetUpJudging
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.model.verdict import Verdict
from tests.support.audits import PROFILE, audit_of, with_trial

QUANTITIES = (Quantity.LINK, Quantity.WRITE, Quantity.READ, Quantity.WRONG_BYTES)


@st.composite
def readings(draw: st.DrawFn) -> tuple[Reading, ...]:
    """Any number of readings of a storage trial, some good, some not, some twice."""
    return tuple(
        Reading(
            "T", quantity, draw(st.sampled_from(("A1", "A1", "A1", "A2"))), "test",
            draw(st.sampled_from((Grade.MEASURED, Grade.MEASURED, Grade.READ, Grade.TYPED))),
            Number(tuple(draw(st.lists(_values(quantity), min_size=0, max_size=3)))),
            error=draw(st.sampled_from((0.0, 1e6, 1e8))),
        )
        for quantity in draw(st.lists(st.sampled_from(QUANTITIES), max_size=6))
    )  # fmt: skip


def _values(quantity: Quantity) -> st.SearchStrategy[float]:
    if quantity is Quantity.WRONG_BYTES:
        return st.sampled_from((0.0, 0.0, 0.0, 3.0))
    if quantity is Quantity.LINK:
        return st.sampled_from((5e9, 10e9, 480e6))
    return st.sampled_from((3.6e9, 3.601e9, 3.4e9, 3.2e9, 9e10))


@given(readings())
@settings(max_examples=150, deadline=None)
def test_what_clearly_holds_holds_by_the_rules(taken: tuple[Reading, ...]) -> None:
    audit = with_trial(audit_of("A1 data 5 Gb/s"), "A1/", *taken)
    records = Records(audit.rig).grown_to(audit.trials, audit.rig, frozenset())
    judging = SetUpJudging(audit.claims[0], records, audit.device)
    (trial,) = records.counted
    if judging._clearly_holds(trial):
        assert worst_of(judging.decide(trial, trial.taken, trial.taken)) is Verdict.HOLDS


@given(st.lists(readings(), min_size=1, max_size=5))
@settings(max_examples=60, deadline=None)
def test_judging_as_trials_come_is_judging_them_all_at_the_end(trials: list[tuple[Reading, ...]]) -> None:
    audit: Audit = audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    judge_as_they_come = Judge(PROFILE)
    for taken in trials:
        audit = with_trial(audit, "A1/", *taken)
        *before, last = audit.trials
        for count in range(len(last.readings)):  # as they come, one by one
            judge_as_they_come.judge(
                replace(audit, trials=(*before, replace(last, readings=last.readings[:count], outcome=None)))
            )
        assert judge_as_they_come.judge(audit) == judge(audit, PROFILE)
