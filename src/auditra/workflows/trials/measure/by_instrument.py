"""Figures that a person would read off and type, taken by instruments of the rig that answer by themselves.

The person still connects everything: where nothing answers, or the source is what gave way, the question is asked.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from auditra.core.claims.promise import Look, ReadOff
from auditra.core.model.reading import Reading
from auditra.workflows.trials.measure.drop import drop_of
from auditra.workflows.trials.measure.frames import largest_frame
from auditra.workflows.trials.measure.passing import own_use_of, passed_through
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.measure.steady_heat import warmest_of

_TAKEN_BY: dict[ReadOff, Callable[[TrialSession, Look], Iterator[Reading]]] = {
    ReadOff.DROP: drop_of,
    ReadOff.THROUGH: passed_through,
    ReadOff.OWN_USE: own_use_of,
    ReadOff.WARMTH: warmest_of,
    ReadOff.FRAME: largest_frame,
}


def read_off(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    """What the instruments say to a question; nothing where there is none for it. Raises: BenchError, TrialStopped."""
    return tuple(_TAKEN_BY[look.read_off](session, look)) if look.read_off is not None else ()
