"""A phrase and a figure that do not fit: "twice as fast" beside a ratio of 1.2."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.quantities.units import find_unit
from auditra.core.sanitize import sanitize

_TIMES = {"twice": 2.0, "double": 2.0, "two times": 2.0, "three times": 3.0, "triple": 3.0, "four times": 4.0,
          "five times": 5.0, "ten times": 10.0}  # fmt: skip
_PHRASE = re.compile(
    rf"(?:(?P<words>{'|'.join(_TIMES)})|(?P<number>\d+(?:\.\d+)?)\s?(?:x|×|times))\b"
    r"[\w\s-]{0,24}?\b(?:fast|faster|speed|power|quick|quicker|longer|more)\b",
    re.IGNORECASE,
)
_FIGURE = re.compile(r"(?<![\w.])(\d+(?:\.\d+)?)\s?([A-Za-z/]{1,7})(?![\w/])")
_LONGEST = 2_000
ROUNDED = 0.1
"""How far a phrase may round a ratio up."""


@dataclass(frozen=True, kw_only=True)
class WordsAndFigures(Finding):
    kind = "words against figures"
    role = Role.CONTRADICTION

    phrase: str
    times: float
    figures: tuple[str, str]
    ratio: float

    @property
    def subject(self) -> str:
        return self.phrase

    @property
    def sentence(self) -> str:
        larger, smaller = self.figures
        return f'the seller says "{self.phrase}", but {larger} is only {self.ratio:.1f} times {smaller}'

    @property
    def arithmetic(self) -> str:
        return f"{self.ratio:.2f} < {self.times:g}"


def _find(inquiry: Inquiry) -> Iterator[WordsAndFigures]:
    """The seller's own words: a factor with two figures of one kind beside it."""
    seen: set[str] = set()
    for claim in inquiry.audit.claims:
        quoted = claim.source.quoted
        if isinstance(quoted, str) and quoted not in seen:
            seen.add(quoted)
            found = _contradiction(quoted[:_LONGEST])
            if found is not None:
                phrase, times, figures, ratio = found
                yield WordsAndFigures(
                    ports=claim.ports, claims=(claim.id,), phrase=sanitize(phrase, 60), times=times, figures=figures,
                    ratio=ratio,
                )  # fmt: skip


def _contradiction(quoted: str) -> tuple[str, float, tuple[str, str], float] | None:
    phrase = _PHRASE.search(quoted)
    if phrase is None:
        return None
    times = _TIMES[phrase["words"].lower()] if phrase["words"] else float(phrase["number"])
    by_dimension: dict[object, list[tuple[float, str]]] = {}
    for match in _FIGURE.finditer(quoted):
        unit = find_unit(match[2])
        if unit is not None and float(match[1]) > 0:
            by_dimension.setdefault(unit.dimension, []).append((float(match[1]) * unit.in_si, match[0]))
    for figures in by_dimension.values():
        if len({value for value, _ in figures}) == 2:
            larger, smaller = max(figures), min(figures)
            ratio = larger[0] / smaller[0]
            if times > ratio * (1 + ROUNDED):
                return phrase[0], times, (larger[1], smaller[1]), ratio
    return None


WORDS_AND_FIGURES = Cause(
    "words against figures", "the quotient of the seller's own figures", "a quotation with a factor and two figures",
    _find, Role.CONTRADICTION,
)  # fmt: skip
