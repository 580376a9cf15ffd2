"""How many of the sockets that were named before a figure is of: ``one at 10 Gb/s, the other two at 5``."""

from __future__ import annotations

import re
from dataclasses import replace

from auditra.core.advert.figures import Figure
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import COUNT_WORDS, ORDINALS, count_of, numbers_in
from auditra.core.advert.sockets import REST, Socket
from auditra.core.advert.state import State

_TWO = 2
"""The first and the second are labels: of two that were told apart."""
PART = re.compile(
    r"(?:^|[,;:(]|\band|\bof which|\bwhich|\bhas|\bsockets|\bports|\bruns|\bthe|\bthose|\bthese|\bnow all|\bnow)\s*"
    rf"(?:a |the |all )?(\d{{1,2}}"
    rf"|{COUNT_WORDS})\b"
    r"(?![.,]\d|\s?(?:[GMk]i?[bB]|[GMgm]\b|W\b|A\b|V\b|cm\b|mm\b|Hz|%)| ?(?:x (?:USB|HDMI|RJ)"
    r"|socket of| (?:drive|stick|mouse|keyboard|monitor|screen|device|phone)s?\b))"
    r"(?:[^,;:.()]|\.(?=\d)){0,70}(?:(?<=ports), ?|(?<=sockets), ?|(?<=modules), ?)?$",
    re.IGNORECASE,
)
NO_PART = ("a", "an", "second", "first", "third", "both")
_LABELLED = re.compile(
    r"(?:^|[,;:(]|\band|\bthe|\bfor)\s*(?:the )?(left|right|upper|lower|front|rear|other|white|grey|black|blue|red"
    r"|first|second)(?: (?:one|socket|ring|port))?(?: (?P<many>two|three|\d))?\b[^,;:.()]{0,24}:?$",
    re.IGNORECASE,
)
_LABEL_BEHIND = re.compile(
    r"\s*(?:for|at|on) the (left|right|upper|lower|front|rear|first|second|white|grey|black) (?:one|socket)\b",
    re.IGNORECASE,
)
_FIRST_OF_KEY = re.compile(rf"(?i)\s*(?:\d{{1,2}}|{COUNT_WORDS})\s?(?:x|at|of|with)\s")
"""``USB-A: 2 x 10 Gb/s, 1 x 480 Mb/s``: the first is no count of all."""
_OF_LABEL = re.compile(r"\s*(?:sockets |ports |of them )?(?:at|on|in) the ", re.IGNORECASE)
_LATER = "|".join(each for each, number in ORDINALS.items() if number > _TWO)
_ORDINAL = re.compile(rf"(?i)\b(?:the|an?) ({_LATER})(?: one| socket| port)?\b[^,;.]{{0,24}}$")
_OTHERS = re.compile(rf"\bthe (?:other|remaining) ({COUNT_WORDS}|\d{{1,2}})\b[^,;.]{{0,30}}$", re.IGNORECASE)
_REST = re.compile(r"\b(?:the rest|the others|the remaining)\b[^,;.]{0,30}$", re.IGNORECASE)
_MIDDLE, _THREE = re.compile(r"(?i)\bthe (?:middle|centre|center)(?: one)?\b[^,;.]{0,12}$"), 3
_ONE_MORE = re.compile(rf"(?i)\s*,? (?:and|plus) (a|\d|{COUNT_WORDS}) (?:of|with|at) ")
_OF_ALL = re.compile(r"(?i) ?(?:sockets?|ports?)? ?(?:of|with|at) ")
"""``Three sockets of 5 Gb/s and one of 480 Mb/s``: a fourth."""
_NUMBERS_BEHIND = re.compile(
    r"(?i)\)? (?:on|at) (?:ports?|sockets?|no\.) (\d(?:(?: ?- ?| to |, | and )\d)*)(?!\d|\.\d)"
)
_COUNT_BEHIND = re.compile(
    rf"(?i)(?: each)? (?:from|at|on|for|by|out of|over) (?:(?:only |just )?(?P<part>\d"
    rf"|{COUNT_WORDS}) of (?:them|these|those)"
    rf"|(?P<more>\d|{COUNT_WORDS}) (?:more|further ones)|the (?:other|remaining) (?P<others>\d|{COUNT_WORDS})"
    r"(?: of them| ones?)?|the (?P<rest>rest|others))\b"
)
"""``2.4 A from one of them, 0.9 A from the other three``."""
_SO_MANY_OF = re.compile(
    rf"(?i)(?:^|[,;:])\s*(?:only |and )?(\d|{COUNT_WORDS}) of (?:the|these|them)(?: \w+)?(?: \([^()]*\))?,? ?$"
)
"""``one of the four (the left) 60 W``."""
_OTHERS_ALONE = re.compile(r"(?i)[,;] (?:and )?(?:all )?(?:the )?others?:? $")
_TIMES = re.compile(r"(?<![\d.])(\d{1,2})\s?x\s*$")
_ALL_BEHIND = re.compile(
    rf"(?i),? (?:on |for )?(?:all|each of the|every one of the) (\d|{COUNT_WORDS})(?: of them)?(?=\s*(?:[.,;]|$))"
)
"""``10 Gb/s, all four``."""
_SOCKETS_BEHIND = re.compile(
    rf"\s*(?:each\s*)?\(\s*(?:(\d{{1,2}})(?: (?:sockets|ports)| ?x)|({COUNT_WORDS})(?: (?:sockets|ports"
    rf"|of them))?)\s*\)",
    re.IGNORECASE,
)


