"""Footnotes: what each comes to as a condition, and where their marks stand."""

from __future__ import annotations

import re
from dataclasses import replace

from auditra.core.advert.condition_forms import SYSTEMS, Means
from auditra.core.advert.conditions import NEXT_CONDITION, Condition, conditions, in_short

_MARK = r"\[\d\]|\(\d\)|\([a-f]\)|\*\d|\*{1,3}|[†‡]"
NOTE_MARK = re.compile(rf"[ \t]*({_MARK})[ \t]")
_NOTE = re.compile(rf"(?m)(?:^[ \t]*|(?<=[.!?] ))({_MARK})[ \t]*(\S[^\n]{{4,200}})")
_OWN_NOTE = re.compile(
    r"(?i)(?:only )?(?:with|if|when|while|as long as|provided)\s+(?:an? |the |your "
    r"|its )?(\w(?:[^.;,]|\.(?=\d)){3,80})"
)
"""A footnote that is a condition in the seller's words."""
_ONLY_SYSTEMS = re.compile(rf"({SYSTEMS.pattern})(?: only)?")
"""A footnote of nothing but systems."""
_OWN_FIGURE = re.compile(r"(?:only |at |up to )?\d[\d.x]* ?(?:K|Hz|W|[GM]b|x)|\dK\d", re.IGNORECASE)
"""A footnote that begins with a figure tells of an exception."""
_MARKED = re.compile(rf"(?<=[^\s*])[ \t]?({_MARK})(?=\s|[.,;:)]|$)")


def notes_of(text: str) -> dict[str, Condition]:
    """The footnotes of a text by their marks, as the condition that each comes to."""
    found: dict[str, Condition] = {}
    for match in _NOTE.finditer(text):
        first = re.split(r"[.;] ", match[2])[0]
        unread = Condition(0, 0, Means.UNREAD, "")
        is_exception = _OWN_FIGURE.match(first) is not None
        known = [each for each in conditions(first) if each.words and not is_exception]
        only = _ONLY_SYSTEMS.fullmatch(first.strip(" ."))
        if only is not None:
            known = [Condition(0, 0, Means.ON, f"on {only[1]}")]
        own = _OWN_NOTE.match(first) if not known and not is_exception else None
        if own is not None:
            unread = Condition(0, 0, Means.UNREAD, f"with {in_short(NEXT_CONDITION.split(own[1])[0])}")
        found.setdefault(match[1], known[0] if known else unread)
    return found


def marked(text: str, notes: dict[str, Condition]) -> list[Condition]:
    """The conditions of the footnotes that a text refers to, where their marks stand."""
    marks = _MARKED.finditer(text) if notes else ()
    return [
        replace(notes[each[1]], start=each.start(), end=each.end(), leads=False) for each in marks if each[1] in notes
    ]
