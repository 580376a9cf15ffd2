"""Gear that sockets are said to work with: ``Works with your old printer``."""

from __future__ import annotations

import re

from auditra.core.advert.belonging import ids_of
from auditra.core.advert.promises import WORKS, say_of
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import named_anywhere
from auditra.core.advert.state import State

_GEAR = (
    r"(?:printers?|scanners?|keyboards?|mouse|mice|game ?pads?|webcams?|cameras?|(?:USB )?sticks?|dongles?|headsets?"
    r"|pads|drawing tablets?)"
)
_LIST = rf"{_GEAR}(?:(?:, | and |, and | & ){_GEAR})*"
_WORKS_WITH = re.compile(rf"(?i)\bworks? (?:well )?with (?:an? |any |the |your )?(?:old |existing )?({_LIST})")
_WORKS_ON = re.compile(
    rf"(?i)\b(?:an? |your |the )(?:old |existing )?({_LIST}) (?:will )?works? (?:on|at|with) (?:it|them|these|all)\b"
)
_DENIED = re.compile(r"(?i)\b(?:no|not|never)\b[^,.;]{0,16}$")


def works_with(state: State, sentence: Sentence) -> None:
    """Of the sockets that a sentence names, or of the only ones that a text has for data."""
    match = _WORKS_ON.search(sentence.text) or _WORKS_WITH.search(sentence.text)
    if match is None or state.product.is_lead or _DENIED.search(sentence.text[: match.start()]):
        return
    named = [each for each in sentence.sockets_of("AC") if each.end <= match.start()][-1:]
    letters = {each.letter for each in named_anywhere(state.text) if each.letter in "AC"}
    if named:
        ids = ids_of(state, named, "works with", again=True)
    else:
        ids = list(state.numbers.all_of("AC")) if len(letters) == 1 else []
    items = re.split(r", and |, | and | & ", match[1])
    say_of(state, sentence, ids, WORKS, ", ".join(item.strip().lower() for item in items))
