"""Remarks and proposals in words: nothing is wider than its panel, what is chosen stands where it is said to."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from auditra.core.advert.proposal import Proposal
from auditra.core.paper_check.check import check
from auditra.core.paper_check.remark import Remark, Weight
from auditra.tui.renderables.proposals import Fate, proposals_in_words
from auditra.tui.stages.paper.text import remarks_in_words
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from tests.support.audits import HUB, audit_of

PALETTE = PALETTES[DEFAULT_PALETTE]
REMARKS = check(HUB, audit_of("P1 takes 90 W", "A1 data 5 Gb/s", "A1 data 10 Gb/s", "H1 shows 7680x4320@60").claims)


@given(st.integers(60, 140), st.integers(0, len(REMARKS) - 1), st.text(max_size=120))
def test_remarks_fit_their_panel_and_an_answer_stands_with_its_remark(width: int, chosen: int, answer: str) -> None:
    key = REMARKS[chosen].key
    text, at = remarks_in_words(REMARKS, {key: answer}, key, width, PALETTE)
    lines = text.plain.split("\n")
    assert "▸" in lines[at]
    assert f"{len(REMARKS) - 1} not answered" in lines[0]
    assert all(len(line) <= max(width, 100) for line in lines)


def test_a_sum_of_several_steps_has_a_line_for_each() -> None:
    remark = Remark(
        "r", Weight.DOUBTFUL, "it may be", ("1 + 1 = 2", "2 < 3"), "Why?", "arithmetic", ("A1 data 5 Gb/s",)
    )
    lines = remarks_in_words([remark], {}, remark.key, 100, PALETTE)[0].plain.split("\n")
    assert [line.strip() for line in lines[3:7]] == ["A1 data 5 Gb/s", "1 + 1 = 2", "2 < 3", "ask: Why?"]


def test_claims_that_add_up_are_told_so() -> None:
    assert "No contradictions found on paper" in remarks_in_words([], {}, None, 100, PALETTE)[0].plain


PROPOSALS = st.lists(
    st.builds(
        Proposal, st.sampled_from(["A1 data 5 Gb/s", "body weighs 95 g"]), st.text(max_size=80), st.floats(0.1, 1.0)
    ),
    min_size=1,
    max_size=8,
)


@given(PROPOSALS, st.lists(st.text(max_size=80), max_size=4), st.integers(50, 150), st.data())
def test_proposals_fit_their_panel_and_the_chosen_one_is_marked(
    proposals: list[Proposal], left: list[str], width: int, data: st.DataObject
) -> None:
    at = data.draw(st.integers(0, len(proposals) - 1))
    fates = {proposals[0].sentence: Fate.TAKEN}
    text, line = proposals_in_words(proposals, left, fates, at, width, PALETTE)
    lines = text.plain.split("\n")
    assert lines[line].startswith("▸")
    assert "taken" in text.plain
    assert all(len(each) <= max(width, 72) for each in lines)
    assert all(each.isprintable() for each in lines)
