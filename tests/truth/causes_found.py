"""How often the planted cause is named, how often another one, and how often "95 % sure" is right."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Finding, Sureness
from auditra.core.judge.judgement import judge
from tests.support.audits import PROFILE
from tests.truth.cause_case import Planted
from tests.truth.cause_worlds import CAUSE_WORLDS

NAMES_NO_CAUSE = ("no baseline", "chance")
"""What says why nothing can be said."""
LEAST_RIGHT, MOST_WRONG, LEAST_SURE = 0.95, 0.01, 0.95


@dataclass
class Tally:
    """Audits in which the cause could be told, and what was named."""

    audits: int = 0
    can_tell: int = 0
    right: int = 0
    wrong: int = 0
    sure: int = 0
    sure_and_right: int = 0

    @property
    def is_as_promised(self) -> bool:
        return (
            self.right >= LEAST_RIGHT * self.can_tell
            and self.wrong <= MOST_WRONG * self.audits
            and self.sure_and_right >= LEAST_SURE * self.sure
        )

    def __str__(self) -> str:
        named = f"right cause in {self.right} of {self.can_tell} audits that can tell"
        sure = f'"95 % sure" right in {self.sure_and_right} of {self.sure}'
        return f"{self.audits} audits with a planted cause: {named}, a wrong one in {self.wrong}; {sure}"


def is_right(finding: Finding, planted: Planted) -> bool:
    return bool(planted.kind) and finding.kind == planted.kind and planted.subject in finding.subject


def tally(audits: int, seed: int = 0) -> tuple[Tally, list[str]]:
    """What the judge named in so many audits, of each world in turn; and each that it got wrong, in words."""
    found, words = Tally(), []
    for planted in planted_audits(audits, seed):
        reasons = [finding for finding in judge(planted.audit, PROFILE).findings if finding.kind not in NAMES_NO_CAUSE]
        right = [finding for finding in reasons if is_right(finding, planted)]
        wrong = [finding for finding in reasons if not is_right(finding, planted)]
        found.audits += 1
        found.can_tell += planted.can_tell
        found.right += planted.can_tell and bool(right)
        found.wrong += bool(wrong)
        for finding in reasons:
            if finding.sure is Sureness.SURE:
                found.sure += 1
                found.sure_and_right += finding in right
        words += [f"{planted.name}: {finding.sentence}" for finding in wrong]
        words += [f"{planted.name}: not named"] if planted.can_tell and not right else []
    return found, words


def planted_audits(count: int, seed: int = 0) -> Iterator[Planted]:
    for number in range(count):
        yield CAUSE_WORLDS[number % len(CAUSE_WORLDS)](random.Random(seed * 1_000_003 + number))
