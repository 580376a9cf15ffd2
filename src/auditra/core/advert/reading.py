"""A text read clause by clause, each for the device that it is of, by every rule."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from auditra.core.advert.clause import Clause
from auditra.core.advert.clauses import clauses
from auditra.core.advert.condition_forms import SYSTEMS
from auditra.core.advert.footnotes import notes_of
from auditra.core.advert.lengths import (
    LENGTHS_KEY,
    devices_of,
    every_lead,
    has_several,
    named_lines,
    told_at,
    told_in_prose,
)
from auditra.core.advert.phrases import any_of
from auditra.core.advert.product import Product
from auditra.core.advert.references import resolved
from auditra.core.advert.sentence import Sentence, sentence_of
from auditra.core.advert.several_devices import of_part, part_at
from auditra.core.advert.socket_counts import COUNT_WORDS, count_of
from auditra.core.advert.sockets import named_anywhere
from auditra.core.advert.spelling import Plain
from auditra.core.advert.state import BOTH, Rule, State

_PACKAGING = any_of(
    "carton", "outer box", "inner box", "pallet", "shipping (?:weight|size|box)?", "packed", "packaging", "polybag",
    "bag of \\d",
    "parcel", "storage temperature", "operating temperature", "humidity", "diameter", "is short for",
    "stands for", "order (?:code|no)", "patent", "EAN", "item no", "part no", "to be decided", "tbd",
    "not (?:promised|guaranteed)", "(?:do not|don't|cannot|can't|won't) (?:promise|guarantee)", "efficiency",
)  # fmt: skip
"""Sentences that promise nothing, whatever figures they have."""
_MEASURED = re.compile(r"(?i)measured|tested")
_THERE_ARE = re.compile(rf"(?i)\s*there are (\d|{COUNT_WORDS})(?: of (?:them|these))?\W*")
_TWO_MODELS = 2
"""Devices of which "both" is said in the middle of a line."""
_SHORTEST_NAME = len("USB-A")
"""What stands for ``A``."""
_COUNT_CELL = re.compile(r"\s*\d{1,2} ?x?\s*")
"""Each such cell of a row counts sockets of its own."""
_ASIDE = re.compile(r"\s*\([^()]*\)\W*")
"""What is said of another device in brackets ends with them."""
_THE_SAME = re.compile(r"(?i)\W*(?:the same|same|ditto|likewise|as (?:above|on \w+|with \w+))\W*")
_ON_SYSTEM = re.compile(rf" on {SYSTEMS.pattern}$")
_EXCEPT = any_of("except", "but for", "apart from", "save")
_MOST_SEEN = 2000
"""Figures and sockets of one text; what stands behind them is left for the reviewer. No page has a tenth of them."""
_LEAST_LINES, _LISTED = 2, re.compile(r"\W|\d+[.)] |[^,.]{1,24}[:=|\t]")
"""A line that is one of a list is no title of it."""
_FOR_ALL = re.compile(r"(?i)both|all|all of them|(?:every|each|all) (?:options?|versions?|models?|lengths?|sizes?)")
_FOR_ALL_START = re.compile(
    r"(?i)\s*(?:(?:both|all) (?:have|come|are|weigh|need|work|get|run|use|carry|fit"
    r"|measure|take|cost)|each (?:box|part|unit|end|of them|one))\b"
)


_OF_ALL_LEADS = re.compile(r"(?i)\ball\b(?! right)")
_BOTH_START = re.compile(r"(?i)\s*(?:both|all)(?: \w+)? (?:are|have|carry|come|weigh|need)\b")


def read(plain: Plain, product: Product, rules: Sequence[Rule]) -> State:
    """Everything that is promised, clause by clause."""
    state = State(product, plain.text, plain.corrected, _title_end(plain.text))
    if not product.devices:
        state.numbers.told = _counts_told(plain.text)
    notes = notes_of(plain.text)
    seen = 0
    aside: tuple[str, Product] | None = None
    for clause in clauses(plain.text):
        if seen > _MOST_SEEN:
            state.left.append((clause.start, clause.end))
            continue
        if aside is not None:
            state.turn_to(*aside)
        aside = (state.device, state.product) if _ASIDE.fullmatch(plain.text, clause.start, clause.end) else None
        _turn(state, clause, product)
        sentence = sentence_of(plain.text, clause, notes)
        sentence = resolved(state, sentence)
        seen += len(sentence.figures) + len(sentence.sockets)
        if _PACKAGING.search(sentence.text) or _MEASURED.search(clause.column):
            state.left.append((clause.start, clause.end))
            continue
        before, state.previous, state.at = len(state.said), state.at, clause.start
        is_count = _COUNT_CELL.fullmatch(plain.text, clause.start, clause.end) is not None
        state.row_start, state.name_end = -1 if is_count else clause.row_start, max(len(clause.over), _SHORTEST_NAME)
        state.key_at = clause.key_at
        for rule in rules:
            state.assumed.clear()
            rule(state, sentence)
        _counted_behind(state, sentence)
        _the_same_on(state, sentence)
        if sentence.sockets and not (len(sentence.sockets) == 1 and sentence.sockets[0].is_plug):
            state.subject = list(sentence.sockets)
        is_read = len(state.said) > before or (state.said and state.said[-1].start == sentence.clause.start)
        if not is_read:
            state.left.append((clause.start, clause.end))
    return state


def _counts_told(text: str) -> dict[str, int]:
    """How many sockets of a class there are, where that is said in one place: ``each USB-A: 1.5 A. Four USB-A``."""
    found: dict[str, list[int]] = {}
    for socket in named_anywhere(text):
        if socket.count and not socket.ids and not socket.is_part:
            found.setdefault(socket.letter, []).append(socket.count)
    return {letter: counts[0] for letter, counts in found.items() if len(counts) == 1 and counts[0] > 1}


def _title_end(text: str) -> int:
    """Where the first line ends, if others follow it."""
    first, _, others = text.strip().partition("\n")
    is_title = len(others.strip().split("\n")) >= _LEAST_LINES and not _LISTED.match(first)
    return text.find(first) + len(first) if is_title else 0


def _counted_behind(state: State, sentence: Sentence) -> None:
    """``Each USB-A: 5 Gb/s. There are three``: what was said of one socket is said of each."""
    match = _THERE_ARE.fullmatch(sentence.own)
    letter = state.subject[-1].letter if state.subject else ""
    if match is None or not letter or state.numbers.ids(letter) != [f"{letter}1"]:
        return
    count = count_of(match[1])
    state.numbers.declare(letter, count)
    first = f"{letter}1 "
    more = [
        replace(said, sentence=f"{letter}{n} {said.sentence.removeprefix(first)}")
        for said in state.said
        if said.sentence.startswith(first) and not _EXCEPT.search(state.text[said.start : said.end])
        for n in range(2, count + 1)
    ]
    state.said += more


def _the_same_on(state: State, sentence: Sentence) -> None:
    """``Linux: the same``, below what was said for another system."""
    system = sentence.clause.over.strip()
    if not SYSTEMS.fullmatch(system) or not _THE_SAME.fullmatch(sentence.own):
        return
    earlier = [said for said in state.said if said.start == state.previous and _ON_SYSTEM.search(said.sentence)]
    start, end = sentence.clause.start, sentence.clause.end
    state.said += [
        replace(each, sentence=_ON_SYSTEM.sub(f" on {system}", each.sentence), start=start, end=end) for each in earlier
    ]


def _is_of_every_lead(clause: Clause, own: str) -> bool:
    """``Jacket: silicone``, after sentences that told leads apart."""
    return clause.over != "" and not re.search(r"\d", clause.over) and not told_at(own)


def _turn(state: State, clause: Clause, product: Product) -> None:
    """To the device that a clause is of, where there are several."""
    own = state.text[clause.start : clause.end]
    if clause.model:
        state.turn_to(clause.model, product)
    elif product.devices:
        _turn_by_name(state, clause, product)
    elif product.is_lead and (name := named_lines(state.text).get(clause.over.strip().lower())):
        state.turn_to(name, product)
    elif product.is_lead and not clause.over and _OF_ALL_LEADS.search(own) and named_lines(state.text):
        state.turn_to("+".join(dict.fromkeys(named_lines(state.text).values())), product)
    elif product.is_lead and len(told := told_in_prose(state.text)) > 1:
        is_of_all = _BOTH_START.match(own) is not None or _is_of_every_lead(clause, own)
        state.turn_to("+".join(told) if is_of_all else told_at(f"{clause.over} {own}") or state.device, product)
    elif product.is_lead and _FOR_ALL.fullmatch(clause.over) and has_several(state.text):
        state.turn_to(every_lead(state.text), product)
    elif (
        product.is_lead
        and clause.over
        and re.search(r"\d", clause.over)
        and (clause.row or clause.column or (LENGTHS_KEY.fullmatch(clause.over) and has_several(state.text)))
    ):
        state.turn_to(devices_of(clause.over), product)
    elif state.device and not (product.is_lead and (clause.row or clause.column)):
        state.turn_to("", product)


def _turn_by_name(state: State, clause: Clause, product: Product) -> None:
    """To the part of a kit or the model of a family that a clause begins with; to all where it speaks of all."""
    own = state.text[clause.start : clause.end]
    line_start = state.text.rfind("\n", 0, clause.start) + 1
    words = state.text[line_start : clause.end] if clause.begins_line else own
    are_two = len(product.devices) == _TWO_MODELS
    joint = r" and (?:the )?(?:\w+ )?".join(map(re.escape, product.devices))
    names_both = are_two and re.search(rf"(?i)\b{joint}\b", own) is not None
    starts = (clause.begins_line or are_two) and _FOR_ALL_START.match(own) is not None
    part = part_at(words, product.devices) or part_at(own, product.devices) or part_at(clause.over, product.devices)
    if part and not names_both:
        state.turn_to(product.devices[part], of_part(product, part))
    elif names_both or starts or _FOR_ALL.fullmatch(clause.over):
        state.turn_to(BOTH, product)
