"""A clause under reading: its words with those over it, and the figures, sockets and conditions among them."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from auditra.core.advert.clause import Clause
from auditra.core.advert.condition_forms import Means
from auditra.core.advert.conditions import Condition, conditions, in_short
from auditra.core.advert.figures import Figure, figures
from auditra.core.advert.footnotes import marked
from auditra.core.advert.of_another import of_another
from auditra.core.advert.phrases import NOTHING
from auditra.core.advert.sockets import HOST, PICTURE_SOCKETS, Socket, host_ports, sockets
from auditra.core.advert.units import Dim

_UNITS_IN_HEAD = (
    (re.compile(r"(?i)(?:_|\(|\b)(cm|mm|kg|g|W|m)\)?$"), ""), (re.compile(r"(?i)\bmet(?:re|er)s?\b"), "m"),
    (re.compile(r"(?i)\bwatts?\b"), "W"), (re.compile(r"\bG(?:b/s|bps|bit/s)"), "Gb/s"),
    (re.compile(r"\bM(?:b/s|bps|bit/s)"), "Mb/s"), (re.compile(r"(?i)\bgrams?\b"), "g"),
    (re.compile(r"(?i)\binch(?:es)?\b"), "in"),
)  # fmt: skip
_OVER_MANY = frozenset({Dim.RATE, Dim.MODE, Dim.BYTE_RATE})
"""What may stand over the sockets that it is of: ``10 Gb/s: 3 x USB-A, 2 x USB-C``."""
_BARE_NUMBER = re.compile(r"\s*\d+(?:[.,]\d+)?(?=\s*$|\s*[,;])")


_COUNT_CELL = re.compile(r"\s*(\d{1,2})\s*")
_COUNT_BEHIND_KEY = re.compile(r"\s*(\d{1,2})(?=\s*(?:[(,]|$))")
"""``USB-A 10 Gbit/s : 4``."""
_PIECES_BEHIND_KEY = re.compile(
    r"\s*(\d{1,2}) ?(?:pcs\.?|pieces|units|off|sockets|ports)(?=\s*(?:[,;:(]|at\b"
    r"|with\b|$))"
)
"""``USB-A (left): 2 pcs, 10 Gb/s``."""
_ONLY_CLASS = re.compile(
    r"[AC](?: (?:front|rear|back|left|right|top|side|upper|lower|bottom|middle|with|by|under|at|on|near|beside|next to"
    r"|marked|behind)\b.*)?"
)
"""``C``, ``A front``, ``C with the red ring``: what is over a line."""
_LEAST_NAME = 2
_ORDINAL_BEFORE = re.compile(r"(?i)\b(?:second|third|fourth|another)(?: one| screen| picture| display)?,? \(?$")
"""``A third, HDMI 2``: its number, and not how many."""
_NUMBER_BEHIND = re.compile(r"(?i)(?:\s+(?:sockets?|ports?|outputs?|slots?))?\s*(?:\d+|(?-i: [A-D]))$")
_ONLY_ASKS = re.compile(r"\s*[^.;:?\n]{4,60}\?\s*")
"""``Thirty feet of USB?``: no promise yet."""
_OF_ONE_HOST = re.compile(r"(?i)\W*(?:host|computer|laptop)\b")
_THEIRS, _OURS = (
    re.compile(r"(?i)\W*(?:they|others|those)\b"),
    re.compile(r"(?i)\s*(?:but |while )?(?:ours?|mine)\b"),
)
"""``They weigh 150 g; ours 310 g``."""
_ONLY_ONE = re.compile(r"\b(?:only|just) (?!while|when|if|as long|so long)", re.IGNORECASE)


@dataclass(frozen=True)
class Sentence:
    """The words over a clause and its own as one text; `shift` is where its own begin."""

    clause: Clause
    text: str
    shift: int
    figures: tuple[Figure, ...]
    sockets: tuple[Socket, ...]
    conditions: tuple[Condition, ...]

    @property
    def over(self) -> str:
        return self.text[: self.shift]

    @property
    def own(self) -> str:
        return self.text[self.shift :]

    def of_dim(self, *dims: Dim) -> Iterator[Figure]:
        """Its figures of a kind, but for those that are denied."""
        return (figure for figure in self.figures if figure.dim in dims and not figure.negated)

    @property
    def without_conditions(self) -> str:
        """With blanks for the conditions: what stands in one is no part of what is promised."""
        text = self.text
        for each in self.conditions:
            text = text[: each.start] + " " * (each.end - each.start) + text[each.end :]
        return text

    def sockets_of(self, letters: str) -> list[Socket]:
        """Its sockets of some classes, and no plugs."""
        return [socket for socket in self.sockets if socket.letter in letters and not socket.is_plug]

    def nearest_before(self, figure: Figure) -> Socket | None:
        """The socket or plug that is named last before a figure."""
        earlier = (each for each in self.sockets if each.end <= figure.start)
        return max(earlier, key=lambda each: each.end, default=None)

    def before(self, figure: Figure, length: int = 200) -> str:
        return self.text[max(0, figure.start - length) : figure.start]

    def behind(self, figure: Figure, length: int = 200) -> str:
        return self.text[figure.end : figure.end + length]

    def part_of(self, figure: Figure) -> str:
        """The stretch between commas and brackets in which a figure stands."""
        start = max((self.text.rfind(mark, 0, figure.start) for mark in ",;("), default=-1) + 1
        ends = [at for mark in ",;)" if (at := self.text.find(mark, figure.end)) >= 0]
        return self.text[start : min(ends, default=len(self.text))]

    def is_in_brackets(self, part: Figure | Condition) -> bool:
        before = self.text[: part.start]
        return before.rfind("(") > before.rfind(")")

    def opened_before(self, figure: Figure) -> int:
        """Where the bracket opens in which a figure stands; -1 for none."""
        before = self.text[: figure.start]
        opened = before.rfind("(")
        return opened if opened > before.rfind(")") else -1

    def own_words(self, figure: Figure, *, masked: bool = False) -> str:
        """The part that is nearer to this figure than to another of its kind, up to the next key.

        `masked` has blanks for conditions.
        """
        others = [other for other in self.figures if other.dim is figure.dim and other is not figure]
        start = max(self.text.rfind(mark, 0, figure.start) for mark in _PARTS) + 1
        start = max([start, *(other.end for other in others if other.end <= figure.start)])
        ends = [at for mark in (",", ";", ")", " / ") if (at := self.text.find(mark, figure.end)) >= 0]
        ends += self._brackets_with(figure, others)
        end = min([min(ends, default=len(self.text)), *(other.start for other in others if other.start >= figure.end)])
        key = _NEXT_KEY.search(self.text, figure.end, end) or _NEXT_VERB.search(self.text, figure.end, end)
        verbs = [match.start() for match in _NEXT_VERB.finditer(self.text, start, figure.start)]
        text = self.without_conditions if masked else self.text
        return text[max([start, *verbs]) : key.start() if key else end]

    def _brackets_with(self, figure: Figure, others: Sequence[Figure]) -> list[int]:
        """Where a bracket opens behind a figure that has another of its kind: what it says is of that one."""
        opened = self.text.find("(", figure.end)
        if opened < 0 or self.opened_before(figure) >= 0:
            return []
        closed = self.text.find(")", opened)
        return [opened] if any(opened < other.start < closed for other in others) else []

    def is_converted(self, figure: Figure) -> bool:
        """The same figure once more in other units, behind the first."""
        unit = figure.text.split()[-1]
        earlier = (other for other in self.figures if other.dim is figure.dim and other.end <= figure.start)
        return any(other.text.split()[-1] != unit and _is_near(other.value, figure.value) for other in earlier)

    def is_said_in_metric(self, figure: Figure) -> bool:
        """Whether the same stands beside it in metric units, which are taken."""
        if not figure.text.endswith(_IMPERIAL):
            return False
        later = (each for each in self.figures if each.dim is figure.dim and each.start > figure.start)
        follows = any(
            not each.text.endswith(_IMPERIAL) and re.search(r"[(/]", self.text[figure.end : each.start])
            for each in later
        )
        return follows or self.is_converted(figure)


_PARTS = (",", ";", "(", " / ")
"""What parts the items of a list on one line."""
_IMPERIAL = (" in", " oz", " lb", " ft")
_NEXT_KEY = re.compile(r"\s[A-Z][\w ]{2,20}\s?:|\s{3,}")
_NEXT_VERB = re.compile(
    r"\band (?=(?:passes|gives|hands|sends|delivers|charges|feeds|keeps|uses|takes|draws|leaves)\b)", re.IGNORECASE
)
_NEAR = 0.06


def _is_near(one: float, other: float) -> bool:
    return abs(one - other) <= _NEAR * max(one, other)


def sentence_of(text: str, clause: Clause, notes: dict[str, Condition] | None = None) -> Sentence:
    """A clause of the corrected text with everything that is found in it; `notes` are the footnotes by mark."""
    name = f"USB-{clause.over.strip()}" if _ONLY_CLASS.fullmatch(clause.over.strip()) else clause.over
    gap = ", " if _OF_ONE_HOST.match(clause.column) else " "  # else it reads as the plug of the host
    over = gap.join(filter(None, (name.replace("_", " "), clause.column.replace("_", " "))))
    prefix = f"{over}: " if over else ""
    own = text[clause.start : clause.end]
    bare = _BARE_NUMBER.match(own)
    is_count = _COUNT_BEHIND_KEY.match(own) is not None and any(figures(over))
    if bare is not None and not is_count and (unit := _unit_in(clause.over, clause.column)):
        own = f"{bare[0].strip()} {unit}{own[bare.end() :]}"
    whole = prefix + own
    is_theirs = _THEIRS.match(own) is not None and _OURS.match(text, clause.end) is not None
    is_denied = (
        is_theirs
        or _ONLY_ASKS.fullmatch(own) is not None
        or (
            own.rstrip().endswith("?")
            and re.match(r"\s*no\b", text[clause.end : clause.end + 5], re.IGNORECASE) is not None
        )
    )
    is_empty = bool(clause.column or clause.model) and NOTHING.fullmatch(own) is not None
    is_first = not text[: clause.start].strip()
    told = [_at_work(whole, each) for each in conditions(whole) if not _stands_alone(whole, each)]
    told += _of_key(clause, told) or _of_heading(clause)
    under = tuple(sorted((*told, *marked(whole, notes or {})), key=lambda condition: condition.start))
    if is_first:
        under = tuple(each for each in under if not _comes_with_it(whole, each))
    return Sentence(
        clause,
        whole,
        len(prefix),
        () if is_denied or is_empty else _figures(whole, len(prefix), every=is_count),
        _sockets(whole, len(prefix), clause, under, text),
        under,
    )


_AT_WORK = re.compile(r"(?i)(?:while|when|if|with)\b")


def _at_work(whole: str, condition: Condition) -> Condition:
    """``While both USB-C sockets give 15 W``: others at work, as the claim language writes it."""
    if condition.means is not Means.UNREAD or not _AT_WORK.match(whole, condition.start):
        return condition
    inside = whole[condition.start : condition.end]
    found = [each for each in sockets(inside) if not each.is_plug]
    told = [each for each in figures(inside) if each.dim in (Dim.WATTS, Dim.MODE)]
    if len(found) != 1 or len(told) != 1 or (told[0].dim is Dim.MODE) is not (found[0].letter in PICTURE_SOCKETS):
        return condition
    numbers = found[0].ids or range(1, max(1, found[0].count or 1) + 1)
    ids = "+".join(f"{found[0].letter}{number}" for number in numbers)
    several, shows = "+" in ids, told[0].dim is Dim.MODE
    verb = ("show" if shows else "give") if several else ("shows" if shows else "gives")
    words = f"while {ids} {verb} {told[0].text}{' each' if several else ''}"
    return replace(condition, means=Means.WITH, words=words)


_BY_POWER = re.compile(
    r"(?i)(?:powered |fed )?by (?:the |its )?(bus|supply|mains|charger)(?: power)?(?: \([^()]{1,40}\))?"
)
"""``By bus: 900 mA``."""
_HEADING_OF_CONDITION = re.compile(r"(?i)with(?:out)?\b")
_KEY_OF_CONDITION = re.compile(
    r"(?i)(with|on|from) (?!(?:the |its |your )?(?:front|rear|back|left|right|side|top|bottom|upper|lower|it"
    r"|all|both|each"
    r"|every|board|desk|lead|cable|cord|this|that|other|same|TV|television|(?:big )?screen|display|monitor)\b"
    r"|(?:an? )?good\b)"
    r"(?:an? |any |the |your )?([^,;:()]{2,40}(?: \([^()]{1,20}\))?)"
)


def _of_key(clause: Clause, told: Sequence[Condition]) -> list[Condition]:
    """``With USB4: two at 4K``: a key that is a condition by its first word, in the seller's own words."""
    if power := _BY_POWER.fullmatch(clause.over.strip()):
        by_bus = power[1].lower() == "bus"
        means, words = (Means.WITHOUT_SUPPLY, "without supply") if by_bus else (Means.WITH, "with supply")
        return [Condition(0, len(clause.over), means, words)]
    key = _KEY_OF_CONDITION.fullmatch(clause.over.strip())
    if key is None or any(each.start < len(clause.over) for each in told) or sockets(clause.over):
        return []
    words = re.sub(r" (?:on|with|while|without) ", " at ", in_short(key[2]))
    return [Condition(0, len(clause.over), Means.UNREAD, f"{'with' if key[1].lower() == 'with' else 'on'} {words}")]


