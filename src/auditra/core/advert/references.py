"""What a sentence says by pointing back: "with it", "else", "the fourth", "socket 1", a rate of pixels before."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from auditra.core.advert.condition_forms import Means
from auditra.core.advert.conditions import Condition, is_else, of_all_after, opposite_of
from auditra.core.advert.figures import Figure, figures
from auditra.core.advert.footnotes import NOTE_MARK
from auditra.core.advert.numbering import PLACES
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import COUNT_WORDS, ORDINALS, count_of, numbers_in
from auditra.core.advert.sockets import PICTURE_SOCKETS, SIGNS, Socket, named_anywhere
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim
from auditra.core.claims.language import LEFT_OUT

USING_BOTH = re.compile(r"(?i)\b(?:using|with|on|if you use) (?:both|all)\b|\bboth (?:in use|together|at once)\b")
_LEADS = 4
"""Before this place a sentence begins."""
_CLASSES = 2
"""Of USB sockets."""
_WITH_IT = re.compile(
    r"\b(with|without)(?:(?: (?:it|one))?(?=\s*[,:;.]|$| the\b| it\b)| (?:it|one)(?= (?:up to |only )?\d))",
    re.IGNORECASE,
)
_SUPPLY_NAMED = re.compile(r"\b(?:power (?:supply|adapter|brick)|supply|mains adapter)\b", re.IGNORECASE)
_THING = re.compile(r"with(?:out)? (?:[\w. ]{1,16} )?(supply|charger|adapter|brick|display|network)")
_WORKING = re.compile(
    r"with (?:the |its )?([\w-]+) (?:powered|running|used|in use|connected|plugged in|attached|enabled"
    r"|(?:switched|turned) on)"
)
"""``5 Gb/s with the repeater powered, 480 Mb/s without``: a thing of any name."""
_SECOND = re.compile(r"\b(?:needs?|requires?|has) (?:an?|the|its) (second (?:plug|lead|cable))\b", re.IGNORECASE)
_NUMBERED = re.compile(
    r"(?i)\b(?:sockets?|ports?|outputs?|no\.) (\d{1,2}(?:(?:, ?| and | & | to |-)\d{1,2})*)\b(?!\.\d| ?(?:x"
    r"|Gb|W|A|in)\b)"
)
_NUMBERS_ALONE = re.compile(
    r"(?i)\W*(?:and |but )?(\d(?:(?:, | and | & | to |-)\d)*) (?=(?:gives?|carr(?:y|ies)|charges?|runs?|ha(?:s|ve)|do"
    r"|does|shows?|delivers?|only)\b)"
)
"""``A sockets 1 and 2 give 12 W; 3 and 4 give 4.5 W``."""
_REFERENCE = re.compile(
    rf"(?i)\W*(?:and |but |while |only )?(?:the|an?) ({'|'.join(ORDINALS)}|last|others?|rest|remaining)(?: (?:one|two"
    rf"|three|four|\d))?"
    r"(?: of them| ones?| sockets?| ports?)?\b(?=[, ]+(?:\w|\())(?! (?:model|version|one of))"
)
_ONES = re.compile(
    rf"(?i)\b(?:the|its) (\d|{COUNT_WORDS}) "
    r"(black|white|grey|gray|blue|red|green|yellow|front|rear|left|right|upper|lower) ones\b"
)
_AT_SIGN, _FROM_SIGN = re.compile(rf"(?i)\bthe ({'|'.join(SIGNS)})\b"), 26
"""A sign, and the characters from a socket to one that is named with it."""
_COLOURS = "black|white|grey|gray|blue|red|green|yellow|orange"
_ONE_WITH = re.compile(
    rf"(?i)\bthe (?:({_COLOURS}) one\b|one (?:with|marked with|marked by|by|under) "
    rf"(?:the |an? )?(?:({_COLOURS})\b(?: \w+)?|({'|'.join(SIGNS)})\b))"
)
"""``from the one with the grey ring``, ``the white one``."""
_AT_PLACE = re.compile(rf"(?i)\bthe ({'|'.join(PLACES)}) (?:socket|port|one(?=: it | (?:has|carries|moves) no\b))")
_ONE_AT_PLACE = re.compile(r"(?i)\bthe one (?:in|at|on) (?:the )?(front|back|rear|left|right|side|top|bottom)\b")
"""``the one in front is for charging only``."""
_AND_THE_OTHER = re.compile(
    r"(?i)\b(the other(?: one)?)(?= (?:keeps|drops|gives|falls|gets|goes|has|runs|stays|delivers|carries)\b)"
)
"""``the star keeps 45 W and the other drops to 20 W``."""
_PLACE = re.compile(r"(?i)\W*(?:and |but )?the (top|upper|bottom|lower|left|right|front|rear|middle|first) one\b")
_ALL_SO_MANY = re.compile(
    rf"(?i)\b(?:from|on|at|of|over) all (\d|{COUNT_WORDS})\b(?: of them| sockets| ports| outlets| outputs)?"
)
"""``Data from all three: 480 Mb/s``."""
_USB_SOCKETS = re.compile(r"(?i)USB (?:sockets?|ports?)")
_ONE_THAT = re.compile(rf"(?i)\W*(\d|{COUNT_WORDS}) (?:that|which) (?:stays?|belongs?|goes|always|only|has|does)\b")
_LOOK_BACK = 100
"""Characters before the mark of a footnote in which its mode stands."""
_THEN = re.compile(r"\s*(?:then|in that case|so used|this way)\b,?", re.IGNORECASE)


def _with_things(state: State, sentence: Sentence) -> Sentence:
    """``Without a charger it stays dark. With it: 60 Hz``: a condition of the thing that was named before."""
    behind = state.text[: sentence.clause.start].rstrip(" ")
    is_near = behind.endswith(";") or (behind.endswith((".", ",")) and not sentence.clause.over)
    things = [match[1] for each in sentence.conditions if (match := _THING.fullmatch(each.words))]
    other = next((match[1] for each in sentence.conditions if (match := _WORKING.fullmatch(each.words))), "")
    things = ["supply" if each in ("adapter", "brick") else each for each in things]
    second = _SECOND.search(sentence.text)
    things += [second[1].lower()] if second else []
    thing = things[0] if things else state.thing or other
    means = Means.UNREAD if thing == other else Means.WITH
    found = [
        Condition(each.start(), each.end(), means, _with_or_without(each[1], thing), _leads(sentence, each.start()))
        for each in (_WITH_IT.finditer(sentence.text) if thing else ())
    ]
    spoken = "supply" if _SUPPLY_NAMED.search(sentence.text) else ""
    spoken = spoken or (state.thing if is_near else "")
    state.thing = things[-1] if things else state.thing if found else spoken
    state.before = _last(sentence, state.before if is_near else None)
    if sentence.conditions:
        last = sentence.conditions[-1]
        state.is_unless = sentence.text[last.start : last.end].lower().startswith("unless")
    return replace(sentence, conditions=(*sentence.conditions, *found)) if found else sentence


def _with_or_without(word: str, thing: str) -> str:
    """As the claim language writes it, which can leave out only some things by name."""
    if word.lower() == "with":
        return f"with {thing}"
    thing = "supply" if thing == "charger" else thing
    return f"without {thing}" if thing in LEFT_OUT else f"with no {thing}"


def _leads(sentence: Sentence, start: int) -> bool:
    """At the beginning, or behind a comma, it is of what follows."""
    return start < _LEADS or sentence.text[:start].rstrip().endswith(",")


def _last(sentence: Sentence, before: Condition | None) -> Condition | None:
    """The condition that an "else" or a "then" behind this sentence is about."""
    return sentence.conditions[-1] if sentence.conditions else before


def _with_earlier(state: State, sentence: Sentence) -> Sentence:
    """``Otherwise 15 W``, ``Then each gives 0.1 A``: what the last sentence was under, or its opposite."""
    first = sentence.conditions[0] if sentence.conditions else None
    if state.before is None:
        return _without_lone_else(sentence)
    if first is not None and first.end <= sentence.shift:
        return sentence  # what it is under was just said
    if (
        first is not None
        and first.start == sentence.shift + _blanks(sentence.own)
        and is_else(sentence.text[first.start : first.end])
    ):
        return replace(sentence, conditions=(opposite_of(first, state.before), *sentence.conditions[1:]))
    if first is not None and first.start == sentence.shift + _blanks(sentence.own):
        first = of_all_after(first, state.before)
        sentence = replace(sentence, conditions=(first, *sentence.conditions[1:]))
    then = _THEN.match(sentence.own) if not _WITH_IT.search(sentence.over) else None
    if then is None or not state.before.words:
        return sentence
    before = opposite_of(state.before, state.before) if state.is_unless else state.before
    under = replace(before, start=sentence.shift, end=sentence.shift + then.end(), leads=True)
    return replace(sentence, conditions=(under, *sentence.conditions))


def _without_lone_else(sentence: Sentence) -> Sentence:
    """``Else 4K at 60 Hz``, where nothing was said under what the rest is: it stays open."""
    first = sentence.conditions[0] if sentence.conditions else None
    if first is None or not is_else(sentence.text[first.start : first.end]) or _SUPPLY_NAMED.search(sentence.text):
        return sentence
    unread = replace(first, means=Means.UNREAD, words="")
    return replace(sentence, conditions=(unread, *sentence.conditions[1:]))


def _blanks(text: str) -> int:
    return len(text) - len(text.lstrip())


def goes_on(state: State, sentence: Sentence) -> bool:
    """Whether a clause goes on with what was said before a semicolon."""
    return state.text[: sentence.clause.start].rstrip().endswith(";")


def _with_references(state: State, sentence: Sentence) -> Sentence:
    """``The fourth has no data``, ``The other two give 12 W``: sockets that are named by those before them."""
    sentence = _with_sockets(sentence, *_by_sign(state, sentence))
    sentence = _with_sockets(sentence, *_the_ones(state, sentence))
    sentence = _with_sockets(sentence, *_at_places(state, sentence))
    sentence = _with_sockets(sentence, *_one_more(state, sentence))
    sentence = _of_both_classes(state, _with_sockets(sentence, *_all_of_so_many(state, sentence)))
    named = _REFERENCE.match(sentence.own)
    if named is None and (numbered := _by_number(state, sentence)):
        return _with_sockets(sentence, *numbered)
    letters = [socket.letter for socket in state.subject if not socket.is_plug]
    if (alone := _NUMBERS_ALONE.match(sentence.own)) and state.subject and all(each.ids for each in state.subject):
        start, end = sentence.shift + alone.start(1), sentence.shift + alone.end(1)
        return _with_sockets(sentence, _of_digits(letters[-1], start, end, alone[1]))
    place = _PLACE.match(sentence.own)
    if place and len(set(letters)) == 1 and not sentence.sockets_of("ACHDVN"):
        start, end = sentence.shift + place.start(1), sentence.shift + place.end()
        return _with_sockets(sentence, Socket(start, end, letters[0], 1, (), place[1].lower()))
    if named is None or not letters or any(not socket.is_plug for socket in sentence.sockets):
        return sentence
    ids = _in_order(state, letters[-1], named[1].lower())
    if not ids or len(ids) == len(state.numbers.ids(letters[-1])):
        return sentence
    numbers = tuple(int(port[1:]) for port in ids)
    start, end = sentence.shift + named.start(1), sentence.shift + named.end()
    return _with_sockets(sentence, Socket(start, end, letters[-1], len(ids), numbers))


def _with_sockets(sentence: Sentence, *more: Socket) -> Sentence:
    """With more sockets at their places."""
    if not more:
        return sentence
    return replace(sentence, sockets=tuple(sorted((*sentence.sockets, *more), key=lambda each: each.start)))


def _in_order(state: State, letter: str, word: str) -> list[str]:
    """Which of a class are the first, the last, the others."""
    known, last = state.numbers.ids(letter), state.last.get(letter, [])
    if word in ORDINALS:
        if ORDINALS[word] == len(known) + 1:
            state.numbers.declare(letter, ORDINALS[word])  # one more than were named until now
        return known[ORDINALS[word] - 1 : ORDINALS[word]]
    return known[-1:] if word == "last" else [port for port in known if port not in last]


def _by_sign(state: State, sentence: Sentence) -> Iterator[Socket]:
    """``the star``, where a socket was marked with one."""
    for socket in sentence.sockets:
        if socket.label.removeprefix("no ") in SIGNS and (socket.letter, socket.label) not in state.numbers.labels:
            state.numbers.of(socket, "sign")
    for match in _AT_SIGN.finditer(sentence.text):
        if any(each.start <= match.start() < each.end + _FROM_SIGN for each in sentence.sockets):
            continue
        for (letter, label), ids in state.numbers.labels.items():
            if label == match[1].lower():
                numbers = tuple(int(port[1:]) for port in ids)
                yield Socket(match.start(), match.end(), letter, len(ids), numbers, label)


def _at_places(state: State, sentence: Sentence) -> Iterator[Socket]:
    """``The rear socket carries no data``: of the class that was told apart by its places."""
    letters = {letter for letter, label in state.numbers.labels if label in PLACES}
    if len(letters) != 1 or any(each.letter in letters for each in sentence.sockets):
        return
    for match in _AT_PLACE.finditer(sentence.text):
        yield Socket(match.start(), match.end(), next(iter(letters)), 1, (), match[1].lower())


def _the_ones(state: State, sentence: Sentence) -> list[Socket]:
    """``the two black ones``: of the class that was named last."""
    found: list[Socket] = []
    for match in (*_ONES.finditer(sentence.text), *_ONE_WITH.finditer(sentence.text)):
        named = [each for each in sentence.sockets if each.end <= match.start() and not each.is_plug]
        named = named or [each for each in state.subject if not each.is_plug]
        inside = any(match.end() <= each.start < match.end() + _LEADS for each in sentence.sockets)
        if named and not inside:
            start, end = match.span()
            is_one = match.re is _ONE_WITH
            count, label = (1, match[1] or match[2] or match[3]) if is_one else (count_of(match[1]), match[2])
            counted = (
                is_one
                and named[-1].start < start
                and (named[-1].count or 0) > 1
                and not state.numbers.ids(named[-1].letter)
            )
            ids = (named[-1].count or 0,) if counted else ()  # one of those that were just counted
            found.append(Socket(start, end, named[-1].letter, count, ids, label.lower()))
    for match in _ONE_AT_PLACE.finditer(sentence.text):
        named = [each for each in sentence.sockets_of("ACHD") if each.end <= match.start() and (each.count or 0) > 1]
        if named and named[-1].label != match[1].lower():
            found.append(Socket(match.start(), match.end(), named[-1].letter, 1, (), match[1].lower()))
    marked = [each for each in (*sentence.sockets, *found) if each.label in SIGNS or re.fullmatch(_COLOURS, each.label)]
    others = _AND_THE_OTHER.finditer(sentence.text) if marked else ()
    found.extend(Socket(match.start(1), match.end(1), marked[-1].letter, 1, (), "other") for match in others)
    return found


def _by_number(state: State, sentence: Sentence) -> list[Socket]:
    """``Socket 1``, ``ports 2 and 3``: of the only class that there is; of a charger's outputs, of C."""
    told = [*_numbered_before(state, sentence)]
    if told:
        return told
    letters = ["N"] if state.product.is_network_switch else [each for each in "AC" if state.numbers.found.get(each)]
    letters = letters or (["C"] if state.product.is_charger else [])
    if len(letters) != 1 or sentence.sockets_of("ACHDVNS"):
        return []
    found: list[Socket] = []
    for match in _NUMBERED.finditer(sentence.text):
        socket = _of_digits(letters[0], match.start(), match.end(), match[1])
        if max(socket.ids) <= len(state.numbers.ids(letters[0])) or (state.product.is_charger and letters == ["C"]):
            found.append(socket)
    return found


