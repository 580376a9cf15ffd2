"""On which sockets a mode is shown: those that are named, as many as there are screens, or all of them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from auditra.core.advert.belonging import subjects
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of
from auditra.core.advert.references import USING_BOTH
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import count_of
from auditra.core.advert.sockets import PICTURE_SOCKETS, Socket, named_anywhere
from auditra.core.advert.state import State
from auditra.core.advert.sureness import CARRIED

_SHOWN = any_of("picture", "video", "screen", "display", "shows?")
_ON_ALL = any_of("on every one", "each of them", "on each", "all of them", "on all", "every")
SCREENS = re.compile(
    r"\b(\d|two|three|four|single|one|dual|triple|double|twin)\s+(?:(?!computers? |hosts? |pcs? |laptops? |one "
    r"|two |three |four "
    r"|single )[\w@-]+ ){0,3}(?:monitors?|displays?|screens?)\b",
    re.IGNORECASE,
)
TIMES_BEFORE = re.compile(r"(?<![\w.])([2-4])\s?x\s*$")
_SO_MANY_AT = re.compile(r"(?i)\b(one|two|three|[1-3])(?: (?:screens?|monitors?|displays?))? (?:at|with)(?: up to)? $")
_TELEVISION = any_of("TV", "its picture", "big screen")
BOTH = 2
_DUAL_BEFORE = re.compile(r"(?i)\b(dual|triple|twin) $")
_ON_BOTH = any_of("on (?:both|two) (?:screens|monitors|displays)")
_OF_PICTURES = any_of("pictures?", "video", "resolution", "displays?", "screens?", "monitors?")
_BOTH_BEFORE = re.compile(
    r"(?i)\bboth(?: at| at once| together| (?:in use|used|working|running)(?: at)?)?"
    r"(?: (?:do|show|run|reach|give))?(?: at)?:? $"
)
_BOTH_RUN = re.compile(r"(?i)\bboth (?:run|show|work|do)(?: at)?(?: up to)? $")
_EACH_DOES = re.compile(
    r"(?i)\W*(?:each|all|every one)(?: of them| three| four)? (?:does|do|shows?|runs?|reach(?:es)?|gives?)\b"
)
_BEGINNING = 30
"""Characters before a mode that a sentence is about."""
_ALL_SO_MANY = re.compile(r"(?i)\ball (two|three|four|[2-4])\b[^,;.]{0,20}$")
_OF_THEM = re.compile(r"(?i)\b(two|three|four|one|\d) of them,? (?:at )?$")
_ON_SO_MANY = re.compile(r"(?i)\s*(?:on|at) (two|three|four|one|\d)\b(?! \w*(?:screens?|monitors?|displays?|of))")


def every_named(state: State, sentence: Sentence, figure: Figure) -> list[Socket]:
    """The sockets of a mode, or all that are listed where it is of all."""
    found = _counted_by_screens(sentence, figure, sockets_of_mode(state, sentence, figure))
    return whole_list(state, sentence, figure, _all_so_many(state, sentence, figure, found))


def sockets_of_mode(state: State, sentence: Sentence, figure: Figure) -> list[Socket]:
    """Sockets for pictures; a C socket where the sentence is about one, or speaks of a picture."""
    usb_c = sentence.sockets_of("C")
    if usb_c and not sentence.sockets_of(PICTURE_SOCKETS):
        named = [socket for socket in usb_c if socket.end <= sentence.shift or socket.ids]
        if len(named) > 1 and all(each.start >= sentence.shift for each in named):
            named = subjects(state, sentence, figure, "C")[0] or named
        if named or _SHOWN.search(sentence.text):
            return named or usb_c[:1]
    found, carried = subjects(state, sentence, figure, PICTURE_SOCKETS)
    if carried and _EACH_DOES.match(sentence.own) and sum(each.count or 1 for each in found) == 1:
        found = [Socket(0, 0, letter, whole=True) for letter in state.numbers.found if letter in PICTURE_SOCKETS]
    if not found and (screens := SCREENS.search(sentence.text)):
        found = _the_only_ones(state, count_of(screens[1]))
    elif not found and _OF_PICTURES.search(sentence.over):
        times = TIMES_BEFORE.search(sentence.before(figure))
        found = _all_of_so_many(state, int(times[1])) if times else _the_only_ones(state, None)
    if (
        not found
        and (dual := _DUAL_BEFORE.search(sentence.before(figure)))
        and not sentence.sockets_of(PICTURE_SOCKETS)
    ):
        found = _the_only_ones(state, count_of(dual[1]))
    if not found and not sentence.sockets and not sentence.over:
        found = _of_the_only_class(state, sentence, figure)
    if found or not _TELEVISION.search(sentence.text):
        return found
    said_here = state.said and state.said[-1].start == sentence.clause.start and state.has_said("H1 shows")
    none_yet = not state.numbers.ids("H") and not state.numbers.ids("D")
    return [Socket(0, 0, "H", 1)] if none_yet or said_here else []


def _of_the_only_class(state: State, sentence: Sentence, figure: Figure) -> list[Socket]:
    """``Up to 4K at 60 Hz``, where a text names one class of sockets for pictures."""
    letters = _classes_in(state.text)
    begins = figure.start < _BEGINNING or _BOTH_RUN.search(sentence.before(figure)) is not None
    if len(letters) != 1 or not begins or state.has_said(f"{letters}1 shows"):
        return []
    state.assumed.append(CARRIED)
    return [Socket(0, 0, letters, BOTH if _BOTH_RUN.search(sentence.before(figure)) else None)]


def _the_only_ones(state: State, count: int | None) -> list[Socket]:
    """For ``two 4K screens`` the sockets for pictures of the whole text, where they are of one class."""
    letters = _classes_in(state.text)
    return [Socket(0, 0, letters, count)] if len(letters) == 1 else []


def _all_of_so_many(state: State, times: int) -> list[Socket]:
    """``Max. displays: 2 (2 x 4K60)``: all that there are, where these are as many."""
    known = [letter for letter in state.numbers.found if letter in PICTURE_SOCKETS]
    if len(list(state.numbers.all_of(PICTURE_SOCKETS))) == times:
        return [Socket(0, 0, letter, whole=True) for letter in known]
    return _the_only_ones(state, times)


def _classes_in(text: str) -> str:
    """The letters of the sockets for pictures that a text names."""
    every = (each.letter for each in named_anywhere(text) if each.letter in PICTURE_SOCKETS)
    return "".join(dict.fromkeys(every))


def is_of_some(state: State, sentence: Sentence, figure: Figure, found: Sequence[Socket]) -> bool:
    """``Two screens: 4K60 each``, where three sockets show pictures: the text does not say on which."""
    every = len(list(state.numbers.all_of(PICTURE_SOCKETS)))
    so_many = _SO_MANY_AT.search(sentence.before(figure))
    if so_many is not None and len({each.letter for each in found}) > 1:
        return count_of(so_many[1]) < every
    if sentence.sockets_of(PICTURE_SOCKETS) or not sentence.shift:
        return False
    told = SCREENS.search(sentence.over)
    return told is not None and bool(found) and 1 < count_of(told[1]) < every


def _counted_by_screens(sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``two 4K monitors via DisplayPort``."""
    if (
        len(found) == 1
        and found[0].count is None
        and not found[0].ids
        and (times := TIMES_BEFORE.search(sentence.before(figure)))
    ):
        return [replace(found[0], count=int(times[1]), label="")]
    if len(found) == 1 and found[0].count is None and not found[0].ids and _ON_BOTH.search(sentence.text):
        return [replace(found[0], count=BOTH, label="", is_part=False)]
    match = SCREENS.search(sentence.without_conditions)
    if match is None or len(found) != 1 or found[0].count is not None or found[0].ids:
        return found
    if len(sentence.sockets_of(PICTURE_SOCKETS)) > 1:
        return found
    if re.search(r"\bor\b", sentence.text):
        return found
    return [replace(found[0], count=count_of(match[1]), label="")]


