"""The parts that promises are written with: each is read from a sentence, and printed as it is read."""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import MISSING, dataclass, field, fields
from functools import cache
from typing import Any, Generic, TypeVar

from auditra.core.claims.tokens import CONDITION_WORDS, Words
from auditra.core.links.display import Mode
from auditra.core.quantities.display import amount, plain_number
from auditra.core.quantities.units import Dimension

T = TypeVar("T")
_MAY_BE_NOTHING = (Dimension.TEMPERATURE,)
_DATE = re.compile(r"\d{4}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01])")


class Term(ABC, Generic[T]):
    """One part of a sentence."""

    examples: tuple[str, ...] = ()
    """What may be typed here, for completion."""

    @abstractmethod
    def read(self, words: Words) -> T:
        """Raises: ClaimError where something else stands."""

    def begins(self, words: Words) -> bool:
        """Whether it could stand here; asked of terms that may be left out."""
        return bool(words.peek())

    def show(self, value: T) -> str:
        """As it is read."""
        return str(value)


@dataclass(frozen=True)
class Amount(Term[float]):
    """A value with its unit, a value greater than zero, kept in SI."""

    dimensions: tuple[Dimension, ...]
    example: str

    def __init__(self, *dimensions: Dimension, example: str) -> None:
        object.__setattr__(self, "dimensions", dimensions)
        object.__setattr__(self, "example", example)
        object.__setattr__(self, "examples", (example,))

    def read(self, words: Words) -> float:
        words.look_for(self.example)
        place = words.place
        value = words.take_quantity(*self.dimensions).value
        if value <= 0 and self.dimensions[0] not in _MAY_BE_NOTHING:
            words.back(place)
            raise words.refuse("a value greater than zero")
        return value

    def begins(self, words: Words) -> bool:
        words.look_for(self.example)
        return words.peek()[:1].isdigit() and words.quantity_follows(*self.dimensions)

    def show(self, value: float) -> str:
        return amount(value, self.dimensions[0])


class ModeTerm(Term[Mode]):
    """A display mode."""

    examples = ("3840x2160@60", "3840x2160@30", "2560x1440@144", "1920x1080@60")

    def read(self, words: Words) -> Mode:
        words.look_for(*self.examples)
        return words.take_mode()


@dataclass(frozen=True)
class OneOf(Term[str]):
    """One of some phrases; what people also write for it is read too."""

    phrases: tuple[str, ...]
    spellings: tuple[tuple[str, str], ...] = ()

    def __init__(self, *phrases: str, spellings: Mapping[str, str] | None = None) -> None:
        object.__setattr__(self, "phrases", tuple(sorted(phrases, key=lambda each: (-len(each.split()), each))))
        object.__setattr__(self, "spellings", tuple((spellings or {}).items()))
        object.__setattr__(self, "examples", phrases)

    def read(self, words: Words) -> str:
        found = self._take(words)
        if not found:
            raise words.refuse(f"one of: {', '.join(self.examples)}", self.examples)
        return found

    def begins(self, words: Words) -> bool:
        place = words.place
        found = self._take(words)
        words.back(place)
        return bool(found)

    def _take(self, words: Words) -> str:
        found = words.take_one_of(self.phrases)
        ours = dict(self.spellings).get(words.peek()) if not found else None
        if ours is not None:
            words.take("")
            return ours
        return found


@dataclass(frozen=True)
class Flag(Term[bool]):
    """A word that is there or not."""

    word: str

    def read(self, words: Words) -> bool:
        words.expect(self.word)
        return True

    def begins(self, words: Words) -> bool:
        place = words.place
        found = words.take_phrase(self.word)
        words.back(place)
        return found

    def show(self, value: bool) -> str:
        return self.word if value else ""


@dataclass(frozen=True)
class Whole(Term[int]):
    """A whole number, with the word that it counts."""

    counts: str = ""
    least: int = 1
    most: int = 999

    def read(self, words: Words) -> int:
        words.look_for(f"2 {self.counts}".strip())
        word = words.peek()
        if not (word.isascii() and word.isdigit() and len(word) <= 6 and self.least <= int(word) <= self.most):
            raise words.refuse(f"a whole number from {self.least} to {self.most}")
        words.take("")
        if self.counts and not words.take_phrase(self.counts):
            words.take_phrase(self.counts.removesuffix("s"))
        return int(word)

    def begins(self, words: Words) -> bool:
        words.look_for(f"2 {self.counts}".strip())
        return words.peek().isdigit()

    def show(self, value: int) -> str:
        return f"{value} {self.counts}".strip()


