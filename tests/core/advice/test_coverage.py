"""What stands beside a score: how much was tried, what may be said on that, and what another profile moves."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from auditra.core.advice.coverage import Advice, coverage_of
from auditra.core.advice.profile_change import profile_change
from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import Judgement, judge
from auditra.core.model.profile import Limits, Profile
from auditra.core.model.reading import Quantity
from tests.support.audits import PROFILE, appeared, audit_of, judged, number, rates, with_trial

A1, A2, H1 = "A1 data 5 Gb/s", "A2 data 5 Gb/s", "H1 shows 3840x2160@30"
DIRECT, ALONE = "direct/storage", "A1/storage/fast-ssd/on laptop"


def measured(mb: float, *sentences: str) -> Audit:
    audit = audit_of(A1, *sentences)
    audit = with_trial(audit, DIRECT, *rates("direct", 1000, link_bps=10e9), appeared("direct", 12, 12))
    return with_trial(audit, ALONE, *rates("A1", mb))


def advice(audit: Audit, profile: Profile = PROFILE) -> Advice:
    return coverage_of(audit, judge(audit, profile), audit.device).advice


def test_nothing_is_recommended_on_less_than_half_of_the_weight() -> None:
    assert advice(audit_of(A1)) is Advice.SO_FAR
    assert advice(measured(450, A2, H1)) is Advice.SO_FAR
    rule = number(Quantity.LENGTH, 0.15, at="UP")
    assert advice(with_trial(audit_of("UP length 15 cm"), "UP/rule", rule)) is Advice.RECOMMENDED
    assert advice(measured(450)) is Advice.AS_TRIED
    few = replace(PROFILE, limits=Limits(decided=Decimal("0.2")))
    assert advice(measured(450, A2, H1), few) is Advice.AS_TRIED, "what is open could still bring it below the line"


def test_words_follow_the_score_and_a_danger_ends_them() -> None:
    assert advice(measured(212.5)) is Advice.MIXED
    assert advice(measured(60)) is Advice.NOT_RECOMMENDED
    assert advice(measured(380)) is Advice.WITHIN_LIMITS, "short, though the score is high"
    lost = with_trial(measured(450), DIRECT, number(Quantity.WRONG_BYTES, 0.0, at="direct"))
    lost = with_trial(lost, ALONE, *rates("A1", 450), number(Quantity.WRONG_BYTES, 3.0))
    assert advice(lost) is not Advice.DANGER, "a plug may have gone into the socket beside"
    assert advice(with_trial(lost, ALONE, *rates("A1", 450), number(Quantity.WRONG_BYTES, 5.0))) is Advice.DANGER


def test_ports_and_hosts_count_once_something_was_tried_there() -> None:
    audit = measured(450, "body works on laptop, phone")
    found = coverage_of(audit, judged(audit), audit.device)
    assert found.claims.words == "1 of 2"
    assert set(found.ports.tried) == {"A1", "UP"}
    assert found.hosts.tried == ("laptop",)
    assert found.hosts.left == ("older laptop", "phone"), "a host that a claim names and the rig lacks is left"


def change(judgement: Judgement, profile: Profile) -> list[tuple[str, Decimal]]:
    return [(each.text, each.by) for each in profile_change(judgement, PROFILE, profile, judgement.device).moved]


def test_another_profile_moves_the_score_by_what_its_lines_move() -> None:
    audit = with_trial(measured(212.5, "UP length 15 cm"), "UP/rule", number(Quantity.LENGTH, 0.15, at="UP"))
    judgement = judged(audit)
    heavier = replace(PROFILE, weights={**PROFILE.weights, "length": Decimal(20)})
    moved = change(judgement, heavier)
    scores = [judgement.scored_with(each)[judgement.device].value for each in (PROFILE, heavier)]
    assert None not in scores
    assert abs(sum((by for _, by in moved), Decimal(0)) - (scores[1] - scores[0])) <= Decimal("0.2")  # type: ignore[operator]
    assert [text for text, _ in moved] == [A1]
    assert change(judgement, PROFILE) == []
