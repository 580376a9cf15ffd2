"""One thing to type on the typing line: what is asked, what may follow, and which facts it makes."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact

Facts = tuple[Fact, ...]


@dataclass(frozen=True)
class Preview:
    """What a text means so far."""

    offers: tuple[str, ...] = ()
    """What may be typed next."""
    message: str = ""
    claims: tuple[Claim, ...] = ()
    """The claims it reads as; the faces show them while they are typed."""


Offers = tuple[str, tuple[str, ...]]
"""The part of a text that stays, and what may follow it."""


def no_offers(text: str) -> Offers:
    return text, ()


@dataclass(frozen=True)
class Prompt:
    """What is typed, and what it does."""

    label: str
    facts: Callable[[Audit, str], Facts]
    """Facts of the text. Raises: AuditraError where it makes none."""
    offers: Callable[[str], Offers] = no_offers
    preview: Callable[[str], Preview] | None = None
    """Where a text can be read before it is complete."""
    action: str = ""
    """Name of the action, such as ``rename A1``; else the first word of the label."""

    @property
    def action_name(self) -> str:
        return self.action or self.label.split()[0]

    def preview_of(self, text: str) -> Preview:
        return Preview(self.offers(text)[1]) if self.preview is None else self.preview(text)


def offers_from(words: Iterable[str]) -> Callable[[str], Offers]:
    """Offers for the first word."""
    known = tuple(words)

    def offers(text: str) -> Offers:
        return "", tuple(word for word in known if word.startswith(text) and word != text)

    return offers


def offers_for_second_word(words: Iterable[str]) -> Callable[[str], Offers]:
    """Offers for the second word: ``A3 us`` goes on to usb-a and usb-c."""
    known = tuple(words)

    def offers(text: str) -> Offers:
        first, gap, rest = text.partition(" ")
        found = tuple(word for word in known if word.startswith(rest) and word != rest)
        return (f"{first} ", found) if gap else (text, ())

    return offers
