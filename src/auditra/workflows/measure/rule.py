"""A length, read off a rule by a person."""

from __future__ import annotations

from auditra.core.audit.reading import Grade, Quantity
from auditra.core.audit.rig import Rule
from auditra.core.audit.trial import Outcome
from auditra.workflows.measure.session import Session


def measure_length(session: Session) -> Outcome:
    """The length that the person read. Raises: TrialStopped."""
    rule = session.rig.find(session.planned.gear)
    division = rule.division_m if isinstance(rule, Rule) else 0.001
    metres = session.bench.person.read_rule(session.spot, session.planned.why)
    name = rule.name if rule else "rule"
    session.take(session.number(Quantity.LENGTH, name, (metres,), grade=Grade.TYPED, resolution=division))
    return Outcome.COMPLETE