def _all_of_so_many(state: State, sentence: Sentence) -> Iterator[Socket]:
    """``From all three``, where there are as many: of both classes of USB, or of those for pictures."""
    match = _ALL_SO_MANY.search(sentence.without_conditions)
    if match is None or sentence.sockets_of("ACHDVNS"):
        return
    for letters in ("AC", PICTURE_SOCKETS):
        if len(list(state.numbers.all_of(letters))) == count_of(match[1]):
            for letter in (each for each in state.numbers.found if each in letters and state.numbers.ids(each)):
                yield Socket(match.start(), match.end(), letter, whole=True)


def _of_both_classes(state: State, sentence: Sentence) -> Sentence:
    """``All five USB sockets``, of which the text counts three as USB-A and two as USB-C."""
    spoken = [
        each for each in sentence.sockets if _USB_SOCKETS.fullmatch(sentence.text, each.start, each.end) and each.count
    ]
    if len(spoken) != 1:
        return sentence
    every = [each for each in named_anywhere(state.text) if each.letter in "AC" and each.count]
    counts = {each.letter: each.count for each in every if not _USB_SOCKETS.fullmatch(state.text, each.start, each.end)}
    if len(counts) < _CLASSES or sum(filter(None, counts.values())) != spoken[0].count:
        return sentence
    both = (replace(spoken[0], letter=letter, count=count, whole=False) for letter, count in counts.items())
    rest = tuple(each for each in sentence.sockets if each is not spoken[0])
    return _with_sockets(replace(sentence, sockets=rest), *both)


