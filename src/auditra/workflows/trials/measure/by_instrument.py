"""Figures that a person would read off and type, taken by instruments of the rig that answer by themselves.

The person still connects everything: where nothing answers, or the source is what gave way, the question is asked.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from auditra.core.claims.promise import Look
from auditra.core.model.reading import Quantity, Reading
from auditra.workflows.trials.measure.drop import drop_of
from auditra.workflows.trials.measure.frames import largest_frame
from auditra.workflows.trials.measure.passing import own_use_of, passed_through
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.steady_heat import warmest_of

_TAKEN_BY: dict[Quantity, Callable[[TrialSession, Look], Iterator[Reading]]] = {
    Quantity.DROP: drop_of,
    Quantity.CURRENT: passed_through,
    Quantity.POWER: passed_through,
    Quantity.OWN_USE: own_use_of,
    Quantity.CASE_TEMPERATURE: warmest_of,
    Quantity.LARGEST_FRAME: largest_frame,
}


def read_off(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    """What the instruments say to a question; nothing where there is none for it. Raises: BenchError, TrialStopped."""
    taking = _TAKEN_BY.get(look.quantity) if isinstance(look.quantity, Quantity) else None
    return tuple(taking(session, look)) if taking is not None else ()
