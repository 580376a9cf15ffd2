"""Readings that a person types, of any quantity, at any port, from any instrument: as facts of a trial.

The grade is that of the witness: an instrument of the rig whose error is known counts as read, another screen as typed,
the eye as seen, hearsay as told.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise

from auditra.core.decide.instrument_error import instruments_of, limit_of_error
from auditra.core.decide.reading_text import format_of
from auditra.core.errors import InputError, QuantityError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact, ReadingTaken, RemarkAnswered, TrialBegun, TrialEnded
from auditra.core.judge.slips import question_range, question_value
from auditra.core.judge.unit_guard import question_key
from auditra.core.links.display import parse_mode
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.reading import (
    Count,
    Grade,
    Number,
    Quantity,
    Reading,
    Trace,
    Value,
    Words,
    YesNo,
    known_quantity,
)
from auditra.core.model.rig import Rig
from auditra.core.model.trial import Outcome, Trial
from auditra.core.quantities.parsing import parse_typed
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.measure.battery import HOST_SCREEN
from auditra.workflows.trials.measure.look import THE_EYE, WITNESS

TOLD = "a person's report"
WITNESSES = {
    WITNESS: Grade.TYPED, HOST_SCREEN: Grade.TYPED, THE_EYE: Grade.SEEN, TOLD: Grade.TOLD,
}  # fmt: skip
"""Who may report a value, besides the instruments of the rig, and what that is worth."""
SIGNS = ("charging sign", "chime", "percentage rises", "picture", "lamp")
"""Quantities of what is seen or heard: no figure, and never proof of one."""
_DIMENSIONS: dict[str, tuple[Dimension, ...]] = {
    "b/s": (Dimension.BIT_RATE, Dimension.BYTE_RATE), "W": (Dimension.POWER,), "V": (Dimension.VOLTAGE,),
    "A": (Dimension.CURRENT,), "J": (Dimension.ENERGY,), "ohm": (Dimension.RESISTANCE,), "bit": (Dimension.DEPTH,),
    "m": (Dimension.LENGTH,), "kg": (Dimension.MASS,), "C": (Dimension.TEMPERATURE,), "s": (Dimension.TIME,),
    "%": (Dimension.RATIO,), "B": (Dimension.SIZE,),
}  # fmt: skip
_EXAMPLES = {
    "b/s": "431 MB/s", "W": "64.1 W; 63.9 W; 64.0 W", "V": "4.82 V", "A": "0.9 A", "ohm": "90 mohm", "bit": "10 bit",
    "m": "0.8 m", "kg": "210 g", "C": "41.5 C", "s": "6.4 s", "%": "35 %", "B": "9000 B", "J": "12 Wh",
    "tries": "7 of 10",
}  # fmt: skip
_COUNT = re.compile(r"(\d{1,4})\s*(?:of|/)\s*(\d{1,4})")
_TIMED = re.compile(r"([^:;]{1,20}):\s*(.+)")
_HIGHEST = (Quantity.CASE_TEMPERATURE,)
"""Of a series, the highest value is what counts; of any other, the last."""
_TRUTHS = {"yes": True, "y": True, "no": False, "n": False}
MAX_REPEATS = 100


class Doubtful(InputError):
    """A value that looks like a slip: it is recorded once it is confirmed."""


@dataclass(frozen=True)
class TypedReading:
    """What was typed: which quantity, where, the value with its repeats, who reports it, and under which load."""

    quantity: str
    at: str
    text: str
    witness: str
    note: str = ""
    behind: str = ""
    end: str = ""
    moment: datetime | None = None


def example_of(quantity: str) -> str:
    """How a value of a quantity is typed."""
    known = known_quantity(quantity)
    if known is None:
        return "yes, or 7 of 10, or a value with its unit"
    if known is Quantity.MODE or known is Quantity.MODE_SENT:
        return "3840x2160@60"
    return _EXAMPLES.get(known.unit, "words, yes or no, or 7 of 10")


def reading_of(audit: Audit, trial: str, typed: TypedReading) -> Reading:
    """The reading as it will be recorded. Raises: InputError, QuantityError."""
    quantity = _quantity(typed.quantity)
    text, times = _series(typed.text)
    value, digit, unit = _value(quantity, text)
    trace = _trace(times, value)
    if trace is not None:
        value = Number((max(trace.values) if quantity in _HIGHEST else trace.values[-1],))
    behind: Noted[float] = parse_typed(typed.behind, Dimension.CURRENT)[0] if typed.behind.strip() else NOT_NOTED
    if typed.end.strip() not in ("", "near", "far"):
        raise InputError("end", why=f'"{sanitize(typed.end, 20)}" is neither near nor far', do="Write near or far")
    grade, error, witness = standing_of(audit.rig, typed.witness.strip(), quantity, value)
    if quantity in SIGNS:
        grade = min(grade, Grade.SEEN)
    return Reading(
        trial, quantity, typed.at, witness, grade, value, error=error, resolution=digit, trace=trace,
        note=sanitize(typed.note.strip(), 300), unit=unit, behind_a=behind, end=typed.end.strip() or NOT_NOTED,
        moment=typed.moment or NOT_NOTED, typed=sanitize(typed.text.strip(), 200),
    )  # fmt: skip


def facts_of_reading(
    audit: Audit, trial: Trial, typed: TypedReading, *, is_new: bool, confirmed: bool
) -> tuple[Fact, ...]:
    """The reading, with its trial where that is a new one. Raises: Doubtful, InputError, QuantityError."""
    reading = reading_of(audit, trial.id, typed)
    doubt = doubt_about(audit, trial, reading)
    if doubt and not confirmed:
        raise Doubtful("the value", why=doubt, do="Correct it, or save again to confirm it")
    answer: tuple[Fact, ...] = ()
    if doubt:
        key = question_key(trial.id, reading.at, str(reading.quantity))
        answer = (RemarkAnswered(key, "confirmed by saving it again"),)
    if not is_new:
        return (ReadingTaken(reading), *answer)
    return (TrialBegun(trial), ReadingTaken(reading), *answer, TrialEnded(trial.id, Outcome.COMPLETE))


def doubt_about(audit: Audit, trial: Trial, reading: Reading) -> str:
    """What the unit guard asks about a value; empty where it is plain."""
    for value in reading.values:
        show = format_of(reading, value).show(value)
        if outside := question_range(reading.quantity, value, show):
            return outside
        for claim in audit.claims:
            scale = claim.promise.scale() if claim.id in trial.claims else None
            concerns = scale is not None and reading.quantity in scale.quantities and reading.at in claim.ports
            words = question_value(reading.quantity, value, scale, show) if scale is not None and concerns else ""
            if words:
                return words
    return ""


def _quantity(text: str) -> Quantity | str:
    words = " ".join(text.split())
    if not words or len(words) > 60 or sanitize(words, 61) != words:
        raise InputError("quantity", why="expected 1 to 60 plain characters", do="Write what the value is of")
    return known_quantity(words) or words


def _value(quantity: Quantity | str, text: str) -> tuple[Value, float, str]:
    """The value, the size of its last digit, and its unit where the quantity has none of its own."""
    text = text.strip()
    if not text:
        raise InputError("value", why="it is empty", do=f"Such as {example_of(str(quantity))}")
    if (match := _COUNT.fullmatch(text)) is not None:
        seen, tries = int(match[1]), int(match[2])
        if not 0 <= seen <= tries or not tries:
            raise InputError("value", why=f'"{text}" is impossible', do="Write how often of how many tries")
        return Count(seen, tries), 0.0, ""
    if text.lower() in _TRUTHS:
        return YesNo(_TRUTHS[text.lower()]), 0.0, ""
    if quantity in (Quantity.MODE, Quantity.MODE_SENT):
        return Words(str(parse_mode(text))), 0.0, ""
    if isinstance(quantity, Quantity):
        dimensions = _DIMENSIONS.get(quantity.unit)
        if dimensions is None:
            return Words(sanitize(text, 200)), 0.0, ""
        values, digit = _numbers(text, dimensions)
        return Number(values), digit, ""
    return _of_own(text)


def _of_own(text: str) -> tuple[Value, float, str]:
    """A value of a quantity that is not in the list: a number where it has a unit, else words."""
    for dimension in Dimension:
        try:
            values, digit = _numbers(text, (dimension,))
        except QuantityError:
            continue
        return Number(values), digit, "b/s" if dimension is Dimension.BYTE_RATE else dimension.value
    return Words(sanitize(text, 200)), 0.0, ""


def _series(text: str) -> tuple[str, tuple[float, ...]]:
    """``0 min: 24.1 C; 10 min: 31.5 C`` as the values alone, and their times in seconds; no times for plain values.

    Raises: QuantityError, InputError.
    """
    parts = [part.strip() for part in text.split(";") if part.strip()]
    timed = [match for part in parts if (match := _TIMED.fullmatch(part)) is not None]
    if not timed or len(timed) != len(parts):
        return text, ()
    times = tuple(parse_typed(match[1], Dimension.TIME)[0] for match in timed)
    if any(later <= earlier for earlier, later in pairwise(times)):
        raise InputError("value", why="the times must grow", do="Write 0 min: 24.1 C; 10 min: 31.5 C")
    return "; ".join(match[2] for match in timed), times


def _trace(times: tuple[float, ...], value: Value) -> Trace | None:
    if not times or not isinstance(value, Number):
        return None
    return Trace(tuple(time - times[0] for time in times), value.repeats)


def _numbers(text: str, dimensions: Iterable[Dimension]) -> tuple[tuple[float, ...], float]:
    parts = [part for each in text.split(";") if (part := each.strip())]
    if len(parts) > MAX_REPEATS:
        raise QuantityError("value", why=f"{len(parts)} repeats; {MAX_REPEATS} are the most", do="Type fewer")
    read = [parse_typed(part, *dimensions) for part in parts]
    if not read:
        raise QuantityError("value", why="there is no number", do="Write a number with its unit")
    return tuple(value for value, _ in read), max(digit for _, digit in read)


def standing_of(rig: Rig, witness: str, quantity: Quantity | str, value: Value) -> tuple[Grade, float, str]:
    """Grade, limit of error and name of whoever reports a value. Raises: InputError."""
    if witness in WITNESSES:
        return WITNESSES[witness], 0.0, witness
    instrument = next((each for each in instruments_of(rig) if witness in (each.id, each.name)), None)
    if instrument is None:
        known = ", ".join([*(each.name for each in instruments_of(rig)), *WITNESSES])
        raise InputError("instrument", why=f'the rig has no "{sanitize(witness, 40)}"', do=f"Known: {known}")
    largest = max(map(abs, value.repeats), default=0.0) if isinstance(value, Number) else 0.0
    error = limit_of_error(instrument, quantity, largest)
    return (Grade.READ if error > 0 else Grade.TYPED), error, instrument.name
