"""Pull what drew power, and read what voltage is left a second later: by then there must be none."""

from __future__ import annotations

from auditra.core.claims.promise import Look
from auditra.core.errors import BenchError
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import Outcome
from auditra.core.quantities.units import Dimension
from auditra.workflows.trials.measure.look import ask
from auditra.workflows.trials.measure.session import TrialSession


def measure(session: TrialSession) -> Outcome:
    """The voltage that a bare meter shows, as the person reads it. Raises: TrialStopped; BenchError for no answer."""
    name = session.rig.name_of(session.planned.gear)
    question = (
        f"Pull the {name} from {session.spot}, and a second later put a meter there: how many volts does it show?"
    )
    taken = ask(session, Look(question, Quantity.VOLTAGE_LEFT, "0.1 V", (Dimension.VOLTAGE,)))
    if not taken:
        why = "no voltage was typed"
        raise BenchError(f"trial {session.trial}", why=why, do="Start it again when it can be read")
    session.take(*taken)
    return Outcome.COMPLETE
