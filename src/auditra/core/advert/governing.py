"""Under which of a sentence's conditions a figure is promised."""

from __future__ import annotations

import re
from collections.abc import Sequence

from auditra.core.advert.condition_forms import SYSTEMS, Means
from auditra.core.advert.conditions import Condition, is_else
from auditra.core.advert.figures import Figure
from auditra.core.advert.phrases import any_of
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.units import Dim

_COLUMN_OF_HOST = re.compile(
    r"(?i)(?!on\b|with|from\b|to\b|.*\b(?:to|for|of)\b)[\w./+-]+(?: [\w./+-]+){0,3} (?:hosts?|computers?"
    r"|laptops?|tablets?|phones?)"
    r"|(?:left|right|first|second|host|computer|laptop|PC)\s?(?:host|computer|laptop|PC|\d|[AB])"
)
_ALSO_BEFORE = re.compile(r"(?i)\b(?:also|even) $")
_GOES_TO = re.compile(
    r"\s*(?:at|:|it is|it runs at|only|it has|the limit is)\s*(?:up to\s*)?"
    r"|\s*(?:about|around|roughly|nearly) ",
    re.IGNORECASE,
)
_COLUMN_ALONE = re.compile(r"(?i)\W*(?:single|singly|solo|one (?:socket|port|device)|by itself|on its own)\W*")
_FOR_HOSTS = re.compile(r"(?i)(?:for|on|with) ((?:tablets|phones|laptops|notebooks|computers|consoles|handhelds|PCs))")
"""``For tablets: HDMI 1080p``."""
_OF_SUPPLY = re.compile(r"\b(?:supply|charger|adapter|brick)$")
_ALSO = re.compile(r"\s*(?:and|plus|\+|/)\s*", re.IGNORECASE)
_SIDE_BY_SIDE = re.compile(r"\s*(?:and )?")
_BEGINNING = 3
_BESIDE_PICTURES = (Dim.RATE, Dim.WATTS)
"""``5 Gb/s with a screen at 4K 30 Hz``: the mode is of the condition."""
_OF_STORE = any_of("(?:cards?|drives?|disks?|SSDs?|sticks?)$")
_OF_SOME = re.compile(r"(?i), (?:of which|(?:only )?(?:one|a single one))\b")
"""``Each 4K60, one mirrored on Macs``: the host is of what one of them does."""
_OTHER_PROMISE = re.compile(r"(?i), (?:and )?[\w-]+(?: [\w-]+)? (?:works?|wakes?|boots?) $|\bmirror\w* (?:only )?$")
"""``Frames of 9 kB, Wake-on-LAN works while the lid is closed``."""
_EITHER_WAY = re.compile(
    r"(?i)(?: each)? (?:either way|in (?:either|any) case|in both cases|regardless|with or without)"
)
_OTHER_WAY = re.compile(r"\b(?:reads?|writes?|wrote|reading|writing)\b", re.IGNORECASE)
_OF_THE_DEVICE = re.compile(r"(?i)driver|works?\b")


def with_all_in_use(sentence: Sentence, figure: Figure) -> bool:
    """Whether a figure is promised while every one is in use."""
    return any(
        each.means is Means.ALL
        and not is_else(sentence.text[each.start : each.end])
        and _is_of(sentence, each, figure)
        and not _is_of_other_part(sentence, each, figure)
        for each in sentence.conditions
    )


def _is_of_other_part(sentence: Sentence, condition: Condition, figure: Figure) -> bool:
    """``Each 1 Gb/s, 3.4 W with all in use``: of the figure just before it."""
    before = [each for each in sentence.figures if figure.end <= each.start and each.end <= condition.start]
    return bool(before) and "," not in sentence.text[before[-1].end : condition.start]


def under_what(sentence: Sentence, figure: Figure) -> str:
    """The conditions that a figure is under, as a claim writes them; one of each sort."""
    words: list[str] = []
    heads = (sentence.clause.over.strip(), sentence.clause.column.strip())
    words += (f"on {head}" for head in heads if SYSTEMS.fullmatch(head))
    words += (f"on {match[1].lower()}" for head in heads if (match := _FOR_HOSTS.fullmatch(head)))
    if _COLUMN_ALONE.fullmatch(sentence.clause.column):
        words.append(str(Means.ALONE))
    if is_of_host_column(sentence):
        column = sentence.clause.column
        words.append(f"on {column if column[1:2].isupper() else column[0].lower() + column[1:]}")
    whatever = figure.dim in (Dim.WATTS, Dim.AMPERES) and _EITHER_WAY.match(sentence.behind(figure)) is not None
    words += (
        each.words for each in sentence.conditions if each.words and not whatever and _is_of(sentence, each, figure)
    )
    sorts = ([each for each in words if each.startswith(f"{sort}")] for sort in ("while ", "without", "on ", "with "))
    return "".join(f" {each}" for each in dict.fromkeys(first for sort in sorts for first in sort[:1]))


def is_of_host_column(sentence: Sentence) -> bool:
    """Under a column that is of one of several hosts."""
    return _COLUMN_OF_HOST.fullmatch(sentence.clause.column) is not None


