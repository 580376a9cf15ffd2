"""The Why stage: two trials side by side, and one that is set aside and counted again."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import TrialRuled
from auditra.core.judge.comparison import compare_in
from auditra.core.model.verdict import Verdict
from auditra.tui.stages.why.text import comparison_lines, list_of_trials, trials_of
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from tests.support.audits import audit_of, judged, rates, with_trial

PALETTE = PALETTES[DEFAULT_PALETTE]
A1 = "A1 data 5 Gb/s"


def audit_with_three() -> Audit:
    audit = with_trial(audit_of(A1, "S1 cards 95 MB/s"), "direct/storage/fast-ssd", *rates("direct", 1000, 1001, 1002))
    audit = with_trial(audit, "A1/", *rates("A1", 450, 451, 452))
    return with_trial(audit, "A1/", *rates("A1", 200, 201, 202))


def test_the_trials_of_a_port_come_with_the_same_gear_direct() -> None:
    audit = audit_with_three()
    assert [record.trial.id for record in trials_of("A1", audit)] == ["T1", "T2", "T3"]
    assert trials_of("S1", audit) == ()
    text, line = list_of_trials(trials_of("A1", audit), 1, "T1", "A1", judged(audit), PALETTE)
    lines = text.plain.splitlines()
    assert lines[line].startswith("▸ T2  A1")
    assert any(each.startswith("* T1  direct") for each in lines)


@pytest.mark.parametrize(("one", "other", "said"), [
    ("T2", "T3", ("A fair comparison", "a real difference", "ratio 2.2")), ("T1", "T2", ("A fair comparison",)),
])  # fmt: skip
def test_two_trials_are_compared_with_their_ratio(one: str, other: str, said: tuple[str, ...]) -> None:
    text = "\n".join(line.plain for line in comparison_lines(compare_in(audit_with_three(), one, other), PALETTE))
    for words in said:
        assert words in text


def test_without_a_marked_trial_the_keys_are_named() -> None:
    (line,) = comparison_lines(None, PALETTE)
    assert "Press m" in line.plain
    assert compare_in(audit_with_three(), "T1", "T9") is None


def test_two_trials_that_disagree_decide_nothing_until_one_is_set_aside() -> None:
    audit = audit_with_three()
    assert judged(audit).claims[0].verdict is Verdict.UNPROVEN
    ruled = replace(audit.trials[2], ruling=TrialRuled("T3", False, "the lid was open"))
    judgement = judged(replace(audit, trials=(*audit.trials[:2], ruled)))
    assert judgement.claims[0].verdict is Verdict.HOLDS
    assert judgement.claims[0].set_aside[0].why == "by the reviewer: the lid was open"
    text, _ = list_of_trials(trials_of("A1", audit), 2, None, "A1", judgement, PALETTE)
    assert "set aside: by the reviewer: the lid was open" in text.plain