def _all_so_many(state: State, sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``All three do 4K60``: as many as are said just before it."""
    told = _ALL_SO_MANY.search(sentence.before(figure))
    if told is not None and len(list(state.numbers.all_of(PICTURE_SOCKETS))) == count_of(told[1]):
        known = (each for each in state.numbers.found if each in PICTURE_SOCKETS and state.numbers.ids(each))
        return [Socket(0, 0, each, whole=True) for each in known]
    if told is None or len(found) != 1:
        return found
    return [replace(found[0], count=count_of(told[1]), ids=(), label="", whole=True, is_part=False)]


def whole_list(state: State, sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``(2 x HDMI, 1 x DisplayPort): 2560x1440@75 on every one``: all that are listed."""
    named = _classes_in(state.text)
    known = [
        letter for letter in PICTURE_SOCKETS if state.numbers.ids(letter) or (len(named) == BOTH and letter in named)
    ]
    both = len(known) == BOTH and _BOTH_BEFORE.search(sentence.before(figure))
    using = not sentence.sockets_of(PICTURE_SOCKETS) and len(known) > 1 and USING_BOTH.search(sentence.before(figure))
    alike = USING_BOTH.search(sentence.before(figure)) and len(known) == 1 and len(state.numbers.ids(known[0])) > 1
    if both or using or (alike and not sentence.sockets_of(PICTURE_SOCKETS)):
        return [Socket(0, 0, letter, whole=True) for letter in state.numbers.found if letter in known]
    every = sentence.sockets_of(PICTURE_SOCKETS)
    if len(every) > 1 and _ON_ALL.search(sentence.behind(figure, 40)):
        return every
    listed = len({socket.letter for socket in every}) > 1 and all(socket.end <= figure.start for socket in every)
    closed = listed and re.search(r"[)]\s*:?", sentence.text[every[-1].end : figure.start])
    return every if closed and sentence.text.count("(") == 1 else found


def of_so_many(sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``2560x1440@60 on two``, ``2 x 2560x1440@60``: of the sockets that were named before."""
    told = _ON_SO_MANY.match(sentence.behind(figure))
    own = any(each.start >= sentence.shift for each in sentence.sockets_of(PICTURE_SOCKETS))
    times = TIMES_BEFORE.search(sentence.before(figure))
    if times and len(found) == 1 and not found[0].ids and int(times[1]) < (found[0].count or 0):
        return [replace(found[0], count=int(times[1]), label="", whole=False, is_part=False)]
    told = told or _OF_THEM.search(sentence.before(figure))
    if told is None or len(found) != 1 or own:
        return []
    return [replace(found[0], count=count_of(told[1]), ids=(), label="", whole=False, is_part=False)]


def is_repeated(sentence: Sentence, figure: Figure, found: list[Socket]) -> bool:
    """The same mode once more of the same sockets."""
    if USING_BOTH.search(sentence.before(figure)):
        return False
    same = [each for each in sentence.figures if each.end <= figure.start and each.text == figure.text]
    if not same or under_what(sentence, figure):
        return False
    return not any(socket.start > same[-1].end or socket.ids for socket in found)
