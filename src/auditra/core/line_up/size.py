"""How many audits are lined up. In a file of its own: the shelf asks before anything larger is loaded."""

from __future__ import annotations

from collections.abc import Iterable

from auditra.core.model.kind import is_cable

FEWEST, MOST = 2, 6
MOST_LEADS = 40
"""Leads have a row each in a drawer, where devices have a column."""


def most_of(kinds: Iterable[str]) -> int:
    """How many devices of these kinds are lined up at most."""
    are_leads = [is_cable(kind) for kind in kinds]
    return MOST_LEADS if are_leads and all(are_leads) else MOST
