"""What a clause promises, rule by rule: the claims of short texts, of which none is in the corpus."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from auditra.core.advert.reader import read_text
from auditra.core.claims.language import parse_claim

CASES: dict[str, list[dict[str, Any]]] = tomllib.loads((Path(__file__).parent / "clauses.toml").read_text())


def claims(text: str) -> list[str]:
    return [each.sentence for each in read_text(text).proposals]


@pytest.mark.parametrize(
    ("rule", "case"),
    [(rule, case) for rule, cases in CASES.items() for case in cases],
    ids=[f"{rule}-{number}" for rule, cases in CASES.items() for number, _ in enumerate(cases, 1)],
)
def test_what_a_clause_promises(rule: str, case: dict[str, Any]) -> None:
    for claim in case["claims"]:
        assert str(parse_claim(claim, claim_id="")) == claim, rule
    assert sorted(claims(case["text"])) == sorted(case["claims"])


@pytest.mark.parametrize(
    ("alone", "at_once"),
    [
        ("Hub. 2 USB-C, 15 W each.", "Hub. 2 USB-C, 15 W each at the same time."),
        ("Dock. HDMI and DisplayPort, 4K at 30 Hz.", "Dock. HDMI and DisplayPort side by side, 4K at 30 Hz."),
    ],
)
def test_all_at_once_is_promised_only_where_the_text_says_so(alone: str, at_once: str) -> None:
    assert all("+" not in claim for claim in claims(alone))
    assert any("+" in claim for claim in claims(at_once))
    assert len(claims(alone)) == 2


@pytest.mark.parametrize(
    "text",
    [
        "Hub. Our last hub had USB-A of 480 Mb/s.",
        "Hub. Other hubs give 15 W at USB-C.",
        "Hub. USB-A not 10 Gb/s.",
        "Dock. Wait 10 s before you plug HDMI in.",
        "Hub. Gross weight of the carton: 300 g.",
        "Hub. 4K HDMI, USB 3.1, fast charging, HDMI 2.1, plenty of watts.",
    ],
)
def test_nothing_is_promised_by_comparisons_denials_and_names(text: str) -> None:
    assert claims(text) == []


@pytest.mark.parametrize(
    ("text", "tempting"),
    [
        ("Charger with C1, C2, C3, A1. With all four: 45 W, 30 W, 15 W and 10 W.", "gives"),
        ("Hub. Three A sockets, two C sockets. All sockets carry 10 Gb/s except one.", "data"),
        ("Hub. Four USB-A sockets, 5 Gb/s. All four together share the 10 Gb/s.", "data 10"),
        ("Hub. USB-A and USB-C. We do not promise: 15 W at USB-C.", "gives"),
        ("Charger 140 W, USB-C, incl. 1.5 m cable 240 W.", "240 W at"),
        ("Charger. All three: 65 W, and 15 W shared between C2 and A1.", "share 65 W"),
        ("Dock. HDMI and DisplayPort, not at once, 4K at 60 Hz.", "+"),
        ("Extension, 5 m, A plug to A socket. Up to three may be joined (15 m).", "length 15 m"),
        ("Extension, 5 m, A plug to A socket. A 5 V, 2 A supply is needed from the second on.", "feeds"),
        ("Dock. 2 x DisplayPort 1440p 60 Hz, or 1 x 4K 60 Hz.", "D1 shows 3840"),
        ("Lead, C to C, 1 m, 60 W. Also available in 2 m (100 W).", "100 W"),
        ("Dock. The laptop gets 20 W less than the charger gives.", "20 W"),
        ("Hub. Retail box 12 x 8 x 3 cm - 60 g.", "size"),
        ("Adapter A7. HDMI 4K at 30 Hz.", "A7"),
        ("Lead, C to C, 2 m. 60 W? No, 15 W.", "carries 60 W"),
        ("Phone adapter. ✗ No calls via the 3.5 mm jack", "J1"),
        ("Hub. Aluminium look.", "made of"),
        ("Reader. SD 90 MB/s, microSD 90 MB/s. Both at once, but the total is 120 MB/s.", "120 MB/s"),
    ],
)
def test_tempting_wrong_claims_are_not_proposed(text: str, tempting: str) -> None:
    """A reviewer who took one of these would wrong a maker, or cheat a buyer."""
    assert not [claim for claim in claims(text) if tempting in claim]


def test_what_a_claim_cannot_be_made_of_is_left_to_be_seen() -> None:
    """Nothing of a text is lost: what is proposed is quoted, and what is not is left over."""
    text = "Hub. USB-A at 5 Gb/s. The moon is 384,400 km away. USB-C gives 15 W while C9 dances with A7 without data."
    read = read_text(text)
    assert "A1 data 5 Gb/s" in claims(text)
    told = " ".join((*(each.quoted for each in read.proposals), *read.left_over))
    for words in ("USB-A at 5 Gb/s", "The moon is 384,400 km away", "USB-C gives 15 W"):
        assert words in told
