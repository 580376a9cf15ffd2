"""Every cause is found where it is, and nowhere else."""

from __future__ import annotations

from pathlib import Path

import pytest

from auditra.core.judge.finding import Role
from auditra.core.judge.judgement import judge
from auditra.core.judge.reasoning.reasons import all_causes
from tests.support.audits import PROFILE
from tests.support.cause_cases import CauseCase, cause_cases

CASES = tuple(cause_cases())


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.name)
def test_a_cause_is_found_where_it_is_and_nowhere_else(case: CauseCase) -> None:
    found = [finding for finding in judge(case.audit, PROFILE).findings if finding.kind == case.cause]
    if case.expected is None:
        assert [finding.sentence for finding in found] == []
        return
    assert any(case.expected in finding.subject for finding in found), [each.subject for each in found]
    assert all(finding.sentence and finding.sentence == finding.sentence.strip() for finding in found)


def test_every_cause_has_a_true_and_a_false_case_and_says_where_its_reasoning_is_from() -> None:
    told = {case.cause: {each.expected is not None for each in CASES if each.cause == case.cause} for case in CASES}
    assert set(told) == {cause.id for cause in all_causes()}
    assert all(sides == {True, False} for sides in told.values())
    assert all(cause.source and cause.needs for cause in all_causes())


def test_a_danger_stands_first_and_caps_the_score() -> None:
    case = next(case for case in CASES if case.cause == "over voltage" and case.expected)
    judgement = judge(case.audit, PROFILE)
    assert judgement.findings[0].role is Role.DANGER
    assert judgement.score.danger == judgement.findings[0].sentence


def test_every_cause_stands_in_the_documentation_with_what_it_needs() -> None:
    page = (Path(__file__).parents[3] / "docs" / "causes.md").read_text(encoding="utf-8")
    for cause in all_causes():
        (row,) = (line for line in page.splitlines() if line.startswith(f"| `{cause.id}` |"))
        assert cause.needs in row
        assert cause.source in row
