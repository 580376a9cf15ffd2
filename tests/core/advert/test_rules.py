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
