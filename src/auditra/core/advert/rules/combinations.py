"""Watts of sockets that are used together: ``C1 + C2 + A: 45 W + 30 W + 15 W``, or a row of a table for each set."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from auditra.core.advert.belonging import ids_of
from auditra.core.advert.figures import Figure, figures
from auditra.core.advert.promises import GIVES, promise, say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import sockets
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_JOINT = re.compile(r"\s*(?:,|,? ?and|&|\+|/|plus)\s*", re.IGNORECASE)
_TOGETHER = re.compile(
    r"\s*(?:(?:are |both |all )*(?:in use|used|busy|active|together|at once|at the same time|simultaneously)\W*)?"
    r"(?:[:=-]|gives?|deliver|provide|share)?\s*",
    re.IGNORECASE,
)
_IN_USE = re.compile(r"(?i)\b(?:in use|used|busy|active|together|at once|at the same time|simultaneously)\b")
_ALL = re.compile(r"(?i)\W*(?:all|everything)(?: (?:two|three|four|five|\d))?(?: in use| together| at once)?\W*")
_SEVERAL = 2


def combined(state: State, sentence: Sentence) -> bool:
    """Whether the watts of a sentence are those of several named sockets, one each."""
    if sentence.clause.beside:
        return _of_row(state, sentence)
    watts = list(sentence.of_dim(Dim.WATTS))
    every = list(state.numbers.all_of("AC"))
    if _ALL.fullmatch(sentence.over) and len(every) == len(watts) > 1 and _are_listed(sentence, watts):
        say(state, sentence, _joined(every, watts))
        return True
    named = [each for each in sentence.sockets_of("AC") if watts and each.end <= watts[0].start]
    if len(watts) < _SEVERAL or not 1 < len(named) <= len(watts):
        return False
    gaps = [sentence.text[one.end : two.start] for one, two in pairwise(named)]
    gap = sentence.text[named[-1].end : watts[0].start]
    if not _are_listed(sentence, watts) or not _TOGETHER.fullmatch(gap) or not all(map(_JOINT.fullmatch, gaps)):
        return False
    ids = [port for each in named for port in ids_of(state, [each], "combined", again=True)]
    if len(ids) != len(watts) or len(set(ids)) != len(ids):
        return False
    at_once = _IN_USE.search(sentence.text) or any("+" in each or "&" in each for each in gaps)
    if at_once:
        say(state, sentence, _joined(ids, watts))
    else:
        for port, figure in zip(ids, watts, strict=True):
            promise(state, sentence, [port], GIVES, figure)
    return True


def _are_listed(sentence: Sentence, watts: Sequence[Figure]) -> bool:
    return all(_JOINT.fullmatch(sentence.text[one.end : two.start]) for one, two in pairwise(watts))


def _of_row(state: State, sentence: Sentence) -> bool:
    """``| C1 + C2 | 60 W | 40 W |`` under the heads ``C1`` and ``C2``; of one alone it is without others."""
    ids: list[str] = []
    watts: list[Figure] = []
    for name, cell in sentence.clause.beside:
        found = [each for each in sockets(f"{name} ") if each.letter in "AC"]
        told = [each for each in figures(cell) if each.dim is Dim.WATTS]
        if len(found) == 1 and len(told) == 1:
            ids += ids_of(state, found, "combined", again=True)
            watts += told
    if len(ids) == 1:
        say(state, sentence, f"{ids[0]} gives {watts[0].hedged} without others")
    elif len(ids) == len(watts):
        say(state, sentence, _joined(ids, watts))
    return True


def _joined(ids: Sequence[str], watts: Sequence[Figure]) -> str:
    return " while ".join(f"{port} gives {figure.hedged}" for port, figure in zip(ids, watts, strict=True))
