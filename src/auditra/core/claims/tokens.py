"""A claim sentence as words with their columns, read from left to right.

Every word that was looked for at the place that was reached is kept: from them come the nearest word of a refusal and
the completions while somebody types.
"""

from __future__ import annotations

import difflib
import re
from collections.abc import Callable, Iterable
from functools import lru_cache
from itertools import islice

from auditra.core.errors import ClaimError, QuantityError
from auditra.core.links.display import Mode, parse_mode
from auditra.core.quantities.parsing import Quantity, parse_quantity, plain_quantity
from auditra.core.quantities.units import Dimension, unit_symbols

MAX_SENTENCE_LENGTH = 300
MAX_PHRASE_LENGTH = 80
CONDITION_WORDS = frozenset({"while", "without", "on", "with"})
_WORD = re.compile(r"(?:[^\s,]|,(?=\d))+|,")
_END = ""
"""What stands behind the last word."""
_LIKE_ENOUGH = 0.51
_LEADING_GROUP, _NEXT_GROUP = re.compile(r"[+-]?\d{1,3}"), re.compile(r"\d{3}(?:[.,]\d+)?")
_LETTER = re.compile(r"[A-Za-z]")


@lru_cache(maxsize=512)
def _split(phrase: str) -> list[str]:
    return phrase.split()