@dataclass(frozen=True)
class FreeWords(Term[str]):
    """Words of the reviewer's own, up to a comma or a condition."""

    example: str
    until: str = ""
    """A word that ends them too."""

    def read(self, words: Words) -> str:
        words.look_for(self.example)
        return words.take_free_words(f"words such as {self.example}", self.until)

    def begins(self, words: Words) -> bool:
        return words.peek() not in CONDITION_WORDS and super().begins(words)


@dataclass(frozen=True)
class Names(Term[tuple[str, ...]]):
    """Several names with commas between."""

    example: str

    def read(self, words: Words) -> tuple[str, ...]:
        words.look_for(self.example)
        found = [words.take_free_words(f"names such as {self.example}")]
        while not words.at_end and words.peek() == ",":
            place = words.place
            words.take(",")
            if words.begins_claim is not None and words.begins_claim(words):
                words.back(place)
                break
            found.append(words.take_free_words("another name"))
        return tuple(dict.fromkeys(found))

    def show(self, value: tuple[str, ...]) -> str:
        return ", ".join(value)


class SizeTerm(Term[tuple[float, float, float]]):
    """Length, width and height in one unit, kept in metres."""

    examples = ("120 x 50 x 15 mm",)

    def read(self, words: Words) -> tuple[float, float, float]:
        words.look_for(*self.examples)
        expected = "three lengths such as 120 x 50 x 15 mm"
        numbers: list[str] = []
        for turn in range(3):
            if turn and not (words.take_phrase("x") or words.take_phrase("×")):
                raise words.refuse(f"x, for {expected}")
            if turn < 2:
                number = words.peek()
                if not re.fullmatch(r"\d{1,5}(?:[.,]\d{1,3})?", number):
                    raise words.refuse(expected)
                numbers.append(words.take(expected).replace(",", "."))
        last = words.take_quantity(Dimension.LENGTH)
        sides = (*(float(f"{float(each) * last.unit.in_si:.12g}") for each in numbers), last.value)
        if min(sides) <= 0:
            raise words.refuse("three lengths greater than zero")
        return sides[0], sides[1], sides[2]

    def show(self, value: tuple[float, float, float]) -> str:
        return " x ".join(plain_number(side * 1e3) for side in value) + " mm"


class DateTerm(Term[str]):
    """A day, as 2026-03-01."""

    examples = ("2026-03-01",)

    def read(self, words: Words) -> str:
        words.look_for(*self.examples)
        if not _DATE.fullmatch(words.peek()):
            raise words.refuse("a day such as 2026-03-01")
        return words.take("")


class MoneyTerm(Term[tuple[float, str]]):
    """An amount with its money: 49.90 EUR."""

    examples = ("49.90 EUR",)

    def read(self, words: Words) -> tuple[float, str]:
        words.look_for(*self.examples)
        number = words.peek()
        if not re.fullmatch(r"\d{1,9}(?:[.,]\d{1,2})?", number):
            raise words.refuse("a price such as 49.90 EUR")
        words.take("")
        if not re.fullmatch(r"[A-Z]{3}", words.peek()):
            raise words.refuse("the money in three letters, such as EUR")
        return float(number.replace(",", ".")), words.take("")

    def show(self, value: tuple[float, str]) -> str:
        amount_, money = value
        return f"{amount_:.2f} {money}" if amount_ % 1 else f"{amount_:.0f} {money}"


@dataclass(frozen=True)
class Said:
    """A field of a promise with the term that it is said in."""

    name: str
    term: Term[Any]
    after: str
    """The words before it; empty where none are."""
    hedged: bool
    default: Any

    @property
    def optional(self) -> bool:
        return self.default is not MISSING

    def begins(self, words: Words) -> bool:
        """Whether it stands here; the words before it are read already then."""
        if self.after:
            return words.take_phrase(self.after)
        return self.term.begins(words)

    def show(self, value: Any) -> str:
        return f"{self.after} {self.term.show(value)}".strip()


def said(term: Term[Any], *, after: str = "", hedged: bool = False, default: Any = MISSING) -> Any:
    """A field that is said in a sentence; one with a default may be left out."""
    return field(default=default, metadata={"said": (term, after, hedged)})


@cache
def terms_of(kind: type[Any]) -> tuple[tuple[Said, ...], tuple[Said, ...]]:
    """What a sentence of a kind must have, in this order; and what it may have, in any."""
    every = []
    for each in fields(kind):
        if "said" in each.metadata:
            term, after, hedged = each.metadata["said"]
            every.append(Said(each.name, term, after, hedged, each.default))
    return tuple(each for each in every if not each.optional), tuple(each for each in every if each.optional)
