"""The paper check: each rule with sheets that go against it and sheets that do not."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.claims.claim import Claim
from auditra.core.claims.language import parse_claim, promise_kinds
from auditra.core.journal.facts import ClaimMade, DeviceNoted
from auditra.core.model.device import Device, Face, OwnSupply, Port, Role
from auditra.core.model.source import Source
from auditra.core.paper_check.check import RULES, check
from auditra.core.paper_check.remark import Remark, Weight
from auditra.store.demos import DEMOS
from tests.support.vectors import vectors

CASES: list[dict[str, Any]] = vectors("paper_check")["cases"]


def device_of(case: dict[str, Any]) -> Device:
    ports = []
    for words in (each.split() for each in case["ports"].split(", ")):
        role = Role(words[2]) if len(words) > 2 else Role.DOWNSTREAM
        ports.append(Port(words[0], words[1].replace("-plug", " plug"), role))
    device = Device("Marlpit", "M1", case.get("kind", "hub"), (Face("front", tuple(ports)),))
    supply = {"supply": OwnSupply(*map(float, case["supply"]))} if "supply" in case else {}
    return Device(device.maker, device.model, device.kind, device.faces, **supply)  # type: ignore[arg-type]


def remarks(case: dict[str, Any], sentences: list[str]) -> tuple[Remark, ...]:
    source = Source("box", quoted=case["quoted"]) if "quoted" in case else Source()
    claims = [parse_claim(each, claim_id=f"c{n}", source=source) for n, each in enumerate(sentences)]
    return check(device_of(case), claims)


AGAINST = [(case, sentences) for case in CASES for sentences in case["against"]]
FINE = [(case, sentences) for case in CASES for sentences in case["fine"]]


@pytest.mark.parametrize(("case", "sentences"), AGAINST)
def test_what_goes_against_a_rule_is_remarked_with_its_sum_and_a_question(
    case: dict[str, Any], sentences: list[str]
) -> None:
    (found, *_) = [each for each in remarks(case, sentences) if each.rule == case["rule"]]
    assert found.sum
    assert found.ask.endswith("?")
    assert found.source


@pytest.mark.parametrize(("case", "sentences"), FINE)
def test_what_does_not_is_left_in_peace(case: dict[str, Any], sentences: list[str]) -> None:
    assert case["rule"] not in [each.rule for each in remarks(case, sentences)]


def test_every_rule_has_a_case_of_each() -> None:
    assert (
        {rule.id for rule in RULES}
        == {case["rule"] for case, _ in AGAINST}
        == {case["rule"] for case, _ in FINE} | {"supply-unsaid"}
    )
    assert len({rule.id for rule in RULES}) == len(RULES)


def demo(index: int) -> tuple[Device, list[Claim]]:
    facts = DEMOS[index].facts()
    device = next(fact.device for fact in facts if isinstance(fact, DeviceNoted))
    made = [fact for fact in facts if isinstance(fact, ClaimMade)]
    return device, [parse_claim(each.sentence, claim_id=each.id, source=each.source) for each in made]


def test_the_honest_hub_draws_one_remark_and_that_is_true() -> None:
    assert [each.rule for each in check(*demo(0))] == ["host-unsaid"]


def test_the_dock_is_asked_about_what_it_does_not_say() -> None:
    assert [each.rule for each in check(*demo(1))] == ["beside-data", "count", "sharing-unsaid", "socket-unsaid"]


DOCK, _ = demo(1)
PORTS = [port.id for port in DOCK.ports()]


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.tuples(st.sampled_from([*PORTS, "body"]), st.sampled_from(promise_kinds())), max_size=12),
    st.text(max_size=200),
)
def test_any_claims_are_checked_the_gravest_first_and_the_same_again(said: list[tuple[str, Any]], quoted: str) -> None:
    source = Source("box", quoted=quoted)
    claims = [
        parse_claim(f"{port} {kind.example}", claim_id=f"c{n}", source=source) for n, (port, kind) in enumerate(said)
    ]
    found = check(DOCK, claims)
    assert found == check(DOCK, claims)
    weights = [list(Weight).index(each.weight) for each in found]
    assert weights == sorted(weights)
    assert len({each.key for each in found}) == len(found)
