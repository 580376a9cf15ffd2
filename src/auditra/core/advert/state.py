"""What has been read of a text so far."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field

from auditra.core.advert.conditions import Condition
from auditra.core.advert.numbering import PLACES, Numbers
from auditra.core.advert.product import Product
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import Socket

_COUNT_FIRST = re.compile(r"\s*\d{1,2} ?x ")
"""``2 x USB-A: 5 Gb/s`` twice in a list are four sockets."""
_PLACES = re.compile(rf"(?i)\b(?:{'|'.join(PLACES)}|bottom|desk|wall)\b")
BOTH = "*"
"""What is said of every device of a kit."""


@dataclass(frozen=True)
class Said:
    """A claim that was read, with where it stands, how many conditions it was given, and what had to be assumed."""

    sentence: str
    start: int
    end: int
    assumed: tuple[str, ...] = ()


@dataclass
class State:
    """What has been read so far."""

    product: Product
    text: str = ""
    corrected: tuple[int, ...] = ()
    """Where the spelling of the text was corrected."""
    title_end: int = 0
    """Of a first line over others, which say again what it says."""
    numbers: Numbers = field(default_factory=Numbers)
    subject: list[Socket] = field(default_factory=list)
    said: list[Said] = field(default_factory=list)
    left: list[tuple[int, int]] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    """What has to be assumed for the claim that is being read."""
    device: str = ""
    in_use: dict[str, list[tuple[str, str]]] = field(default_factory=dict)
    """By column or sentence: what each of two sockets gives while both are in use."""
    numbers_of: dict[str, Numbers] = field(default_factory=dict)
    thing: str = ""
    """What the last condition was with or without, for an "it" behind it."""
    before: Condition | None = None
    """The last condition, for an "else" behind it."""
    is_unless: bool = False
    """Whether that was told by what must not be: a "then" behind it is its opposite."""
    pixels: str = ""
    """Of the last mode that was read, for a refresh rate that stands alone."""
    at: int = 0
    """Where the clause begins that is being read."""
    row_start: int = -1
    """Where its row of a table begins; -1 outside tables."""
    key_at: int = -1
    """Where its key stood first, if several clauses are under it; -1 for none."""
    name_end: int = 0
    """Where the name of its row ends among its words."""
    previous: int = 0
    """Where the clause before it began."""
    mentions: dict[tuple[int, int, str, int | None], list[str]] = field(default_factory=dict)
    """The sockets of each mention: one mention is of the same sockets, whatever is promised of them."""
    last: dict[str, list[str]] = field(default_factory=dict)
    """By class: the sockets that were promised something last."""
    to_host_in: int = -1
    """Where the clause begins in which a figure was what the host gets."""
    _spoken: dict[str, None] = field(default_factory=dict)
    """The sentences that were said, each once: a hostile text says the same thousands of times."""
    _heard: int = 0

    def turn_to(self, device: str, product: Product) -> None:
        """What follows is of another part of a kit, with sockets of its own."""
        if device != self.device:
            self.numbers_of[self.device] = self.numbers
            self.numbers = self.numbers_of.get(device, Numbers())
            self.device, self.product, self.subject, self.last = device, product, [], {}

    def is_corrected(self, sentence: Sentence) -> bool:
        """Whether the clause was not written as it is read."""
        start, end = sentence.clause.start, sentence.clause.end
        return any(start <= place < end for place in self.corrected)

    def said_in_title(self, letter: str, verb: str, words: str) -> bool:
        """Whether the title has promised these words of sockets of a class, and is over; `verb` is a pattern."""
        of_class = re.compile(rf"{letter}\d[^ ]* {verb} {re.escape(words)}")
        return self.at >= self.title_end and any(
            said.start < self.title_end and of_class.match(said.sentence) for said in self.said
        )

    def is_repeated(self, sentence: Sentence, socket: Socket, words: str) -> bool:
        """Whether all sockets of a class, as many as are spoken of again, have been promised this already.

        `words` are a verb and a figure without its hedge. What is at the front and at the back is not the same,
        whatever else is alike, and neither are two items of a list that begin with how many there are.
        """
        place = f"{sentence.clause.heading} {sentence.over}"
        known = self.numbers.ids(socket.letter)
        is_all = socket.count is not None and 1 < socket.count == len(known)
        if (
            not is_all
            or _COUNT_FIRST.match(sentence.text)
            or socket.ids
            or socket.label
            or socket.is_part
            or _PLACES.search(place)
        ):
            return False
        verb, _, figure = words.partition(" ")
        return all(
            any(self.has_said(f"{port} {verb} {hedge}{figure}") for hedge in ("", "up to ", "at least ", "about "))
            for port in known
        )

    def has_said(self, beginning: str) -> bool:
        if len(self.said) < self._heard:
            self._heard = 0
            self._spoken.clear()
        self._spoken.update(dict.fromkeys(said.sentence for said in self.said[self._heard :]))
        self._heard = len(self.said)
        return any(sentence.startswith(beginning) for sentence in self._spoken)


Rule = Callable[[State, Sentence], None]
