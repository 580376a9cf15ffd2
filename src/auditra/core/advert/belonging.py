"""To which sockets a figure belongs."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from auditra.core.advert.figures import Figure
from auditra.core.advert.phrases import any_of
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import PICTURE_SOCKETS, Socket
from auditra.core.advert.state import State
from auditra.core.advert.sureness import CARRIED
from auditra.core.advert.units import Dim

_COUNT = r"(?:\d{1,2}|one|two|three|four|five|six|pair of|both)"
_TO_NEXT = re.compile(
    r"\s*(?:\)\s*)?(?:(?:from|at|on|over|out of|in|of|for|through|with|to|,)\s+)?"
    r"(?:(?:each|all|both|every one|any)(?: of)?\s+)?(?:the|its|a|an|your|this|our)?\s*"
    rf"(?:(?:{_COUNT}|front|rear|left|right|white|grey|other|wired|plain|side|fast|slow|quick|small"
    rf"|big)\s*x?\s+)*(?:the )?$",
    re.IGNORECASE,
)
"""What stands between a figure and the socket behind it that it is of."""
_STRONG = re.compile(r"\s*(?:from|at|on|over|out of|through|of each|for each of|for the)\b", re.IGNORECASE)
_JOINT = re.compile(
    rf"(?:\s|,|and|&|\+|/|plus|as well as|the|sockets?|ports?|outputs?|slots?|x|a|an|{_COUNT}|\d|\(|\)|with|USB|front"
    r"|rear|left|right|upper|lower|also|\d\.\d[ab]?)*",
    re.IGNORECASE,
)
_JOINT_CLOSE = re.compile(
    r"\s*(?:x ?\d{1,2})?\s*(?:sockets?|ports?|outputs?|slots?)?\s*(?:and|or|&|\+|/|plus|as well as)\s*"
    rf"(?:the|a|an|on|{_COUNT}|x|\s)*",
    re.IGNORECASE,
)
_SAME_AGAIN = re.compile(rf"\s*,\s*(?:and )?{_COUNT} (?:over|via|on|through) (?:the )?", re.IGNORECASE)
"""``two over HDMI, two over DisplayPort``."""
_BRACKET_OPENS = re.compile(rf"\s*(?:USB|data)\s*\(\s*(?:{_COUNT}\s*x?\s*)?", re.IGNORECASE)
"""``10 Gb/s USB (3 x A, 2 x C)``."""
_COUNT_IN_BRACKET = re.compile(rf"(?i)\s*(?:each\s*)?\(\s*(?:{_COUNT}\s*x?\s*)?")
_CLOSES = re.compile(r"(?i)\s*(?:ports?|sockets?)?\)")
_OPENS_WITH = re.compile(r"(?i)\s*\((?:both|the|either|each|every|front|rear|left|right)?\s*")
"""``5 Gb/s (both USB-A ports)``."""
_KEY_OF_LIST = re.compile(r"\s*:\s*(?:\d{1,2}\s?(?:x\s?)?)?")
"""``10 Gb/s: 1 x``."""
_DASH = re.compile(r"\s*(?:[-:]|slots? [-:])\s*")
"""Between a list of sockets and the figure that they all have."""
_ALL_OF = any_of("all", "each", "both", "every", "on every one", "apiece")
_LIST_END = re.compile(r",\s*(?:and )?$|\band\s*$", re.IGNORECASE)
_AND_HAS = re.compile(r"(?i)\b(?:and|but) (?:it )?(?:has|adds|offers|brings|comes with) ")
"""``It doubles that to 10 Gb/s and has five sockets: three USB-A``."""
_OVER_USB = re.compile(r"(?i)\s*(?:over|via|through|by)\s*")
_THEM_BEFORE = re.compile(r"(?i)\b(?:each|all|both|every one|either) of (?:them|these|those)\b[^,;.]{0,24}$")
_EACH_OF_THEM = re.compile(r"(?i)\b(?:each|both|all|either) of (?:them|these|the two|the \w+)\b")
"""``The lower USB-C socket gives 45 W, the upper 65 W. When both work, each of them 30 W``."""
_COUNT_OF_KEY = re.compile(r"\((\d{1,2})\)\s*$")
"""``Front row (4): 10 Gb/s``."""
OF_A_NUMBER = re.compile(r"(?i)\W*(?:and )?(?:the )?(?:ports?|sockets?) \d(?!\.\d)")
_LABEL_ALONE = re.compile(r"(?i)left|right|front|rear|upper|lower|top|bottom|back")


def subjects(state: State, sentence: Sentence, figure: Figure, letters: str) -> tuple[list[Socket], bool]:
    """The sockets that a figure is of; and whether they were named in an earlier sentence."""
    state.assumed.clear()
    fit = sentence.sockets_of(letters)
    if figure.end <= sentence.shift and any(socket.start >= sentence.shift for socket in fit):
        return [socket for socket in fit if socket.start >= sentence.shift], False
    if inside := _within(figure, fit):
        return inside, False
    before = [socket for socket in fit if socket.end <= figure.start]
    behind = [socket for socket in fit if socket.start >= figure.end]
    if behind and _belongs_to_next(sentence, figure, before, behind[0]):
        return _run_forward(sentence, figure, behind), False
    if before and _is_behind_another(sentence, figure, before[-1]):
        return [], False
    if before:
        return _run_back(sentence, before, figure), False
    if behind and (_closes_with(sentence, behind) or not _is_cut_off(sentence, figure, behind[0])):
        return _run_forward(sentence, figure, behind), False
    if any(not socket.is_plug for socket in sentence.sockets) and not _THEM_BEFORE.search(sentence.before(figure)):
        return [], False
    if OF_A_NUMBER.match(sentence.own):
        return [], False  # of which class it is was not said
    return _carried(state, sentence, letters)


def _is_behind_another(sentence: Sentence, figure: Figure, last: Socket) -> bool:
    """``4 USB-A 5 Gb/s, 2 DP 1440p 75 Hz, 65 W``: an item of its own, behind sockets of another class with theirs."""
    others = [each for each in sentence.sockets if last.end <= each.start and each.end <= figure.start]
    if not others or figure.each or others[-1].is_plug or others[-1].letter not in PICTURE_SOCKETS:
        return False
    between = [each for each in sentence.figures if others[-1].end <= each.start and each.end <= figure.start]
    gap = sentence.text[between[-1].end : figure.start] if between else ""
    return gap.strip() in (",", ";") and "(" not in sentence.text[last.start : figure.start]


def _closes_with(sentence: Sentence, behind: Sequence[Socket]) -> bool:
    """``Reads 1,050 MB/s, writes 900 MB/s (front USB-C)``: one socket in a bracket at the end is of all before it."""
    opened = sentence.text.rfind("(", 0, behind[0].start)
    ends = re.fullmatch(r"[^();]*\)\W*", sentence.text[behind[0].end :]) is not None
    rates = all(each.dim is Dim.BYTE_RATE for each in sentence.figures)
    return len(behind) == 1 and opened > 0 and ends and rates and re.search(r"[;.]\s", sentence.text[:opened]) is None


def _carried(state: State, sentence: Sentence, letters: str) -> tuple[list[Socket], bool]:
    """Those of an earlier sentence, while they last."""
    carried = [socket for socket in state.subject if socket.letter in letters and not socket.is_plug]
    if carried and (told := _COUNT_OF_KEY.search(sentence.clause.over)):
        return [replace(carried[-1], count=int(told[1]), label=sentence.clause.over.lower(), start=0, end=0)], True
    if carried and _LABEL_ALONE.fullmatch(sentence.clause.over):
        return [replace(carried[-1], label=sentence.clause.over.lower(), count=1, start=0, end=0)], True
    is_one = len(carried) == 1 and (carried[0].count == 1 or bool(carried[0].label)) and not carried[0].ids
    if is_one and _EACH_OF_THEM.search(sentence.own):
        carried = [replace(carried[0], count=None, label="", whole=True)]
    if carried:
        state.assumed.append(CARRIED)
    return [replace(socket, is_part=True, start=0, end=0) for socket in carried], bool(carried)


def _within(figure: Figure, fit: Sequence[Socket]) -> list[Socket]:
    """``4K over HDMI, 30 Hz``: the socket in the midst of a mode."""
    of_mode = [each for each in fit if figure.dim is Dim.MODE and figure.start <= each.start and each.end <= figure.end]
    return of_mode or [each for each in fit if each.start <= figure.start and figure.end <= each.end]


def _is_cut_off(sentence: Sentence, figure: Figure, following: Socket) -> bool:
    """Another figure of its kind stands between, or what stands behind has a figure of its own."""
    another = any(
        each.dim is figure.dim
        and figure.end <= each.start < following.start
        and re.search(r"[,(]", sentence.text[figure.end : each.start])
        for each in sentence.figures
    )
    opened = sentence.text.rfind("(", figure.end, following.start)
    between = (each for each in sentence.figures if figure.end <= each.start and each.end <= opened)
    if opened > 0 and any(sentence.text[each.end : opened].strip() == "" for each in between):
        return True  # 96 W, 10 Gb/s (four USB-A)
    goes_on = _AND_HAS.search(sentence.text, figure.end, following.start)
    return another or goes_on is not None or _has_its_own(sentence, figure, following)


def _has_its_own(sentence: Sentence, figure: Figure, following: Socket) -> bool:
    """``Without it 7.5 W, and the A sockets 4.5 W``: what stands behind is another part, with a figure of its own."""
    gap = sentence.text[figure.end : following.start]
    another = any(each.dim is figure.dim and each.start >= following.end for each in sentence.figures)
    return re.search(r"[.;)]", gap) is not None or (another and re.search(r", (?:and|but|while) ", gap) is not None)


def _belongs_to_next(sentence: Sentence, figure: Figure, before: Sequence[Socket], following: Socket) -> bool:
    gap = sentence.text[figure.end : following.start]
    if _is_network_over_usb(sentence, figure, before, following):
        return False
    if _BRACKET_OPENS.fullmatch(gap) and ")" in sentence.text[following.end :]:
        closed = sentence.text.index(")", following.end)
        if not any(each.dim is figure.dim and following.start < each.start < closed for each in sentence.figures):
            return True
    if _OPENS_WITH.fullmatch(gap) and _CLOSES.match(sentence.text, following.end):
        return True
    if _TO_NEXT.match(gap) is None or re.search(r"[.;:\n]", gap):
        return False
    comma_before = bool(before) and "," in sentence.text[before[-1].end : figure.start]
    return _STRONG.match(gap) is not None or not before or (comma_before and "," not in gap)


def _is_network_over_usb(sentence: Sentence, figure: Figure, before: Sequence[Socket], following: Socket) -> bool:
    """``Network 5 Gb/s over USB-C``: by what it is joined to the host."""
    is_network = bool(before) and before[-1].letter == "N" and figure.dim is Dim.RATE
    if not is_network or following.letter not in "AC" or following.count is not None or following.ids:
        return False
    beside = sentence.text[before[-1].end : figure.start]
    return _OVER_USB.fullmatch(sentence.text[figure.end : following.start]) is not None and "," not in beside


def _run_forward(sentence: Sentence, figure: Figure, behind: Sequence[Socket]) -> list[Socket]:
    run = [behind[0]]
    is_list = len(behind) > 2 and _LIST_END.search(sentence.text[behind[-2].end : behind[-1].start]) is not None
    is_key = _KEY_OF_LIST.fullmatch(sentence.text[figure.end : behind[0].start]) is not None
    is_key = is_key and all(each.letter in "AC" for each in behind)
    is_list = is_list or _BRACKET_OPENS.fullmatch(sentence.text[figure.end : behind[0].start]) is not None
    is_list = is_list or _is_in_one_bracket(sentence, figure, behind)
    is_list = is_list or (is_key and not any(each.start > behind[0].end for each in sentence.figures))
    for socket in behind[1:]:
        gap = sentence.text[run[-1].end : socket.start]
        joins = _JOINT_CLOSE.fullmatch(gap) or _SAME_AGAIN.fullmatch(gap) or socket.start == run[-1].start
        if not joins and not (is_list and _JOINT.fullmatch(gap)):
            break
        run.append(socket)
    return run


def _is_in_one_bracket(sentence: Sentence, figure: Figure, behind: Sequence[Socket]) -> bool:
    """``3840x2160@60 each (1 x HDMI, 1 x DisplayPort)``: a bracket of nothing but sockets."""
    opens = _COUNT_IN_BRACKET.fullmatch(sentence.text[figure.end : behind[0].start])
    closed = sentence.text.find(")", behind[0].end)
    return (
        opens is not None and closed > 0 and not any(behind[0].start < each.start < closed for each in sentence.figures)
    )


def _run_back(sentence: Sentence, before: Sequence[Socket], figure: Figure) -> list[Socket]:
    run = [before[-1]]
    tail = sentence.text[before[-1].end : figure.start]
    ends_each = sentence.text[before[-1].end : figure.end + 20].rstrip().endswith("each")
    is_list = _DASH.fullmatch(tail) is not None
    in_key = run[0].end <= sentence.shift
    of_list = (run[0].count is None or bool(run[0].ids and in_key)) and (run[0].letter in "SM" or in_key)
    pattern = (
        _JOINT if of_list or is_list or _ALL_OF.search(tail) is not None or figure.each or ends_each else _JOINT_CLOSE
    )
    in_bracket = tail.lstrip().startswith(")")  # three sockets (two A, one C) are 5 Gb/s
    for socket in reversed(before[:-1]):
        gap = sentence.text[socket.end : run[0].start]
        listed = (in_bracket and "(" not in gap and _JOINT.fullmatch(gap)) or socket.start == run[0].start
        if not listed and not pattern.fullmatch(gap):
            break
        if not (socket.letter == run[0].letter and socket.count is None and run[0].count is None and not socket.ids):
            run.insert(0, socket)  # else it is the same socket by another name
    return run


def ids_of(state: State, found: Sequence[Socket], kind: str, *, again: bool = False) -> list[str]:
    """The numbers of sockets for a promise of a kind; `again` where it is one more of the same sockets."""
    ids: list[str] = []
    for socket in found:
        in_row = state.row_start >= 0 and socket.end <= state.name_end
        in_key = state.key_at >= 0 and socket.end <= state.name_end
        at = state.row_start if in_row else state.key_at if in_key else state.at
        mention = (at, socket.start, socket.letter, socket.count)
        is_named = socket.end > socket.start and not socket.is_part
        is_counted = socket.letter in "AC" and bool(socket.count) and not socket.ids
        same = state.mentions.get(mention) if is_named and (is_counted or not again) else None
        own = same or state.numbers.of(socket, kind, again=again)
        if same:
            state.numbers.pass_over(same, kind)
        if is_named and own:
            state.mentions[mention] = own
        ids += [port for port in own if port not in ids]
        state.last[socket.letter] = own
    return ids
