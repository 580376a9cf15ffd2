"""Recording an action in a journal that other windows and commands may write to at the same time."""

from __future__ import annotations

from collections.abc import Callable

from auditra.core.errors import LibraryBusy, StaleHead
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact
from auditra.workflows.trials.doors import Clock, Journal

Action = tuple[str, tuple[Fact, ...]]
"""What an action is called in the journal, and its facts."""
_MAX_REPEATS = 50


def record_action(make: Callable[[Audit], Action], journal: Journal, clock: Clock) -> Action:
    """Record what `make` makes of the newest audit, as one action.

    Where another writer is faster it is made again on what is there then, so that no id is given twice and nothing is
    overwritten. Raises: what `make` raises, FactRefused, StoreError; then nothing was recorded.
    """
    for _ in range(_MAX_REPEATS):
        audit, head = journal.read()
        name, facts = make(audit)
        try:
            journal.append(facts, action=name, at=clock.moment(), after=head)
        except StaleHead:
            continue
        return name, facts
    raise LibraryBusy("the journal", why="other processes keep writing to it", do="Try again in a moment")
