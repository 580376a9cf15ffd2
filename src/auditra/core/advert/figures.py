"""Figures in a text: numbers with units, how firmly they are promised, and pixels with their hertz as modes."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from auditra.core.advert.phrases import begins_with, ends_with
from auditra.core.advert.units import FORMS, RANGED, Dim, Form, number_of


@dataclass(frozen=True)
class Figure:
    """A figure as a claim writes it. `value` is in SI units, bits and bytes as they are; `least` of a range."""

    start: int
    end: int
    dim: Dim
    value: float
    text: str
    hedge: str = ""
    least: float | None = None
    each: bool = False
    negated: bool = False

    @property
    def hedged(self) -> str:
        return f"{self.hedge} {self.text}".strip()


_BEFORE = (
    ("up to", ends_with(
        r"\bup to", r"\bmax(?:imum|\.)?(?: of)?:?", r"\bat most",
        r"\bmax(?:imum|\.)? (?:resolution|rate|speed|power|total)(?: of)?:?",
        r"\b(?:no|not|none \w+|never)(?: gets?| is| grows?| becomes?| runs?)? (?:more|hotter|warmer|thicker"
        r"|wider|longer|heavier|higher|faster) than",
        r"\bnever (?:exceeds?|above)", r"\bas much as", r"(?<!no )(?<!not )\bless than", r"\bunder", r"\bjusqu'(?:a|à)",
        r"\bbis zu", r"\bfino a", r"\bhasta", r"\btot",
    )),
    ("at least", ends_with(
        r"\bat least", r"\b(?:no|not|never) less than", r"\bmin(?:imum|\.)?(?: of)?", r"\bnever below",
    )),
    ("about", ends_with(
        r"\babout", r"\bapprox(?:imately|\.)?", r"\broughly", r"\baround", r"\bsome", r"\bca\.?", "~", r"\bcirca",
        r"\bnearly",
    )),
)  # fmt: skip
_BEHIND = (
    ("up to", begins_with(r"\(?max(?:imum|\.)?", "or less", "at (?:the )?most", "and less", "or below")),
    ("at least", begins_with("or (?:more|better|faster)", "at least", "and (?:more|up(?! to))", "minimum")),
)
_WITHOUT_DIGITS = re.compile(r"(?i)gigabit|\bUHS|\bin[ -](?:1|one)\b|uhd|\bhd\b|qhd")
"""Figures that are words: ``Gigabit``, ``UHS-II``, ``five in one``, ``Full HD``."""
_EACH = begins_with(
    r"\(?(?:each|apiece|per (?:socket|port|slot)|a piece|chacune?|je|cada|ognun\w|ea|on each|respectively)"
)
_NOT = ends_with(
    r"(?:\bnot|\bno|\bnever|\bminus|\binstead of|\bin place of|\bup from"
    r"|(?<=\()was|(?<=\()were|(?<=\()formerly|\bagainst|\brather than|(?<!more )(?<!less )(?<!cooler )\bthan"
    r"|\bwithout)\s*(?:at)?"
)
_NOT_BEHIND = begins_with(
    "(?:less|more|fewer) than",
    "(?:lighter|heavier|shorter|thinner|thicker|flatter|wider|narrower|smaller|larger|bigger|cooler"
    "|warmer|faster|slower)(?: than)?(?=[ :,.;)]|$)|longer than",
    "(?:won't|will not|isn't|is not|are not|aren't|cannot|can't) be|(?:is|are) not (?:offered|possible|reached)",
    "(?:less|fewer) (?:is|are|remain|than)",
)
_THAN = ends_with(r"\b(?:no|not|none \w+|never)(?: \w+)? \w+ than")
_LOOK = 24
"""How far before and behind a figure the words that qualify it may stand."""
_BETWEEN = re.compile(
    r"[\s@,;:()/=-]*(?:pixels?[\s,]+)?(?:(?:at|and|with|or|up to|runs?|over \w+|a|to|for)[\s,]*)?"
    r"(?:(?:up to|no less than|at least|max\.?)\s*)?\(?\s*"
)
_REFRESH = "24|25|30|48|50|60|75|85|90|100|120|144|165|240"
_BARE_RATE = re.compile(
    rf" at ({_REFRESH})(?=\s*(?:[;:)\]|]|[.,](?!\d)|$|\n|and\b|or\b|on\b|via\b|over\b))"
    rf"|\s?(?:@|/|p?)\s?({_REFRESH})(?!\d|\.\d|\s?(?:x|W\b|cm|mm|m\b|g\b|A\b))"
)
_AT = re.compile(r"\s*(?:at|in|for|with|,|@)?\s*")
_IN = re.compile(r"\s*(?:in|at|for)\s*")
"""``30 Hz in 4K and 60 Hz in 1080p``."""
_MAX_GAP, _MAX_DISTANCE = 34, 160


def figures(text: str) -> list[Figure]:
    """Every figure in order of place."""
    return list(_figures_of(text))


@lru_cache(maxsize=256)
def _figures_of(text: str) -> tuple[Figure, ...]:
    """Kept for a while: the words over a clause, and a clause itself, are asked for more than once."""
    if not any(each.isdigit() for each in text) and not _WITHOUT_DIGITS.search(text):
        return ()
    taken = bytearray(len(text))
    found: list[Figure] = []
    for form in FORMS:
        for match in form.pattern.finditer(text):
            start, end = match.span()
            if not any(taken[start:end]):
                taken[start:end] = b"\1" * (end - start)
                found.append(_firm(_figure(form, match), text))
    return tuple(_with_modes(sorted(found, key=lambda figure: figure.start), text))


def _figure(form: Form, match: re.Match[str]) -> Figure:
    value, words = form.make(match)
    is_range = form.dim in RANGED and len(match.groups()) > 1 and re.fullmatch(r"\d+(?:[.,]\d+)?", match[2] or "")
    return Figure(match.start(), match.end(), form.dim, value, words, least=number_of(match[1]) if is_range else None)


def _firm(figure: Figure, text: str) -> Figure:
    """With the word that stands before or behind it."""
    before, behind = text[max(0, figure.start - _LOOK) : figure.start], text[figure.end : figure.end + _LOOK]
    hedge = next((word for word, pattern in _BEFORE if pattern.search(before)), "")
    hedge = hedge or next((word for word, pattern in _BEHIND if pattern.match(behind)), "")
    return replace(figure, hedge=hedge, each=bool(_EACH.match(behind)), negated=_is_denied(before, behind))


def _is_denied(before: str, behind: str) -> bool:
    return (_NOT.search(before) is not None and not _THAN.search(before)) or _NOT_BEHIND.match(behind) is not None


def _with_modes(found: Sequence[Figure], text: str) -> list[Figure]:
    """Pixels and the hertz that go with them are one mode; hertz alone are of the pixels before."""
    made: list[Figure] = []
    at, last = 0, None
    while at < len(found):
        figure, following = found[at], found[at + 1] if at + 1 < len(found) else None
        at += 1
        mode = _mode_at(found, at - 1, text)
        if mode is not None:
            last = figure if figure.dim is Dim.PICTURE else following
            at += following is not None and following.start < mode.end
            made.append(mode)
            continue
        if figure.dim is Dim.HERTZ and last is not None and figure.start - last.end < _MAX_DISTANCE:
            figure = _mode(last, figure, figure.start, figure.end)
        elif figure.dim is Dim.PICTURE:
            last = figure
        made.append(figure)
    return made


def _mode_at(found: Sequence[Figure], at: int, text: str) -> Figure | None:
    """``3840x2160 @ 60 Hz``, ``60 Hz at 3840x2160``, ``4K60``."""
    figure = found[at]
    following = found[at + 1] if at + 1 < len(found) else None
    if figure.dim is Dim.HERTZ and following is not None and following.dim is Dim.PICTURE:
        behind = found[at + 2] if at + 2 < len(found) else None
        last = found[at + 3] if at + 3 < len(found) else None
        pairs = (
            behind is not None and last is not None and behind.dim is Dim.HERTZ and last.dim is Dim.PICTURE
            and _IN.fullmatch(text[figure.end : following.start]) is not None
            and _IN.fullmatch(text[behind.end : last.start]) is not None
        )  # fmt: skip
        has_own = (
            not pairs and behind is not None and behind.dim is Dim.HERTZ and _joins(text[following.end : behind.start])
        )
        if not has_own and _AT.fullmatch(text[figure.end : following.start]):
            return _mode(following, figure, figure.start, following.end)
    if figure.dim is not Dim.PICTURE:
        return None
    if following is not None and following.dim is Dim.HERTZ and _joins(text[figure.end : following.start]):
        return _mode(figure, following, figure.start, following.end)
    bare = _BARE_RATE.match(text, figure.end)
    if bare is None:
        return None
    group = 1 if bare[1] else 2
    hertz = Figure(bare.start(group), bare.end(group), Dim.HERTZ, float(bare[group]), bare[group])
    return _mode(figure, hertz, figure.start, bare.end())


def _joins(gap: str) -> bool:
    return len(gap) <= _MAX_GAP and _BETWEEN.fullmatch(gap) is not None


def _mode(picture: Figure, hertz: Figure, start: int, end: int) -> Figure:
    return Figure(
        start, end, Dim.MODE, picture.value * hertz.value, f"{picture.text}@{hertz.text}",
        picture.hedge or hertz.hedge, None, hertz.each or picture.each, picture.negated or hertz.negated,
    )  # fmt: skip
