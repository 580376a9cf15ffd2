"""The unit guard: typed values that look like slips are questioned, never changed and never dropped.

What an engine or an instrument measured by itself is never questioned.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from operator import is_

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import Scale
from auditra.core.decide.estimates import estimate
from auditra.core.decide.instrument_error import instruments_of
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.slips import question_range, question_time, question_value, question_words
from auditra.core.model.bench_kind import BENCHES
from auditra.core.model.reading import PAYLOAD_RATES, Grade, Quantity, Reading
from auditra.core.model.trial import DIRECT


@dataclass(frozen=True)
class Question:
    """A value that somebody should look at again, with the sum that makes it odd."""

    trial: str
    at: str
    quantity: str
    words: str

    @property
    def key(self) -> str:
        """What an answer names it by."""
        return question_key(self.trial, self.at, self.quantity)


def question_key(trial: str, at: str, quantity: str) -> str:
    """What an answer names a question about such a reading by."""
    return f"question / {trial} / {at} / {quantity}"


def questions_of(audit: Audit) -> tuple[Question, ...]:
    """Every typed value that looks like a slip, and that has not been confirmed."""
    return QuestionsKept().of(audit)


class QuestionsKept:
    """The questions about each trial, worked out once for the claims that it was made for."""

    def __init__(self) -> None:
        self._kept: dict[str, tuple[TrialRecord, tuple[Question, ...] | None]] = {}
        """By trial; None for one that has to be looked at each time."""
        self._claims: tuple[Claim, ...] = ()

    def of(self, audit: Audit) -> tuple[Question, ...]:
        if len(self._claims) != len(audit.claims) or not all(map(is_, self._claims, audit.claims)):
            self._kept, self._claims = {}, audit.claims
        claims = {claim.id: claim for claim in audit.claims}
        instruments = frozenset(name for each in instruments_of(audit.rig) for name in (each.id, each.name))
        questions: list[Question] = []
        for record in audit.trials:
            kept = self._kept.get(record.trial.id)
            if kept is not None and kept[0] is record and kept[1] is not None:
                questions += kept[1]
                continue
            typed = [each for each in record.readings if _is_typed(each, record, instruments)]
            bearing = [claims[each] for each in record.trial.claims if each in claims] if typed else []
            found = tuple(_questions(typed, record, bearing, audit))
            # A note is compared with other trials too, so its questions are not kept.
            has_note = any(reading.note for reading in typed)
            self._kept[record.trial.id] = record, None if has_note else found
            questions += found
        return tuple(question for question in questions if question.key not in audit.answers)


def _questions(typed: list[Reading], record: TrialRecord, claims: list[Claim], audit: Audit) -> Iterator[Question]:
    scales = [(claim, scale) for claim in claims if (scale := claim.promise.scale()) is not None]
    for reading in typed:
        words = _words_about(reading, record, scales, audit)
        if words:
            yield Question(record.trial.id, reading.at, str(reading.quantity), words)


def _is_typed(reading: Reading, record: TrialRecord, instruments: frozenset[str]) -> bool:
    """Whether a person typed the value: read off a screen, or by eye off an instrument of the rig."""
    if reading.grade >= Grade.MEASURED or not reading.values:
        return False
    by_eye = reading.grade is Grade.READ and reading.instrument in instruments
    return (
        reading.grade <= Grade.TYPED
        or (by_eye and record.trial.bench not in BENCHES)
        or (by_eye and reading.resolution > 0)
    )


def _words_about(reading: Reading, record: TrialRecord, scales: list[tuple[Claim, Scale]], audit: Audit) -> str:
    value = estimate(reading).value
    shown = format_of(reading, value).show(value)
    if outside := question_range(reading.quantity, value, shown):
        return outside
    file_bytes = record.trial.setup.file_bytes
    noted = float(file_bytes) if isinstance(file_bytes, int) else None
    if unfit := question_time(reading.note, noted, reading.quantity, value):
        return unfit
    for claim, scale in scales:
        if reading.quantity in scale.quantities and reading.at in claim.ports:
            link_bps = _link_bps(record, reading.at) if reading.quantity in PAYLOAD_RATES else None
            besides = {"what is promised": scale.limit} | _direct(audit, reading)
            return question_value(reading.quantity, value, scale, shown, link_bps) or question_words(
                reading.note, value, besides
            )
    return ""


def _direct(audit: Audit, reading: Reading) -> dict[str, float]:
    """The same quantity of the same gear direct, where it was noted what was said of a value."""
    if not reading.note:
        return {}
    taken = ReadingSet.joined(record.taken for record in audit.trials)
    found = taken.at(DIRECT).of(reading.quantity).numbers().last()
    return {"the same direct": estimate(found).value} if found is not None else {}


def _link_bps(record: TrialRecord, at: str) -> float | None:
    """The rate that the link was read to have; None where it was not read."""
    links = record.taken.of(Quantity.LINK).at(at).numbers()
    return min((min(reading.values) for reading in links), default=None)
