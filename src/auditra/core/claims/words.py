"""A claim sentence as words with their columns, read from left to right."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable

from auditra.core.errors import ClaimError, QuantityError
from auditra.core.links.display import Mode, parse_mode
from auditra.core.quantities import Dimension, Quantity, find_unit, parse_quantity, unit_symbols

LONGEST_SENTENCE = 300
_WORD = re.compile(r"\S+")
_NUMBER = re.compile(r"[+-]?\d+(?:[.,]\d+)?")
_GLUED = re.compile(r"([+-]?\d+(?:[.,]\d+)?)([A-Za-z/]+)")


class Words:
    """The words still to be read. Every refusal names the column, what was found and what was expected."""

    def __init__(self, sentence: str) -> None:
        self.sentence = sentence
        self._words = [(match.group(), match.start() + 1) for match in _WORD.finditer(sentence[:LONGEST_SENTENCE])]
        self._next = 0
        if len(sentence) > LONGEST_SENTENCE:
            raise self.refuse(f"at most {LONGEST_SENTENCE} characters")

    def take(self, expected: str) -> str:
        """The next word. Raises: ClaimError at the end of the sentence."""
        if self._next >= len(self._words):
            raise self.refuse(expected)
        self._next += 1
        return self._words[self._next - 1][0]

    def take_phrase(self, phrase: str) -> bool:
        """Read the phrase if it comes next, whole."""
        wanted = phrase.split()
        found = [word for word, _ in self._words[self._next : self._next + len(wanted)]]
        if found != wanted:
            return False
        self._next += len(wanted)
        return True

    def take_quantity(self, *dimensions: Dimension) -> Quantity:
        """A number with its unit, written apart or together. Raises: ClaimError for anything else."""
        units = [symbol for each in dimensions for symbol in unit_symbols(each)]
        expected = f"a number with {', '.join(units)}"
        if self._next < len(self._words) and (glued := _GLUED.fullmatch(self._words[self._next][0])):
            if find_unit(glued[2]) is None:
                raise self.refuse(expected, candidates=units, found=glued[2])
            text = self.take(expected)
        else:
            number = self.take(expected)
            if not _NUMBER.fullmatch(number):
                self._next -= 1
                raise self.refuse(expected)
            text = f"{number} {self.take('a unit: ' + ', '.join(units))}"
        try:
            return parse_quantity(text, *dimensions)
        except QuantityError as error:
            self._next -= 1
            raise self.refuse(expected, candidates=units) from error

    def take_mode(self) -> Mode:
        """A display mode such as ``3840x2160@30``. Raises: ClaimError for anything else."""
        expected = "a display mode such as 3840x2160@60"
        text = self.take(expected)
        try:
            return parse_mode(text)
        except QuantityError as error:
            self._next -= 1
            raise self.refuse(expected) from error

    def end(self) -> None:
        """Raises: ClaimError when words are left."""
        if self._next < len(self._words):
            raise self.refuse("the end of the sentence")

    def refuse(self, expected: str, candidates: Iterable[str] = (), found: str | None = None) -> ClaimError:
        """The error for what stands at this place, with the nearest valid word."""
        word, column = "", len(self.sentence.rstrip()) + 1
        if self._next < len(self._words):
            word, column = self._words[self._next]
        near = difflib.get_close_matches(found or word, list(candidates), n=1, cutoff=0.4)
        return ClaimError(
            self.sentence,
            column=column,
            found=found or word,
            expected=expected,
            nearest=near[0] if near else "",
        )
