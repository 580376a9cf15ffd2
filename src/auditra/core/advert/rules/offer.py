"""The offer: what it costs on a day, what it is the best of."""

from __future__ import annotations

import re

from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_BEST = re.compile(r"\bthe (\w+est) of (\d+) (\w+)\b", re.IGNORECASE)


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
