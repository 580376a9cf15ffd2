"""Values that a person reads elsewhere and types, for what a bench has no door: questioned, never changed."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.errors import QuantityError
from auditra.core.links.display import parse_mode
from auditra.core.model.reading import Count, Grade, Quantity, Reading, Words
from auditra.core.model.rig import Peer
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.procedures.procedure import Wanted
from auditra.core.procedures.registry import procedure_of
from auditra.core.quantities.parsing import parse_typed
from auditra.workflows.trials.measure.look import THE_EYE, WITNESS, confirmed, doubt_about, typed_reading
from auditra.workflows.trials.measure.session import MAX_TRIES, TrialSession
from auditra.workflows.trials.measure.waiting import soak_by_hand


def measure_by_hand(session: TrialSession) -> Outcome:
    """What the person types for each value of the procedure. Raises: TrialStopped."""
    procedure = procedure_of(session.planned.procedure)
    if procedure.all_at_once:
        session.bench.person.wait(f"Keep {' and '.join(session.planned.setup.running)} running at the same time", 0.0)
        return _each_in_turn(session)
    spot = "without the device" if session.planned.port is None else f"at {session.planned.port}"
    seen = session.ask_yes_or_no(f"Does it appear {spot}?")
    session.take(session.reading(Quantity.APPEARED, THE_EYE, Grade.SEEN, Count(int(seen), 1)))
    if not seen:
        return Outcome.DID_NOT_APPEAR
    if session.planned.setup.soaked_s:
        soak_by_hand(session)
    for wanted in procedure.typed:
        reading = _typed(session, wanted)
        if reading is not None:
            session.take(reading)
    return Outcome.COMPLETE


def _each_in_turn(session: TrialSession) -> Outcome:
    outcome = Outcome.COMPLETE
    for each in session.planned.setup.members:
        gear = session.rig.find(each.gear)
        if gear is not None:
            procedure = ProcedureId.NETWORK if isinstance(gear, Peer) else ProcedureId.STORAGE
            planned = replace(session.planned, port=each.socket, gear=gear.id, procedure=procedure)
            if measure_by_hand(replace(session, planned=planned)) is not Outcome.COMPLETE:
                outcome = Outcome.DID_NOT_APPEAR
    return outcome


def _typed(session: TrialSession, wanted: Wanted) -> Reading | None:
    """The value as it was typed; None where there is nothing to say. A doubtful one is kept if typed twice."""
    asked = f"{wanted.quantity} at {session.spot}, as read elsewhere (leave empty to skip)"
    question, before = asked, ""
    for _ in range(MAX_TRIES):
        text = session.bench.person.ask(question, wanted.example).strip()
        if not text:
            return None
        try:
            reading = _reading(session, wanted, text)
        except QuantityError as error:
            question = f"{error.why}. {error.do}. {asked}"
            continue
        doubt = doubt_about(session, reading)
        if not doubt or text == before:
            return confirmed(session, reading, doubt) if doubt else reading
        question, before = f"{doubt} Type it again to confirm, or correct it. {asked}", text
    return None


def _reading(session: TrialSession, wanted: Wanted, text: str) -> Reading:
    """Raises: QuantityError."""
    if not wanted.dimensions:
        mode = str(parse_mode(text))
        return session.reading(wanted.quantity, WITNESS, Grade.TYPED, Words(mode))
    value, digit = parse_typed(text, *wanted.dimensions)
    reading = session.number(wanted.quantity, WITNESS, (value,), resolution=digit)
    return typed_reading(session, replace(reading, typed=text))
