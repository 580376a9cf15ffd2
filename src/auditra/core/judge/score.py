"""The score with its band and the ledger that it is the sum of, in decimal arithmetic to the last digit."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal

from auditra.core.claims.claim import Claim
from auditra.core.judge.finding import Finding
from auditra.core.judge.profile import Profile
from auditra.core.model.verdict import Verdict

POINT = Decimal("0.1")
DANGER_CAP = Decimal(20)
"""The most a device can score that hands back other bytes than it was given."""

Scored = tuple[Claim, Verdict, Decimal, Decimal]


@dataclass(frozen=True)
class Line:
    """One line of the ledger. `earned` is None while the claim is undecided; a finding has no `weight`."""

    text: str
    verdict: Verdict | None
    lowest: Decimal
    highest: Decimal
    weight: Decimal
    claim: str | None = None

    @property
    def earned(self) -> Decimal | None:
        return self.highest if self.verdict is None or self.verdict.decided else None


@dataclass(frozen=True)
class Score:
    """Out of 100: where it stands (None while nothing is decided), and the least and most it could still become."""

    value: Decimal | None
    lowest: Decimal
    highest: Decimal
    ledger: tuple[Line, ...]
    earned: Decimal
    weight_decided: Decimal
    weight: Decimal
    danger: str = ""
    """Why the score is capped; empty where it is not."""


def score_claims(claims: Sequence[Scored], unstated: Iterable[Finding], profile: Profile, danger: str = "") -> Score:
    """The score over decided claims, its band over all of them, less what unstated drawbacks cost; a danger caps it."""
    lines = [_line(*scored, weight=profile.weight(scored[0].promise.words)) for scored in claims]
    lines += [Line(each.sentence, None, -each.points, -each.points, Decimal(0)) for each in unstated if each.points]
    decided = [line for line in lines if line.earned is not None]
    weight_decided = sum((line.weight for line in decided), Decimal(0))
    weight = sum((line.weight for line in lines), Decimal(0))
    earned = sum((line.highest for line in decided), Decimal(0))
    most = DANGER_CAP if danger else Decimal(100)
    return Score(
        value=_share(earned, weight_decided, most) if weight_decided else None,
        lowest=_share(sum((line.lowest for line in lines), Decimal(0)), weight, most),
        highest=_share(sum((line.highest for line in lines), Decimal(0)), weight, most),
        ledger=tuple(lines),
        earned=earned,
        weight_decided=weight_decided,
        weight=weight,
        danger=danger,
    )


def _line(claim: Claim, verdict: Verdict, lowest: Decimal, highest: Decimal, *, weight: Decimal) -> Line:
    return Line(str(claim), verdict, _points(lowest, weight), _points(highest, weight), weight, claim.id)


def _points(credit: Decimal, weight: Decimal) -> Decimal:
    """Credit as points. Rounded here, once, so that the ledger's lines add up to its foot exactly."""
    return (credit * weight).quantize(POINT, ROUND_HALF_EVEN)


def _share(points: Decimal, weight: Decimal, most: Decimal) -> Decimal:
    if not weight:
        return Decimal(0)
    return min(most, max(Decimal(0), 100 * points / weight)).quantize(POINT, ROUND_HALF_EVEN)
