"""Rates by name: a generation that one rate goes by, or the same as before."""

from __future__ import annotations

import re
from dataclasses import replace

from auditra.core.advert.belonging import ids_of, subjects
from auditra.core.advert.of_another import of_another
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import DATA, promise, say, say_of
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_GENERATIONS = (
    (any_of(r"USB ?4(?: 2\.0)? Gen ?4(?: ?x ?2)?"), "80 Gb/s"),
    (any_of(r"(?:USB ?4 )?Gen ?3 ?x ?2"), "40 Gb/s"),
    (any_of(r"USB ?4 Gen ?2 ?x ?2", r"Gen ?3 ?x ?1"), "20 Gb/s"),
    (any_of(r"(?:USB )?3\.2 Gen ?2 ?x ?2", "Gen 2x2"), "20 Gb/s"),
    (any_of(r"(?:USB )?3\.[12] Gen ?2(?: ?x ?1)?(?! ?x ?2)", "Gen 2(?:x1)?", "SuperSpeed ?plus"), "10 Gb/s"),
    (
        any_of(
            r"USB ?3\.0",
            r"USB-?[AC] 3\.0",
            r"(?:USB )?3\.[12] Gen ?1(?: ?x ?1)?",
            "Gen 1(?:x1)?",
            "SuperSpeed(?! ?plus)",
        ),
        "5 Gb/s",
    ),
    (
        any_of(
            r"Hi-?Speed USB",
            "Hi-Speed(?! HDMI| leads?| cables?)",
            r"USB 2\.0 Hi-?Speed",
            r"(?:USB 2\.0 )?high[- ]speed USB 2\.0",
        ),
        "480 Mb/s",
    ),
)
"""Names that one rate goes by. Source: USB 3.2, 1.1; USB4, 1.1; USB 2.0, 4.2.1: high speed is 480 Mb/s. USB 2.0 "
"alone may be full speed: not read."""
_UPSTREAM_FIRST = re.compile(
    r"\W*(?:upstream|uplink|host|to (?:the |your )?(?:host|computer|laptop|notebook))\b", re.IGNORECASE
)
_BEHIND_COMMA = re.compile(r"(?: (?:connectors?|sockets?|ports?|receptacles?))?, ([^,;]{0,24})", re.IGNORECASE)
_CLASS_ONLY = re.compile(r"[ -]*(?:USB[- ]?)?(?:\d\.\d )?(?:Type[- ]?)?[AC]", re.IGNORECASE)
_UNNAMED = re.compile(r"USB (?:ports|sockets)\b(?: \w+){0,4}:")
"""Over sockets that have names."""
_IS_A_PLUG = re.compile(r"[ -](?:plug|cable|lead|cord)\b")
_PLUG_NAME = 20
_DOES_THE_SAME = any_of("do(?:es)? the same")
_NO_TYPE = re.compile(r"(?i)USB ?\d\.\d")
"""No class of socket: of a device with one link, that link."""
_THAT_SPEED = re.compile(r"(?i)\b(?:of|at|with) (?:that|this|the same) (?:speed|rate)\b")
_DITTO = any_of("do(?:es)? the same", "the full (?:rate|speed)", "ditto", "likewise", "the same", "as fast")
_PLUG_IS = re.compile(r"\bplug (?:is|has|runs) ((?:USB )?3\.[^,;]{0,12})", re.IGNORECASE)


def names_generation(text: str) -> bool:
    """Whether a rate is told by its name."""
    return any(pattern.search(text) for pattern, _ in _GENERATIONS)