def _of_heading(clause: Clause) -> list[Condition]:
    """``WITH THE SUPPLY``, over sentences: all of them are under it."""
    told = conditions(clause.heading.lower()) if _HEADING_OF_CONDITION.match(clause.heading) else []
    whole = len(told) == 1 and told[0].start == 0 and told[0].end == len(clause.heading) and told[0].words
    return [replace(told[0], start=0, end=0)] if whole else []


def _stands_alone(whole: str, condition: Condition) -> bool:
    """``| For Windows and macOS``: on what it works, and no condition of the other items."""
    before, behind = whole[: condition.start].rstrip(), whole[condition.end :].lstrip()
    return condition.means is Means.ON and before.endswith("|") and behind[:1] in ("", "|")


def _comes_with_it(whole: str, condition: Condition) -> bool:
    """``4x USB-A, with 24 W supply`` in a title: what is in the box."""
    ends_list = whole[: condition.start].rstrip().endswith(",") and whole[: condition.start].count(",") > 1
    return (
        condition.means is Means.WITH
        and ends_list
        and re.match(r"with (?:an? )?\d", whole[condition.start :]) is not None
    )


_IS_SINGLE = re.compile(r"(?i)\b(?:single|one) (?:monitor|display|screen)[^,;.]{0,14}$")
"""``Dual 4K60: 2 HDMI, single monitor 8K30``: what is over the line is of both."""


