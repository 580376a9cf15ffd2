"""How often gear was plugged into a port: what comes up now and then passes for sound where that was but once."""

from __future__ import annotations

from collections.abc import Iterable

from auditra.core.journal.audit import TrialRecord
from auditra.core.model.reading import Quantity

LEAST_PLUGS = 3
"""What comes up once in four times does so three times running once in 64."""


def times_plugged(records: Iterable[TrialRecord], port: str) -> int:
    """The times that gear was plugged in there and looked for; gear that stayed from trial to trial counts once."""
    return sum(each.taken.of(Quantity.APPEARED).at(port).count().tries for each in records)
