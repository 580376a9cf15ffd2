"""Every cause, asked in turn."""

from __future__ import annotations

from functools import cache

from auditra.core.found import values_in
from auditra.core.judge import causes
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.explained import Explained
from auditra.core.judge.reasoning.inquiry import Inquiry


@cache
def all_causes() -> tuple[Cause, ...]:
    """Every cause, the gravest role first, then by id."""
    order = list(Role)
    return tuple(sorted(values_in(causes, Cause), key=lambda cause: (order.index(cause.role), cause.id)))


def find_all(inquiry: Inquiry, *roles: Role) -> tuple[Finding, ...]:
    """What the readings show, of these roles; of all where none is named."""
    found = [finding for cause in all_causes() if not roles or cause.role in roles for finding in cause.find(inquiry)]
    return tuple(finding for finding in found if not _says_less(finding, found))


def _says_less(finding: Finding, found: list[Finding]) -> bool:
    """Whether another finding explains the same claims with figures: what elimination left is not listed then."""
    claims = set(finding.claims)
    return isinstance(finding, Explained) and any(other.settles and claims <= set(other.claims) for other in found)
