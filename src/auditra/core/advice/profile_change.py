"""What another score profile changes: the score of a device, and which lines of its ledger moved it."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal

from auditra.core.judge.judgement import Judgement
from auditra.core.judge.score import POINT, Line, Score
from auditra.core.model.profile import Profile


@dataclass(frozen=True)
class Moved:
    """One line of the ledger: what it takes from 100 under either profile."""

    text: str
    lost_before: Decimal
    lost_now: Decimal

    @property
    def by(self) -> Decimal:
        """By how much it moves the score; what costs more moves it down."""
        return self.lost_before - self.lost_now


@dataclass(frozen=True)
class ProfileChange:
    """Two profiles beside each other, on the same verdicts."""

    before: str
    now: str
    score_before: Decimal | None
    moved: tuple[Moved, ...]
    """What moved the score, the most first."""


def profile_change(judgement: Judgement, before: Profile, now: Profile, device: str) -> ProfileChange:
    """What `now` says otherwise than `before` of one device; undecided claims move nothing."""
    old, new = (judgement.scored_with(profile)[device] for profile in (before, now))
    lost_before, lost_now = _lost(old), _lost(new)
    moved = (
        Moved(text, lost_before.get(text, Decimal(0)), lost_now.get(text, Decimal(0)))
        for text in dict.fromkeys([*lost_now, *lost_before])
    )
    changed = sorted((each for each in moved if each.by), key=lambda each: -abs(each.by))
    return ProfileChange(before.name, now.name, old.value, tuple(changed))


def _lost(score: Score) -> dict[str, Decimal]:
    """How much of 100 each decided line takes away."""
    if not score.weight_decided:
        return {}
    return {line.text: _share(line, score.weight_decided) for line in score.ledger if line.earned is not None}


def _share(line: Line, whole: Decimal) -> Decimal:
    return (100 * (line.weight - line.highest) / whole).quantize(POINT, ROUND_HALF_EVEN)
