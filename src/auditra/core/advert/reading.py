"""A text read clause by clause: to which sockets a figure belongs, under what, and in which sentence it is promised."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from auditra.core.advert.clauses import Clause, clauses
from auditra.core.advert.conditions import SYSTEMS, Condition, Means, is_else, notes_of, opposite_of
from auditra.core.advert.figures import Figure
from auditra.core.advert.phrases import any_of
from auditra.core.advert.product import Product, of_part, part_at
from auditra.core.advert.sentence import Sentence, sentence_of
from auditra.core.advert.sockets import Numbers, Socket
from auditra.core.advert.spelling import Plain
from auditra.core.advert.sureness import CARRIED
from auditra.core.advert.units import Dim

USING_BOTH = re.compile(r"(?i)\b(?:using|with|on|if you use) (?:both|all)\b|\bboth (?:in use|together|at once)\b")
BOTH = "*"
"""What is said of every device of a kit."""
_COUNT = r"(?:\d{1,2}|one|two|three|four|five|six|pair of|both)"
_TO_NEXT = re.compile(
    r"\s*(?:\)\s*)?(?:(?:from|at|on|over|out of|in|of|for|through|with|to|,)\s+)?"
    r"(?:(?:each|all|both|every one|any)(?: of)?\s+)?(?:the|its|a|an|your|this|our)?\s*"
    rf"(?:(?:{_COUNT}|front|rear|left|right|white|grey|other|wired|plain|side)\s*x?\s+)*(?:the )?$",
    re.IGNORECASE,
)
"""What stands between a figure and the socket behind it that it is of."""
_STRONG = re.compile(r"\s*(?:from|at|on|over|out of|through|of each|for each of)\b", re.IGNORECASE)
_JOINT = re.compile(
    rf"(?:\s|,|and|&|\+|/|plus|as well as|the|sockets?|ports?|outputs?|slots?|x|a|an|{_COUNT}|\d|\(|\)|with|USB|front"
    r"|rear|also)*",
    re.IGNORECASE,
)
_JOINT_CLOSE = re.compile(
    r"\s*(?:sockets?|ports?|outputs?|slots?)?\s*(?:and|or|&|\+|/|plus|as well as)\s*"
    rf"(?:the|a|an|{_COUNT}|x|\s)*",
    re.IGNORECASE,
)
_DASH = re.compile(r"\s*(?:[-:]|slots? [-:])\s*")
"""Between a list of sockets and the figure that they all have."""
_ALL_OF = any_of("all", "each", "both", "every", "on every one", "apiece")
_LIST_END = re.compile(r",\s*(?:and )?$|\band\s*$", re.IGNORECASE)
_PACKAGING = any_of(
    "carton", "outer box", "inner box", "pallet", "shipping (?:weight|size|box)?", "packed", "packaging", "polybag",
    "parcel", "storage temperature", "operating temperature", "humidity", "rugged", "diameter", "is short for",
    "stands for", "order (?:code|no)", "patent", "EAN", "item no", "part no", "to be decided", "tbd",
    "not (?:promised|guaranteed)", "(?:do not|don't|cannot|can't|won't) (?:promise|guarantee)", "efficiency",
)  # fmt: skip
"""Sentences that promise nothing, whatever figures they have."""
_MEASURED = re.compile(r"(?i)measured|tested")
_LEADS = 4
"""Before this place in a sentence a condition is of what follows."""
_WITH_IT = re.compile(r"\b(with|without)(?: (?:it|one))?(?=\s*[,:;.]|$| the\b| it\b)", re.IGNORECASE)
_SUPPLY_NAMED = re.compile(r"\b(?:power (?:supply|adapter|brick)|supply|mains adapter)\b", re.IGNORECASE)
_THING = re.compile(r"with(?:out)? (supply|charger|display|network)")
_COLUMN_OF_HOST = re.compile(
    r"(?i)(?!on\b|with|from\b|to\b)[\w./+-]+(?: [\w./+-]+){0,3} (?:hosts?|computers?|laptops?|tablets?|phones?)|(?:left|right|first|second|host|computer)\s?(?:host|computer|laptop|\d|[AB])"
)
_NUMBERED = re.compile(
    r"(?i)\b(?:sockets?|ports?|no\.) (\d(?:(?:, ?| and | & | to |-)\d)*)\b(?!\.\d| ?(?:x|Gb|W|A|in)\b)"
)
_ORDINALS = {"first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "sixth": 6, "seventh": 7}
_REFERENCE = re.compile(
    rf"(?i)\W*(?:and |but |while |only )?the ({'|'.join(_ORDINALS)}|last|others?|rest|remaining)(?: (?:one|two|three|four|\d))?"
    r"(?: of them| ones?| sockets?| ports?)?\b(?=[, ]+(?:\w|\())(?! (?:model|version|one of))"
)
_THEN = re.compile(r"\s*(?:then|in that case|so used|this way)\b,?", re.IGNORECASE)
_GOES_TO = re.compile(r"\s*(?:at|:|it is|it runs at|only|it has|the limit is)\s*(?:up to\s*)?", re.IGNORECASE)
_ALSO = re.compile(r"\s*(?:and|plus|\+|/)\s*", re.IGNORECASE)
_OF_THE_DEVICE = re.compile(r"(?i)driver|works?\b")
_FOR_ALL = re.compile(r"(?i)both|all|all of them")
_FOR_ALL_START = re.compile(r"(?i)\s*(?:both|all) (?:have|come|are)\b")
_LENGTH = r"(?:the |our )?\d+(?:[.,]\d+)? ?(?:m|cm|ft)(?: (?:version|lead|one|cable|model|cord|long))?"
_LENGTH_KEY = re.compile(_LENGTH, re.IGNORECASE)
_LENGTH_KEYS = re.compile(rf"(?i)(?:^|[.;\n•-]\s*){_LENGTH}\s*:")
_MODEL = re.compile(r"[^a-z0-9]")


@dataclass(frozen=True)
class Said:
    """A claim that was read, with where it stands, how many conditions it was given, and what had to be assumed."""

    sentence: str
    start: int
    end: int
    assumed: tuple[str, ...] = ()


@dataclass
class State:
    """What has been read so far."""

    product: Product
    text: str = ""
    corrected: tuple[int, ...] = ()
    """Where the spelling of the text was corrected."""
    numbers: Numbers = field(default_factory=Numbers)
    subject: list[Socket] = field(default_factory=list)
    said: list[Said] = field(default_factory=list)
    left: list[tuple[int, int]] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    """What has to be assumed for the claim that is being read."""
    device: str = ""
    in_use: dict[str, list[tuple[str, str]]] = field(default_factory=dict)
    """By column or sentence: what each of two sockets gives while both are in use."""
    numbers_of: dict[str, Numbers] = field(default_factory=dict)
    thing: str = ""
    """What the last condition was with or without, for an "it" behind it."""
    before: Condition | None = None
    """The last condition, for an "else" behind it."""
    pixels: str = ""
    """Of the last mode that was read, for a refresh rate that stands alone."""
    at: int = 0
    """Where the clause begins that is being read."""
    previous: int = 0
    """Where the clause before it began."""
    mentions: dict[tuple[int, int, str, int | None], list[str]] = field(default_factory=dict)
    """The sockets of each mention: one mention is of the same sockets, whatever is promised of them."""
    last: dict[str, list[str]] = field(default_factory=dict)
    """By class: the sockets that were promised something last."""
    to_host_in: int = -1
    """Where the clause begins in which a figure was what the host gets."""

    def turn_to(self, device: str, product: Product) -> None:
        """What follows is of another part of a kit, with sockets of its own."""
        if device != self.device:
            self.numbers_of[self.device] = self.numbers
            self.numbers = self.numbers_of.get(device, Numbers())
            self.device, self.product, self.subject = device, product, []

    def is_corrected(self, sentence: Sentence) -> bool:
        """Whether the clause was not written as it is read."""
        start, end = sentence.clause.start, sentence.clause.end
        return any(start <= place < end for place in self.corrected)

    def has_said(self, beginning: str) -> bool:
        return any(said.sentence.startswith(beginning) for said in self.said)


Rule = Callable[[State, Sentence], None]


def read(plain: Plain, product: Product, rules: Sequence[Rule]) -> State:
    """Everything that is promised, clause by clause."""
    state = State(product, plain.text, plain.corrected)
    notes = notes_of(plain.text)
    for clause in clauses(plain.text):
        _turn(state, clause, product)
        sentence = sentence_of(plain.text, clause, notes)
        sentence = _with_references(state, _with_pixels(state, _with_things(state, _with_earlier(state, sentence))))
        if _PACKAGING.search(sentence.text) or _MEASURED.search(clause.column):
            state.left.append((clause.start, clause.end))
            continue
        before, state.previous, state.at = len(state.said), state.at, clause.start
        for rule in rules:
            state.assumed.clear()
            rule(state, sentence)
        if sentence.sockets and not (len(sentence.sockets) == 1 and sentence.sockets[0].is_plug):
            state.subject = list(sentence.sockets)
        if len(state.said) == before:
            state.left.append((clause.start, clause.end))
    return state


def _with_things(state: State, sentence: Sentence) -> Sentence:
    """``Without a charger it stays dark. With it: 60 Hz``: a condition of the thing that was named before."""
    is_near = state.text[: sentence.clause.start].rstrip(" ").endswith((".", ";", ",")) and not sentence.clause.over
    things = [match[1] for each in sentence.conditions if (match := _THING.fullmatch(each.words))]
    thing = state.thing or (things[0] if things else "")
    found = [
        Condition(match.start(), match.end(), Means.WITH, f"{match[1].lower()} {thing}", leads=match.start() < _LEADS)
        for match in (_WITH_IT.finditer(sentence.text) if thing else ())
    ]
    spoken = "supply" if _SUPPLY_NAMED.search(sentence.text) else ""
    spoken = spoken or (state.thing if is_near else "")
    state.thing = things[-1] if things else state.thing if found else spoken
    state.before = _last(sentence, state.before if is_near else None)
    return replace(sentence, conditions=(*sentence.conditions, *found)) if found else sentence


def _last(sentence: Sentence, before: Condition | None) -> Condition | None:
    """The condition that an "else" or a "then" behind this sentence is about."""
    return sentence.conditions[-1] if sentence.conditions else before


def _with_earlier(state: State, sentence: Sentence) -> Sentence:
    """``Otherwise 15 W``, ``Then each gives 0.1 A``: what the last sentence was under, or its opposite."""
    if state.before is None:
        return sentence
    first = sentence.conditions[0] if sentence.conditions else None
    if (
        first is not None
        and first.start == sentence.shift + _blanks(sentence.own)
        and is_else(sentence.text[first.start : first.end])
    ):
        return replace(sentence, conditions=(opposite_of(first, state.before), *sentence.conditions[1:]))
    then = _THEN.match(sentence.own)
    if then is None or not state.before.words:
        return sentence
    under = replace(state.before, start=sentence.shift, end=sentence.shift + then.end(), leads=True)
    return replace(sentence, conditions=(under, *sentence.conditions))


def _blanks(text: str) -> int:
    return len(text) - len(text.lstrip())


def goes_on(state: State, sentence: Sentence) -> bool:
    """Whether a clause goes on with what was said before a semicolon."""
    return state.text[: sentence.clause.start].rstrip().endswith(";")


def _with_references(state: State, sentence: Sentence) -> Sentence:
    """``The fourth has no data``, ``The other two give 12 W``: sockets that are named by those before them."""
    named = _REFERENCE.match(sentence.own)
    if named is None and (numbered := _by_number(state, sentence)) is not None:
        return replace(sentence, sockets=tuple(sorted((*sentence.sockets, numbered), key=lambda each: each.start)))
    letters = [socket.letter for socket in state.subject if not socket.is_plug]
    if named is None or not letters or any(not socket.is_plug for socket in sentence.sockets):
        return sentence
    known, last = state.numbers.ids(letters[-1]), state.last.get(letters[-1], [])
    word = named[1].lower()
    if word in _ORDINALS:
        ids = known[_ORDINALS[word] - 1 : _ORDINALS[word]]
    elif word == "last":
        ids = known[-1:]
    else:
        ids = [port for port in known if port not in last]
    if not ids or len(ids) == len(known):
        return sentence
    start = sentence.shift + named.start(1)
    numbers = tuple(int(port[1:]) for port in ids)
    socket = Socket(start, sentence.shift + named.end(), letters[-1], len(ids), numbers)
    return replace(sentence, sockets=tuple(sorted((*sentence.sockets, socket), key=lambda each: each.start)))


def _by_number(state: State, sentence: Sentence) -> Socket | None:
    """``Socket 1``, ``ports 2 and 3``: of the only class that there is."""
    match = _NUMBERED.search(sentence.own)
    letters = ["N"] if state.product.is_network_switch else [each for each in "AC" if state.numbers.found.get(each)]
    if match is None or len(letters) != 1 or sentence.sockets_of("ACHDVNS"):
        return None
    digits = [int(digit) for digit in re.findall(r"\d", match[1])]
    if len(digits) == 2 and re.search(r"to|-", match[1]):
        digits = list(range(digits[0], digits[1] + 1))
    if max(digits) > len(state.numbers.ids(letters[0])):
        return None
    start, end = sentence.shift + match.start(), sentence.shift + match.end()
    return Socket(start, end, letters[0], len(digits), tuple(digits))


def _with_pixels(state: State, sentence: Sentence) -> Sentence:
    """``4K at 30 Hz; at 60 Hz from USB4``, ``Both together: 75 Hz``: a rate alone is of the pixels before."""
    modes = [each for each in sentence.figures if each.dim is Dim.MODE]
    same = goes_on(state, sentence) or USING_BOTH.search(sentence.text)
    if not modes and state.pixels and same and not any(sentence.of_dim(Dim.PICTURE)):
        sentence = replace(sentence, figures=tuple(_of_pixels(state.pixels, each) for each in sentence.figures))
    elif modes:
        state.pixels = modes[-1].text.partition("@")[0]
    return sentence


def _of_pixels(pixels: str, figure: Figure) -> Figure:
    if figure.dim is not Dim.HERTZ:
        return figure
    return replace(figure, dim=Dim.MODE, text=f"{pixels}@{figure.text.split()[0]}")


def _turn(state: State, clause: Clause, product: Product) -> None:
    """To the device that a clause is of, where there are several."""
    own = state.text[clause.start : clause.end]
    if clause.model:
        state.turn_to(clause.model, product)
    elif product.devices:
        line_start = state.text.rfind("\n", 0, clause.start) + 1
        words = state.text[line_start : clause.end] if clause.begins_line else own
        part = part_at(words, product.devices) or part_at(clause.over, product.devices)
        if part:
            state.turn_to(product.devices[part], of_part(product, part))
        elif _FOR_ALL.fullmatch(clause.over) or (clause.begins_line and _FOR_ALL_START.match(own)):
            state.turn_to(BOTH, product)
    elif (
        product.is_lead
        and clause.over
        and re.search(r"\d", clause.over)
        and (
            clause.row
            or clause.column
            or (_LENGTH_KEY.fullmatch(clause.over) and len(_LENGTH_KEYS.findall(state.text)) > 1)
        )
    ):
        state.turn_to(f"lead{_MODEL.sub('', clause.over.lower())}", product)
    elif product.is_lead and state.device and not clause.over:
        state.turn_to("", product)


# To which sockets a figure belongs


def subjects(state: State, sentence: Sentence, figure: Figure, letters: str) -> tuple[list[Socket], bool]:
    """The sockets that a figure is of; and whether they were named in an earlier sentence."""
    state.assumed.clear()
    fit = sentence.sockets_of(letters)
    if figure.end <= sentence.shift and any(socket.start >= sentence.shift for socket in fit):
        return [socket for socket in fit if socket.start >= sentence.shift], False
    before = [socket for socket in fit if socket.end <= figure.start]
    behind = [socket for socket in fit if socket.start >= figure.end]
    if behind and _belongs_to_next(sentence, figure, before, behind[0]):
        return _run_forward(sentence, behind), False
    if before:
        return _run_back(sentence, before, figure), False
    between = behind and any(
        each.dim is figure.dim
        and figure.end <= each.start < behind[0].start
        and re.search(r"[,(]", sentence.text[figure.end : each.start])
        for each in sentence.figures
    )
    if behind and not between and not re.search(r"[.;)]", sentence.text[figure.end : behind[0].start]):
        return _run_forward(sentence, behind), False
    if any(not socket.is_plug for socket in sentence.sockets):
        return [], False
    carried = [socket for socket in state.subject if socket.letter in letters and not socket.is_plug]
    if carried:
        state.assumed.append(CARRIED)
    return [replace(socket, is_part=True, start=0, end=0) for socket in carried], bool(carried)


def _belongs_to_next(sentence: Sentence, figure: Figure, before: Sequence[Socket], following: Socket) -> bool:
    gap = sentence.text[figure.end : following.start]
    if _TO_NEXT.match(gap) is None or re.search(r"[.;:\n]", gap):
        return False
    comma_before = bool(before) and "," in sentence.text[before[-1].end : figure.start]
    return _STRONG.match(gap) is not None or not before or (comma_before and "," not in gap)


def _run_forward(sentence: Sentence, behind: Sequence[Socket]) -> list[Socket]:
    run = [behind[0]]
    is_list = len(behind) > 2 and _LIST_END.search(sentence.text[behind[-2].end : behind[-1].start]) is not None
    for socket in behind[1:]:
        gap = sentence.text[run[-1].end : socket.start]
        if not _JOINT_CLOSE.fullmatch(gap) and not (is_list and _JOINT.fullmatch(gap)):
            break
        run.append(socket)
    return run


def _run_back(sentence: Sentence, before: Sequence[Socket], figure: Figure) -> list[Socket]:
    run = [before[-1]]
    tail = sentence.text[before[-1].end : figure.start]
    ends_each = sentence.text[before[-1].end : figure.end + 20].rstrip().endswith("each")
    is_list = _DASH.fullmatch(tail) is not None
    of_cards = run[0].letter in "SM" and run[0].count is None
    pattern = (
        _JOINT if of_cards or is_list or _ALL_OF.search(tail) is not None or figure.each or ends_each else _JOINT_CLOSE
    )
    for socket in reversed(before[:-1]):
        if not pattern.fullmatch(sentence.text[socket.end : run[0].start]):
            break
        if not (socket.letter == run[0].letter and socket.count is None and run[0].count is None and not socket.ids):
            run.insert(0, socket)  # else it is the same socket by another name
    return run


def ids_of(state: State, found: Sequence[Socket], kind: str, *, again: bool = False) -> list[str]:
    """The numbers of sockets for a promise of a kind; `again` where it is one more of the same sockets."""
    ids: list[str] = []
    for socket in found:
        mention = (state.at, socket.start, socket.letter, socket.count)
        is_named = socket.end > socket.start and not socket.is_part
        same = state.mentions.get(mention) if is_named and not again else None
        own = same or state.numbers.of(socket, kind, again=again)
        if same:
            state.numbers.pass_over(same, kind)
        if is_named and own:
            state.mentions[mention] = own
        ids += [port for port in own if port not in ids]
        state.last[socket.letter] = own
    return ids


# Under what


def with_all_in_use(sentence: Sentence, figure: Figure) -> bool:
    """Whether a figure is promised while every one is in use."""
    return any(each.means is Means.ALL and _is_of(sentence, each, figure) for each in sentence.conditions)


def under_what(sentence: Sentence, figure: Figure) -> str:
    """The conditions that a figure is under, as a claim writes them; one of each sort."""
    words: list[str] = []
    heads = (sentence.clause.over.strip(), sentence.clause.column.strip())
    words += (f"on {head}" for head in heads if SYSTEMS.fullmatch(head))
    if _COLUMN_OF_HOST.fullmatch(sentence.clause.column):
        column = sentence.clause.column
        words.append(f"on {column if column[1:2].isupper() else column[0].lower() + column[1:]}")
    words += (each.words for each in sentence.conditions if each.words and _is_of(sentence, each, figure))
    sorts = ([each for each in words if each.startswith(f"{sort}")] for sort in ("without", "on ", "with "))
    return "".join(f" {each}" for each in dict.fromkeys(first for sort in sorts for first in sort[:1]))


def _is_of(sentence: Sentence, condition: Condition, figure: Figure) -> bool:
    """Of the figure that it leads to; else of those up to the next condition, or of the nearest before it."""
    if condition.end <= sentence.shift:
        return True
    if condition.start <= figure.start < condition.end or _is_of_device(sentence, condition, figure):
        return False
    behind = next((each for each in sentence.figures if each.start >= condition.end), None)
    if is_else(sentence.text[condition.start : condition.end]):
        return behind is figure
    goes_on = behind is not None and behind.start > condition.end
    if behind is not None and goes_on and _GOES_TO.fullmatch(sentence.text[condition.end : behind.start]):
        return behind is figure or _ALSO.fullmatch(sentence.text[behind.end : figure.start]) is not None
    if condition.leads or (figure.start > condition.end and not _any_before(sentence, condition)):
        return figure.start > condition.end and _nothing_between(sentence, condition, condition.end, figure.start)
    if figure.end > condition.start or not _nothing_between(sentence, condition, figure.end, condition.start):
        return False
    nearer = [f for f in sentence.figures if figure.end <= f.start < condition.start and f.dim is figure.dim]
    is_mark = re.search(r"\w", sentence.text[condition.start : condition.end].strip("[]()123456789")) is None
    if nearer and (is_mark or sentence.text[: condition.start].rstrip().endswith(",")):
        return not re.search(r"[,;:]", sentence.text[figure.end : nearer[-1].start])  # of all that are joined before it
    return not nearer


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
    others = (each for each in sentence.conditions if each is not condition)
    return not re.search(r";|\.(?!\d)", sentence.text[start:end]) and not any(
        start <= each.start < end for each in others
    )
