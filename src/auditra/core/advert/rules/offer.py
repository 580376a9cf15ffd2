"""The offer: what comes with it, what it costs on a day, what it is the best of."""

from __future__ import annotations

import re

from auditra.core.advert.promises import say
from auditra.core.advert.rules.body import IN_THE_BOX
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_COMES_WITH = re.compile(
    r"\b(?:comes with|is delivered with|supplied with) (.{4,120}?)(?:\.(?!\d)|$|;| for the host)", re.IGNORECASE
)
_INCLUDED = re.compile(
    r"\b(\d+ ?[WV](?: |/)(?:\d+(?:\.\d+)? ?A )?(?:power )?(?:supply|charger|adapter|brick)"
    r"|(?:power )?(?:supply|charger) \d+ ?[WV](?: \d+ ?A)?)(?: that)?(?: is)? included\b",
    re.IGNORECASE,
)
_IN_TITLE = re.compile(
    r"(?:, with (?:an? )?(?=\d+ ?[WV])|\bincl(?:\.|uding|udes)? (?:an? )?)([^,;()]{0,24}\b(?:supply|adapter|charger"
    r"|brick|lead|cable|cord)\b(?: \d+ ?W)?)",
    re.IGNORECASE,
)
"""What is said to be in the box where a page says what it sells."""
_PARTS = re.compile(r",\s+| and (?:a |an )?|\s\+\s")
_PARTS_OF_SENTENCE = re.compile(r"(?:,| and) (?=an? )")
_ARTICLE = re.compile(r"^(?:a|an|the|one|1 x|its own)\s+", re.IGNORECASE)
_BEST = re.compile(r"\bthe (\w+est) of (\d+) (\w+)\b", re.IGNORECASE)
_MIN_WORDS, _MAX_WORDS = 3, 50


def included(state: State, sentence: Sentence) -> None:
    """A list of what is in the box; a supply that is said to be included."""
    if IN_THE_BOX.search(sentence.clause.over):
        for part in _PARTS.split(sentence.own.strip(" .")):
            _comes(state, sentence, part)
    elif match := _INCLUDED.search(sentence.text):
        _comes(state, sentence, match[1])
    elif not state.text[: sentence.clause.start].strip():
        for match in _IN_TITLE.finditer(sentence.text):
            _comes(state, sentence, match[1])


def comes_with(state: State, sentence: Sentence) -> None:
    match = _COMES_WITH.search(sentence.text)
    if match is not None:
        for part in _PARTS_OF_SENTENCE.split(re.sub(r"\([^)]*\)", "", match[1])):
            _comes(state, sentence, part)


def _comes(state: State, sentence: Sentence, part: str) -> None:
    words = " ".join(re.sub(r"[^\w .+-]", " ", _ARTICLE.sub("", part.strip())).split())
    if _MIN_WORDS <= len(words) <= _MAX_WORDS:
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
        say(state, sentence, f"body is the {best[1].lower()} of {best[2]} {best[3]} at {day.text}")
