"""docs/judging.md explains every rule with an example; here each example is judged."""

from __future__ import annotations

import pytest

from tests.support.worked_examples import DOCUMENT, Example, examples

EXAMPLES = tuple(examples())


@pytest.mark.parametrize("example", EXAMPLES, ids=lambda example: example.title)
def test_the_example_comes_out_as_the_document_says(example: Example) -> None:
    judgement = example.judgement()
    verdict, given = judgement.claims[0], example.given
    assert verdict.verdict.word == given["verdict"], (verdict.shown, verdict.why)
    said = " ".join((
        verdict.shown, verdict.why, verdict.condition, *verdict.not_tried, *verdict.shown_under,
        *(each.why for each in verdict.set_aside), *(each.words for each in judgement.questions),
    ))  # fmt: skip
    for words in given.get("says", ()):
        assert words in said


def test_each_rule_has_an_example_and_each_example_a_rule() -> None:
    headings = [line for line in DOCUMENT.read_text(encoding="utf-8").splitlines() if line.startswith("### ")]
    assert len(headings) == len(EXAMPLES) >= 24