def _is_of(sentence: Sentence, condition: Condition, figure: Figure) -> bool:
    """Of the figure that it leads to; else of those up to the next condition, or of the nearest before it."""
    if condition.end <= sentence.shift:
        return True
    if condition.start <= figure.start < condition.end or _is_of_another(sentence, condition, figure):
        return False
    behind = next((each for each in sentence.figures if each.start >= condition.end), None)
    if is_else(sentence.text[condition.start : condition.end]):
        return behind is figure
    goes_on = behind is not None and behind.start > condition.end
    if (
        behind is not None
        and goes_on
        and not (behind.dim is Dim.MODE and figure.dim in _BESIDE_PICTURES and figure.end <= condition.start)
        and not _begins(sentence, condition)
        and _GOES_TO.fullmatch(sentence.text[condition.end : behind.start])
    ):
        return behind is figure or _ALSO.fullmatch(sentence.text[behind.end : figure.start]) is not None
    if condition.leads or (figure.start > condition.end and not _any_before(sentence, condition)):
        return figure.start > condition.end and _nothing_between(sentence, condition, condition.end, figure.start)
    if sentence.text[condition.end : figure.start].strip() == "(":
        return True  # when three are connected (480 Mb/s)
    if sentence.is_in_brackets(figure) and not sentence.is_in_brackets(condition):
        return False
    if figure.end > condition.start or not _nothing_between(sentence, condition, figure.end, condition.start):
        return False
    if figure.dim is Dim.RATE and _OF_SUPPLY.search(condition.words) and _power_between(sentence, figure, condition):
        return False  # 10 Gb/s, 15 W each with the adapter
    nearer = [f for f in sentence.figures if figure.end <= f.start < condition.start and f.dim is figure.dim]
    return not nearer or _is_of_all_joined(sentence, condition, figure, nearer)


def _power_between(sentence: Sentence, figure: Figure, condition: Condition) -> bool:
    """A figure of power that stands between, behind a comma."""
    between = (
        each
        for each in sentence.figures
        if each.dim in (Dim.WATTS, Dim.AMPERES) and figure.end <= each.start and each.end <= condition.start
    )
    first = next(between, None)
    return first is not None and re.search(r",| that | which ", sentence.text[figure.end : first.start]) is not None


def _is_of_all_joined(sentence: Sentence, condition: Condition, figure: Figure, nearer: Sequence[Figure]) -> bool:
    """Of this figure, too, though others of its kind are nearer: these are joined to it."""
    if (
        len(nearer) == 1
        and figure.dim is Dim.BYTE_RATE
        and _OTHER_WAY.search(sentence.text[figure.end : nearer[0].end + 8])
    ):
        return True  # of reading and of writing
    if figure.dim is Dim.MODE and _ALSO.fullmatch(sentence.text[figure.end : nearer[-1].start]):
        return True  # 4K at 60 Hz and 1080p at 240 Hz with such a host
    is_mark = re.search(r"\w", sentence.text[condition.start : condition.end].strip("[]()123456789")) is None
    if is_mark or sentence.text[: condition.start].rstrip().endswith(","):
        return not re.search(r"[,;:]", sentence.text[figure.end : nearer[-1].start])
    return False


def _is_of_the_bracket(sentence: Sentence, condition: Condition, figure: Figure) -> bool:
    """``10 Gb/s x 3 (one charges with 7.5 W when the computer sleeps)``: of the figure in the same bracket."""
    opened = sentence.text.rfind("(", 0, condition.start)
    return (
        sentence.is_in_brackets(condition)
        and figure.end <= opened
        and any(opened < each.start < condition.start for each in sentence.figures)
    )


def _begins(sentence: Sentence, condition: Condition) -> bool:
    """Whether the whole sentence is under it."""
    return sentence.shift <= condition.start < sentence.shift + _BEGINNING


def _is_of_another(sentence: Sentence, condition: Condition, figure: Figure) -> bool:
    """It is of the device, of some of several, or of a drive or card."""
    between = sentence.text[figure.end : condition.start]
    of_other = figure.end <= condition.start and _OTHER_PROMISE.search(between)
    nearer = any(figure.end <= each.start and each.end <= condition.start for each in sentence.figures)
    if nearer and _ALSO_BEFORE.search(sentence.text, 0, condition.start):
        return True  # 5 Gb/s, 12 W, also when the computer sleeps
    if of_other or _is_of_the_bracket(sentence, condition, figure):
        return True
    of_some = figure.end <= condition.start and _OF_SOME.search(sentence.text[figure.end : condition.start])
    of_store = _OF_STORE.search(condition.words) and figure.dim is Dim.RATE and any(sentence.of_dim(Dim.BYTE_RATE))
    return bool(of_some or of_store) or _is_of_device(sentence, condition, figure)


def _is_of_device(sentence: Sentence, condition: Condition, figure: Figure) -> bool:
    """``2.5 Gb/s, driver-free on laptops``: the host is of what stands between."""
    start, end = min(figure.end, condition.start), max(figure.start, condition.start)
    return condition.means is Means.ON and _OF_THE_DEVICE.search(sentence.text[start:end]) is not None


def _any_before(sentence: Sentence, condition: Condition) -> bool:
    return any(
        each.end <= condition.start and not re.search(r"[;.]", sentence.text[each.end : condition.start])
        for each in sentence.figures
    )


def _nothing_between(sentence: Sentence, condition: Condition, start: int, end: int) -> bool:
    run = _run_of(sentence, condition)
    others = (each for each in sentence.conditions if each not in run and not _is_over_all(sentence, condition, each))
    return not re.search(r";|\.(?!\d)", sentence.text[start:end]) and not any(
        start <= each.start < end for each in others
    )


def _is_over_all(sentence: Sentence, first: Condition, other: Condition) -> bool:
    """``On Windows it shows 60 Hz alone and 30 Hz with both``: the host that opens a sentence is of all of it."""
    return _begins(sentence, first) and first.means is Means.ON and other.means in (Means.ALONE, Means.ALL)


def _run_of(sentence: Sentence, condition: Condition) -> list[Condition]:
    """``With UHS-II cards on a 5 Gb/s port``: conditions that stand side by side are one."""
    run = [condition]
    for each in reversed(sentence.conditions):
        if each.end <= run[0].start and _SIDE_BY_SIDE.fullmatch(sentence.text[each.end : run[0].start]):
            run.insert(0, each)
    return run
