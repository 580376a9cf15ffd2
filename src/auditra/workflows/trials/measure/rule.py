"""A length, read off a rule by a person."""

from __future__ import annotations

from auditra.core.errors import QuantityError
from auditra.core.model.reading import Grade, Quantity
from auditra.core.model.rig import Rule
from auditra.core.model.trial import Outcome
from auditra.core.quantities.parsing import parse_typed
from auditra.core.quantities.units import Dimension
from auditra.workflows.trials.doors import Person
from auditra.workflows.trials.measure.session import TrialSession


def ask_length(person: Person, port: str) -> float:
    """The length that a person types, in metres; a bare number is centimetres. Raises: TrialStopped."""
    question = f"How long is {port}, by the rule?"
    while True:
        text = person.ask(question, "15.1 cm").strip()
        try:
            return parse_typed(f"{text} cm" if text[-1:].isdigit() else text, Dimension.LENGTH)[0]
        except QuantityError as error:
            question = f"{error.why}. {error.do}"


def measure(session: TrialSession) -> Outcome:
    """The length that the person read. Raises: TrialStopped."""
    rule = session.rig.find(session.planned.gear)
    division = rule.division_m if isinstance(rule, Rule) else 0.001
    metres = session.bench.person.read_rule(session.spot, session.planned.why)
    name = rule.name if rule else "rule"
    session.take(session.number(Quantity.LENGTH, name, (metres,), grade=Grade.TYPED, resolution=division))
    return Outcome.COMPLETE
