"""The offer: what comes with it, what it costs on a day, what it is the best of."""

from __future__ import annotations

import re

from auditra.core.advert.promises import say
from auditra.core.advert.rules.body import IN_THE_BOX
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import sockets
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_THING = (
    r"(?:leads?|cables?|cords?|supply|supplies|chargers?|adapters?|bricks?|pouch|bag|sleeve|strap|manual|guide|screwdriver|clips?"
    r"|feet|holder|ring|pads?|stylus|remote|batter(?:y|ies)|antennas?|screws|tray)"
)
"""What is put into a box beside the device."""
_COMES_WITH = re.compile(
    r"\b(?:comes? with|ships? with|(?:is |are )?(?:delivered|supplied|sold|bundled|packed) with"
    r"|the box (?:also )?(?:holds|has|contains)"
    r"|includes) (?!it\b|them\b)(.{4,120}?)(?:\.(?!\d)|$|;| for the host)",
    re.IGNORECASE,
)
_WITH_ALONE = re.compile(rf"\s*with (?:an? |the )?((?:[\w.-]+ ){{0,5}}{_THING})\W*", re.IGNORECASE)
_NOTE_MARKS = ("*", "]", ")", "†", "‡")
_SURELY = re.compile(r"comes? with", re.IGNORECASE)
_INCLUDED = re.compile(
    rf"(?P<what>(?:(?:[\w.-]+|and) ){{0,12}}{_THING}(?: (?:of )?[\d.]+ ?[a-zA-Z]{{1,2}}\b){{0,2}})(?:,? (?:which "
    rf"|that )?(?:is|are))?,? "
    r"(?:included|enclosed|in the box|part of the package|comes? (?:with it|along))\b(?! in the length)",
    re.IGNORECASE,
)
_SAYS_INCLUDED = re.compile(r"(?i)included|enclosed|in the box|part of the package|comes? (?:with it|along)")
_CLAUSE_BEFORE = re.compile(
    r".*\b(?:with|has|have|gives?|needs?|for|on|to|by|through)\b(?! (?:it\b|(?-i:[AC])\b))", re.IGNORECASE
)
_IN_TITLE = re.compile(
    r"(?:, with (?:an? )?(?=\d+ ?[WV])|\bincl(?:\.|uding|udes)? (?!the\b)(?:an? )?)([^,;()]{0,24}\b(?:supply"
    r"|adapter|charger"
    r"|brick|lead|cable|cord)\b(?: \d+ ?W)?)",
    re.IGNORECASE,
)
"""What is said to be in the box where a page says what it sells."""
_CARE = re.compile(r"(?i)\b(?:warranty|guarantee|support|service)\b")
_RATE = re.compile(r"\d ?[GM]b(?:/s|ps|it)")
_PARTS = re.compile(r",\s+| and (?:a |an )?|\s\+\s")
_PARTS_OF_SENTENCE = re.compile(r"(?:,| and) (?=an? )")
_ARTICLE = re.compile(r"^(?:and )?(?:a|an|the|one|1 x|its own|its)\s+", re.IGNORECASE)
_BEST = re.compile(r"\bthe (\w+est) of (\d+) (\w+)\b", re.IGNORECASE)
_MIN_WORDS, _MAX_WORDS = 3, 50


def included(state: State, sentence: Sentence) -> None:
    """A list of what is in the box; a supply that is said to be included."""
    if IN_THE_BOX.search(sentence.clause.over):
        for part in _PARTS.split(sentence.own.strip(" .")):
            _comes(state, sentence, part)
    elif (match := _included(sentence.text)) is not None:
        words = _CLAUSE_BEFORE.sub("", match["what"])
        for part in _PARTS.split(words):
            _comes(state, sentence, part)
    elif not state.text[: sentence.clause.start].strip():
        for match in _IN_TITLE.finditer(sentence.text):
            _comes(state, sentence, match[1])


def _included(text: str) -> re.Match[str] | None:
    """The end is looked for first: hostile texts have many beginnings and no end."""
    return _INCLUDED.search(text) if _SAYS_INCLUDED.search(text) else None


def comes_with(state: State, sentence: Sentence) -> None:
    alone = _WITH_ALONE.fullmatch(sentence.own)
    is_note = state.text[: sentence.clause.start].rstrip().endswith(_NOTE_MARKS)
    if alone is not None and not sentence.shift and not is_note:
        _comes(state, sentence, alone[1])
    match = _COMES_WITH.search(sentence.text)
    if match is None:
        return
    surely = _SURELY.match(match[0]) is not None
    for part in _PARTS_OF_SENTENCE.split(re.sub(r"\([^)]*\)", "", match[1])):
        if surely or re.search(rf"(?i)\b{_THING}\b", part):
            _comes(state, sentence, part)


def _comes(state: State, sentence: Sentence, part: str) -> None:
    words = " ".join(re.sub(r"[^\w .+-]", " ", _ARTICLE.sub("", part.strip())).split())
    if " or " in words or _CARE.search(words) or _RATE.search(part):
        return  # one of several, or what a socket does, or what is no thing
    names_sockets = any(not socket.is_plug for socket in sockets(words))
    if _MIN_WORDS <= len(words) <= _MAX_WORDS and not names_sockets:
        say(state, sentence, f"body comes with {words}")


def costs(state: State, sentence: Sentence) -> None:
    """A price with its day; a superlative with its set and day."""
    day = next(sentence.of_dim(Dim.DAY), None)
    if day is None:
        return
    money = next(sentence.of_dim(Dim.MONEY), None)
    if money is not None:
        say(state, sentence, f"body costs {money.text} at {day.text}")
    if best := _BEST.search(sentence.text):
        day = next((each for each in sentence.of_dim(Dim.DAY) if each.start >= best.end()), day)
        say(state, sentence, f"body is the {best[1].lower()} of {best[2]} {best[3]} at {day.text}")
