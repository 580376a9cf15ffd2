"""The Claims stage in words: nothing is wider than its panel, the chosen claim is where it is said to be."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.journal.audit import Audit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import Extra, Price
from auditra.core.model.rig import Origin
from auditra.core.model.source import Source
from auditra.tui.stages.claims.text import in_order, said_and_claimed, what_it_is_for
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from auditra.tui.widgets.offers_line import offers_line
from tests.support.audits import HUB, PROFILE, audit_of, galley, rates, with_trial

PALETTE = PALETTES[DEFAULT_PALETTE]
CLAIMS = ("A1 data 5 Gb/s", "A2 data 5 Gb/s while A1 gives 4.5 W without driver", "P1 takes 90 W", "P1 no data",
          "H1|P1 one at a time", "body works on laptop, older laptop, tablet, phone")  # fmt: skip


def sourced(*sources: Source) -> Audit:
    audit = audit_of(*CLAIMS)
    return replace(
        audit, claims=tuple(replace(each, source=sources[n % len(sources)]) for n, each in enumerate(audit.claims))
    )


@given(st.integers(40, 160), st.text(max_size=200), st.sampled_from([f"claim{n}" for n in range(1, 7)]))
def test_no_line_is_wider_than_its_panel_and_the_chosen_claim_stands_on_its_line(
    width: int, quoted: str, chosen: str
) -> None:
    audit = sourced(Source("box", "2026-02-20", quoted), Source(), Source("manual", None, "short"))
    text, at = said_and_claimed(audit, judge(audit, PROFILE), chosen, width, PALETTE)
    lines = text.plain.split("\n")
    assert all(len(line) <= width + 2 for line in lines)
    assert "▸" in lines[at]


def test_claims_from_the_same_words_stand_together() -> None:
    audit = sourced(Source("box", "2026-02-20", "one"), Source("box", "2026-02-20", "two"))
    assert [claim.id for claim in in_order(audit)] == ["claim1", "claim3", "claim5", "claim2", "claim4", "claim6"]


def test_an_audit_without_claims_says_which_key_makes_one() -> None:
    audit = audit_of()
    text, _ = said_and_claimed(audit, judge(audit, PROFILE), None, 80, PALETTE)
    assert "press s to add a socket" in text.plain


@pytest.mark.parametrize(
    ("printed", "words"),
    [(6, "and 6 ports are listed"), (7, "host port included"), (9, "but 6 ports are listed"),
     (None, "count on the box: none")],
)  # fmt: skip
def test_sockets_are_counted_by_one_rule_and_told_beside_the_number_on_the_box(printed: int | None, words: str) -> None:
    audit = audit_of(*CLAIMS, device=replace(HUB, printed_count=printed))
    told = what_it_is_for(audit, judge(audit, PROFILE), "A1", 70, PALETTE).plain.replace("\n", " ")
    assert words in told
    assert "counted: A1 A2 S1 N1 H1 P1" in told


@given(st.integers(40, 120))
def test_the_grid_fits_its_panel_and_every_socket_has_a_row(width: int) -> None:
    audit = with_trial(audit_of(*CLAIMS), "A1/storage", *rates("A1", 450))
    lines = what_it_is_for(audit, judge(audit, PROFILE), "A1", width, PALETTE).plain.split("\n")
    for port in ("A1", "A2", "S1", "N1", "H1", "P1", "UP"):
        assert any(line.startswith(f"{port} ") for line in lines)
    assert all(len(line) <= width + 12 for line in lines)
    assert "= 5 Gb/s" in "\n".join(lines)


def test_what_is_to_be_bought_and_what_was_borrowed_is_told() -> None:
    supply = replace(galley().supplies[0], origin=Origin.BORROWED)
    rig = replace(galley(), supplies=(supply,))
    device = replace(HUB, extras=(Extra("HDMI lead", Price(12.0, "EUR")), Extra("bag")), disclosure="lent \x1b[31mby")
    audit = audit_of(*CLAIMS, device=device, rig=rig)
    told = what_it_is_for(audit, judge(audit, PROFILE), None, 110, PALETTE).plain
    assert "HDMI lead, price 12 EUR; bag" in told
    assert f"gear used with it: {supply.name}" in told
    assert "\x1b" not in told


@given(st.lists(st.text(st.characters(codec="ascii", categories=["L"]), min_size=1, max_size=20), max_size=20),
       st.integers(20, 160))  # fmt: skip
def test_offers_are_cut_where_the_line_ends(offers: list[str], width: int) -> None:
    line = offers_line(offers, 0, width, PALETTE).plain
    assert len(line) <= width
    assert (line == "") == (not offers or len(offers[0]) + 2 > width - 5)