def _one_more(state: State, sentence: Sentence) -> Iterator[Socket]:
    """``three USB-A, 5 Gb/s; one that stays with computer 1``: beside those, which have their promise."""
    match = _ONE_THAT.match(sentence.own)
    named = [each for each in state.subject if each.letter in "AC" and not each.is_plug]
    if match is None or not goes_on(state, sentence) or sentence.sockets or len(named) != 1:
        return
    known = state.numbers.ids(named[0].letter)
    if known and all(state.has_said(f"{port} data") for port in known):
        yield Socket(
            sentence.shift + match.start(1), sentence.shift + match.end(1), named[0].letter, count_of(match[1])
        )


def _of_digits(letter: str, start: int, end: int, words: str) -> Socket:
    """``3 and 4``, ``1 to 3``."""
    numbers = numbers_in(words)
    return Socket(start, end, letter, len(numbers), numbers)


def _numbered_before(state: State, sentence: Sentence) -> Iterator[Socket]:
    """``Port 2 (USB-C): ...``, and later ``port 2``: the sockets that were called so."""
    for match in _NUMBERED.finditer(sentence.text):
        for (letter, label), ids in state.numbers.labels.items():
            if label == f"no. {match[1]}" and not sentence.sockets_of(letter):
                yield Socket(match.start(), match.end(), letter, len(ids), tuple(int(port[1:]) for port in ids))


