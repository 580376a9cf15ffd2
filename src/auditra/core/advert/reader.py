"""Proposes claims for a text: each figure goes to the socket that it stands by; a reviewer takes it or not."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.advert import about_device, about_sockets
from auditra.core.advert.mentions import What, hedge, mentions, plain
from auditra.core.advert.phrases import Context, Phrase, cut
from auditra.core.claims.language import parse_claims
from auditra.core.errors import ClaimError, InputError

MAX_TEXT_LENGTH = 100_000
MAX_PROPOSALS = 400
_RULES = (
    about_sockets.data, about_sockets.pictures, about_sockets.cards, about_sockets.power, about_sockets.sound,
    about_device.body,
)  # fmt: skip
_LEAST_SURE = 0.3
_LOOSELY_SURE = 0.5
_CARRIED_ON = 0.85
"""How much surety is left where a figure's socket was named in an earlier phrase."""
_LOOSE = "the rate names no port: applied to every port"
_WORD = re.compile(r"[^\W\d_]{4,}")
_PLAIN_WORDS = frozenset(
    re.findall(
        r"\w+",
        """with that this each from your port ports socket sockets output outputs slot slots speed rate data video power
        supports support works over into both also side front rear left right plus only which avec mit""",
    )
)
"""Words that change nothing in what is promised."""
_MAX_STRANGE = 6
_MAX_AT_ONCE = 12
"""Sockets of a line that figures behind them can still be of."""


@dataclass(frozen=True)
class Proposal:
    """A claim that a text seems to make. `sure` is 0 to 1: how much of the phrase was understood, over the readings.

    `unclear` says in words what a reviewer should look at before it is taken.
    """

    sentence: str
    quoted: str
    sure: float
    unclear: tuple[str, ...] = ()


@dataclass(frozen=True)
class ReadText:
    """What was read: proposals in order, and the phrases from which nothing was taken."""

    proposals: tuple[Proposal, ...]
    left_over: tuple[str, ...]


def read_text(text: str) -> ReadText:
    """The claims that a text seems to make. Raises: InputError for one that is too long."""
    if len(text) > MAX_TEXT_LENGTH:
        raise InputError(
            "the text", why=f"it is longer than {MAX_TEXT_LENGTH} characters", do="Cut it to what is promised"
        )
    return _Reader(text).read()


class _Reader:
    """One text under reading."""

    def __init__(self, text: str) -> None:
        self.original, self.text = text, plain(text)
        self.found = sorted(mentions(self.text), key=lambda each: each.start)
        self.context = Context(self.text, self.found)
        self.made: dict[str, Proposal] = {}
        self.left: list[str] = []

    def read(self) -> ReadText:
        for sentence, start, end in about_device.whole(self.text):
            self._propose(sentence, start, end, 0.9)
        boxes = [match.span() for match in about_device.IN_BOX.finditer(self.text)]
        sentence_start = -1
        for phrase in cut(self.text, self.found):
            if phrase.sentence_start != sentence_start:
                sentence_start = phrase.sentence_start
                self.context.begin_sentence(phrase)
            if not any(start <= phrase.start < end for start, end in boxes):
                self._read_phrase(phrase)
        self._place_the_loose_rate()
        return ReadText(tuple(self.made.values()), tuple(self.left))

    def _read_phrase(self, phrase: Phrase) -> None:
        for mention in phrase.figures(What.SOCKET):
            ids = self.context.sockets.of(mention, self.text, phrase.sentence_start, phrase.end)
            phrase.sockets.append((mention, ids))
        sure, unclear, taken = self._sureness(phrase), self._unclear(phrase), False
        for said in self._said(phrase):
            taken = self._propose(said, phrase.start, phrase.end, sure, unclear) or taken
        if phrase.sockets:
            self.context.current = [*self.context.current, *phrase.sockets][-_MAX_AT_ONCE:]
        elif not taken:
            self.left.append(self.original[phrase.start : phrase.end].strip(" \t*-|"))

    def _place_the_loose_rate(self) -> None:
        """A hub's one rate that stands by no socket is each socket's, where no other rate was given."""
        sockets = [port for each in ("usb-a", "usb-c") for port in self.context.sockets.found.get(each, ())]
        if len(self.context.loose) == 1 and not any(" data " in sentence for sentence in self.made):
            rate = self.context.loose[0]
            for port in sockets:
                self._propose(f"{port} data {hedge(rate)}{rate.value}", rate.start, rate.end, _LOOSELY_SURE, (_LOOSE,))

    def _said(self, phrase: Phrase) -> Iterator[str]:
        if self.context.is_cable:
            yield from about_device.cable(self.context, phrase)
        else:
            for rule in _RULES:
                yield from rule(self.context, phrase)

    def _sureness(self, phrase: Phrase) -> float:
        """How much of the letters of a phrase was understood, over how many connectors its figures could belong to."""
        letters = sum(each.isalnum() for each in self.text[phrase.start : phrase.end]) or 1
        places = {place for each in phrase.found for place in range(each.start, min(each.end, phrase.end))}
        known = sum(self.text[place].isalnum() for place in places)
        rivals = max(1, len({mention.value for mention, _ in phrase.sockets}))
        carried = _CARRIED_ON if not phrase.sockets and self.context.current else 1.0
        share = min(1.0, _LEAST_SURE + (1 - _LEAST_SURE) * known / letters)
        return round(carried * share / (1 + 0.25 * (rivals - 1)), 2)

    def _unclear(self, phrase: Phrase) -> tuple[str, ...]:
        """What a person would ask of a phrase: whose the figures are, and which of its words were not understood."""
        connectors = sorted({mention.value for mention, _ in phrase.sockets})
        figures = any(each.what not in (What.SOCKET, What.WORD) for each in phrase.found)
        told = []
        if len(connectors) > 1 and figures:
            told.append(f"its figures could be of {' or '.join(connectors)}")
        if not phrase.sockets and figures and self.context.current:
            told.append("its socket was named earlier")
        known = {place for each in phrase.found for place in range(each.start, each.end)}
        words = (match for match in _WORD.finditer(self.text, phrase.start, phrase.end))
        strange = [m[0] for m in words if m.start() not in known and m[0].lower() not in _PLAIN_WORDS]
        if strange:
            told.append(f"not understood: {', '.join(strange[:_MAX_STRANGE])}")
        return tuple(told)

    def _propose(self, sentence: str, start: int, end: int, sure: float, unclear: tuple[str, ...] = ()) -> bool:
        """Only what the claim language reads is proposed."""
        if len(self.made) >= MAX_PROPOSALS:
            return False
        try:
            claims = parse_claims(sentence, claim_id="")
        except ClaimError:
            return False
        for claim in claims:
            self.made.setdefault(
                str(claim), Proposal(str(claim), self.original[start:end].strip(" \t*-|"), sure, unclear)
            )
        return True