class Words:
    """The words still to be read. Every refusal names the column, what was found and what was expected."""

    begins_claim: Callable[[Words], bool] | None = None
    """Whether another promise begins at this place: behind a comma, that splits a sentence in two."""

    def __init__(self, sentence: str, *, notes: bool = False) -> None:
        self.sentence = sentence
        self._words: list[str] = _WORD.findall(sentence[:MAX_SENTENCE_LENGTH])
        self._words.append(_END)
        self._next = 0
        self.quantities: list[Quantity] = []
        """What was read as values, in order."""
        self._notes = notes
        """Whether what was looked for is kept: it costs more than reading does."""
        self._looked_for: list[str] = []
        self._looked_at = 0
        if len(sentence) > MAX_SENTENCE_LENGTH:
            raise self.refuse(f"at most {MAX_SENTENCE_LENGTH} characters")

    @property
    def place(self) -> int:
        """Where reading has come to; `back` returns there."""
        return self._next

    def back(self, place: int) -> None:
        self._next = place

    @property
    def done(self) -> bool:
        """Whether all words are read; always false while suggestions are collected."""
        return not self._notes and not self._words[self._next]

    @property
    def at_end(self) -> bool:
        return not self._words[self._next]

    @property
    def column(self) -> int:
        """The column of the next word; one behind the text where none is left."""
        if self.at_end:
            return len(self.sentence.rstrip()) + 1
        return next(islice(_WORD.finditer(self.sentence), self._next, None)).start() + 1

    @property
    def looked_for(self) -> tuple[str, ...]:
        """What could have stood at the furthest place that was reached."""
        return tuple(dict.fromkeys(self._looked_for)) if self._looked_at == self._next else ()

    def peek(self) -> str:
        """The next word; empty at the end."""
        return self._words[self._next]

    def take(self, expected: str) -> str:
        """The next word. Raises: ClaimError at the end of the sentence."""
        if self.at_end:
            raise self.refuse(expected)
        self._next += 1
        return self._words[self._next - 1]

    def look_for(self, *phrases: str) -> None:
        """Note what could stand here."""
        if not self._notes:
            return
        if self._looked_at != self._next:
            self._looked_for, self._looked_at = [], self._next
        self._looked_for.extend(phrases)

    def take_phrase(self, phrase: str) -> bool:
        """Read the phrase if it comes next, whole."""
        wanted = _split(phrase)
        if self._words[self._next] == wanted[0]:
            end = self._next + len(wanted)
            if len(wanted) == 1 or self._words[self._next : end] == wanted:
                self._next = end
                return True
        if self._notes:
            self.look_for(phrase)
        return False

    def take_one_of(self, phrases: Iterable[str]) -> str:
        """The first of the phrases that comes next; empty for none."""
        return next((phrase for phrase in phrases if self.take_phrase(phrase)), "")

    def expect(self, phrase: str) -> None:
        """Raises: ClaimError unless the phrase comes next."""
        if not self.take_phrase(phrase):
            raise self.refuse(f'"{phrase}"')

    def take_free_words(self, expected: str, until: str = "") -> str:
        """Words of any kind up to a comma, a condition or the end. Raises: ClaimError for none, or too many."""
        start, taken = self._next, list[str]()
        while not self.at_end and self.peek() not in (",", until) and self.peek() not in CONDITION_WORDS:
            taken.append(self.take(expected))
        text = " ".join(taken)
        if not text or len(text) > MAX_PHRASE_LENGTH or not text.isprintable():
            self._next = start
            raise self.refuse(expected if len(text) <= MAX_PHRASE_LENGTH else f"at most {MAX_PHRASE_LENGTH} characters")
        return text

    def take_quantity(self, *dimensions: Dimension) -> Quantity:
        """A number with its unit, written apart or together, or as two that belong together, such as 20 V 3.25 A.

        Raises: ClaimError for anything else.
        """
        start = self._next
        number = self.peek()
        groups = self._groups_of_three(start + 1) if _LEADING_GROUP.fullmatch(number) else 0
        length = groups + (2 if number[-1:].isdigit() else 1)
        if not number or number[0] not in "+-0123456789":
            raise self._refuse_quantity(dimensions)
        if length == 2 and not self._goes_on(start + 2) and start + 1 < len(self._words):
            plain = plain_quantity(number, self._words[start + 1], dimensions)
            if plain is not None:
                self._next = start + 2
                self.quantities.append(plain)
                return plain
        refused: QuantityError | None = None
        longer = (length + 3, length + 2, length + 1) if self._goes_on(start + length) else ()
        for count in (*longer, length) if longer else (length,):
            words = self._words[start : start + count]
            if count > length and words[-1:] in ([], [_END]):
                continue
            try:
                found = parse_quantity(" ".join(words), *dimensions)
            except QuantityError as error:
                refused = error
                continue
            self._next = start + count
            self.quantities.append(found)
            return found
        if refused is not None and refused.expected:
            raise self.refuse(refused.expected) from refused
        self._next = min(start + length - 1, len(self._words) - 1)
        raise self._refuse_quantity(dimensions, unit_alone=length >= 2)

    def quantity_follows(self, *dimensions: Dimension) -> bool:
        """Whether a value of these dimensions comes next; nothing is read."""
        place, count = self._next, len(self.quantities)
        try:
            self.take_quantity(*dimensions)
        except ClaimError:
            return False
        finally:
            self._next = place
            del self.quantities[count:]
        return True

    def _groups_of_three(self, place: int) -> int:
        """How many words here go on with the number before them, as in ``9 000``."""
        count = 0
        while place + count < len(self._words) and _NEXT_GROUP.fullmatch(self._words[place + count]):
            count += 1
        return count

    def _goes_on(self, place: int) -> bool:
        """A second number follows, or how long something took."""
        word = self._words[place] if place < len(self._words) else _END
        return word[:1].isdigit() or word in ("in", "x", "×")

    def _refuse_quantity(self, dimensions: tuple[Dimension, ...], *, unit_alone: bool = False) -> ClaimError:
        units = [symbol for each in dimensions for symbol in unit_symbols(each)]
        what = "a unit" if unit_alone else "a number"
        if unit_alone:
            self.look_for(*units)
        found = self.peek().lstrip("+-0123456789.,") if not unit_alone else self.peek()
        return self.refuse(f"{what}{':' if unit_alone else ' with'} {', '.join(units[:12])}", units, found)

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
        if not self.at_end:
            known = [each for each in self.looked_for if each != ","]
            raise self.refuse(" or ".join(["the end of the sentence", *map(str, known[:8])]))

    def refuse(
        self, expected: str, candidates: Iterable[str] = (), found: str = "", *, guesses: bool = True
    ) -> ClaimError:
        """The error for what stands at this place, with the nearest valid word."""
        word = self.peek()
        near = self._nearest([*candidates, *self.looked_for], found) if guesses and _LETTER.search(word) else ""
        return ClaimError(
            self.sentence,
            column=self.column,
            found=word,
            expected=expected,
            nearest=near,
        )

    def _nearest(self, candidates: list[str], found: str) -> str:
        """The candidate that is most like what stands here, over as many words as it has; empty where none is."""

        def likeness(candidate: str) -> float:
            wanted = _split(candidate)
            words = self._words[self._next : self._next + len(wanted)]
            begins_alike = len(wanted) > 1 and words[:1] == wanted[:1]
            ratio = difflib.SequenceMatcher(None, found or " ".join(words), candidate).ratio()
            return max(ratio, _LIKE_ENOUGH) if begins_alike else ratio

        best = max(candidates, key=likeness, default="")
        return best if best and likeness(best) >= _LIKE_ENOUGH else ""
