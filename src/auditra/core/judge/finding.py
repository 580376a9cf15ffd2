"""What the readings show beside the verdicts, and the causes that find it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cache

from auditra.core.found import values_in
from auditra.core.journal.fold import Audit
from auditra.core.judge import causes
from auditra.core.judge.claim_verdict import ClaimVerdict


@dataclass(frozen=True)
class Finding:
    """A sentence, the sum behind it, and the points it costs: none where a claim has lost them already."""

    kind: str
    """The id of its cause."""
    sentence: str
    arithmetic: str
    trials: tuple[str, ...]
    ports: tuple[str, ...] = ()
    points: Decimal = Decimal(0)


@dataclass(frozen=True)
class Cause:
    """One explanation that readings can show."""

    id: str
    source: str
    """Where its reasoning is written."""
    find: Callable[[Audit, Sequence[ClaimVerdict]], Iterable[Finding]]
    unstated: bool = False
    """It is a drawback that no claim speaks of, and costs points by itself; else it explains a claim that fails."""


@cache
def all_causes() -> tuple[Cause, ...]:
    """Every cause, by id."""
    return tuple(sorted(values_in(causes, Cause), key=lambda cause: cause.id))


def find_unstated(audit: Audit) -> tuple[Finding, ...]:
    """Drawbacks that the readings show and no claim speaks of."""
    return tuple(finding for cause in all_causes() if cause.unstated for finding in cause.find(audit, ()))


def find_reasons(audit: Audit, verdicts: Sequence[ClaimVerdict]) -> tuple[Finding, ...]:
    """Why claims fail, as far as the readings show it."""
    return tuple(finding for cause in all_causes() if not cause.unstated for finding in cause.find(audit, verdicts))
