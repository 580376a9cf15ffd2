"""The unit guard: values that look like slips of unit or place are questioned, never changed and never dropped."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from operator import is_

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import Scale
from auditra.core.decide.estimates import estimate
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.fold import Audit, TrialRecord
from auditra.core.model.bench_kind import BENCHES
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.trial import DIRECT

_BINARY = 1.048576
_SLIPS = (
    (8.0, "bits for bytes"), (10.0, "a misplaced decimal point"), (100.0, "metres for centimetres"),
    (2.54, "inches for centimetres"), (1000.0, "a prefix"), (_BINARY, "binary for decimal"),
)  # fmt: skip
_FITS, _FITS_BINARY = 0.05, 0.005
"""How near a value must come to the promise, after the slip is corrected, to be questioned for it."""
_NEAR_ENOUGH = 0.03
"""A value this near the promise is not questioned for it."""
_PLAUSIBLE = (0.6, 1.6)
"""A value that is this part of the promise needs no slip to be explained."""
_WORDS: tuple[tuple[float, str], ...] = (
    (0.1, r"(?:a|one) tenth"), (0.25, r"(?:a|one) quarter|a fourth"), (1 / 3, r"(?:a|one) third"),
    (0.5, r"half"), (2 / 3, r"two thirds"), (0.75, r"three quarters"),
    (1.0, r"full (?:speed|rate|power)|as promised|the same as direct"), (2.0, r"twice|double"),
)  # fmt: skip
"""What people say of a value beside the promise, or beside the same gear direct."""
_SAYS = tuple((share, re.compile(rf"\b(?:{words})\b", re.IGNORECASE)) for share, words in _WORDS)
_WORDS_REACH = 0.35
"""How far a value may be from what a word says of it: people round."""
_RATES = (Quantity.WRITE, Quantity.READ, Quantity.SEND, Quantity.RECEIVE)


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


def question_value(value: float, scale: Scale, show: str, link_ceiling: float | None = None) -> str:
    """What is odd about a value beside what was promised, in words; empty where nothing is.

    `show` is the value as it is reported; `link_ceiling` the most that the negotiated link carries, where one is known.
    """
    if link_ceiling is not None and value > link_ceiling:
        return f"{show} is {value / link_ceiling:.2f} times what the negotiated link can carry"
    share = value / scale.limit if scale.limit else 1.0
    most = max(1.0, (scale.ceiling or 0.0) / scale.limit) if scale.limit else 1.0
    if _PLAUSIBLE[0] < share < max(_PLAUSIBLE[1], most) and abs(share * _BINARY - 1) > _FITS_BINARY:
        return ""
    for factor, slip in _SLIPS:
        fits = _FITS_BINARY if factor == _BINARY else _FITS
        for by, sign in ((factor, "x"), (1 / factor, "/")):
            if 1 - fits <= share * by <= most + fits and abs(share - 1) > _NEAR_ENOUGH:
                return f"{show} {sign} {factor:g} would match the claim: {slip}?"
    return ""


def question_words(note: str, value: float, besides: Mapping[str, float]) -> str:
    """What is odd about a value beside the words that were noted with it: ``half`` beside a tenth; else empty.

    `besides` are the values that the words can be meant of, by what each is: what was promised, the same gear direct.
    """
    said = next(((share, found[0]) for share, pattern in _SAYS if (found := pattern.search(note))), None)
    shares = {name: value / whole for name, whole in besides.items() if whole > 0}
    if said is None or not shares:
        return ""
    if any(abs(share / said[0] - 1) <= _WORDS_REACH for share in shares.values()):
        return ""
    told = " and ".join(f"{share:.2g} of {name}" for name, share in shares.items())
    return f'the note says "{said[1]}", the value is {told}'


_HAS: dict[Quantity, tuple[float, float, str]] = {
    Quantity.LENGTH: (0.005, 100.0, "a lead or a case of such a thing"),
    Quantity.CASE_TEMPERATURE: (-20.0, 120.0, "a case that anybody could test"),
    Quantity.AMBIENT_TEMPERATURE: (-20.0, 60.0, "a room"),
    Quantity.POWER: (0.0, 300.0, "a socket by any standard of USB, with room spare"),
    Quantity.MASS: (0.001, 20.0, "such a thing"),
    Quantity.CURRENT: (0.0, 20.0, "a socket"),
}
"""What such things have, in SI: a value outside is looked at again."""


def question_range(quantity: Quantity | str, value: float, show: str) -> str:
    """What is odd about a value, whatever was promised; empty where such things have it."""
    if not isinstance(quantity, Quantity) or quantity not in _HAS:
        return ""
    low, high, what = _HAS[quantity]
    if low <= value <= high:
        return ""
    return f"{show} is outside the range of {what}: {low:g} to {high:g} {quantity.unit}. Another unit?"


def questions_of(audit: Audit) -> tuple[Question, ...]:
    """Every typed or imported value that looks like a slip, and that has not been confirmed."""
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
        questions: list[Question] = []
        for record in audit.trials:
            kept = self._kept.get(record.trial.id)
            if kept is not None and kept[0] is record and kept[1] is not None:
                questions += kept[1]
                continue
            bearing = [claims[each] for each in record.trial.claims if each in claims]
            found = tuple(_questions(record, bearing, audit))
            # A note is compared with other trials too, so its questions are not kept.
            has_note = any(reading.note for reading in record.readings)
            self._kept[record.trial.id] = record, None if has_note else found
            questions += found
        return tuple(question for question in questions if question.key not in audit.answers)


def _questions(record: TrialRecord, claims: list[Claim], audit: Audit) -> Iterator[Question]:
    ours = record.trial.bench in BENCHES
    scales = [(claim, scale) for claim in claims if (scale := claim.promise.scale()) is not None]
    for reading in record.readings:
        if reading.values and not (ours and reading.grade > Grade.TYPED):
            yield from _about(reading, record, scales, _direct(audit, reading))


def _direct(audit: Audit, reading: Reading) -> dict[str, float]:
    """The same quantity of the same gear direct, where it was noted what was said of a value."""
    if not reading.note:
        return {}
    taken = ReadingSet.joined(record.taken for record in audit.trials)
    found = taken.direct().of(reading.quantity).numbers().last()
    return {"the same direct": estimate(found).value} if found is not None else {}


def _about(
    reading: Reading, record: TrialRecord, scales: list[tuple[Claim, Scale]], direct: dict[str, float]
) -> Iterator[Question]:
    value = estimate(reading).value
    if question_range(reading.quantity, value, ""):
        outside = question_range(reading.quantity, value, format_of(reading, value).show(value))
        yield Question(record.trial.id, reading.at, str(reading.quantity), outside)
        return
    for claim, scale in scales:
        if reading.quantity in scale.quantities and reading.at in (*claim.ports, DIRECT):
            ceiling = _link_ceiling(record, reading.at) if reading.quantity in _RATES else None
            words = ""
            if question_value(value, scale, "", ceiling):
                words = question_value(value, scale, format_of(reading, value).show(value), ceiling)
            words = words or question_words(reading.note, value, {"what is promised": scale.limit} | direct)
            if words:
                yield Question(record.trial.id, reading.at, str(reading.quantity), words)
            return


def _link_ceiling(record: TrialRecord, at: str) -> float | None:
    """The rate that the link was read to have, which no payload exceeds; None where it was not read."""
    links = record.taken.of(Quantity.LINK).at(at).numbers()
    return min((min(reading.values) for reading in links), default=None)