def generations(state: State, sentence: Sentence) -> None:
    """A generation's name without a figure beside it."""
    if state.product.is_lead or not names_generation(sentence.text):
        return
    if (0, len(sentence.text)) in of_another(sentence.text):
        return
    rated = [socket for each in sentence.of_dim(Dim.RATE) for socket in subjects(state, sentence, each, "ACN")[0]]
    plug = _PLUG_IS.search(sentence.text)
    named = plug and next((rate for pattern, rate in _GENERATIONS if pattern.match(plug[1])), None)
    if not named and not sentence.sockets_of("ACN") and not rated and _UPSTREAM_FIRST.match(sentence.text):
        named = next((rate for pattern, rate in _GENERATIONS if pattern.search(sentence.text)), None)
    plugs = [each for each in sentence.sockets if each.is_plug and each.letter in "AC"]
    behind = [sentence.text[each.end : each.end + _PLUG_NAME] for each in plugs]
    of_plug = (rate for words in behind if " plug" in words for pattern, rate in _GENERATIONS if pattern.search(words))
    before = (_generation_beside(sentence, each) for each in plugs if _IS_A_PLUG.match(sentence.text, each.end))
    named = named or next(of_plug, None) or next(filter(None, before), None)
    if named:
        say(state, sentence, f"UP data {named}")
    for socket in sentence.sockets_of("AC"):
        is_title = _UNNAMED.match(sentence.text, socket.start) is not None and len(sentence.sockets_of("AC")) > 1
        if socket in rated or is_title:
            continue
        following = min(
            (each.start for each in sentence.sockets if each.start >= socket.end), default=len(sentence.text)
        )
        begin = sentence.shift if socket.end <= sentence.shift else socket.end if socket.ids else socket.start
        near = re.split(r"[,;:+)]|\band\b", sentence.text[begin : min(following, max(begin, socket.end) + 24)])[0]
        rate = next((rate for pattern, rate in _GENERATIONS if pattern.search(near)), None)
        rate = rate or _generation_beside(sentence, socket)
        if (
            rate is not None
            and state.product.is_one_link
            and (not socket.count or _NO_TYPE.match(sentence.text, socket.start))
        ):
            say(state, sentence, f"UP data {rate}")
        elif rate is not None:
            again = state.is_repeated(sentence, socket, f"data {rate}")
            say_of(state, sentence, ids_of(state, [socket], "data", again=again), DATA, rate)


def of_that_speed(state: State, sentence: Sentence) -> None:
    """``Ports of that speed: 1 (USB-C)``, below the link to the host."""
    last = state.said[-1].sentence if state.said else ""
    found = sentence.sockets_of("AC")
    if (
        found
        and last.startswith("UP data ")
        and _THAT_SPEED.search(sentence.over)
        and not any(sentence.of_dim(Dim.RATE))
    ):
        count = re.match(r"\s*(\d)\b", sentence.own)
        socket = replace(found[-1], count=int(count[1])) if count and len(found) == 1 else found[-1]
        say_of(state, sentence, ids_of(state, [socket], "data"), DATA, last.removeprefix("UP data "))


def same_again(state: State, sentence: Sentence) -> None:
    """``One USB-C socket, ditto``: the rate of the sockets before it."""
    found, ditto = sentence.sockets_of("AC"), _DITTO.search(sentence.text)
    if not found or ditto is None:
        return
    before = [each for each in sentence.of_dim(Dim.RATE) if each.end <= ditto.start()]
    if before and _DOES_THE_SAME.match(ditto[0]):
        alike = [each for each in found if before[-1].end <= each.start and each.end <= ditto.start()][-1:]
        promise(state, sentence, ids_of(state, alike, "data"), DATA, before[-1])
    if any(sentence.of_dim(Dim.RATE)):
        return
    last = next((said.sentence for said in reversed(state.said) if " data " in said.sentence), "")
    if last:
        ids = ids_of(state, found, "data")
        say_of(state, sentence, ids, DATA, last.partition(" data ")[2].removesuffix(" each"))


def _generation_beside(sentence: Sentence, socket: Socket) -> str | None:
    """``One USB 3.2 Gen 1 Type-A connector``, ``Type-C connector, USB 3.2 Gen 2x2``."""
    before = sentence.text[sentence.shift : socket.end]
    opened = sentence.text[: socket.start].endswith("(") and sentence.text[socket.end : socket.end + 1] == ")"
    words = re.split(
        r"[,;:+()]|\band\b", before[: before.rfind("(")] + before[before.rfind("(") + 1 :] if opened else before
    )[-1]
    behind = _BEHIND_COMMA.match(sentence.text, socket.end)
    for pattern, rate in _GENERATIONS:
        named = pattern.search(words)
        if named is not None and _CLASS_ONLY.fullmatch(words[named.end() :]):
            return rate
        if behind is not None and pattern.match(behind[1]):
            return rate
    return None
