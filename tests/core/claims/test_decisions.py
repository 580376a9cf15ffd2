"""How single kinds of claims decide: what each asks for beside a value."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest

from auditra.core.claims.language import parse_claim
from auditra.core.decide.evidence import Evidence
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Trace, Words, YesNo
from auditra.core.model.rig import Drive
from auditra.core.model.setup import NetworkPath, SetUp
from auditra.core.model.verdict import Part, Verdict
from tests.support.audits import number, rates
from tests.support.evidence import evidence_of


def parts(sentence: str, evidence: Evidence) -> tuple[Part, ...]:
    return parse_claim(sentence, claim_id="c").promise.decide(evidence)


def verdict(sentence: str, *taken: Reading) -> Verdict:
    return parts(sentence, evidence_of(*taken))[0].verdict


def worked(seen: int, tries: int, quantity: Quantity = Quantity.WORKS) -> Reading:
    return Reading("T", quantity, "A1", "the eye", Grade.SEEN, Count(seen, tries))


def word(quantity: Quantity, text: str, grade: Grade = Grade.READ) -> Reading:
    return Reading("T", quantity, "C1", "log", grade, Words(text))


@pytest.mark.parametrize(
    ("amperes", "expected"), [(0.52, Verdict.HOLDS), (0.4, Verdict.UNPROVEN), (0.5, Verdict.TOO_CLOSE)]
)
def test_amperes_are_held_against_the_current_that_was_drawn(amperes: float, expected: Verdict) -> None:
    assert verdict("A1 gives 0.5 A", number(Quantity.CURRENT, amperes, error=0.005)) is expected


def test_a_contract_of_its_kind_decides_fast_charging_and_no_other_one_does() -> None:
    assert verdict("C1 fast charges by PD PPS", word(Quantity.CONTRACT_KIND, "PPS")) is Verdict.HOLDS
    assert verdict("C1 fast charges by PD PPS", word(Quantity.CONTRACT_KIND, "fixed")) is Verdict.OPEN
    assert verdict("C1 fast charges by PD", word(Quantity.CONTRACT_KIND, "fixed")) is Verdict.HOLDS
    assert verdict("C1 fast charges by PD", word(Quantity.CONTRACT_KIND, "fixed", Grade.SEEN)) is Verdict.OPEN


def test_a_contract_decides_what_is_offered_and_not_what_arrives() -> None:
    offered = number(Quantity.OFFERED, 60.0, error=0.01, grade=Grade.READ)
    assert verdict("C1 offers 45 W", offered) is Verdict.HOLDS
    (part,) = parts("C1 gives 45 W", evidence_of(offered))
    assert part.verdict is Verdict.UNPROVEN
    assert "offered 60.0 W" in part.shown


@pytest.mark.parametrize(
    ("sentence", "expected"),
    [
        ("body is the smallest", Verdict.UNPROVEN), ("body is the smallest of 12 hubs", Verdict.UNPROVEN),
        ("body is the smallest of 12 hubs at 2026-03-01", Verdict.HOLDS),
        ("body is faster than the last model", Verdict.UNPROVEN),
        ("body is 2 times as fast as the last model at 2026-03-01", Verdict.HOLDS),
    ],
)  # fmt: skip
def test_praise_beside_others_needs_a_set_with_a_date(sentence: str, expected: Verdict) -> None:
    yes = Reading("T", Quantity.SEEN_TO_BE, "body", "page", Grade.TYPED, YesNo(True))
    assert verdict(sentence, yes) is expected
    assert verdict(sentence, replace(yes, value=YesNo(False))) is Verdict.BROKEN


@pytest.mark.parametrize(
    ("sentence", "noted", "expected"),
    [
        ("A1 reaches 15 m", number(Quantity.LENGTH, 10.0), Verdict.UNPROVEN),
        ("A1 reaches 15 m", number(Quantity.LENGTH, 15.0), Verdict.HOLDS),
        ("A1 reaches 15 m", number(Quantity.LENGTH, 20.0), Verdict.HOLDS),
        ("J1 plays 3.5 mm 300 ohm", number(Quantity.RESISTANCE, 32.0), Verdict.UNPROVEN),
        ("J1 plays 3.5 mm 300 ohm", number(Quantity.RESISTANCE, 300.0), Verdict.HOLDS),
        ("S1 accepts cards of 2 TB", number(Quantity.CAPACITY, 1e12), Verdict.UNPROVEN),
        ("S1 accepts cards of 2 TB", number(Quantity.CAPACITY, 2e12), Verdict.HOLDS),
        ("A1 feeds 0.9 A", number(Quantity.CURRENT, 0.5), Verdict.UNPROVEN),
        ("body carries picture 3840x2160@60", word(Quantity.MODE, "1920x1080@60"), Verdict.UNPROVEN),
        ("body carries picture 3840x2160@60", word(Quantity.MODE, "3840x2160@60"), Verdict.HOLDS),
        ("body carries picture", word(Quantity.MODE, "1920x1080@60"), Verdict.HOLDS),
    ],
)  # fmt: skip
def test_a_count_counts_for_what_it_was_tried_with(sentence: str, noted: Reading, expected: Verdict) -> None:
    assert verdict(sentence, worked(5, 5), noted) is expected


def test_a_failure_with_more_than_was_promised_accuses_nobody() -> None:
    failing = worked(0, 5), worked(5, 5, Quantity.WORKS_WITHOUT)
    assert verdict("A1 reaches 15 m", *failing, number(Quantity.LENGTH, 15.0)) is Verdict.BROKEN
    assert verdict("A1 reaches 15 m", *failing, number(Quantity.LENGTH, 30.0)) is Verdict.UNPROVEN


def test_what_gear_draws_by_its_own_record_is_what_was_fed() -> None:
    hungry = Drive("d", "d", "usb-a", 1.0, 1.0, current_a=0.5)
    taken = ReadingSet((worked(5, 5),))
    assert parts("A1 feeds 0.9 A", Evidence(taken, taken, gear=hungry))[0].verdict is Verdict.UNPROVEN
    assert parts("A1 feeds 0.4 A", Evidence(taken, taken, gear=hungry))[0].verdict is Verdict.HOLDS


def test_a_case_that_still_warms_shows_nothing_yet_and_a_hot_room_takes_its_share() -> None:
    def case(celsius: float, *trace: float) -> Reading:
        times = tuple(60.0 * n for n in range(len(trace)))
        return replace(number(Quantity.CASE_TEMPERATURE, celsius, at="body", error=0.3), trace=Trace(times, trace))

    rising, steady = [30.0 + n for n in range(12)], [41.0] * 12
    assert verdict("body below 45 C", case(41.0, *rising)) is Verdict.UNPROVEN
    assert verdict("body below 45 C", case(41.0, *steady)) is Verdict.HOLDS
    hot = number(Quantity.AMBIENT_TEMPERATURE, 32.0, at="body", error=0.3)
    assert verdict("body below 45 C", case(48.0, *([48.0] * 12))) is Verdict.SHORT
    assert verdict("body below 45 C", case(48.0, *([48.0] * 12)), hot) is Verdict.UNPROVEN


@pytest.mark.parametrize(("behind", "expected"), [(3.0, Verdict.HOLDS), (1.0, Verdict.SHORT), (None, Verdict.UNPROVEN)])
def test_a_drop_counts_at_its_current(behind: float | None, expected: Verdict) -> None:
    drop = number(Quantity.DROP, 0.09, at="body", error=0.001)
    taken = drop if behind is None else replace(drop, behind_a=behind)
    assert verdict("body drops at most 250 mV at 3 A", taken) is expected
    current = number(Quantity.CURRENT, behind or 3.0, at="body")
    assert behind is None or verdict("body drops at most 250 mV at 3 A", drop, current) is expected


def test_a_drop_is_the_difference_of_the_volts_at_both_ends_at_one_current() -> None:
    near, far = (
        replace(number(Quantity.VOLTAGE, volts, at="body", error=0.002), end=end, behind_a=3.0)
        for end, volts in (("near", 5.1), ("far", 4.95))
    )
    (part,) = parts("body drops at most 250 mV at 3 A", evidence_of(near, far))
    assert part.verdict is Verdict.HOLDS
    assert "150" in part.shown
    idle = replace(near, behind_a=0.1)
    assert verdict("body drops at most 250 mV at 3 A", idle, far) is Verdict.OPEN


def test_watts_that_ports_share_add_up() -> None:
    one, other = number(Quantity.POWER, 31.0, at="C1", error=0.1), number(Quantity.POWER, 30.0, at="C2", error=0.1)
    assert verdict("C1+C2 share 60 W", one, other) is Verdict.HOLDS
    assert verdict("C1+C2 share 60 W", one) is Verdict.UNPROVEN


def test_minutes_at_work_and_moments_tell_whether_a_case_is_steady() -> None:
    cool = number(Quantity.CASE_TEMPERATURE, 40.0, at="body", error=0.3)
    for minutes, expected in ((5.0, Verdict.UNPROVEN), (45.0, Verdict.HOLDS)):
        assert verdict("body below 45 C", cool, number(Quantity.SOAKED, 60 * minutes, at="body")) is expected
    begin = datetime(2026, 3, 2, 9, tzinfo=UTC)
    for rise_k, expected in ((2.0, Verdict.UNPROVEN), (0.1, Verdict.HOLDS)):
        moments = [
            replace(cool, value=Number((40.0 + n * rise_k,)), moment=begin + timedelta(minutes=10 * n))
            for n in range(2)
        ]
        assert verdict("body below 45 C", *moments) is expected


def test_verified_payload_proves_the_link_it_needs_and_unverified_payload_nothing() -> None:
    checked = number(Quantity.WRONG_BYTES, 0.0)
    slow_link, write, read = rates("A1", 450, 451, 452, link_bps=480e6)
    assert verdict("A1 data 5 Gb/s", slow_link, write, read, checked) is Verdict.HOLDS
    assert verdict("A1 data 5 Gb/s", slow_link, write, read) is Verdict.UNPROVEN
    assert verdict("A1 data 5 Gb/s", write, read, checked) is Verdict.HOLDS


def test_the_payload_of_a_network_is_expected_at_the_frame_size_that_was_seen() -> None:
    link = number(Quantity.LINK, 1e9, at="N1", grade=Grade.READ)
    moved = [number(quantity, 915e6, 915.2e6, 914.9e6, at="N1") for quantity in (Quantity.SEND, Quantity.RECEIVE)]
    usual = evidence_of(link, *moved)
    jumbo = replace(usual, setup=SetUp("laptop", "C1", (), network=NetworkPath(frame_bytes=9000)))
    assert {part.verdict for part in parts("N1 links 1 Gb/s", usual)} == {Verdict.HOLDS}
    assert Verdict.HOLDS not in {part.verdict for part in parts("N1 links 1 Gb/s", jumbo)[1:]}


def test_two_readings_of_equal_standing_that_would_decide_otherwise_leave_it_unproven() -> None:
    one, other = (number(Quantity.POWER, watts, error=0.1) for watts in (46.0, 40.0))
    (part,) = parts("C1 gives 45 W", evidence_of(one, other))
    assert part.verdict is Verdict.UNPROVEN
    assert "contradict" in part.arithmetic
    typed = replace(other, grade=Grade.TYPED)
    assert verdict("C1 gives 45 W", one, typed) is Verdict.HOLDS
    assert isinstance(one.value, Number)
