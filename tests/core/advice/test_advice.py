"""What a buyer is told: praise, warnings, the honest box, worth and for whom; each line has what it comes from."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

import pytest

from auditra.core.advice.box_text import box_text
from auditra.core.advice.for_whom import Fit, Ground, for_whom
from auditra.core.advice.praise import Remark, praise, warnings
from auditra.core.advice.worth import Peer, Relation, worth_of
from auditra.core.advice.worth_text import price_text
from auditra.core.errors import SheetError
from auditra.core.journal.audit import Audit
from auditra.core.judge.score import Score
from auditra.core.model.device import Extra, OwnSupply, Price, PriceKind
from auditra.core.model.reading import Grade, Quantity, Reading, Words
from auditra.documents.for_whom_file import read_users
from auditra.store.files import read_shipped
from tests.support.audits import HUB, appeared, audit_of, judged, number, rates, with_trial
from tests.support.finished import finished

USERS = read_users(read_shipped("for_whom.toml"), "for_whom.toml")
A1, H1 = "A1 data 5 Gb/s", "H1 shows 3840x2160@30"
ALONE = "A1/storage/fast-ssd/on laptop"


def with_drive(mb: float, *sentences: str) -> Audit:
    audit = audit_of(*(sentences or (A1,)))
    audit = with_trial(audit, "direct/storage", *rates("direct", 1000, link_bps=10e9), appeared("direct", 12, 12))
    return with_trial(audit, ALONE, *rates("A1", mb))


def answers(audit: Audit) -> dict[str, Fit]:
    return {each.user: each.fit for each in for_whom(audit, judged(audit), audit.device, USERS)}


@pytest.mark.parametrize("name", ["OP-6", "BW-11"])
def test_every_line_for_the_reader_names_claims_or_trials_that_the_audit_has(name: str) -> None:
    audit, judgement = finished(name).audit, finished(name).judgement
    claims = {claim.id for claim in audit.claims}
    trials = {record.trial.id for record in audit.trials}
    found = for_whom(audit, judgement, audit.device, USERS)
    lines: list[Remark | Ground] = [
        *praise(judgement),
        *warnings(judgement),
        *(ground for each in found for ground in each.grounds if ground.fit is Fit.SUITS),
    ]
    assert len(lines) > 10
    for line in lines:
        assert line.claims or line.trials or line.finding
        assert claims >= set(line.claims)
        assert trials >= set(line.trials)


def test_warnings_come_gravest_first_and_opinions_are_none_of_them() -> None:
    audit = with_trial(with_drive(100), "direct/storage", number(Quantity.WRONG_BYTES, 0.0, at="direct"))
    audit = with_trial(audit, ALONE, *rates("A1", 100), number(Quantity.WRONG_BYTES, 2.0))
    found = warnings(judged(audit))
    assert found[0].is_danger
    assert "A1 data 5 Gb/s: broken" in found[1].text
    assert praise(judged(audit)) == ()


def test_the_box_says_what_was_shown_and_leaves_out_what_was_not() -> None:
    judgement = judged(with_drive(212.5, A1, H1))
    found = box_text(HUB, judgement, {})
    assert found.text == "A1 writes 212 MB/s, reads 212 MB/s"
    assert [line.is_changed for line in found.lines] == [True]
    assert [str(each.claim) for each in found.not_shown] == [H1]


def test_the_box_of_the_finished_dock_states_every_condition_and_drawback() -> None:
    dock = finished("BW-11")
    found = box_text(dock.audit.device, dock.judgement, {})
    conditions = [line.text for line in found.lines if line.is_changed]
    assert any("charges host 65 W unless" in line for line in conditions)
    assert any("N1 links 2.5 Gb/s except after" in line for line in conditions)
    assert len(found.lines) >= len(dock.audit.claims)
    assert found.silences, "what devices of its kind should state"


def test_a_drive_that_was_shown_suits_and_one_that_was_not_tried_is_not_known() -> None:
    shown, untried = answers(with_drive(450)), answers(audit_of("A1 data 5 Gb/s", "A2 data 5 Gb/s"))
    assert shown["several drives at a time"] is Fit.DOES_NOT
    assert untried["several drives at a time"] is Fit.NOT_KNOWN
    assert answers(with_drive(100))["several drives at a time"] is Fit.DOES_NOT


def test_two_displays_need_a_claim_of_both_and_one_at_a_time_refutes_it() -> None:
    dock = finished("BW-11")
    found = {each.user: each for each in for_whom(dock.audit, dock.judgement, dock.audit.device, USERS)}
    assert found["a desk with two displays"].fit is Fit.DOES_NOT
    assert "one at a time" in found["a desk with two displays"].grounds[0].text
    assert found["a laptop that charges with 65 W"].fit is Fit.SUITS_IF
    assert "unless" in found["a laptop that charges with 65 W"].grounds[0].text


def test_what_fails_a_larger_promise_may_be_enough_for_a_smaller_need() -> None:
    dock = finished("BW-11")
    found = {each.user: each for each in for_whom(dock.audit, dock.judgement, dock.audit.device, USERS)}
    assert found["a wired network of 2.5 Gb/s"].fit is Fit.SUITS_IF
    assert found["a wired network of 1 Gb/s"].fit is Fit.SUITS, "hot, it still moves 1.19 Gb/s"
    assert "enough" in found["a wired network of 1 Gb/s"].grounds[0].text


def test_a_mode_that_nobody_promised_and_the_link_would_carry_is_not_denied() -> None:
    audit = audit_of(H1)
    mode = Reading("T", Quantity.MODE, "H1", "host", Grade.READ, Words("3840x2160@30"))
    direct = replace(mode, at="direct")
    audit = with_trial(with_trial(audit, "direct/display", direct), "H1/display", mode)
    assert answers(audit)["a desk with one large display"] is Fit.DOES_NOT
    assert answers(audit)["a handheld with a display and a drive"] is Fit.DOES_NOT, "it has no data socket"
    travel = for_whom(audit, judged(audit), audit.device, USERS)
    grounds = next(each for each in travel if each.user == "travel").grounds
    assert grounds[0].fit is Fit.NOT_KNOWN


def test_a_supply_of_its_own_has_to_be_carried() -> None:
    audit = with_drive(450, A1, H1)
    heavy = replace(audit, device=replace(audit.device, supply=OwnSupply(20.0, 7.5)))
    travel = next(each for each in for_whom(heavy, judged(heavy), heavy.device, USERS) if each.user == "travel")
    assert "20 V 7.5 A" in travel.grounds[-1].text


@pytest.mark.parametrize(
    ("line", "why"),
    [('is = ["shines"]', "expected"), ('is = ["data 5 Gb/s"], reads = "much"', "power at the host"),
     ('is = ["data 5 Gb/s"], ports = 0', "greater"), ("is = []", "at least 1")],
)  # fmt: skip
def test_a_rule_that_cannot_be_read_is_told_with_its_line(line: str, why: str) -> None:
    with pytest.raises(SheetError, match=why) as refused:
        read_users(f'[[user]]\nname = "x"\nneed = [{{ {line} }}]\n', "rules.toml")
    assert refused.value.line


SCORE = Score(Decimal(80), Decimal(76), Decimal(84), (), Decimal(8), Decimal(10), Decimal(10))
LISTED = Price(100.0, "EUR", "2026-02-01", PriceKind.LIST)
SOLD = Price(80.0, "EUR", "2026-03-01", PriceKind.STREET)


def peer(score: int, total: int, **more: str) -> Peer:
    value = Decimal(score)
    return Peer("other", "Osierpell OP-6", more.get("kind", "hub"), more.get("profile", "p"), value, value - 2,
                value + 2, Decimal(total), more.get("money", "EUR"))  # fmt: skip


def test_worth_is_points_for_all_that_is_paid_at_each_price() -> None:
    extras = (Extra("lead", Price(20.0, "EUR")), Extra("stand"), Extra("case", Price(9.0, "GBP")))
    device = replace(HUB, price=LISTED, other_prices=(SOLD, Price(70.0, "GBP")), extras=extras)
    worth = worth_of(device, SCORE, "p", [peer(90, 90), peer(99, 50, money="GBP"), peer(99, 50, profile="q")])
    assert worth is not None
    assert [(each.total, each.per_hundred) for each in worth.at] == [
        (Decimal(120), Decimal("66.67")), (Decimal(100), Decimal("80.00")), (Decimal(70), Decimal("114.29")),
    ]  # fmt: skip
    assert [each.relation for each in worth.at] == [Relation.LESS, Relation.LESS, None], "money is never converted"
    assert price_text(worth.at[0]) == "list 100.00 EUR, 2026-02-01, 120.00 with extras"
    plain = worth_of(replace(HUB, price=Price(49.9, "EUR")), SCORE, "p", [])
    assert plain is not None
    assert price_text(plain.at[0]) == "price 49.90 EUR"
    assert worth.matches_at == Decimal("60.00"), "80 points at 1 point a euro, less the lead"
    assert worth.extras_elsewhere == ("stand", "case")
    assert worth.discount == Decimal("0.2")


def test_prices_whose_bands_overlap_are_about_even_and_a_cable_is_no_alternative_to_a_dock() -> None:
    device = replace(HUB, price=LISTED)
    even = worth_of(device, SCORE, "p", [peer(82, 100)])
    better = worth_of(device, SCORE, "p", [peer(50, 100)])
    assert even is not None
    assert even.at[0].relation is Relation.EVEN
    assert better is not None
    assert better.at[0].relation is Relation.BETTER
    alone = worth_of(device, SCORE, "p", [peer(99, 5, kind="USB cable")])
    assert alone is not None
    assert (alone.best, alone.matches_at, alone.at[0].relation) == (None, None, None)


def test_without_a_score_or_a_price_there_is_no_worth() -> None:
    assert worth_of(HUB, SCORE, "p", []) is None
    assert worth_of(replace(HUB, price=LISTED), replace(SCORE, value=None), "p", []) is None
