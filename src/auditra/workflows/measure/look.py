"""What a person looks at and tells: a figure off another screen or a rule, yes or no, how often it worked."""

from __future__ import annotations

import re
from dataclasses import replace

from auditra.core.audit.reading import Count, Grade, Quantity, Reading
from auditra.core.audit.trial import Outcome
from auditra.core.claims.promise import Look
from auditra.core.errors import BenchError, QuantityError
from auditra.core.judge.telling import format_of
from auditra.core.judge.unit_guard import question_range, question_value
from auditra.core.quantities import parse_typed
from auditra.workflows.measure.session import Session

WITNESS = "another screen"
THE_EYE = "the eye"
YES, NO = ("yes", "y"), ("no", "n", "x")
_WITHOUT = "And the same without the device, does it work?"
_MOST_TRIES = 5
_COUNT = re.compile(r"(\d{1,3})(?:\s*(?:of|/)\s*(\d{1,3}))?")


def measure_by_looking(session: Session) -> Outcome:
    """What the person says of the promise. Raises: TrialStopped; BenchError where nothing was said."""
    looks = session.looks
    if not looks:
        raise BenchError(f"trial {session.trial}", why="nothing is asked about it", do="Mend the claim")
    taken = [reading for look in looks for reading in ask(session, look)]
    if not taken:
        raise BenchError(f"trial {session.trial}", why="nothing was told", do="Start it again when it can be seen")
    for reading in taken:
        session.take(reading)
    return Outcome.COMPLETE


def ask_besides(session: Session) -> None:
    """What is promised besides what a procedure reads. Raises: TrialStopped."""
    for look in session.looks_besides:
        for reading in ask(session, look):
            session.take(reading)


def ask(session: Session, look: Look) -> tuple[Reading, ...]:
    """The readings that an answer makes; none where nothing was said. Raises: TrialStopped."""
    if look.dimensions:
        return _number(session, look)
    return _counted(session, look) if look.tries else _yes_or_no(session, look)


def _said(session: Session, question: str, look: Look) -> str:
    return session.bench.person.look(session.spot, look, question).strip()


def _number(session: Session, look: Look) -> tuple[Reading, ...]:
    """A figure as it was typed; a doubtful one is kept if typed twice."""
    question, before = f"{look.question} (empty for not noted)", ""
    for _ in range(_MOST_TRIES):
        text = _said(session, question, look)
        if not text:
            return ()
        try:
            value, digit = parse_typed(text, *look.dimensions)
        except QuantityError as error:
            question = f"{error.why}. {error.do}"
            continue
        reading = Reading(session.trial, look.quantity, session.spot, WITNESS, Grade.TYPED, (value,), resolution=digit)
        reading = replace(reading, unit="" if reading.si_unit else look.dimensions[0].value)
        doubt = doubt_about(session, reading)
        if not doubt or text == before:
            return (replace(reading, note=f"questioned: {doubt}" if doubt else ""),)
        question, before = f"{doubt} Type it again if it is so, or mend it", text
    return ()


def doubt_about(session: Session, reading: Reading) -> str:
    """What the unit guard asks about a value; empty where it is plain."""
    if reading.values and (outside := question_range(reading.quantity, reading.values[0], _shown(reading))):
        return outside
    for scale in session.scales:
        if reading.values and reading.quantity in scale.quantities:
            return question_value(reading.values[0], scale, _shown(reading))
    return ""


def _shown(reading: Reading) -> str:
    return format_of(reading, reading.values[0]).show(reading.values[0])


def _yes_or_no(session: Session, look: Look) -> tuple[Reading, ...]:
    question = f"{look.question} (yes, or no)"
    for _ in range(_MOST_TRIES):
        text = _said(session, question, look).lower()
        if not text:
            return ()
        if text in (*YES, *NO):
            at = Reading(session.trial, look.quantity, session.spot, THE_EYE, Grade.TYPED, yes=text in YES)
            return (at,)
        question = f'"{text[:20]}" is neither: {look.question} (yes, or no)'
    return ()


def _counted(session: Session, look: Look) -> tuple[Reading, ...]:
    """How often it worked; after a failure, also how often without the device, so that the rig is not missed."""
    found = _count(session, look, look.question)
    if found is None:
        return ()
    readings = [_reading(session, Quantity.WORKS, found)]
    if found.seen < found.tries:
        without = _count(session, look, f"{_WITHOUT} In how many of {look.tries} tries? (empty: not tried)")
        readings += [_reading(session, Quantity.WORKS_WITHOUT, without)] if without else []
    return tuple(readings)


def _reading(session: Session, quantity: Quantity, count: Count) -> Reading:
    return session.reading(quantity, THE_EYE, Grade.SEEN, count=count)


def _count(session: Session, look: Look, question: str) -> Count | None:
    for _ in range(_MOST_TRIES):
        text = _said(session, question, look).lower()
        text = f"{look.tries}" if text in YES else "0" if text in NO else text
        if not text:
            return None
        match = _COUNT.fullmatch(text)
        if match is not None:
            count = Count(int(match[1]), int(match[2] or look.tries))
            if 0 <= count.seen <= count.tries and count.tries:
                return count
        question = f'"{text[:20]}" is no count such as {look.hint}. {look.question}'
    return None
