"""From trials to verdicts and score: examples, and what must hold whatever the readings are."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.score import credits_of
from auditra.core.model.depth import Depth
from auditra.core.model.device import Face, Port, Role
from auditra.core.model.reading import Count, Grade, Quantity, Reading, Words
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from tests.support.audits import HUB, PROFILE, appeared, audit_of, judged, number, rates, with_trial

DIRECT, ALONE = "direct/storage", "A1/storage/fast-ssd/on laptop"
BESIDE = f"{ALONE} with H1 in use (shows 3840x2160@30)"
A1, H1 = "A1 data 5 Gb/s", "H1 shows 3840x2160@30"


def direct_first(*sentences: str) -> Audit:
    audit = audit_of(*(sentences or (A1,)))
    return with_trial(audit, DIRECT, *rates("direct", 1000, link_bps=10e9), appeared("direct", 12, 12))


def verdict_of(audit: Audit, claim: int = 0) -> ClaimVerdict:
    return judged(audit).claims[claim]


def test_nothing_tried_is_open_and_the_band_is_all_of_it() -> None:
    judgement = judged(audit_of(A1, H1))
    assert [each.verdict for each in judgement.claims] == [Verdict.OPEN, Verdict.OPEN]
    assert (judgement.score.value, judgement.score.lowest, judgement.score.highest) == (None, Decimal(0), Decimal(100))


def test_a_claim_that_no_set_up_beside_it_could_change_holds_after_one_trial() -> None:
    verdict = verdict_of(with_trial(direct_first(), ALONE, *rates("A1", 450, 451, 452)))
    assert verdict.verdict is Verdict.HOLDS
    assert "write 451.0" in verdict.shown
    assert verdict.highest == Decimal(1)


def test_a_claim_holds_once_shown_and_says_what_it_was_not_tried_under() -> None:
    half = verdict_of(with_trial(direct_first(A1, H1), ALONE, *rates("A1", 450)))
    assert half.verdict is Verdict.HOLDS
    assert half.shown_under == ("alone",)
    assert len(half.not_tried) == 4
    assert all("H1" in each for each in half.not_tried[:3])
    assert half.not_tried[3].startswith("pull the supply"), "told, and it costs nothing"
    assert (half.lowest, half.highest) == (Decimal("0.25"), Decimal(1))


def test_what_was_shown_under_more_load_counts_for_less_load() -> None:
    under_load = verdict_of(with_trial(direct_first(A1, H1), BESIDE, *rates("A1", 450)))
    assert under_load.verdict is Verdict.HOLDS
    assert "with H1 in use (shows 3840x2160@30)" not in under_load.not_tried
    assert under_load.lowest == Decimal("0.25"), "the plain set-up is shown with it"


def test_a_good_link_with_thin_payload_is_short_by_what_is_missing() -> None:
    verdict = verdict_of(with_trial(direct_first(), ALONE, *rates("A1", 212.5)))
    assert verdict.verdict is Verdict.SHORT
    assert verdict.highest == Decimal("0.500")


def test_without_a_direct_trial_nothing_is_called_short() -> None:
    assert verdict_of(with_trial(audit_of(A1), ALONE, *rates("A1", 100))).verdict is Verdict.UNPROVEN


def test_a_drive_that_is_as_slow_direct_proves_nothing() -> None:
    slow = with_trial(audit_of(A1), DIRECT, *rates("direct", 100))
    assert verdict_of(with_trial(slow, ALONE, *rates("A1", 100))).verdict is Verdict.UNPROVEN


def test_failing_only_beside_a_display_holds_if_once_seen_twice_on_both_sides() -> None:
    audit = direct_first(A1, H1)
    for key, mb in ((ALONE, 450), (BESIDE, 40), (ALONE, 450)):
        audit = with_trial(audit, key, *rates("A1", mb))
    assert verdict_of(audit).verdict is Verdict.UNPROVEN
    audit = with_trial(audit, BESIDE, *rates("A1", 41))
    assert verdict_of(audit).verdict is Verdict.HOLDS_IF
    assert verdict_of(audit).condition == "unless H1 is in use (shows 3840x2160@30)"
    desk = replace(PROFILE, conditions={"also in use": Decimal("0.1"), "also in use: shows": Decimal("0.6")})
    assert credits_of(verdict_of(audit), desk) == (Decimal("0.400"),) * 2, "the use that is left without a display"
    few = replace(PROFILE, conditions={"also in use": Decimal("0.1")})
    assert credits_of(verdict_of(audit), few)[0] < Decimal("0.6"), "never more than what was shown"


def test_three_tries_that_do_not_appear_break_a_claim_and_two_do_not() -> None:
    audit = direct_first()
    for verdict in (Verdict.TOO_CLOSE, Verdict.TOO_CLOSE, Verdict.BROKEN):
        audit = with_trial(audit, ALONE, appeared("A1", 0, 1, Grade.SEEN), outcome=Outcome.DID_NOT_APPEAR)
        assert verdict_of(audit).verdict is verdict
    assert verdict_of(audit).highest == Decimal(0)


def test_one_trial_of_two_decides_nothing_and_a_repeat_that_works_does_not_hide_three_that_failed() -> None:
    audit = with_trial(direct_first(), ALONE, *rates("A1", 100))
    assert verdict_of(audit).verdict is Verdict.SHORT
    audit = with_trial(audit, ALONE, *rates("A1", 450))
    assert verdict_of(audit).verdict is Verdict.UNPROVEN
    assert [trial.key for trial in judged(replace(audit, depth=Depth.QUICK)).to_do] == [ALONE]
    audit = with_trial(audit, ALONE, *rates("A1", 101))
    assert verdict_of(audit).verdict is Verdict.UNPROVEN
    assert verdict_of(with_trial(audit, ALONE, *rates("A1", 102))).verdict is Verdict.SHORT


def test_each_host_that_a_claim_names_has_its_own_trial_and_its_own_proof() -> None:
    audit = audit_of("body works on laptop, older laptop, phone")
    keys = [trial.key for trial in judged(audit).to_do]
    assert sorted(keys) == [
        "body/look/claim1/on laptop"
    ]  # the older laptop has no socket for it, and there is no phone
    worked = Reading("T", Quantity.WORKS, "body", "the eye", Grade.SEEN, Count(5, 5))
    verdict = verdict_of(with_trial(audit, "body/look", worked))
    assert verdict.verdict is Verdict.UNPROVEN
    assert verdict.not_tried == ("on older laptop", "on phone")


@pytest.mark.parametrize("outcome", [Outcome.STOPPED, Outcome.FAILED])
def test_a_trial_that_was_broken_off_accuses_nobody(outcome: Outcome) -> None:
    audit = with_trial(direct_first(), ALONE, *rates("A1", 10), outcome=outcome)
    assert verdict_of(audit).verdict is Verdict.OPEN


def test_a_trial_cut_off_by_a_crash_still_counts_what_it_took() -> None:
    link, write, _ = rates("A1", 100)
    audit = with_trial(direct_first(), ALONE, link, write, outcome=None)
    assert verdict_of(audit).verdict is Verdict.SHORT
    assert judged(replace(audit, depth=Depth.QUICK)).to_do[-1].key == ALONE


def test_a_wrong_byte_breaks_the_claim_and_caps_the_score() -> None:
    audit = direct_first(A1, "UP length 15 cm")
    audit = with_trial(audit, DIRECT, number(Quantity.WRONG_BYTES, 0.0, at="direct"))
    audit = with_trial(audit, ALONE, *rates("A1", 450), number(Quantity.WRONG_BYTES, 1.0))
    audit = with_trial(audit, "UP/rule", number(Quantity.LENGTH, 0.15, at="UP", grade=Grade.TYPED))
    judgement = judged(audit)
    assert judgement.claims[0].verdict is Verdict.BROKEN
    assert "A1" in judgement.score.danger
    assert judgement.score.highest <= PROFILE.limits.danger_cap


def test_what_the_rig_cannot_show_is_unproven_and_says_what_is_lacking() -> None:
    verdict = verdict_of(audit_of("P1 takes 240 W"))
    assert verdict.verdict is Verdict.UNPROVEN
    assert "more than 240 W" in verdict.why


def test_own_use_that_nobody_states_is_found_and_costs_a_point() -> None:
    audit = audit_of("P1 takes 90 W")
    fed, passed = number(Quantity.POWER, 94.0, at="P1", error=0.3), number(Quantity.POWER, 83.0, at="UP", error=0.3)
    judgement = judged(with_trial(audit, "P1/power_in", fed, passed))
    assert [each.sentence for each in judgement.unstated] == ["consumes 11.0 W itself"]
    assert judgement.score.earned == Decimal("3.0")


def test_own_use_within_the_meters_doubt_is_not_told() -> None:
    audit = audit_of("P1 takes 90 W")
    fed, passed = number(Quantity.POWER, 94.0, at="P1", error=5.0), number(Quantity.POWER, 88.0, at="UP", error=5.0)
    assert judged(with_trial(audit, "P1/power_in", fed, passed)).unstated == ()


# What must hold whatever was read

SENTENCES = (A1, H1, "N1 links 1 Gb/s", "P1 takes 90 W", "P1 no data", "UP length 15 cm", "S1 cards 95 MB/s")


@st.composite
def trials(draw: st.DrawFn) -> tuple[str, tuple[Reading, ...]]:
    """One trial of something, with readings that may be anything from nothing to far too much."""
    key = draw(st.sampled_from(["direct/storage/fast", ALONE, BESIDE, "H1/", "N1/network/film-server", "P1/power_in",
                                "P1/appearance", "UP/rule", "S1/storage/uhs-2-card"]))  # fmt: skip
    share = draw(st.floats(0.01, 2.0))
    at = "direct" if key.startswith("direct") else key[:2]
    readings: dict[str, tuple[Reading, ...]] = {
        "H1": (replace(appeared("H1", 1, 1), quantity=Quantity.MODE, value=Words(draw(
            st.sampled_from(["3840x2160@30", "1920x1080@60", "3840x2160@60"])))),),
        "N1": (number(Quantity.LINK, 1e9, at=at, grade=Grade.READ), number(Quantity.SEND, share * 9e8, at=at),
               number(Quantity.RECEIVE, share * 9e8, at=at)),
        "P1": (number(Quantity.POWER, share * 90, at=at, error=0.3),
               number(Quantity.POWER, share * 80, at="UP", error=0.3)),
        "UP": (number(Quantity.LENGTH, share * 0.15, at=at, grade=Grade.TYPED),),
    }  # fmt: skip
    if draw(st.booleans()) and at not in ("P1", "UP"):
        return key, (appeared(at, 0, draw(st.integers(1, 3))),)
    if key == "P1/appearance":
        return key, (appeared("P1", draw(st.integers(0, 3)), 3),)
    return key, readings.get(at, rates(at, share * 425))


histories = st.lists(trials(), max_size=8)


def grown(history: list[tuple[str, tuple[Reading, ...]]]) -> Audit:
    audit = direct_first(*SENTENCES)
    for key, readings in history:
        audit = with_trial(audit, key, *readings)
    return audit


@given(histories)
@settings(max_examples=60, deadline=None)
def test_the_ledger_adds_up_and_the_band_contains_the_score(history: list[tuple[str, tuple[Reading, ...]]]) -> None:
    score = judged(grown(history)).score
    assert sum((line.earned for line in score.ledger if line.earned is not None), Decimal(0)) == score.earned
    assert sum((line.weight for line in score.ledger), Decimal(0)) == score.weight
    assert Decimal(0) <= score.lowest <= score.highest <= Decimal(100)
    if score.value is not None:
        assert score.lowest <= score.value <= score.highest


@given(histories, trials())
@settings(max_examples=80, deadline=None)
def test_a_failing_trial_never_raises_that_claims_credit_nor_the_bands_upper_end(
    history: list[tuple[str, tuple[Reading, ...]]], trial: tuple[str, tuple[Reading, ...]]
) -> None:
    before = grown([each for each in history if not each[0].startswith("direct")])
    after = with_trial(before, trial[0], *trial[1])
    one, other = judged(before), judged(after)
    failing = {each.claim.id for each in other.claims for set_up in each.set_ups if set_up.verdict.accuses
               and after.trials[-1].trial.id in set_up.trials}  # fmt: skip
    for was, now in zip(one.claims, other.claims, strict=True):
        if now.claim.id in failing:
            assert now.highest <= was.highest
    if failing and not trial[0].startswith("direct"):
        assert other.score.highest <= one.score.highest


@given(histories)
@settings(max_examples=30, deadline=None)
def test_judging_is_a_function_of_the_facts_alone(history: list[tuple[str, tuple[Reading, ...]]]) -> None:
    assert judged(grown(history)) == judged(grown(history))


def test_the_link_of_a_network_socket_says_nothing_of_the_lead_to_the_host() -> None:
    """It is made in the device: a slow lead to the host stays suspect beside it."""
    sockets = Face("left", (Port("C1", "usb-c"), Port("N1", "rj45"), Port("UP", "usb-c", Role.UPSTREAM)))
    audit = audit_of("C1 data 5 Gb/s", "N1 links 1 Gb/s", device=replace(HUB, faces=(sockets,)))
    audit = with_trial(
        audit, "direct/storage/fast-ssd/on laptop with CC-2", *rates("direct", 1050, 1055, link_bps=1e10)
    )
    for _ in range(3):
        audit = with_trial(audit, "C1/storage/fast-ssd/on laptop", *rates("C1", 41.0, 41.1, link_bps=480e6))
    told = (number(Quantity.LINK, 1e9, at="N1", grade=Grade.READ), number(Quantity.SEND, 280e6, 281e6, at="N1"))
    audit = with_trial(audit, "N1/network", *told)
    data = next(each for each in judged(audit).claims if str(each.claim) == "C1 data 5 Gb/s")
    assert data.verdict is Verdict.UNPROVEN
    assert "nothing shows that lead CC-1 carries that" in data.why
