"""Read back the mode that a display runs."""

from __future__ import annotations

from auditra.core.model.reading import Grade, Quantity, Words
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.measure.session import TrialSession

PICTURE_WITHIN_S = 15.0
WITNESS = "mode read back"


def measure(session: TrialSession) -> Outcome:
    """The mode on the display under test. Raises: BenchError, TrialStopped."""
    displays, display = session.need(session.bench.displays, "way to read a display back"), session.planned.gear
    mode = session.wait_for(lambda: displays.mode_of(display), "waiting for a picture", PICTURE_WITHIN_S)
    outcome = session.appeared(mode is not None, witness=WITNESS)
    if mode is not None:
        session.take(session.reading(Quantity.MODE, WITNESS, Grade.READ, Words(str(mode))))
    return outcome