def counted_part(state: State, sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``one at 10 Gb/s, 2 at 480 Mb/s``: how many of the sockets that were named before; empty for all of them."""
    part = (
        numbered_at(sentence, figure.end, found)
        or _others(state, sentence, figure, found)
        or _counted(sentence, figure, found)
    )
    if part and found[-1].count:
        state.numbers.declare(found[-1].letter, found[-1].count)
    return part


def _others(state: State, sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``port 4: 2.4 A, others 0.9 A``: all but those with numbers."""
    if not found or not found[-1].ids or not _OTHERS_ALONE.search(sentence.before(figure)):
        return []
    letter = found[-1].letter
    left = tuple(int(port[1:]) for port in state.numbers.ids(letter) if int(port[1:]) not in found[-1].ids)
    return [replace(found[-1], count=len(left), ids=left, start=0, end=0)] if left else []


def numbered_at(sentence: Sentence, end: int, found: list[Socket]) -> list[Socket]:
    """``4 x USB-A, 1.5 A on ports 1-2``: those that are numbered behind a place; empty for none."""
    match = _NUMBERS_BEHIND.match(sentence.text, end)
    if match is None or len({socket.letter for socket in found}) != 1:
        return []
    numbers = numbers_in(match[1])
    return [replace(found[-1], count=len(numbers), ids=numbers, whole=False, start=0, end=0)]


def _counted(sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    if found and found[0].start > figure.start and found[-1].count is None and not found[-1].ids:
        times = _TIMES.search(sentence.before(figure))
        return [replace(found[-1], count=int(times[1]), whole=False)] if times and len(found) == 1 else []
    if not found or found[-1].ids or found[0].start > figure.start:
        return []
    exact = _TIMES.search(sentence.before(figure)) if found[-1].end < figure.start else None
    if (every := _ALL_BEHIND.match(sentence.behind(figure))) and found[-1].count is None:
        return [replace(found[-1], count=count_of(every[1]), whole=False, label="", start=0, end=0)]
    exact = exact or _SOCKETS_BEHIND.match(sentence.behind(figure))
    if exact:
        more = _FIRST_OF_KEY.match(sentence.own) is not None or exact[0].rstrip().endswith("x)")
        more = more or (found[-1].count is None and exact.re is _SOCKETS_BEHIND)
        return [
            replace(
                found[-1],
                count=count_of(next(filter(None, exact.groups()))),
                whole=False,
                label="",
                is_part=not more,
                start=0,
                end=0,
            )
        ]
    if one := _of_bracket(sentence, figure, found[-1]):
        return [one]
    if told := _COUNT_BEHIND.match(sentence.behind(figure)):
        count = REST if told["rest"] else count_of(told["part"] or told["others"] or told["more"])
        is_part = not (told["others"] or told["more"])
        return [replace(found[-1], count=count, whole=False, label="", is_part=is_part, start=0, end=0)]
    if label := _LABEL_BEHIND.match(sentence.behind(figure)):
        return [replace(found[-1], count=1, whole=False, label=label[1].lower(), is_part=True)]
    earlier = [f for f in sentence.figures if found[-1].end <= f.start < figure.start and f.dim is figure.dim]
    one_more = _ONE_MORE.fullmatch(sentence.text, earlier[-1].end, figure.start) if len(earlier) == 1 else None
    if one_more and _OF_ALL.fullmatch(sentence.text, found[-1].end, earlier[0].start):
        return [replace(found[-1], count=count_of(one_more[1]), whole=False, label="", start=0, end=0)]
    part = _part(sentence.text[(earlier[-1].end if earlier else found[-1].end) : figure.start].rstrip(" ("), found)
    is_more = earlier and _FIRST_OF_KEY.match(sentence.own) and found[-1].end <= sentence.shift
    return [replace(each, is_part=False) for each in part] if is_more else part


def _part(text: str, found: list[Socket]) -> list[Socket]:
    if others := _OTHERS.search(text):
        return [replace(found[-1], count=count_of(others[1]), whole=False, label="", start=0, end=0)]
    if number := _by_its_place(text, found[-1]):
        return [replace(found[-1], count=1, ids=(number,), whole=False, label="", start=0, end=0)]
    if _REST.search(text):
        return [replace(found[-1], count=REST, whole=False, label="", is_part=True)]
    if (some := _SO_MANY_OF.search(text)) and some[1].lower() not in NO_PART:
        return [replace(found[-1], count=count_of(some[1]), whole=False, label="", is_part=True)]
    return _labelled_or_counted(text, found)


def _labelled_or_counted(text: str, found: list[Socket]) -> list[Socket]:
    """``left 10 Gb/s, right 5``, ``two of them at the back``, ``and one``."""
    match, labelled = PART.search(text), _LABELLED.search(text)
    if labelled is not None and match is not None and _OF_LABEL.fullmatch(text[match.end(1) : labelled.start(1)]):
        label, is_part = labelled[1].lower(), not found[-1].label and found[-1].count is not None
        count = count_of(match[1])
        return [replace(found[-1], count=count, whole=False, label=label, is_part=is_part, start=0, end=0)]
    if labelled is not None and found[-1].count and found[-1].label == labelled[1].lower():
        return []
    if labelled is not None and (match is None or match.start() < labelled.start()):
        is_part = found[-1].count is not None
        count = count_of(labelled["many"]) if labelled["many"] else 1
        return [
            replace(found[-1], count=count, whole=False, label=labelled[1].lower(), is_part=is_part, start=0, end=0)
        ]
    if match is None or match[1].lower() in NO_PART:
        return []
    if text.endswith(",") and count_of(match[1]) == found[-1].count:
        return []  # all that there are
    if re.search(r"\ball\s+\S+$", text[: match.end(1)], re.IGNORECASE) and len(found) > 1:
        return []
    more = re.match(r"\W*(?:it )?has\b", text[match.start() :], re.IGNORECASE) is not None
    is_open = found[-1].count is None and found[-1].end > found[-1].start and not found[-1].label
    one = replace(found[-1], count=count_of(match[1]), whole=False, label="", is_part=not more)
    return [replace(one, is_part=False, start=0, end=0) if is_open else one]


def _by_its_place(text: str, socket: Socket) -> int:
    """``the third``, ``the middle one`` of three; 0 for none."""
    if ordinal := _ORDINAL.search(text):
        return ORDINALS[ordinal[1].lower()]
    return _TWO if socket.count == _THREE and _MIDDLE.search(text) else 0


def _of_bracket(sentence: Sentence, figure: Figure, socket: Socket) -> Socket | None:
    """``Two USB-C (40 Gb/s, 15 W; 10 Gb/s, 7.5 W)``: as many parts as sockets, one of each."""
    opened = sentence.opened_before(figure)
    closed = sentence.text.find(")", figure.end)
    if opened < socket.end or closed < 0 or socket.count is None or socket.count < 2:
        return None
    alike = [each for each in sentence.figures if each.dim is figure.dim and opened < each.start < closed]
    parts = [sentence.text.count(";", opened, each.start) for each in alike]
    if parts != list(range(socket.count)) or sentence.text.count(";", opened, closed) != socket.count - 1:
        return None
    at = sentence.text.count(";", opened, figure.start)
    label = f"part {sentence.clause.start + opened}.{at}"
    return replace(socket, count=1, whole=False, label=label, is_part=True)
