"""Watts of several sockets in one sentence: sums, one figure each, and what two give at the same time."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from auditra.core.advert.belonging import ids_of
from auditra.core.advert.condition_forms import Means
from auditra.core.advert.figures import Figure
from auditra.core.advert.numbering import PLACES
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import GIVES, promise, say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_IN_USE = any_of("with the others?", "in use", "used", "busy", "active", "together")
_BOTH_BUSY = re.compile(r"\b(?:both|all two)\b[^,.;]{0,24}\b(?:busy|in use|used|taken)", re.IGNORECASE)
_TWO_IN_USE = any_of(
    "both",
    "together",
    "in use",
    "are (?:both )?(?:used|busy|connected|taken)",
    "at once",
    "at the same time",
    "simultaneously",
    "dual(?:[- ]port)?",
    "two (?:ports|sockets|devices|phones)",
    "with two",
)
_AND_OR_COMMA = re.compile(r"\s*(?:,|,? ?and|/|&|\+)\s*", re.IGNORECASE)
_AND = re.compile(r"\s*(?:and|\+|/|plus|&)\s*", re.IGNORECASE)
_AND_NEXT = re.compile(
    r"(?i)\s*(?:and|\+|/|plus|&)\s*"
    r"|\s*(?:at the |on the )?(?:top|bottom|left|right|front|rear|upper|lower|first|second)(?: one)?,?\s*(?:and )?"
)
"""``Together: 45 W top, 20 W bottom``."""
_OPENS = re.compile(r"(?i)(?:[ -](?:sockets?|ports?|outputs?))?\s*\(")
_NAMED = re.compile(r"\b[AC]\d\b")
_NAMED_TOGETHER = re.compile(
    r"(?i:together|both|in use|used|taken|busy|connected|at once)\W{1,3}(?:USB-)?([AC]\d?):? \d+ ?W"
    r"(?:,| and| \+| &|,? then) (?:USB-)?([AC]\d?):? \d+ ?W"
)
_KEYED_SUM = re.compile(
    r"(?:USB-)?([AC]\d?) (?:and|&"
    r"|with) (?:USB-)?([AC]\d?): {1,3}\d+(?:\.\d+)? ?W ?(?:\+|and|,) ?\d+(?:\.\d+)? ?W"
)
"""``USB-C and USB-A: 40 W + 15 W``."""
_NAMED_SUM = re.compile(r"(?:USB-)?([AC]\d?):? \d+(?:\.\d+)? ?W ?\+ ?(?:USB-)?([AC]\d?):? \d+(?:\.\d+)? ?W")
_PART_OF_SUM = r"(?:USB-)?[AC]\d?(?: ?[/&] ?(?:USB-)?[AC]\d?)*:? ?\d+(?:\.\d+)? ?W(?: ?\([a-z ]{3,16}\))?"
_LISTED_SUMS = re.compile(rf"{_PART_OF_SUM}(?: ?\+ ?{_PART_OF_SUM}){{1,5}}[.;]?")
_SO_MANY_PORTS = re.compile(r"(?i)^(?:any )?\d (?:ports|sockets|outputs)(?: (?:in use|used|together|at once))?: ?")
_SO_MANY_KEY = re.compile(
    r"(?i)\W*(?:any |all )?(?:two|three|four|five|\d)(?: or (?:two|three|four|five|more|\d))?"
    r"(?: (?:ports|sockets|outputs|devices|phones|of them))?(?: (?:in use|used|together|at once|busy|connected))?\W*"
)
_BETWEEN_PARTS = re.compile(r", (?:and )?| ?\+ ?|; ")
_PART_OF_LIST = re.compile(
    r"(?P<names>(?:USB-)?[AC]\d?(?:(?: ?[/&] ?| and )(?:USB-)?[AC]\d?)*):? (?P<watts>\d+(?:\.\d+)?) ?W"
    r"(?: together|(?P<each> each))?"
)
"""``Three or four: C1 45 W, C2 30 W, C3 and A 15 W together``."""
_ONE_OF_SUMS = re.compile(r"(?:USB-)?([AC]\d?(?: ?[/&] ?[AC]\d?)*):? ?(\d+(?:\.\d+)?) ?W")
_WITH_OTHER = re.compile(r"(?i)\W*with the others?\W*")
"""Over a column: what each of two gives beside the other."""
_PLUS = re.compile(r"\s*\+\s*")
_BOTH_BEHIND = re.compile(r"(?i)\s*\(?(?:both|dual|two)\b")
_BOTH_BEFORE = re.compile(r"(?i)\b(?:both|dual(?: ports?)?|two ports):? $")
_TWO = 2
_SET_OF_TWO = re.compile(r"\W*[AC]\d? ?(?:\+|&|and) ?[AC]\d?\W*")
"""Over a column: those that are in use."""
_WITH_ANOTHER = re.compile(
    r"(?i)\b(?:as soon as|once|when|whenever|if|while) (?:a second|another|a further|anything|something"
    r"|the other|the second)\b"
    r"[^,.;]*?(?:, |(?= it )|(?= the ))"
)
_THE_OTHER_ONE = re.compile(
    rf"(?i)\bthe (?:({'|'.join(PLACES)})(?: one| socket)?|other(?: one)?|second(?: one)?)\b[^,.;]{{0,20}}$"
)
_ONE_AND_OTHER = re.compile(
    r"(?i)\b(\d+(?:\.\d+)?) ?W (?:from |on |at )?(?:the )?one,? (?:and )?(\d+(?:\.\d+)?) ?W (?:from |on |at )?the other"
    r"(?:,? (?:and )?(\d+(?:\.\d+)?) ?W (?:for |from )?(?:both|together))?"
)
_FIRST_GIVES = re.compile(r"([AC]\d) gives \d")


def is_sum(state: State, sentence: Sentence) -> bool:
    """``All in use: 65 W + 30 W + 15 W``: the text does not name the socket of each figure."""
    watts = list(sentence.of_dim(Dim.WATTS))
    gaps = [sentence.text[one.end : two.start] for one, two in pairwise(watts)]
    carried = not sentence.sockets_of("AC") and any(each.letter in "AC" for each in state.subject)
    if carried and any(_AND.fullmatch(gap) for gap in gaps):
        return True
    listed = len(gaps) > 1 and all(_AND_OR_COMMA.fullmatch(gap) for gap in gaps) and not sentence.sockets_of("AC")
    return listed or (bool(gaps) and all(gap.strip() == "+" for gap in gaps))


def one_each(state: State, sentence: Sentence) -> tuple[Figure, ...]:
    """``two C sockets (27 W and 7.5 W)``: as many figures as sockets, one of each; those that were read."""
    read: list[Figure] = []
    for socket in sentence.sockets_of("AC"):
        watts = [each for each in sentence.of_dim(Dim.WATTS) if each.start >= socket.end][: socket.count or 0]
        if len(watts) < _TWO or socket.count != len(watts) or socket.ids or set(watts) & set(read):
            continue
        if any(socket.end <= other.start < watts[0].start for other in sentence.sockets_of("AC")):
            continue
        gaps = [sentence.text[one.end : two.start] for one, two in pairwise(watts)]
        listed = _AND.fullmatch(gaps[-1]) or _OPENS.fullmatch(sentence.text[socket.end : watts[0].start])
        if not all(_AND_OR_COMMA.fullmatch(gap) for gap in gaps) or not listed:
            continue
        if _is_at_once(state, socket, gaps):
            ids = ids_of(state, [socket], "gives", again=True)
            if len(ids) != _TWO:
                continue
            one, two = ids
            say(state, sentence, f"{one} gives {watts[0].hedged} while {two} gives {watts[1].hedged}")
            read += watts
            continue
        for port, figure in zip(ids_of(state, [socket], "gives"), watts, strict=False):
            promise(state, sentence, [port], GIVES, figure)
        read += watts
    return tuple(read)


def one_and_other(state: State, sentence: Sentence) -> tuple[Figure, ...]:
    """``two C (45 W the one, 20 W the other, 45 W both)``: what each gives, and what they share."""
    match = _ONE_AND_OTHER.search(sentence.text)
    named = [each for each in sentence.sockets_of("AC") if match and each.end <= match.start() and each.count == _TWO]
    if match is None or not named:
        return ()
    for port, watts in zip(ids_of(state, named[-1:], "gives"), (match[1], match[2]), strict=False):
        say(state, sentence, f"{port} gives {float(watts):g} W")
    if match[3]:
        say(state, sentence, f"{'+'.join(ids_of(state, named[-1:], 'shares', again=True))} share {float(match[3]):g} W")
    return tuple(each for each in sentence.of_dim(Dim.WATTS) if match.start() <= each.start < match.end())


def _is_at_once(state: State, socket: Socket, gaps: Sequence[str]) -> bool:
    """``Two USB-C: 100 W + 35 W``, where what each gives alone was said before."""
    is_pair = socket.count == _TWO and _PLUS.fullmatch(gaps[-1]) is not None
    return is_pair and state.has_said(f"{socket.letter}1 gives")


def two_at_once(state: State, sentence: Sentence) -> bool:
    """``Both in use: 45 W and 18 W``: what each of two alike sockets gives beside the other."""
    watts = list(sentence.of_dim(Dim.WATTS))
    together = len(watts) == 2 and _TWO_IN_USE.search(sentence.before(watts[0]))
    if not together or not _AND_NEXT.fullmatch(sentence.text[watts[0].end : watts[1].start]):
        return False
    before = sentence.before(watts[0])
    ids = list(dict.fromkeys(_NAMED.findall(before)))
    named = [socket for socket in sentence.sockets_of("AC") if socket.end <= watts[0].start]
    if len(named) == 1 and len(named[0].ids) == _TWO:
        ids = [f"{named[0].letter}{number}" for number in named[0].ids]
    letters = {socket.letter for socket in named or state.subject if socket.letter in "AC"}
    if not named and re.search(r"(?i)\bboth\b", before) and len(list(state.numbers.all_of("AC"))) == _TWO:
        letters = {"A", "C"}
    ids = ids or list(state.numbers.all_of("".join(letters)))
    if len(ids) == 2:
        say(state, sentence, f"{ids[0]} gives {watts[0].hedged} while {ids[1]} gives {watts[1].hedged}")
    return True


def beside_another(state: State, sentence: Sentence) -> bool:
    """``As soon as a second device is plugged in, it gives 60 W and the lower one 30 W``."""
    watts = list(sentence.of_dim(Dim.WATTS))
    match = _WITH_ANOTHER.search(sentence.text)
    if match is None or len(watts) != _TWO or match.end() > watts[0].start:
        return False
    other = _THE_OTHER_ONE.search(sentence.text[watts[0].end : watts[1].start])
    first = _FIRST_GIVES.match(
        next((said.sentence for said in reversed(state.said) if _FIRST_GIVES.match(said.sentence)), "")
    )
    if other is None or first is None:
        return False
    one, label = first[1], (other[1] or "other").lower()
    two = ids_of(state, [Socket(0, 0, one[0], 1, (), label)], "gives")
    if len(two) == 1 and two[0] != one:
        say(state, sentence, f"{one} gives {watts[0].hedged} while {two[0]} gives {watts[1].hedged}")
    return True


def named_at_once(state: State, sentence: Sentence) -> tuple[Figure, ...]:
    """``Together C1 70 W, C2 20 W``, ``C1 65 W + A 22.5 W``."""
    is_sum_alone = _NAMED_SUM.fullmatch(sentence.own.strip(" .;")) is not None
    match = (_NAMED_SUM if is_sum_alone else _NAMED_TOGETHER).search(sentence.text)
    is_alone = any(each.means is Means.ALONE for each in sentence.conditions)
    if match is None or is_alone:
        return ()
    pair = tuple(each for each in sentence.of_dim(Dim.WATTS) if match.start() <= each.start < match.end())
    one, two = (name if name[-1].isdigit() else f"{name}1" for name in (match[1], match[2]))
    if len(pair) != _TWO or one == two:
        return ()
    say(state, sentence, f"{one} gives {pair[0].hedged} while {two} gives {pair[1].hedged}")
    return pair


def listed_sums(state: State, sentence: Sentence) -> bool:
    """``3 ports: C1 65 W + C2 20 W + C3/A 15 W``: what each, or each group, gives while all these are in use."""
    own = sentence.own
    first = sentence.conditions[0] if sentence.conditions else None
    if first is not None and first.means is Means.ALL and not own[: first.start - sentence.shift].strip(" ,"):
        own = own[first.end - sentence.shift :]
    by_key = _SO_MANY_KEY.fullmatch(sentence.clause.over) is not None
    known = _IN_USE.search(sentence.clause.over) or " or " in sentence.clause.over or state.has_said("C1 gives")
    if (own != sentence.own or (by_key and known)) and _listed_by_name(state, sentence, own):
        return True
    sums = _SO_MANY_PORTS.sub("", sentence.own.strip()).split(", ")
    if not all(map(_LISTED_SUMS.fullmatch, sums)):
        return False
    for listed in sums:
        parts: list[str] = []
        for names, watts in _ONE_OF_SUMS.findall(listed):
            ids = [name if name[-1].isdigit() else f"{name}1" for name in re.split(r"\s*/\s*|\s*&\s*", names)]
            for port in ids:
                state.numbers.declare(port[0], int(port[1:]))
            parts.append(f"{'+'.join(ids)} {'gives' if len(ids) == 1 else 'share'} {float(watts):g} W")
        say(state, sentence, " while ".join(parts))
    return True


def _listed_by_name(state: State, sentence: Sentence, own: str) -> bool:
    """``Three or four: C1 45 W, C2 30 W, C3 and A 15 W together``; ``C 30 W, C 12 W``: one after the other."""
    told = [_PART_OF_LIST.fullmatch(part) for part in _BETWEEN_PARTS.split(own.strip(" .,:;"))]
    parts = [each for each in told if each is not None]
    names = [name for each in parts for name in re.findall(r"[AC]\d?", each["names"])]
    ids = [name if name[-1].isdigit() else f"{name}{names[: n + 1].count(name)}" for n, name in enumerate(names)]
    if len(parts) < max(_TWO, len(told)) or len(set(ids)) < len(ids):
        return False
    for port in ids:
        state.numbers.declare(port[0], int(port[1:]))
    numbers = iter(ids)
    counts = (len(re.findall(r"[AC]\d?", each["names"])) for each in parts)
    given = (_given([next(numbers) for _ in range(n)], each) for n, each in zip(counts, parts, strict=True))
    say(state, sentence, " while ".join(given))
    return True


def _given(ids: Sequence[str], part: re.Match[str]) -> str:
    """``C1 gives 45 W``, ``C3+A1 share 15 W``."""
    each = " each" if part["each"] and len(ids) > 1 else ""
    verb = "gives" if len(ids) == 1 else "give" if each else "share"
    return f"{'+'.join(ids)} {verb} {float(part['watts']):g} W{each}"


def keyed_sum(state: State, sentence: Sentence) -> bool:
    """``USB-C and USB-A: 40 W + 15 W``: what each gives beside the other."""
    match, watts = _KEYED_SUM.search(sentence.text), list(sentence.of_dim(Dim.WATTS))
    if match is None or len(watts) != _TWO or (match[1][0] == match[2][0] and len(match[1]) != _TWO):
        return False
    one, two = (name if name[-1].isdigit() else f"{name}1" for name in (match[1], match[2]))
    say(state, sentence, f"{one} gives {watts[0].hedged} while {two} gives {watts[1].hedged}")
    return True


def pair_at_once(state: State, sentence: Sentence) -> tuple[Figure, ...]:
    """``C1/C2: 65 W (single), 45 W + 20 W (both)``: the two figures of both at once, among others."""
    watts = list(sentence.of_dim(Dim.WATTS))
    ids = list(dict.fromkeys(_NAMED.findall(sentence.text))) or list(state.numbers.all_of("CA"))
    for one, two in pairwise(watts):
        joined = _PLUS.fullmatch(sentence.text[one.end : two.start]) is not None
        if joined and (_BOTH_BEHIND.match(sentence.behind(two)) or _BOTH_BEFORE.search(sentence.before(one, 24))):
            if len(ids) == _TWO:
                say(state, sentence, f"{ids[0]} gives {one.hedged} while {ids[1]} gives {two.hedged}")
            return one, two
    return ()


def is_with_other(sentence: Sentence) -> bool:
    """Under a column that says what each of two gives beside the other."""
    return _WITH_OTHER.fullmatch(sentence.clause.column) is not None


def while_others(state: State, sentence: Sentence, figure: Figure, ids: Sequence[str]) -> bool:
    """``C1 and C2 in use``: what two sockets give at the same time, each under the other."""
    column = sentence.clause.column
    if column and (_IN_USE.search(column) or _SET_OF_TWO.fullmatch(column)):
        if not set(ids) <= set(_NAMED.findall(column)) and not is_with_other(sentence):
            return False
        key = column
    elif len(ids) == 1 and _BOTH_BUSY.search(sentence.before(figure)):
        key = str(sentence.clause.start)
    else:
        return False
    pair = state.in_use.setdefault(key, [])
    pair.append(("+".join(ids), figure.text))
    if len(pair) == 2 and pair[0][0] != pair[1][0]:
        say(state, sentence, f"{pair[0][0]} gives {pair[0][1]} while {pair[1][0]} gives {pair[1][1]}")
    return True
