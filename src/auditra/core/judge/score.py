"""The score with its band and the ledger that it is the sum of, in decimal arithmetic to the last digit."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal

from auditra.core.decide.rules import as_credit
from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Finding
from auditra.core.model.profile import Profile
from auditra.core.model.verdict import Verdict

POINT = Decimal("0.1")


@dataclass(frozen=True)
class Line:
    """One line of the ledger. `earned` is None while the claim is undecided; a finding has no `weight`."""

    text: str
    verdict: Verdict | None
    lowest: Decimal
    highest: Decimal
    weight: Decimal
    claim: str | None = None
    finding: Finding | None = None
    """The drawback that costs it; None for a claim."""

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


def scores_of(
    audit: Audit,
    verdicts: Sequence[ClaimVerdict],
    unstated: Sequence[Finding],
    dangers: Sequence[Finding],
    profile: Profile,
) -> Mapping[str, Score]:
    """The score of each device of an audit by its id, from its own claims; a drawback is charged to its device."""
    devices = audit.devices or (audit.device,)
    found: dict[str, Score] = {}
    for device in devices:
        own = [verdict for verdict in verdicts if verdict.claim.device == device.id]
        claims = {verdict.claim.id for verdict in own}
        drawbacks = [each for each in unstated if _is_of(each, device.id == audit.device.id, claims)]
        danger = next((each.sentence for each in dangers if not each.claims or claims & set(each.claims)), "")
        found[device.id] = score_claims(own, drawbacks, profile, danger)
    return found


def _is_of(finding: Finding, is_first: bool, claims: set[str]) -> bool:
    """A drawback that names claims is of their device; any other is of the first one, whose ports are shown."""
    return bool(claims & set(finding.claims)) if finding.claims else is_first


def score_claims(
    verdicts: Sequence[ClaimVerdict], unstated: Iterable[Finding], profile: Profile, danger: str = ""
) -> Score:
    """The score over decided claims, its band over all of them, less what unstated drawbacks cost; a danger caps it."""
    lines = [_line(verdict, profile) for verdict in verdicts]
    costs = ((each, profile.drawback(each.kind)) for each in unstated)
    lines += [Line(each.sentence, None, -cost, -cost, Decimal(0), finding=each) for each, cost in costs if cost]
    decided = [line for line in lines if line.earned is not None]
    weight_decided = sum((line.weight for line in decided), Decimal(0))
    weight = sum((line.weight for line in lines), Decimal(0))
    earned = sum((line.highest for line in decided), Decimal(0))
    most = profile.limits.danger_cap if danger else Decimal(100)
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


def _line(verdict: ClaimVerdict, profile: Profile) -> Line:
    weight = profile.weight(verdict.claim.promise.words)
    lowest, highest = (_points(credit, weight) for credit in credits_of(verdict, profile))
    return Line(str(verdict.claim), verdict.verdict, lowest, highest, weight, verdict.claim.id)


def credits_of(verdict: ClaimVerdict, profile: Profile) -> tuple[Decimal, Decimal]:
    """The least and most share of its weight that a claim earns. One that holds under a condition earns the use that
    is left by the profile's table, and never more than what was shown."""
    if verdict.verdict is Verdict.HOLDS_IF:
        left = min(verdict.highest, as_credit(float(profile.use_left(verdict.unless))))
        return left, left
    return verdict.lowest, verdict.highest


def _points(credit: Decimal, weight: Decimal) -> Decimal:
    """Credit as points. Rounded here, once, so that the ledger's lines add up to its foot exactly."""
    return (credit * weight).quantize(POINT, ROUND_HALF_EVEN)


def _share(points: Decimal, weight: Decimal, most: Decimal) -> Decimal:
    if not weight:
        return Decimal(0)
    return min(most, max(Decimal(0), 100 * points / weight)).quantize(POINT, ROUND_HALF_EVEN)
