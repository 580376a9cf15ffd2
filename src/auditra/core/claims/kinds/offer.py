"""What is sold: what is in the box, at which price, and what the seller says of it beside others."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Self

from auditra.core.claims.observed import Stated
from auditra.core.claims.terms import DateTerm, FreeWords, MoneyTerm, OneOf, Whole, said
from auditra.core.claims.tokens import Words
from auditra.core.decide.evidence import Evidence
from auditra.core.model.reading import Grade
from auditra.core.model.verdict import Part, Verdict

_BEST = ("smallest", "lightest", "fastest", "coolest", "thinnest", "longest", "cheapest", "only", "first", "best")
_THAN = ("smaller", "lighter", "faster", "cooler", "thinner", "longer", "cheaper", "better", "stronger")


@dataclass(frozen=True)
class ComesWith(Stated):
    """``body comes with C to C lead 0.8 m``: it lies in the box."""

    thing: str = said(FreeWords("C to C lead 0.8 m"))

    words, of_many = "comes with", "come with"
    example = "comes with C to C lead 0.8 m"
    on_body = True
    asks = "Is this in the box: {it.thing}?"

    @property
    def brief(self) -> str:
        return self.thing[:11]


@dataclass(frozen=True)
class Costs(Stated):
    """``body costs 49.90 EUR at 2026-03-01``: a price is one of a day."""

    price: tuple[float, str] = said(MoneyTerm())
    day: str = said(DateTerm(), after="at")

    words, of_many = "costs", "cost"
    example = "costs 49.90 EUR at 2026-03-01"
    on_body = True
    lowest = Grade.TYPED
    asks = "Was it to be had for that on {it.day}?"

    @property
    def brief(self) -> str:
        return MoneyTerm().show(self.price)[:11]


@dataclass(frozen=True)
class Superlative(Stated):
    """``body is the smallest of 12 hubs at 2026-03-01``: without a set that has a date it cannot be shown."""

    quality: str = said(OneOf(*_BEST))
    compared: int = said(Whole(least=2, most=9999), after="of", default=0)
    kind: str = said(FreeWords("hubs", until="at"), default="")
    day: str = said(DateTerm(), after="at", default="")

    words, of_many = "is the", "are the"
    example = "is the smallest of 12 hubs at 2026-03-01"
    on_body = True
    lowest = Grade.TYPED

    @classmethod
    def parse(cls, words: Words) -> Self:
        quality = OneOf(*_BEST).read(words)
        if not words.take_phrase("of"):
            return cls(quality)
        compared = Whole(least=2, most=9999).read(words)
        kind = FreeWords("hubs", until="at").read(words)
        return cls(quality, compared, kind, DateTerm().read(words) if words.take_phrase("at") else "")

    def question(self, spot: str) -> str:
        if not self.compared:
            return f"Compared with which others, and when, is it the {self.quality}? (no, where none were measured)"
        return f"Of those {self.compared} {self.kind}, all measured alike, is it the {self.quality}?"

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return (_with_a_date(super().decide(evidence)[0], self.day if self.compared else ""),)

    @property
    def brief(self) -> str:
        return self.quality[:11]


@dataclass(frozen=True)
class Comparison(Stated):
    """``body is faster than Osierpell OP-6 at 2026-03-01``, ``body is 2 times as fast as the last model``."""

    quality: str = said(OneOf(*_THAN))
    other: str = said(FreeWords("the last model", until="at"), after="than")
    day: str = said(DateTerm(), after="at", default="")
    times: float = 0.0
    """How many times as fast, where a ratio is promised."""

    words, of_many = "is", "are"
    example = "is faster than the last model at 2026-03-01"
    on_body = True
    lowest = Grade.TYPED

    @classmethod
    def parse(cls, words: Words) -> Self:
        words.look_for(f"2 {_TIMES} the last model")
        times = _times(words.peek())
        if not times:
            return super().parse(words)
        words.take("")
        words.expect(_TIMES)
        other = FreeWords("the last model", until="at").read(words)
        return cls("faster", other, DateTerm().read(words) if words.take_phrase("at") else "", times)

    def _said(self) -> Iterable[str]:
        if not self.times:
            return super()._said()
        return filter(None, (f"{self.times:g} {_TIMES} {self.other}", f"at {self.day}" if self.day else ""))

    def question(self, spot: str) -> str:
        what = f"{self.times:g} {_TIMES} {self.other}, or more" if self.times else f"{self.quality} than {self.other}"
        return f"Both measured alike, is it {what}?"

    def decide(self, evidence: Evidence) -> tuple[Part, ...]:
        return (_with_a_date(super().decide(evidence)[0], self.day),)

    @property
    def brief(self) -> str:
        return f"x {self.times:g}" if self.times else self.quality[:11]


_TIMES = "times as fast as"


def _times(word: str) -> float:
    """How many times, where a number stands there; else 0."""
    try:
        times = float(word) if word[:1].isdigit() and len(word) <= 6 else 0.0
    except ValueError:
        return 0.0
    return times if times < 1000 else 0.0


def _with_a_date(part: Part, named: str | int) -> Part:
    """Praise beside others counts only where it is said beside which, and when."""
    if part.verdict is not Verdict.HOLDS or named:
        return part
    why = "nothing with a date was named that it could be compared with"
    return Part(part.name, Verdict.UNPROVEN, part.shown, why)