def _with_pixels(state: State, sentence: Sentence) -> Sentence:
    """``4K at 30 Hz; at 60 Hz from USB4``, ``Both together: 75 Hz``: a rate alone is of the pixels before."""
    modes = [each for each in sentence.figures if each.dim is Dim.MODE]
    same = goes_on(state, sentence) or USING_BOTH.search(sentence.text)
    if not modes and state.pixels and same and not any(sentence.of_dim(Dim.PICTURE)):
        pixels = _pixels_of_note(state, sentence) or state.pixels
        sentence = replace(sentence, figures=tuple(_of_pixels(pixels, each) for each in sentence.figures))
    elif modes:
        state.pixels = modes[-1].text.partition("@")[0]
    return sentence


def _pixels_of_note(state: State, sentence: Sentence) -> str:
    """Of a footnote, the pixels that its mark stands behind; empty for what is no footnote."""
    start = state.text.rfind("\n", 0, sentence.clause.start) + 1
    mark = NOTE_MARK.match(state.text, start)
    place = state.text.find(mark[1]) if mark else start
    told = figures(state.text[max(0, place - _LOOK_BACK) : place]) if place < start else []
    return next((each.text.partition("@")[0] for each in reversed(told) if each.dim is Dim.MODE), "")


def _of_pixels(pixels: str, figure: Figure) -> Figure:
    if figure.dim is not Dim.HERTZ:
        return figure
    return replace(figure, dim=Dim.MODE, text=f"{pixels}@{figure.text.split()[0]}")


def resolved(state: State, sentence: Sentence) -> Sentence:
    """A sentence with everything that it points back to."""
    return _with_references(state, _with_pixels(state, _with_things(state, _with_earlier(state, sentence))))
