"""What is sold: what is in the box, at which price, and what the seller says of it beside others."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.observed import Stated
from auditra.core.claims.terms import DateTerm, FreeWords, MoneyTerm, OneOf, Whole, said
from auditra.core.model.reading import Grade

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
    """``body is the smallest of 12 hubs at 2026-03-01``: counts only against a set with a date."""

    quality: str = said(OneOf(*_BEST))
    compared: int = said(Whole(least=2, most=9999), after="of")
    kind: str = said(FreeWords("hubs", until="at"))
    day: str = said(DateTerm(), after="at")

    words, of_many = "is the", "are the"
    example = "is the smallest of 12 hubs at 2026-03-01"
    on_body = True
    lowest = Grade.TYPED
    asks = "Of those {it.compared} {it.kind}, all measured alike, is it the {it.quality}?"

    @property
    def brief(self) -> str:
        return self.quality[:11]


@dataclass(frozen=True)
class Comparison(Stated):
    """``body is faster than Osierpell OP-6 at 2026-03-01``: beside one other, on a day."""

    quality: str = said(OneOf(*_THAN))
    other: str = said(FreeWords("the last model", until="at"), after="than")
    day: str = said(DateTerm(), after="at")

    words, of_many = "is", "are"
    example = "is faster than the last model at 2026-03-01"
    on_body = True
    lowest = Grade.TYPED
    asks = "Both measured alike, is it {it.quality} than {it.other}?"

    @property
    def brief(self) -> str:
        return self.quality[:11]