def _figures(whole: str, shift: int, *, every: bool = False) -> tuple[Figure, ...]:
    """`every` also takes those of the words over the clause."""
    found = figures(whole)
    inside = {figure.dim for figure in found if figure.start >= shift and not _IS_SINGLE.search(whole[: figure.start])}
    above = {Dim.IN_ONE, *(_OVER_MANY - inside)}
    others = list(of_another(whole))
    return tuple(
        figure
        for figure in found
        if (every or figure.start >= shift or figure.dim in above)
        and not any(start <= figure.start < end for start, end in others)
    )


def _counted(socket: Socket, whole: str, text: str) -> Socket:
    """``HDMI 2`` is a count where the text has no ``HDMI 1``."""
    name = _NUMBER_BEHIND.sub("", whole[socket.start : socket.end])
    if _ORDINAL_BEFORE.search(whole[: socket.start]):
        return socket
    if len(socket.ids) != 1 or socket.ids[0] < 2 or len(name) < _LEAST_NAME:
        return socket
    other = rf"(?i){re.escape(name)}(?: (?:sockets?|ports?|outputs?))? ?(?:(?:1|A)\b|\(host)|\b{socket.letter}1\b"
    return socket if re.search(other, text) else replace(socket, ids=(), count=socket.ids[0])


