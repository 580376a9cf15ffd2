"""A text cut into phrases, and what is known while they are read one after the other."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import pairwise

from auditra.core.advert.mentions import NUMBERS, Mention, What, count_of
from auditra.core.advert.sockets import Sockets

_MAX_SENTENCE_LENGTH = 600
_MAX_JOINED = 8
_SHORTENED = (
    r"(?<!\bmin)(?<!\bincl)(?<!\bapprox)(?<!\bca)(?<!\bres)(?<!\bdim)(?<![.])(?:(?<!\bmax)|(?![.]\s(?-i:[a-z\d])))"
)
"""A point after one of these ends no sentence, nor does a row of points; after ``max`` it does where one begins."""
_CUT = re.compile(
    rf"[;\n]|,(?!\d)|{_SHORTENED}[.!?](?=\s|$)|\s\|\s|\s\+\s|\s-\s|(?:^|(?<=\n))\s*[*\->]\s*", re.IGNORECASE
)
_SENTENCE = re.compile(rf"[\n]|{_SHORTENED}[.!?](?=\s|$)", re.IGNORECASE)
_JOINED = re.compile(r"[\s\d]*(?:slots?|ports?)?[\s&,/+]*(?:and|und|et|y|or|oder|ou)?[\s&,/+]*", re.IGNORECASE)
_DRIVE = re.compile(r"enclosure|\bssd\b|nvme|\b(?:drive|disk) dock|2[.,]5[- ](?:inch|zoll)")
_COUNT_BEFORE_FIGURE = re.compile(rf"\b({NUMBERS})\s*(?:x|at)\s*$", re.IGNORECASE)
_CABLE = re.compile(r"\bcables?\b|kabel\b|\bcavo\b|\bcâble\b|\bcordon\b", re.IGNORECASE)
_NO_CABLE = re.compile(
    r"\bkit\b|receiver|\bhub\b|\bdock|adapter|charger|\bswitch\b|reader|enclosure|repeater|\bsockets?\b"
    r"|\bports?\b|extension|\bin[- ](?:1|one)\b"
    rf"|\b(?:{NUMBERS})\s*(?:x\s*)?(?:usb[- ][ac]\b|hdmi)",
    re.IGNORECASE,
)
_FIRST_PHRASES = re.compile(r"\s*(?:[^,;:.!?\n]|\.(?=\d)){1,80}(?:[,.:]\s(?:[^,;:.!?\n]|\.(?=\d)){1,60})?")
_END_TO_END = re.compile(r"(?:usb[- ]|type[- ]|\b)[ac] to (?:usb[- ]|type[- ])?c\b|hdmi to hdmi", re.IGNORECASE)
"""A plug at both ends, which only a cable has."""
_HEAD = 80
"""In so many letters a text says what the thing is."""
_YES = re.compile(r"\s*(?:yes|ja|oui|sí|sì)\b", re.IGNORECASE)
_EXTENSION = re.compile(r"extension|extender|repeater|verlängerung|prolongateur|rallonge|prolunga", re.IGNORECASE)


def _is_cable(text: str) -> bool:
    """Whether the thing itself is a cable, by its first words."""
    first = _FIRST_PHRASES.match(text)
    head = first[0] if first else ""
    if _NO_CABLE.search(head):
        return False
    return bool(_CABLE.search(head)) or bool(_END_TO_END.search(head) and _CABLE.search(text))


COMPATIBLE: dict[What, tuple[str, ...]] = {
    What.RATE: ("usb-a", "usb-c", "rj45", "up"),
    What.MODE: ("hdmi", "displayport", "vga", "usb-c"),
    What.BYTE_RATE: ("sd", "microsd"),
    What.BUS: ("sd", "microsd"),
    What.WATTS: ("usb-a", "usb-c"),
    What.VOLTS_AMPERES: ("usb-a", "usb-c"),
    What.AMPERES: ("usb-a", "usb-c"),
    What.OHM: ("3.5 mm",),
}
"""Which sockets a figure can be of."""
PICTURES = ("displayport", "hdmi", "vga")
Placed = tuple[Mention, tuple[str, ...]]
"""A connector where it is mentioned, with the ids of its sockets."""


@dataclass
class Phrase:
    """A phrase of the text with what stands in it."""

    text: str
    start: int
    end: int
    sentence_start: int
    sentence_end: int
    found: list[Mention]
    sockets: list[Placed] = field(default_factory=list)

    @property
    def words(self) -> str:
        return self.text[self.start : self.end].lower()

    @property
    def sentence(self) -> str:
        return self.text[
            self.sentence_start : min(self.sentence_end, self.sentence_start + _MAX_SENTENCE_LENGTH)
        ].lower()

    def has(self, *words: str) -> bool:
        return any(each.what is What.WORD and each.value in words for each in self.found)

    def figures(self, *whats: What) -> list[Mention]:
        return [each for each in self.found if each.what in whats]


def cut(text: str, found: list[Mention]) -> Iterator[Phrase]:
    """The phrases of a text, in order."""
    sentences = [0, *(match.end() for match in _SENTENCE.finditer(text)), len(text)]
    cuts = [*((match.start(), match.end()) for match in _CUT.finditer(text)), (len(text), len(text))]
    start, at = 0, 0
    for end, next_start in _cut_long(text, cuts):
        while at + 1 < len(sentences) - 1 and sentences[at + 1] <= start:
            at += 1
        if text[start:end].strip():
            yield Phrase(text, start, end, sentences[at], max(sentences[at + 1], end), _within(found, start, end))
        start = next_start


def _cut_long(text: str, cuts: list[tuple[int, int]]) -> Iterator[tuple[int, int]]:
    """The cuts, and more at gaps between words where there is none for very long: a phrase costs its length squared."""
    start = 0
    for end, next_start in cuts:
        while end - start > _MAX_SENTENCE_LENGTH:
            gap = text.rfind(" ", start + 1, start + _MAX_SENTENCE_LENGTH)
            start = gap if gap > start else start + _MAX_SENTENCE_LENGTH
            yield start, start
        yield end, next_start
        start = next_start


def _since_last_socket(figure: Mention, phrase: Phrase) -> list[Mention]:
    """The figures of a kind that stand behind the same socket: ``2 USB-C (65 W and 30 W)``."""
    sockets = [mention.start for mention, _ in phrase.sockets]
    start = max((place for place in sockets if place < figure.start), default=phrase.start)
    end = min((place for place in sockets if place > figure.start), default=phrase.end)
    return [each for each in phrase.figures(figure.what) if start <= each.start < end]


def _within(found: list[Mention], start: int, end: int) -> list[Mention]:
    """Those of the mentions, which are in order of place, that begin between two places."""
    return found[bisect_left(found, start, key=lambda m: m.start) : bisect_left(found, end, key=lambda m: m.start)]


@dataclass
class Context:
    """What a reader knows at a phrase: the sockets so far, those last named in the sentence, and what the thing is."""

    text: str
    found: list[Mention]
    sockets: Sockets = field(default_factory=Sockets)
    current: list[Placed] = field(default_factory=list)
    of_sentence: list[Mention] = field(default_factory=list)
    sentence_start: int = 0
    loose: list[Mention] = field(default_factory=list)
    """Rates that stand by no socket."""
    inlet: bool = False
    """A socket for power in was mentioned."""
    shared_out: dict[tuple[str, ...], int] = field(default_factory=dict)

    def __post_init__(self) -> None:
        lower = self.text.lower()
        self.is_cable = _is_cable(self.text)
        self.is_charger, self.is_drive = "charger" in lower[:_HEAD], bool(_DRIVE.search(lower))
        self.is_extension = bool(_EXTENSION.search(lower))
        self.is_adapter = "adapter" in lower
        self.ohms = [each for each in self.found if each.what is What.OHM]
        self.tells_card_rates = any(each.what is What.BYTE_RATE for each in self.found)
        self.names_3_5_mm = bool(re.search(r"3[.,]5 ?mm", self.text))
        self.over_full_length = any(each.value == "full length" for each in self.found)

    def begin_sentence(self, phrase: Phrase) -> None:
        start = phrase.sentence_start
        if not _YES.match(self.text, start):
            self.current, self.shared_out, self.sentence_start = [], {}, start
        end = min(phrase.sentence_end, phrase.sentence_start + _MAX_SENTENCE_LENGTH)
        self.of_sentence = _within(self.found, self.sentence_start, end)

    def says(self, phrase: Phrase, word: str) -> bool:
        """Whether a word stands in the phrase, or earlier in its sentence."""
        earlier = (m for m in self.of_sentence if m.what is What.WORD and m.start < phrase.start)
        return phrase.has(word) or any(m.value == word for m in earlier)

    def near(self, connector: str, phrase: Phrase) -> tuple[str, ...]:
        """The sockets of a connector that a phrase is about."""
        here = [ids for each, ids in phrase.sockets or self.current if each.value == connector]
        return here[-1] if here else tuple(self.sockets.found.get(connector, ()))

    def target(self, figure: Mention, phrase: Phrase) -> tuple[str, tuple[str, ...]]:
        """The connector and sockets that a figure stands by: before it in its phrase, behind it, or on the line.

        Sockets that are joined (``HDMI 1 & HDMI 2``) are meant together.
        """
        fits = COMPATIBLE[figure.what]
        here = [socket for socket in phrase.sockets if socket[0].value in fits]
        before = [each for each in here if each[0].start < figure.start]
        chosen = before[-1:] or here[:1] or [each for each in self.current if each[0].value in fits][-1:]
        if not chosen:
            return self._only_output() if figure.what is What.MODE else ("", ())
        ids = chosen[0][1]
        line = [*self.current, *phrase.sockets][-_MAX_JOINED:]
        for one, other in reversed(list(pairwise(line))):
            joined = _JOINED.fullmatch(self.text[one[0].end : other[0].start])
            if not joined or "UP" in ids:
                continue
            if other[1][0] in ids and one[1][0] not in ids and one[0].value in fits:
                ids = (*one[1], *ids)
            elif not before and one[1][0] in ids and other[1][0] not in ids and other[0].value in fits:
                ids = (*ids, *other[1])
        return chosen[0][0].value, ids

    def outputs(self) -> tuple[str, ...]:
        """Every socket that is for pictures alone."""
        return tuple(port for each in PICTURES for port in self.sockets.found.get(each, ()))

    def _only_output(self) -> tuple[str, tuple[str, ...]]:
        outputs = self.outputs()
        return ("picture", outputs) if len(outputs) == 1 else ("", ())

    def share(self, figure: Mention, ids: tuple[str, ...], phrase: Phrase) -> tuple[str, ...]:
        """Of several sockets those that a count before the figure takes: ``1x 10 Gb/s, 2x 5 Gb/s``."""
        if len(ids) == 2 and (side := re.search(r"\b(left|right)\b", phrase.words)):
            return ids[:1] if side[1] == "left" else ids[1:]
        match = _COUNT_BEFORE_FIGURE.search(self.text[phrase.start : figure.start])
        if match is None or len(ids) < 2:
            alike = _since_last_socket(figure, phrase)
            plain = [each for each in alike if not each.value.lower().startswith("usb")]
            alike = plain if figure in plain else alike
            return (ids[alike.index(figure)],) if len(alike) == len(ids) > 1 else ids
        if any(mention.start >= phrase.start + match.start() for mention, _ in phrase.sockets):
            return ids
        first, count = self.shared_out.get(ids, 0), count_of(match[1])
        self.shared_out[ids] = first + count
        if first < len(ids):
            return ids[first : first + count]
        return self.sockets.more_like(ids[0], count)
