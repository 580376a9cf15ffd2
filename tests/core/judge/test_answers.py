"""What a reviewer gets besides verdicts: honest sentences, answers to doubts, the next trial, and who was cleared."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from auditra.core.claims.language import parse_claim
from auditra.core.claims.promise import Sense, rounded_to_keep
from auditra.core.journal.audit import Audit, Doubt
from auditra.core.journal.facts import DoubtEnd, DoubtEnded, DoubtRaised
from auditra.core.judge.finding import Role, Sureness
from auditra.core.judge.judgement import Judgement, judge
from auditra.core.judge.reasoning.explained import Explained
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.verdict import Verdict
from tests.support.audits import PROFILE
from tests.support.cause_cases import audit_from

FAILS_WITH_LEAD: tuple[dict[str, Any], ...] = (
    {"mb": 470},
    {"port": "A1", "lead": "other", "mb": 120},
    {"port": "A1", "mb": 460},
)
UNTOLD: tuple[dict[str, Any], ...] = ({"mb": 470}, {"port": "A1", "lead": "other", "mb": 120})


def judged(*trials: dict[str, Any], claims: tuple[str, ...] = ("A1 data 5 Gb/s",), doubt: DoubtRaised | None = None,
           ended: DoubtEnded | None = None) -> Judgement:  # fmt: skip
    audit: Audit = audit_from({"claims": claims, "trials": trials})
    if doubt is not None:
        audit = replace(audit, doubts=(Doubt(doubt, ended),))
    return judge(audit, PROFILE)


# The honest sentence


def test_a_claim_that_simply_holds_needs_no_other_sentence() -> None:
    judgement = judged({"mb": 470}, {"port": "A1", "mb": 460})
    assert judgement.claims[0].verdict is Verdict.HOLDS
    assert judgement.honest_sentence("claim1") == ""


@pytest.mark.parametrize(
    ("claim", "trials", "honest"),
    [
        ("A1 data 5 Gb/s", ({"mb": 470}, {"port": "A1", "mb": 212.3}), "A1 writes 211 MB/s, reads 211 MB/s"),
        ("A1 data 5 Gb/s", ({"mb": 470}, {"port": "A1", "mb": 52, "link": 480e6}), "A1 data 480 Mb/s"),
        ("A1 reads 400 MB/s", ({"mb": 470}, {"port": "A1", "mb": 212.3}), "A1 reads 211 MB/s"),
        ("UP length 1 m", ({"procedure": "RULE", "port": "UP", "gear": "device",
                            "readings": [["length", 0.8, {"resolution": 0.001}]]},), "UP length 80 cm"),
        ("A1 data 5 Gb/s", ({"mb": 470, "readings": [["appeared", "5/5"]]},
                            {"port": "A1", "outcome": "did not appear", "readings": [["appeared", "0/5"]]}),
         "A1 no data"),
        ("A1 data 5 Gb/s", FAILS_WITH_LEAD, "A1 data 5 Gb/s, shown so far only with good"),
    ],
)  # fmt: skip
def test_the_honest_sentence_is_a_claim_that_every_trial_keeps(
    claim: str, trials: tuple[dict[str, Any], ...], honest: str
) -> None:
    assert judged(*trials, claims=(claim,)).honest_sentence("claim1") == honest


def test_an_honest_claim_can_be_claimed_and_holds() -> None:
    trials = ({"mb": 470}, {"port": "A1", "mb": 212.3})
    honest = judged(*trials, claims=("A1 reads 400 MB/s",)).honest_sentence("claim1")
    assert judged(*trials, claims=(honest,)).claims[0].verdict is Verdict.HOLDS


@pytest.mark.parametrize(("value", "sense", "unit", "kept"), [
    (212.97e6 * 8, Sense.AT_LEAST, 8.0, 212e6 * 8), (45.01, Sense.AT_MOST, 1.0, 45.1), (0.8004, Sense.SIZE, 1.0, 0.8),
    (0.0, Sense.AT_LEAST, 1.0, 0.0), (float("inf"), Sense.AT_LEAST, 1.0, 0.0),
])  # fmt: skip
def test_figures_are_rounded_so_that_they_are_kept(value: float, sense: Sense, unit: float, kept: float) -> None:
    assert rounded_to_keep(value, sense, unit) == pytest.approx(kept)


@pytest.mark.parametrize(("claim", "denied"), [
    ("H1 shows 3840x2160@60", "does not show 3840x2160@60"), ("S1 cards 95 MB/s", "no cards"), ("P1 no data", "data"),
    ("A1 works with printer", "does not work with printer"), ("UP charges host 65 W", "does not charge host 65 W"),
])  # fmt: skip
def test_a_promise_can_be_denied_in_words(claim: str, denied: str) -> None:
    assert parse_claim(claim, claim_id="c").promise.denied.replace("charges", "charge") == denied


# Who was cleared


def test_a_cause_names_who_was_cleared_and_by_which_trial() -> None:
    (finding,) = (each for each in judged(*FAILS_WITH_LEAD).reasons if each.role is Role.CAUSE)
    assert isinstance(finding, Explained)
    assert finding.subject == "lead other"
    assert finding.sure is Sureness.LIKELY
    assert "fast SSD: cleared by T1 and T3" in finding.cleared
    assert finding.arithmetic == "swap: fails in T2, works in T1 and T3"


def test_seen_twice_on_either_side_it_is_sure() -> None:
    (finding,) = judged(*FAILS_WITH_LEAD, *FAILS_WITH_LEAD).reasons
    assert finding.sure is Sureness.SURE


# The next trial


def test_two_suspects_are_told_apart_by_the_trial_that_leaves_one_out() -> None:
    asked = judged(*UNTOLD).next_trials
    assert asked[0].question == "why does A1 data 5 Gb/s fail?"
    assert set(asked[0].suspects) == {"A1", "lead other", "with no supply connected"}
    titles = {each.trial.title: each.decides for each in asked if each.trial is not None}
    assert titles["A1 with lead good"] == ("lead other",)
    assert titles["A2 with the same gear"] == ("A1",)
    assert titles["A1 with the wall supply"] == ("with no supply connected",)
    assert titles["fast SSD, direct"] == ("A1", "with no supply connected")
    assert all(each.moves > 0 for each in asked)
    assert [each.worth for each in asked] == sorted((each.worth for each in asked), reverse=True)


def test_what_the_rig_lacks_is_to_be_borrowed() -> None:
    trials = ({"mb": 470, "lead": "wire"}, {"port": "C1", "lead": "wire", "gear": "load", "mb": 120})
    audit = audit_from({"claims": ("C1 data 5 Gb/s",), "trials": trials})
    lonely = replace(audit, rig=replace(audit.rig, leads=audit.rig.leads[3:], drives=audit.rig.drives[:1]))
    assert {each.borrow for each in judge(lonely, PROFILE).next_trials if each.trial is None} <= {
        "another lead from usb-c to usb-c", "another piece of gear for data 5 Gb/s",
    }  # fmt: skip


def test_once_the_cause_is_named_no_question_is_left() -> None:
    assert judged(*FAILS_WITH_LEAD).next_trials == ()


# Doubts


@pytest.mark.parametrize(
    ("suspect", "about", "end", "trial"),
    [
        ("rig part", "lead other", DoubtEnd.CONFIRMED, "T2"),
        ("rig part", "", DoubtEnd.CONFIRMED, "T2"),
        ("", "fast SSD", DoubtEnd.REFUTED, "T3"),
        ("heat", "", DoubtEnd.OPEN, ""),
        ("", "", DoubtEnd.OPEN, ""),
    ],
)
def test_a_doubt_is_answered_by_trials(suspect: str, about: str, end: DoubtEnd, trial: str) -> None:
    doubt = DoubtRaised("D1", "is it that?", port="A1", suspect=suspect or NOT_NOTED, about=about or NOT_NOTED)
    (answer,) = judged(*FAILS_WITH_LEAD, doubt=doubt).doubts
    assert (answer.end, answer.by_reviewer) == (end, False)
    assert trial in answer.trials or not trial
    assert answer.why


def test_what_the_reviewer_decided_of_a_doubt_stands() -> None:
    ended = DoubtEnded("D1", DoubtEnd.REFUTED, "asked the maker")
    (answer,) = judged(*FAILS_WITH_LEAD, doubt=DoubtRaised("D1", "is it the lead?", suspect="rig part"),
                       ended=ended).doubts  # fmt: skip
    assert (answer.end, answer.why, answer.by_reviewer) == (DoubtEnd.REFUTED, "asked the maker", True)


def test_a_new_doubt_is_answered_though_no_trial_was_added() -> None:
    from auditra.core.judge.judgement import Judge

    judging, audit = Judge(PROFILE), audit_from({"trials": FAILS_WITH_LEAD})
    assert judging.judge(audit).doubts == ()
    doubted = replace(audit, doubts=(Doubt(DoubtRaised("D1", "is it the lead?", about="lead other")),))
    assert judging.judge(doubted).doubts[0].end is DoubtEnd.CONFIRMED


# The chain


def test_the_chain_names_the_lowest_ceiling_before_and_after_the_trial() -> None:
    judgement = judged({"mb": 470}, {"port": "A1", "lead": "slow", "mb": 44, "link": 480e6})
    chain = judgement.chain_of("claim1")
    assert chain is not None
    assert chain.expected is not None
    assert chain.expected.part == "the lead slow"
    assert chain.shown is not None
    assert [stage.part for stage in chain.stages] == [
        "socket C1 of the host 1", "the lead slow", "A1 as claimed", "the fast SSD"
    ]  # fmt: skip
    planned = judged().chain_of("claim1")
    assert planned is not None
    assert (planned.trial, planned.shown) == ("", None)


def test_reasons_are_worked_out_when_they_are_asked_for() -> None:
    judgement = judged(*FAILS_WITH_LEAD)
    assert not judgement.is_explained
    assert judgement.reasons_so_far == ()
    judgement.explain()
    assert judgement.is_explained
    assert judgement.reasons_so_far == judgement.reasons != ()
