"""Cards, drives inside, and the frames of networks: rates in bytes, card buses and sizes."""

from __future__ import annotations

import re
from collections.abc import Sequence

from auditra.core.advert.belonging import ids_of, subjects
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import ACCEPTS, CARDS, FRAMES, READS, WRITES, Verb, promise, say, say_of
from auditra.core.advert.rules.networks import ON_NUMBERS
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import numbers_in
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_READ = any_of("reads?", "reading", "rd", "read speed")
_WRITE = any_of("writes?", "wrote", "writing", "wr", "write speed")
_IN_ORDER = re.compile(r"(?i)\b(read|write)(?:s|ing)?\s?(?:/|\+|&)\s?(read|write)(?:s|ing)?\b")
"""``Read / write: 2800 / 2200 MB/s``."""
_BOTH_WAYS = any_of(
    "reads? and writes?", "reading and writing", "either way", "both ways", "each way", "(?:in )?both directions"
)
_STORES = any_of(
    r"holds \d[\d.]* ?[TG]B",
    "of flash",
    "built[- ]in",
    "inner",
    "inside",
    "internal",
    "storage",
    "drive",
    "SSD",
    "NVMe",
    "capacity",
)
_INSIDE = any_of(
    "built[- ]in",
    "inner",
    "inside",
    "internal",
    "storage",
    r"capacity(?!:? (?:of )?up to)",
    r"\d ?[TG]B (?:SSD|NVMe|drive|of flash)",
)
"""A drive that comes with it, and not only a place for one."""
_CAPITALS = re.compile(r".*B/S$")
"""In capitals, bits of a link cannot be distinguished from bytes."""
_OLDER = any_of("(?:older|slower|other|ordinary|UHS-I) cards?")
_EVERYTHING = any_of("everything", "all", "both")
_SHARES = ends_with(r"\bshares?(?: up to)?", r"\btotal (?:is|of)")
_IN_SUM = begins_with("in sum", "in total", "combined", "altogether", "shared")
_ON_THE_WIRE = any_of(
    r"that is(?! \w+er\b)", "on the wire", r"copies(?![^.;]*\bfrom each (?:bay|drive|disk))", "clones?"
)
_NO_HOST = any_of("no (?:host|computer|laptop|PC)")
_FRAMES = any_of("jumbo", "frames?", "packets?", "MTU")
_ON_LABEL = re.compile(
    r"\s*(?:\w+ )?(?:on|at|for|through) the (left|right|upper|lower|front|rear|first|second)(?: (?:one|socket"
    r"|port)\b|(?=\s*[,;.]|$))",
    re.IGNORECASE,
)
_CARD_SIZE = any_of("cards?", "SD[HXU]C", "max")
_CAPACITY, _DRIVES = any_of("capacity"), any_of("drives?")
_ONLY_ROOM = any_of(
    "copies",
    "copied",
    "up to",
    "empty",
    "takes",
    "tried",
    "none is",
    "room for",
    "(?:no|not) (?:larger|bigger|more) than",
    "bought apart",
    "not included",
)
_AT_ONCE, _AND = any_of("at the same time", "at once", "simultaneously", "together"), re.compile(r"\s*(?:and|\+|/)\s*")
_PAIR, _NEAR = 2, 4
_BOTH_IN_SHORT = re.compile(r"(?i)\s*\(?reads? ?[&/+] ?writes?\b")
"""``1,000 MB/s read & write``."""
_ONLY_SIZE = re.compile(r"\W*\d+(?:\.\d+)? ?[TG]B\W*")
_THE_DRIVE = re.compile(
    r"(?i)\b(?:the|your|its|inner|inside|internal) (?:drive|disk|SSD)\b[^.;]*\b(?:reads?|writes?)\b"
)
_IN_BRACKETS = re.compile(r"\([^()]*\)(?=[^()]*\d ?[MGk]B/s)(?<!B/s\))")
"""What is said aside before a rate; not the rate of the other way, as in ``90 MB/s (writing 60 MB/s)``."""
_OUTSIDE = re.compile(r"[();]|\d")
_BESIDE = 16
"""Characters between a bus and the rate in bytes that it is a name for."""
_LATEST = 3
"""Claims that were read last: the link to the host may stand between what is said of a drive."""
_LEAST_CARD, _LEAST_DRIVE = 1e9, 1e10


