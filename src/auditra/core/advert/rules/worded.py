"""Promises without a figure, by the words that the claim language's own kinds say sellers use for them.

A new kind that has such words is read without a rule of its own.
"""

from __future__ import annotations

import re
from functools import cache

from auditra.core.advert.phrases import NOTHING, any_of
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.claims.language import promise_kinds
from auditra.core.claims.promise import Promise

_DENIED = re.compile(r"\b(?:no|not|never|without|lacks?)\b[^,.;]{0,24}$", re.IGNORECASE)


def worded(state: State, sentence: Sentence) -> None:
    """What is promised of the whole device in words."""
    if NOTHING.fullmatch(sentence.own):
        return
    for kind, near, wordings in _worded_kinds():
        if near is not None and not near.search(f"{sentence.clause.heading} {sentence.text}"):
            continue
        for behind, pattern in wordings:
            match = pattern.search(sentence.text)
            if match is not None and not _DENIED.search(sentence.text[: match.start()]):
                say(state, sentence, f"body {kind.words} {behind}".rstrip())


@cache
def _worded_kinds() -> tuple[
    tuple[type[Promise], re.Pattern[str] | None, tuple[tuple[str, re.Pattern[str]], ...]], ...
]:
    """Each kind with its words, by its opening words; compiled when the first text is read."""
    found = (kind for kind in promise_kinds() if kind.sold_as and not kind.sold_of_ports)
    return tuple(
        (
            kind,
            any_of(*kind.sold_near) if kind.sold_near else None,
            tuple((behind, any_of(*forms)) for behind, forms in kind.sold_as.items()),
        )
        for kind in sorted(found, key=lambda kind: kind.words)
    )


def sold_as(kind: type[Promise]) -> re.Pattern[str]:
    """The words for a kind that is said of sockets, for the rule that finds which."""
    return any_of(*(form for forms in kind.sold_as.values() for form in forms))
