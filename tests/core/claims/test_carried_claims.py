"""Claims are values: their parts, their words, and what is special about a set-up for them."""

from __future__ import annotations

import pytest

from auditra.core.claims.claim import ConditionKind, Joined
from auditra.core.claims.language import parse_claim, parse_claims
from auditra.core.errors import ClaimError
from auditra.core.model.circumstance import AtPort, Running, Soaked
from auditra.core.model.setup import SetUp


def test_a_group_has_its_ports_in_order_and_says_how_they_are_joined() -> None:
    claim = parse_claim("C1+C2 give 18 W each while UP charges host 65 W without display", claim_id="c")
    assert (claim.port, claim.others, claim.ports) == ("C1", ("C2",), ("C1", "C2"))
    assert claim.joined is Joined.TOGETHER
    assert claim.wants(ConditionKind.WITHOUT) == ("display",)
    assert claim.conditions[0].ports == ("UP",)
    assert claim.sentence_of("C2") == "C2 gives 18 W"
    assert not claim.of_body


def test_conditions_are_printed_in_one_order_and_once() -> None:
    claim = parse_claim("A1 data 5 Gb/s with driver without display while C2 gives 5 W without display", claim_id="c")
    assert str(claim) == "A1 data 5 Gb/s while C2 gives 5 W without display with driver"


def test_what_a_claim_itself_brings_is_nothing_special() -> None:
    claim = parse_claim("C1+C2 give 18 W each while H1 shows 3840x2160@60", claim_id="c")
    own = SetUp("laptop", "C1", (), ("C2 gives 18 W", "H1 shows 3840x2160@60"))
    assert claim.circumstances_in(own, "C1") == (AtPort("C1"),)
    assert claim.circumstances_in(own, "C1", whole_group=True) == ()
    more = SetUp("laptop", "C1", (), ("C2 gives 18 W", "A1 data 5 Gb/s"), soaked_s=2700.0)
    assert claim.circumstances_in(more, "C1") == (AtPort("C1"), Running("A1 data 5 Gb/s"), Soaked(2700.0))


def test_a_device_of_a_kit_is_named_in_the_sentence_or_beside_it() -> None:
    one = parse_claim("far:A1 data 480 Mb/s", claim_id="c")
    other = parse_claim("A1 data 480 Mb/s", claim_id="c", device="far")
    assert one == other
    assert str(other) == "far:A1 data 480 Mb/s"


@pytest.mark.parametrize("sentence", ["A1 data 5 Gb/s, gives 4.5 W", "body weighs 95 g, size 1 x 2 x 3 cm"])
def test_one_claim_is_asked_for_where_several_are_made(sentence: str) -> None:
    assert len(parse_claims(sentence, claim_id="c")) == 2
    with pytest.raises(ClaimError, match="one promise"):
        parse_claim(sentence, claim_id="c")


def test_more_promises_and_conditions_than_anybody_makes_are_refused() -> None:
    with pytest.raises(ClaimError):
        parse_claims("A1 " + ", ".join(f"gives {n} W" for n in range(1, 12)), claim_id="c")
    with pytest.raises(ClaimError):
        parse_claim("A1 data 5 Gb/s " + " ".join(f"with part{n}" for n in range(12)), claim_id="c")
    with pytest.raises(ClaimError, match="at most 300"):
        parse_claim("A1 works with " + "x" * 400, claim_id="c")
