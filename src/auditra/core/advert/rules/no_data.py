"""Sockets that have no data."""

from __future__ import annotations

import re

from auditra.core.advert.belonging import OF_A_NUMBER, ids_of
from auditra.core.advert.phrases import NOTHING, any_of
from auditra.core.advert.promises import NO_DATA, say, say_of
from auditra.core.advert.references import goes_on
from auditra.core.advert.rules.worded import sold_as
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim
from auditra.core.claims.kinds.no_data import NoData

_NO_DATA = sold_as(NoData)
_DELIVERY = any_of("PD", "power delivery", "feed it")
_CHARGED_AT = re.compile(r"(?i)\bcharging only\)?:? \d+ ?W")
_INLET = any_of(
    "inlet", "input", "entr.e", r"PD[- ]?in", r"W in", "takes a charger", r"in(?= ?\d+ ?W)", "(?:charger|power|DC) in"
)
_OF_ANY = any_of("(?:on|at|through|over) (?:any|all|either|none) of (?:them|these)", "none of (?:them|these)")
_DATA_KEY = re.compile(r"(?i)\W*data(?: (?:transfer|rate))?\W*")
_ALONE = re.compile(r"(?i)\W*no data\W*")
_NO_PICTURE = any_of("nor picture", "no picture")


def no_data(state: State, sentence: Sentence) -> None:
    """Sockets for power alone: the inlet where it is spoken of, else those that are named."""
    if state.product.is_lead:
        return
    if NOTHING.fullmatch(sentence.own) and _DATA_KEY.fullmatch(sentence.clause.over):
        _by_key(state, sentence)
        return
    none = (
        NOTHING.fullmatch(sentence.own) is not None and re.search(r"(?i)\bdata\b", sentence.clause.column) is not None
    )
    if not none and not _NO_DATA.search(sentence.text):
        return
    every = list(state.numbers.all_of("AC"))
    of_all = _OF_ANY.search(sentence.text) or (state.product.is_charger and _ALONE.fullmatch(sentence.own))
    if _is_of_inlet(state, sentence, none=none):
        say(state, sentence, "P1 no data")
        if _NO_PICTURE.search(sentence.text):
            say(state, sentence, "P1 no display")
    elif every and of_all:
        say_of(state, sentence, every, NO_DATA)
    else:
        _of_named(state, sentence)


def _by_key(state: State, sentence: Sentence) -> None:
    """``Data: none``: of the sockets just before it on the line, or of all there are."""
    named = [each for each in state.subject if each.letter in "AC" and not each.is_plug]
    of_last = named and not sentence.clause.begins_line
    ids = ids_of(state, named, "data", again=True) if of_last else list(state.numbers.all_of("AC"))
    say_of(state, sentence, ids, NO_DATA)


def _is_of_inlet(state: State, sentence: Sentence, *, none: bool) -> bool:
    """Whether the socket for a charger is spoken of."""
    if none:
        return "in" in (sentence.clause.over.lower(), sentence.clause.row)
    of_charging = not state.product.is_charger and _CHARGED_AT.search(sentence.text) is not None
    has_watts = not sentence.sockets_of("AC") and any(sentence.of_dim(Dim.WATTS))
    of_delivery = has_watts and _DELIVERY.search(sentence.text) is not None
    just_said = any(said.sentence.startswith("P1 takes") for said in state.said[-2:])
    return _INLET.search(sentence.text) is not None or of_charging or of_delivery or just_said


def _of_named(state: State, sentence: Sentence) -> None:
    """Of the sockets that are named, or of those that a sentence goes on with."""
    found = sentence.sockets_of("AC")
    if len(found) > 1 and (told := _NO_DATA.search(sentence.text)):
        inside = [each for each in found if sentence.text[told.end() : each.start] == " ("]
        before = [each for each in found if each.end <= told.start()]
        if len(before) > 1 and before[-1].letter == before[-2].letter and before[-1].label:
            found = before[-1:]  # the one in front is for charging only
        found = inside or found  # one for charging only (type A, 12 W)
    carried = not found and goes_on(state, sentence) and not OF_A_NUMBER.match(sentence.own)
    if carried:
        found = [each for each in state.subject if each.letter in "AC" and not each.is_plug]
    for letter in dict.fromkeys(socket.letter for socket in found):
        ids = ids_of(state, [socket for socket in found if socket.letter == letter], "data", again=carried)
        say_of(state, sentence, ids, NO_DATA)