def cards(state: State, sentence: Sentence) -> None:
    """Card buses, and rates in bytes of cards, drives inside and USB sockets."""
    if state.product.is_lead:
        return
    in_bytes = list(sentence.of_dim(Dim.BYTE_RATE))
    for figure in sentence.of_dim(Dim.BUS):
        found, carried = subjects(state, sentence, figure, "SM")
        is_only_name = any(max(figure.start - each.end, each.start - figure.end) < _BESIDE for each in in_bytes)
        in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions)
        if not carried and not is_only_name and not in_condition:
            promise(state, sentence, ids_of(state, found, "bus", again=_again(sentence, figure)), CARDS, figure)
    if _two_at_once(state, sentence, in_bytes):
        return
    for figure in in_bytes:
        _byte_rate(state, sentence, figure, _way(sentence, figure))


def _two_at_once(state: State, sentence: Sentence, rates: Sequence[Figure]) -> bool:
    """``Both slots at the same time: 850 MB/s and 250 MB/s``: what each does beside the other."""
    ids = list(state.numbers.all_of("SM"))
    if len(rates) != _PAIR or len(ids) != _PAIR or not _AT_ONCE.search(sentence.before(rates[0])):
        return False
    if not _AND.fullmatch(sentence.text[rates[0].end : rates[1].start]):
        return False
    verb = _only(sentence.text) or CARDS
    say(state, sentence, f"{ids[0]} {verb.one} {rates[0].hedged} while {ids[1]} {verb.one} {rates[1].hedged}")
    return True


def _again(sentence: Sentence, figure: Figure) -> bool:
    return bool(under_what(sentence, figure))


def _byte_rate(state: State, sentence: Sentence, figure: Figure, verb: Verb) -> None:
    if _IN_SUM.match(sentence.behind(figure)) or _SHARES.search(sentence.before(figure)):
        return
    if _NO_HOST.search(under_what(sentence, figure)):
        return  # from one drive to another, and no computer sees it
    found, carried = subjects(state, sentence, figure, "SM")
    is_of_drive = _THE_DRIVE.search(sentence.before(figure)) is not None
    if found and not (carried and (is_of_drive or _follows_drive(state))):
        older = _OLDER.search(sentence.part_of(figure))
        everything = carried and _EVERYTHING.search(sentence.before(figure)) is not None
        said = f"{found[-1].letter}1 {verb.one} {figure.hedged}"
        repeated = found[-1].count is None and not found[-1].label and state.has_said(said)
        is_more = carried or repeated or older is not None
        ids = ids_of(state, found, verb.one, again=_again(sentence, figure) or is_more)
        ids = list(state.numbers.all_of("SM")) if everything else ids
        first = not any(state.has_said(f"{port} ") for port in ids)
        tail = f" with {older[0] if older[0].startswith('UHS') else 'older cards'}" if older and not first else ""
        promise(state, sentence, ids, verb, figure, tail=tail)
        return
    if _ON_THE_WIRE.search(sentence.part_of(figure)):
        return
    usb, usb_carried = subjects(state, sentence, figure, "AC")
    if usb_carried and state.product.is_reader:
        return  # of cards, and the text does not say of which
    of_drive = is_of_drive or state.product.is_drive or _STORES.search(sentence.text) or _follows_drive(state)
    if usb and (not usb_carried or not of_drive) and not state.product.is_drive:
        if not _CAPITALS.match(sentence.text[figure.start : figure.end]):
            _each_way(state, sentence, figure, verb, ids_of(state, usb, "reads"))
    elif of_drive:
        _each_way(state, sentence, figure, verb, ["D0" if _INSIDE.search(state.text) else "UP"])


def _each_way(state: State, sentence: Sentence, figure: Figure, verb: Verb, ids: Sequence[str]) -> None:
    """Reading, unless it is writing that is spoken of; both, where a rate is of either way."""
    is_both = _BOTH_WAYS.search(sentence.text) or _BOTH_IN_SHORT.match(sentence.behind(figure))
    for each in [READS, WRITES] if is_both else [READS if verb is CARDS else verb]:
        promise(state, sentence, ids, each, figure)


def _follows_drive(state: State) -> bool:
    return any(said.sentence.startswith(("D0 ", "UP reads", "UP writes")) for said in state.said[-_LATEST:])


