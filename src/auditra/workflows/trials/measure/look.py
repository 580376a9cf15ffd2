"""What a person looks at and reports: a figure off another screen or a rule, yes or no, how often it worked."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from auditra.core.claims.promise import Look
from auditra.core.decide.instrument_error import instruments_of, limit_of_drop, limit_of_error
from auditra.core.decide.reading_text import format_of
from auditra.core.errors import BenchError, QuantityError
from auditra.core.journal.facts import RemarkAnswered
from auditra.core.judge.slips import question_range, question_value
from auditra.core.judge.unit_guard import question_key
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, YesNo
from auditra.core.model.trial import Outcome
from auditra.core.quantities.parsing import parse_typed
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.measure.by_instrument import read_off
from auditra.workflows.trials.measure.session import MAX_TRIES, NO, YES, TrialSession, neither

WITNESS = "another screen"
THE_EYE = "the eye"
_WITHOUT = "And the same without the device, does it work?"
_ANOTHER = "And with another one of its kind in its place?"
_COUNT = re.compile(r"(\d{1,3})(?:\s*(?:of|/)\s*(\d{1,3}))?")


def measure(session: TrialSession) -> Outcome:
    """What the person says of the promise. Raises: TrialStopped; BenchError where nothing was said."""
    looks = session.looks
    if not looks:
        raise BenchError(f"trial {session.trial}", why="there is no question for it", do="Edit the claim")
    taken = [reading for look in looks for reading in ask(session, look)]
    if not taken:
        raise BenchError(f"trial {session.trial}", why="no answer was given", do="Start it again when it can be seen")
    for reading in taken:
        session.take(reading)
    session.measured_behind.update(each.behind_a for each in taken if isinstance(each.behind_a, float))
    return Outcome.COMPLETE


def ask_besides(session: TrialSession) -> None:
    """What is promised besides what a procedure reads. Raises: TrialStopped."""
    for look in session.looks_besides:
        if look.quantity is Quantity.CURRENT and session.measured_behind:
            continue  # the current that flowed is part of what was measured
        for reading in ask(session, look):
            session.take(reading)


def ask(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    """The readings that an answer makes, an instrument's or a person's; none where nothing was said.

    Raises: InstrumentError, TrialStopped.
    """
    if look.dimensions:
        taken = read_off(session, look) or _number(session, look)
        return (*taken, *_without(session, look, taken))
    return _counted(session, look) if look.tries else _yes_or_no(session, look)


def _without(session: TrialSession, look: Look, taken: tuple[Reading, ...]) -> tuple[Reading, ...]:
    """The same with another thing in its place, where a figure falls short and that tells whose fault it is."""
    owed = next((scale.limit for scale in session.scales if look.quantity in scale.quantities), None)
    short = owed is not None and any(min(each.values) < owed for each in taken if each.values)
    if look.without is None or not short:
        return ()
    return _number(session, replace(look, question=_ANOTHER, quantity=look.without, without=None))


def _said(session: TrialSession, question: str, look: Look) -> str:
    return session.bench.person.look(session.spot, look, question).strip()


def _number(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    """A figure as it was typed; a doubtful one is kept if typed twice."""
    asked = f"{look.question} (leave empty to skip)"
    question, before = asked, ""
    for _ in range(MAX_TRIES):
        text = _said(session, question, look)
        if not text:
            return ()
        try:
            value, digit = parse_typed(text, *look.dimensions)
        except QuantityError as error:
            question = f"{error.why}. {error.do}. {asked}"
            continue
        reading = Reading(
            session.trial, look.quantity, session.spot, WITNESS, Grade.TYPED, Number((value,)), resolution=digit
        )
        reading = replace(reading, unit="" if reading.si_unit else look.dimensions[0].value, typed=text)
        reading = typed_reading(session, reading)
        doubt = doubt_about(session, reading)
        if not doubt or text == before:
            return (confirmed(session, reading, doubt) if doubt else reading,)
        question, before = f"{doubt} Type it again to confirm, or correct it. {asked}", text
    return ()


def typed_reading(session: TrialSession, reading: Reading) -> Reading:
    """A typed figure with the error of the instrument of the rig that it was read from; without one it is sure to half
    its last digit. Where several could have been read, the least accurate counts.

    An instrument whose error is known makes it a reading of grade 4, even when it was read by eye.
    """
    known = [(error, name) for error, name in _errors(session, reading) if error > 0]
    if not known:
        return replace(reading, grade=Grade.TYPED)
    error, name = max(known)
    return replace(reading, instrument=name, error=error, grade=Grade.READ)


def _errors(session: TrialSession, reading: Reading) -> Iterator[tuple[float, str]]:
    """The limit of error of each instrument that such a figure can be read from, in SI, and its name."""
    value = max(map(abs, reading.values), default=0.0)
    for instrument in instruments_of(session.rig):
        stated = limit_of_error(instrument, reading.quantity, value)
        yield stated or (limit_of_drop(instrument) if reading.quantity is Quantity.DROP else 0.0), instrument.name


def confirmed(session: TrialSession, reading: Reading, doubt: str) -> Reading:
    """A value that was questioned and typed again: that answers the question, and the note keeps it."""
    key = question_key(reading.trial, reading.at, str(reading.quantity))
    session.put(RemarkAnswered(key, "confirmed by typing it again"))
    return replace(reading, note=f"questioned: {doubt}")


def doubt_about(session: TrialSession, reading: Reading) -> str:
    """What the unit guard asks about a value; empty where it is plain."""
    if reading.values and (outside := question_range(reading.quantity, reading.values[0], _shown(reading))):
        return outside
    for scale in session.scales:
        if reading.values and reading.quantity in scale.quantities:
            return question_value(reading.quantity, reading.values[0], scale, _shown(reading))
    return ""


def _shown(reading: Reading) -> str:
    return format_of(reading, reading.values[0]).show(reading.values[0])


def _yes_or_no(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    question = f"{look.question} (yes, or no)"
    for _ in range(MAX_TRIES):
        text = _said(session, question, look).lower()
        if not text:
            return ()
        if text in (*YES, *NO):
            return (Reading(session.trial, look.quantity, session.spot, THE_EYE, look.grade, YesNo(text in YES)),)
        question = f"{neither(text)} {look.question} (yes, or no)"
    return ()


def _counted(session: TrialSession, look: Look) -> tuple[Reading, ...]:
    """How often it worked; after a failure, also how often without the device, so that the rig is not missed."""
    found = _count(session, look, look.question)
    if found is None:
        return ()
    readings = [_reading(session, Quantity.WORKS, found)]
    if found.seen < found.tries or look.control:
        asked = look.control or _WITHOUT
        without = _count(session, look, f"{asked} In how many of {look.tries} tries? (empty: not tried)")
        readings += [_reading(session, Quantity.WORKS_WITHOUT, without)] if without else []
    return tuple(readings)


def _reading(session: TrialSession, quantity: Quantity, count: Count) -> Reading:
    return session.reading(quantity, THE_EYE, Grade.SEEN, count)


def _count(session: TrialSession, look: Look, question: str) -> Count | None:
    asked = question
    for _ in range(MAX_TRIES):
        text = _said(session, question, look).lower()
        text = f"{look.tries}" if text in YES else "0" if text in NO else text
        if not text:
            return None
        match = _COUNT.fullmatch(text)
        if match is not None:
            count = Count(int(match[1]), int(match[2] or look.tries))
            if 0 <= count.seen <= count.tries and count.tries:
                return count
        question = f'"{sanitize(text, 20)}" is no count such as {look.hint}. {asked}'
    return None