def _of_host(socket: Socket, text: str) -> Socket:
    """``USB-C 1``, which the text once calls ``USB-C 1 (host)``, is the plug to the host."""
    if len(socket.ids) != 1 or (socket.letter, socket.ids[0]) not in host_ports(text):
        return socket
    return replace(socket, ids=(), count=None, is_plug=True, label=HOST)


_FOR_THE_HOST = re.compile(
    r"(?i),\s*(?:(?:to|for) )?(?:the )?(?:hosts?|upstream|uplink|(?<=the )(?:computer|laptop))\s*(?=[,;)]|$)"
)
"""``USB-C, 40 Gb/s, host, 100 W``: an item of its own."""


def _sockets(whole: str, shift: int, clause: Clause, under: tuple[Condition, ...], text: str) -> tuple[Socket, ...]:
    every = [_of_host(_counted(each, whole, text), text) for each in sockets(whole)]
    found = [s for s in every if not any(condition.start <= s.start < condition.end for condition in under)]
    if (
        len(found) == 1
        and found[0].letter in "AC"
        and not found[0].is_plug
        and _FOR_THE_HOST.search(whole, found[0].end)
    ):
        found = [replace(found[0], ids=(), count=None, is_plug=True, label=HOST)]
    if not found:  # C1 in "when only C1 is used: 100 W" is what the figure is of
        alone = [each for each in under if each.means is Means.ALONE and _ONLY_ONE.search(whole[each.start : each.end])]
        found = [s for s in every if any(each.start <= s.start < each.end for each in alone)]
    cell = _COUNT_CELL.fullmatch(whole[shift:])
    told = (
        _COUNT_BEHIND_KEY.match(whole[shift:]) if any(each.start < shift for each in figures(whole[:shift])) else None
    )
    cell = cell if clause.model or clause.column else told
    above = [each for each in found if each.start < shift]
    cell = (_PIECES_BEHIND_KEY.match(whole[shift:]) if len(above) == len(found) == 1 else None) or cell
    if cell is not None:
        found = [replace(s, count=int(cell[1])) if s.count is None else s for s in found]
    if clause.column and any(socket.start < len(clause.over) for socket in found):
        found = [socket for socket in found if socket.start < len(clause.over) or socket.start >= shift]
    if clause.row and clause.row != "model":
        found = [replace(s, count=1, label=f"row {clause.row}") if s.start < shift else s for s in found]
    return tuple(found)


def _unit_in(*heads: str) -> str:
    """The unit that the head of a column or a key names for bare numbers."""
    for head in heads:
        for pattern, unit in _UNITS_IN_HEAD:
            if match := pattern.search(head):
                return unit or {"w": "W"}.get(match[1].lower(), match[1].lower())
    return ""
