"""Sound: jacks that play and jacks that record."""

from __future__ import annotations

import re
from collections.abc import Sequence

from auditra.core.advert.figures import Figure
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_SIZES = ("2.5 mm", "3.5 mm", "6.3 mm")
_RECORDS = any_of("line[- ]in", "headset", "mic", "microphones?", "in/out", "in and out", "recording")
_PLAYS = any_of("headphones?", "headset", "speakers?", "out", "output", "optical", "jack", "audio")
_NETWORK = any_of("network", "ethernet", "LAN")
_SAME = any_of("(?:through|on|in|via|over) the same (?:socket|jack)")
_BOTH_LINES = re.compile(r"(?i)\bline[- ]in\b.*\bline[- ]out\b|\bline[- ]out\b.*\bline[- ]in\b")
_OWN_JACK = re.compile(
    r"\band (?:one|another|an?other|a second)(?: (?:jack|socket))?,? for (?:a |the )?mic", re.IGNORECASE
)
_MIC_TOO = re.compile(r"(?i)\W*(?:with )?mic(?:rophone)?s? (?:supported|works?|too|as well|support)\W*")
"""``Mic supported``: of the jack that was named."""
_TITLE = re.compile(r"[\W]*(?:audio|sound|headphones?)[\W]*", re.IGNORECASE)
"""A heading over what is said of jacks."""
_JACK_ALONE = re.compile(r"\W*(?:one |a )?(?:jack|headset|headphones)(?: socket)?\W*", re.IGNORECASE)
_NOT_OFFERED = any_of(
    "(?:no|without(?: an?| any)?) (?:calls?|sound|audio|recording|mic(?:rophone)?s?|headphones?|headset"
    "|jack)(?! driver)",
    "audio (?:on|over|through|via) (?:all|both|each|every|HDMI|DisplayPort)",
)
_ANOTHER = any_of("second", "another", "other")
_MICROPHONE = re.compile(r"mic(?:rophone)?s?", re.IGNORECASE)


def sound(state: State, sentence: Sentence) -> None:
    """One jack for each size that is named; one for a headset both ways."""
    jacks = sentence.sockets_of("J")
    of_network = _NETWORK.search(sentence.clause.heading) is not None
    if (
        (_TITLE.fullmatch(sentence.own) and sentence.clause.begins_line)
        or (_JACK_ALONE.fullmatch(sentence.own) and state.numbers.ids("J"))
        or state.product.is_lead
        or not jacks
        or of_network
        or _NOT_OFFERED.search(sentence.text)
    ):
        return
    words = " ".join(sentence.text[jack.start : jack.end].lower() for jack in jacks)
    if "optical" in words and not any(each.text in _SIZES for each in sentence.of_dim(Dim.LENGTH)):
        _jack(state, sentence, "plays", "optical")
        return
    plays = _PLAYS.search(sentence.text) is not None and not _MICROPHONE.fullmatch(words.strip())
    if _SAME.search(sentence.text) and state.numbers.ids("J"):
        last = next((said.sentence for said in reversed(state.said) if " plays" in said.sentence), "")
        known = next((size for size in _SIZES if size in last), "")
        say(state, sentence, f"{state.numbers.ids('J')[-1]} records {known}".strip())
        return
    sizes = [each for each in sentence.of_dim(Dim.LENGTH) if each.text in _SIZES]
    if not sizes and any(sentence.of_dim(Dim.OHM)) and len(state.numbers.ids("J")) == 1 and not _ANOTHER.search(words):
        for figure in sentence.of_dim(Dim.OHM):
            say(state, sentence, f"J1 plays {figure.text}")
        return
    choices: list[Figure | None] = [*sizes] or [None]
    for size in choices:
        ohm = next(
            (each for each in sentence.of_dim(Dim.OHM) if len(choices) == 1 or (size and each.start > size.start)), None
        )
        tail = " ".join(each.text for each in (size, ohm) if each is not None)
        own_words = _words_of(sentence, size, sizes)
        plays_here = plays and (own_words is None or _PLAYS.search(own_words) is not None)
        if plays_here:
            _jack(state, sentence, "plays", tail)
        if _RECORDS.search(own_words or sentence.text):
            spoken = _MIC_TOO.fullmatch(sentence.own) is not None and len(state.numbers.ids("J")) == 1
            own = _OWN_JACK.search(sentence.text) is not None or _BOTH_LINES.search(sentence.text) is not None
            _jack(state, sentence, "records", size.text if size else "", same=(plays_here and not own) or spoken)


def optical(state: State, sentence: Sentence) -> None:
    """Beside jacks that are told by their size."""
    named = any(sentence.text[each.start : each.end].lower().startswith("optical") for each in sentence.sockets_of("J"))
    if named and any(each.text in _SIZES for each in sentence.of_dim(Dim.LENGTH)) and not state.product.is_lead:
        _jack(state, sentence, "plays", "optical")


def _words_of(sentence: Sentence, size: Figure | None, sizes: Sequence[Figure]) -> str | None:
    """``3.5 mm out, 3.5 mm mic``, ``headphones 3.5 mm, microphone 3.5 mm``: what is said of one of several jacks.

    None where one is spoken of.
    """
    first = sentence.text[sentence.shift : sizes[0].start] if sizes else ""
    if len(sizes) > 1 and size is not None and (_PLAYS.search(first) or _RECORDS.search(first)):
        earlier = max((each.end for each in sizes if each.end <= size.start), default=0)
        return sentence.text[earlier : size.start]
    following = [each.start for each in sizes if size is not None and each.start > size.start]
    words = sentence.text[size.end : min(following, default=len(sentence.text))] if size is not None else ""
    return words if len(sizes) > 1 and (_PLAYS.search(words) or _RECORDS.search(words)) else None


def _jack(state: State, sentence: Sentence, verb: str, tail: str, *, same: bool = False) -> None:
    known = len(state.numbers.ids("J"))
    number = known if same and known else known + 1
    state.numbers.declare("J", number)
    say(state, sentence, f"J{number} {verb} {tail}".strip())
