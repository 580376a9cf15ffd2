"""Lengths as the names of leads: ``0.5 m and 1 m: 40 Gb/s; 2 m: 10 Gb/s``, ``the first two carry 40 Gb/s``."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache

from auditra.core.advert.figures import figures
from auditra.core.advert.socket_counts import count_of
from auditra.core.advert.units import Dim

LENGTH = r"\d+(?:[.,]\d+)? ?(?:m|cm|ft)(?: (?:version|lead|one|cable|model|cord|long))?"
"""One of them, as a pattern."""
LENGTHS_KEY = re.compile(rf"(?i)(?:the |our )?{LENGTH}(?:(?:, | and | or | & |/)(?:the |our )?{LENGTH})*")
"""What stands over the promises of one lead or of several."""
CHOICE = re.compile(
    rf"(?i)\b{LENGTH}(?:, {LENGTH})*,?(?: or | and |/){LENGTH}\b"
    r"|\b(?P<bare>\d+(?:\.\d+)?(?:, \d+(?:\.\d+)?)*,?(?: or | and |/)\d+(?:\.\d+)?) ?(?P<unit>c?m)\b"
)
"""Lengths to choose from."""
_KEYS = re.compile(rf"(?i)(?:^|[.;\n•-]\s*){LENGTHS_KEY.pattern.removeprefix('(?i)')}\s*:")
_NAMED_LINE = re.compile(
    r"(?m)(?:^[ \t]*[-*]?[ \t]*|(?<=\. )(?=(?i:short|middle|medium|long|small|large|thin"
    r"|thick)\b))([A-Za-z][\w-]{0,14})[ \t]*:(?=[^\n]*\d ?(?:m|cm|ft)\b)(?=[^\n]*\d ?(?:W\b|[GM]b))"
)
_ONE = re.compile(r"(?i)(\d+(?:[.,]\d+)?) ?(m|cm|ft)")
_TOLD = re.compile(r"(?i)\bthe (\d+(?:[.,]\d+)? ?(?:m|cm)) (?:version|one|lead|model|cable)\b")
CALLED = re.compile(
    r"(?i)\bthe (?:short(?:er|est)?|middle|medium|long(?:er|est)?|first|second|third)(?: one| lead| cable| cord)? "
    r"\((\d+(?:[.,]\d+)? ?(?:m|cm))\)"
)
"""``the short one (30 cm)``: a length behind what the lead is called."""
_JOINED = re.compile(r"(?i)\s*(?:\([^()]*\))?\s*(?:,|and|&|, and)\s*")
_BEGINNING = 60
_COUNTS = r"(?: (two|three|four|\d))?"
_REFERENCE = re.compile(
    rf"(?i)\b(?:the (?:(?P<first>first){_COUNTS}|(?P<short>short(?:er|est)?)(?: one| lead)?"
    r"|(?P<many>two|three|2|3) (?:(?P<shorts>short(?:er)?)|long(?:er)?)(?: ones?| leads?| cables?)?"
    r"|(?P<middle>middle|medium)(?: one| lead| cable)?"
    r"|(?P<last>last|long(?:er|est)?)(?: one| lead)?|(?P<rest>others?|rest|remaining)|(?P<one>\d+(?:\.\d+)? ?c?m)\b))"
)


def has_several(text: str) -> bool:
    """Whether a text has more than one line under a length."""
    return len(_KEYS.findall(text)) > 1


@lru_cache(maxsize=4)
def named_lines(text: str) -> dict[str, str]:
    """Leads by the names that their lines begin with: ``short: 30 cm, 40 Gb/s``; empty where there is but one."""
    found = {match[1].lower(): re.sub(r"[^a-z0-9]", "", match[1].lower()) for match in _NAMED_LINE.finditer(text)}
    return found if len(set(found.values())) > 1 else {}


def told_in_prose(text: str) -> list[str]:
    """The ids of leads that sentences tell apart: ``The 2 m version carries 100 W. The 3 m version ...``."""
    return list(dict.fromkeys(devices_of(match[1]) for match in _TOLD.finditer(text)))


def told_at(own: str) -> str:
    """Which of them a clause is about; empty where it goes on with the one before."""
    match = _TOLD.search(own[:_BEGINNING])
    return devices_of(match[1]) if match else ""


def told_last(text: str, end: int) -> str:
    """The id of the lead that is named last before a place; empty for none."""
    every = [match for match in _TOLD.finditer(text) if match.start(1) < end]
    return devices_of(every[-1][1]) if every else ""


def every_lead(text: str) -> str:
    """The ids of all leads that have a line of their own, joined by +."""
    named = (_device(*match.groups()) for key in _KEYS.finditer(text) for match in _ONE.finditer(key[0]))
    return "+".join(dict.fromkeys(named))


def devices_of(key: str) -> str:
    """The ids of the leads that a key names, joined by +; of a key without a length its letters and digits."""
    named = [_device(*match.groups()) for match in _ONE.finditer(key)] if LENGTHS_KEY.fullmatch(key.strip()) else []
    only = _ONE.findall(key)
    if not named and len(only) == 1:
        return _device(*only[0])  # USB4 lead 2 m
    return "+".join(named) or f"lead{re.sub('[^a-z0-9]', '', key.lower())}"


def _device(number: str, unit: str) -> str:
    return f"lead{re.sub('[^0-9]', '', number)}{unit.lower()}"


@lru_cache(maxsize=4)
def family_of(text: str) -> dict[str, str]:
    """The leads of a text that offers a choice of lengths and says something of some: length by id, in order."""
    if len(called := list(dict.fromkeys(CALLED.findall(text)))) > 1:
        return _by_id([each.text for words in called for each in figures(words)])
    choice = CHOICE.search(text)
    if choice is None or _REFERENCE.search(text, choice.end()) is None:
        return {}
    words = re.sub(r"(?=,| or | and |/)", f" {choice['unit']}", choice[0]) if choice["bare"] else choice[0]
    return _by_id([each.text for each in figures(words) if each.dim is Dim.LENGTH])


def _by_id(lengths: Sequence[str]) -> dict[str, str]:
    return {_device(*match.groups()): each for each in lengths if (match := _ONE.fullmatch(each))}


def referred(family: Sequence[str], before: str) -> list[str]:
    """Which leads of a family the words before a figure are of: the last that they point to, or all."""
    chosen: list[str] = []
    seen: list[str] = []
    last = 0
    for match in _REFERENCE.finditer(before):
        earlier = chosen if chosen and _JOINED.fullmatch(before, last, match.start()) else []
        last = match.end()
        if match["many"]:
            count = count_of(match["many"])
            chosen = list(family[:count] if match["shorts"] else family[-count:])
        elif match["middle"]:
            chosen = list(family[len(family) // 2 : len(family) // 2 + 1])
        elif match["first"]:
            chosen = list(family[: count_of(match[2]) if match[2] else 1])
        elif match["one"]:
            own = _ONE.fullmatch(match["one"])
            chosen = [each for each in family if own and each == _device(*own.groups())]
        elif match["rest"]:
            chosen = [each for each in family if each not in seen]
        else:
            chosen = list(family[:1] if match["short"] else family[-1:])
        chosen = [*earlier, *chosen]
        seen += chosen
    return chosen or list(family)