def _way(sentence: Sentence, figure: Figure) -> Verb:
    """Whether a rate is of reading or of writing, by the nearest word; of cards where neither is said."""
    text = _IN_BRACKETS.sub(lambda match: " " * len(match[0]), sentence.text)
    told = _IN_ORDER.search(text)
    if told is not None and (order := [each for each in sentence.of_dim(figure.dim) if each.start >= told.end()][:2]):
        ways = [READS if told[n].lower().startswith("r") else WRITES for n in (1, 2)]
        if len(order) == len(ways) and figure in order:
            return ways[order.index(figure)]
    alike = [each for each in sentence.figures if each.dim is figure.dim]
    start = max((each.end for each in alike if each.end <= figure.start), default=0)
    end = min((each.start for each in alike if each.start >= figure.end), default=len(text))
    first = text[: alike[0].start]
    behind = text[figure.end : end]
    in_brackets = end < len(text) and re.match(r"\s*\(", behind) is not None  # 90 MB/s (writing 60 MB/s)
    if not in_brackets and not _READ.search(first) and not _WRITE.search(first) and (only := _only(behind)):
        return only
    chunk_start = max((text.rfind(mark, start, figure.start) for mark in ",;("), default=start) + 1
    if only := _only(text[max(start, chunk_start) : figure.start]):
        return only
    if in_brackets:
        return CARDS
    near = [
        (min(abs(figure.start - match.end()), abs(match.start() - figure.end)), number)
        for number, pattern in enumerate((_READ, _WRITE)) for match in pattern.finditer(text, start, end)
    ]  # fmt: skip
    return (READS, WRITES)[min(near)[1]] if near else _only(sentence.over) or CARDS


def _only(words: str) -> Verb | None:
    reads, writes = _READ.search(words), _WRITE.search(words)
    return READS if reads and not writes else WRITES if writes and not reads else None


def sizes(state: State, sentence: Sentence) -> None:
    """Sizes in bytes: of frames, of the cards that fit, of a drive inside."""
    if state.product.is_lead:
        return
    if _one_each(state, sentence):
        return
    for figure in sentence.of_dim(Dim.BYTES):
        if _FRAMES.search(sentence.text):
            _frames(state, sentence, figure)
        elif _is_card_size(state, sentence) and not _DRIVES.search(sentence.text) and figure.value >= _LEAST_CARD:
            _card_size(state, sentence, figure)
        elif figure.value >= _LEAST_DRIVE and _is_inside(state, sentence, figure):
            say(state, sentence, f"D0 stores {figure.text}")


def _one_each(state: State, sentence: Sentence) -> bool:
    """``Max. 4 TB/2 TB``: of two slots, in their order."""
    told, slots = list(sentence.of_dim(Dim.BYTES)), list(state.numbers.all_of("SM"))
    if len(told) != _PAIR or len(slots) != _PAIR or sentence.text[told[0].end : told[1].start].strip() != "/":
        return False
    for slot, figure in zip(slots, told, strict=True):
        say(state, sentence, f"{slot} accepts cards of up to {figure.text}")
    return True


def _is_inside(state: State, sentence: Sentence, figure: Figure) -> bool:
    """A size of what comes with it, and not only of what it has room for."""
    if state.product.is_drive and _ONLY_SIZE.fullmatch(sentence.own):
        return True
    return _STORES.search(sentence.text) is not None and not _ONLY_ROOM.search(sentence.part_of(figure))


def _is_card_size(state: State, sentence: Sentence) -> bool:
    of_slots = bool(sentence.sockets_of("SM")) and _CAPACITY.search(sentence.over) is not None
    return _CARD_SIZE.search(sentence.text) is not None or (state.product.is_reader and of_slots)


def _frames(state: State, sentence: Sentence, figure: Figure) -> None:
    label = _ON_LABEL.match(sentence.behind(figure))
    word = label[1] if label is not None else sentence.clause.column.strip()
    labelled = state.numbers.labels.get(("N", word.lower()))
    names = labelled or state.numbers.ids("N") or ["N1"]
    if on := ON_NUMBERS.match(sentence.behind(figure)):
        names = [port for port in names if int(port[1:]) in numbers_in(on[1])] or names
    say_of(state, sentence, names, FRAMES, figure.hedged, under=under_what(sentence, figure))


def _card_size(state: State, sentence: Sentence, figure: Figure) -> None:
    slots = sentence.sockets_of("SM")
    near = [
        each for each in slots
        if 0 <= each.start - figure.end < _NEAR and "," not in sentence.text[figure.end : each.start]
    ]  # fmt: skip
    if near:
        behind = (each for each in slots if each.start > near[0].end)
        near += [each for each in behind if not _OUTSIDE.search(sentence.text, near[0].end, each.start)]
    near = near or ([each for each in slots if each.end <= figure.start][-1:] if len(slots) > 1 else [])
    names = ids_of(state, near, f"accepts {figure.text}", again=True) or list(state.numbers.all_of("SM"))
    names = names or ids_of(state, sentence.sockets_of("SM"), "accepts")
    names = names or (["S1"] if state.product.is_reader else [])
    if names:
        hedge = "up to " if figure.hedge != "at least" else ""
        say_of(state, sentence, names, ACCEPTS, f"cards of {hedge}{figure.text}")
