"""Leads and extensions: how long, what they carry, what they lose, how they are marked."""

from __future__ import annotations

import re
from collections.abc import Callable

from auditra.core.advert.figures import Figure, figures
from auditra.core.advert.governing import under_what
from auditra.core.advert.lengths import (
    CALLED,
    CHOICE,
    LENGTHS_KEY,
    devices_of,
    family_of,
    referred,
    told_in_prose,
    told_last,
)
from auditra.core.advert.phrases import NOTHING, any_of, begins_with, ends_with
from auditra.core.advert.product import IS_LEAD
from auditra.core.advert.promises import say
from auditra.core.advert.rules.body_lengths import SPREAD, SPREAD_BEFORE
from auditra.core.advert.rules.steps import USB_V
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_LOSES = any_of("lose[sd]?", "drops?", "loss", "lost")
_BETWEEN = ends_with(r"\bbetween(?: \d+ ?m?V and| \d+ (?:and|to))?")
_PROMISED = any_of("promise", "guarantee", "never", "no more than", "at most")
_TOLD_OF = re.compile(r"\s*[(:-]\s*\d+ ?(?:Gb|Mb|W|A)")
_NOT_LENGTH = any_of(
    "drops?",
    "bend",
    "bag",
    "diameter",
    r"m+ (?:thick|across|wide)",
)
_SEVERAL = any_of("one more", "joined", "chain(?:ed)?", "in a row", "one behind (?:the|an)other", "connected together")
"""A length of several leads in a row."""
_NEED_BEFORE = ends_with(r"\b(?:more|less) than")
"""What gear draws, and no promise."""
_IN_SUPPLY = re.compile(r"(?:supply|adapter|charger|brick)\s*\([^)]*$", re.IGNORECASE)
_SUPPLY_KEY = re.compile(r"(?i)\W*(?:(?:power|external|auxiliary) )?(?:supply|adapter|charger)\W*")
_OF_SUPPLY = begins_with("(?:power )?(?:supply|adapter|charger|brick)", "(?:mains|wall) ")
_MARKED = any_of(
    r"e-?mark(?:er|ed|ing)?",
    "marker",
    r"(?<!ends are )(?<!plugs are )(?<!plug )(?<!end )(?<!side )(?<!connector )marked",
    "chip inside",
    "(?:marker|chip) in (?:each|both|the|either|one)(?: plugs?)?",
    "(?:with|has) (?:a |its )?(?:marker|identity) chip",
    r"chip (?:with|of|for) \d+ ?[AV]",
)
_NO_MARK = any_of(r"(?:no|without)(?: an?)? (?:e-?)?mark(?:er)?", "marker: none", "no chip", "without (?:a )?chip")
_COMPRESSED = any_of("with (?:DSC|compression)", "compressed")
_NO_PICTURE = any_of(
    "not for (?:pictures|video|displays)",
    "(?:no|not|without) (?:carry )?(?:a )?(?:picture|video|display)s?",
    "carries no picture",
    "(?:pictures?|video) (?:do|does) not pass",
    "(?:screens?|displays?|monitors?|pictures?) (?:cannot|can't|can not|is not|are not|will not)",
    "not carry a picture",
    "(?:does not|doesn't|won't|will not|cannot|can't) (?:do|show|transmit|support|pass) (?:video|pictures?"
    "|displays?|screens?)",
)
_PICTURE = any_of("picture", "video")
_NO_DATA = any_of("charg(?:e|ing) only", "no data", "power only")
_HIGH_SPEED = any_of("USB 2.0 high[- ]speed", "high[- ]speed USB 2.0")
"""A rate by name. Source: USB 2.0, 4.2.1: high speed is 480 Mb/s."""
_CARRIED = re.compile(r"(?P<lead>\w+):body carries (?:picture |(?:up to )?\d[\d.]* [GM]?(?P<unit>b/s|W|A)\b)")
_LENGTH_AS_ID = re.compile(r"lead\d+(?:c?m|ft)")
_LENGTHS = re.compile(r"(?i)\d+(?:[.,]\d+)? ?(?:cm|m|ft)\b")
_SHORTEST_M = 0.05
"""What is shorter is how thick or how tightly bent a lead is."""
_MAX_DROP_V = 3.0
_LEAST_MARK_V, _LEAST_MARK_A = 20.0, 3.0


def lead(state: State, sentence: Sentence) -> None:
    """Every figure of a lead, then what it says in words."""
    if not state.product.is_lead:
        return
    if _is_range_of_leads(sentence):
        return
    _length_of_row(state, sentence)
    _length_of_column(state, sentence)
    family = _family(state, sentence)
    several = state.device
    for figure in sentence.figures:
        read = _READERS.get(figure.dim)
        in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions if each.words)
        if read is None or figure.negated or in_condition or (family and figure.dim is Dim.LENGTH):
            continue
        if family:
            state.device = "+".join(referred(family, sentence.before(figure)))
        else:
            state.device = _one_of(several, sentence, figure)
        read(state, sentence, figure)
    state.device = state.device if family else several
    if family:
        _except_for_one(state, sentence)
    _in_words(state, sentence)


def _in_words(state: State, sentence: Sentence) -> None:
    """What it does without a figure, and what it does not."""
    over_pictures = _PICTURE.search(sentence.clause.column) and NOTHING.fullmatch(sentence.own)
    if _NO_PICTURE.search(sentence.text) or over_pictures:
        say(state, sentence, "body no display")
    if _MARKED.search(sentence.text) and not _NO_MARK.search(sentence.text):
        _mark(state, sentence)
    if _NO_DATA.search(sentence.text):
        say(state, sentence, "body no data")
    if _HIGH_SPEED.search(sentence.text) and not any(sentence.of_dim(Dim.RATE)):
        say(state, sentence, "body carries 480 Mb/s")


def _family(state: State, sentence: Sentence) -> list[str]:
    """The leads of different lengths that a sentence may tell apart; what is not told of one is of all."""
    if state.device and "+" not in state.device:
        return []
    family = family_of(state.text)
    if family and (CHOICE.search(sentence.text) or CALLED.search(sentence.text)):
        for state.device, length in family.items():
            say(state, sentence, f"body length {length}")
    state.device = "+".join(family) or state.device
    return list(family)


def _except_for_one(state: State, sentence: Sentence) -> None:
    """``All: 48 Gb/s. The 5 m one: 18 Gb/s``: what is said of one lead by itself is no more that of all."""
    now = [match for said in state.said if said.start == sentence.clause.start
           and (match := _CARRIED.match(said.sentence))]  # fmt: skip
    if len({match["lead"] for match in now}) != 1:
        return
    told = {(match["lead"], match["unit"]) for match in now}
    state.said[:] = [
        said for said in state.said
        if said.start == sentence.clause.start or (match := _CARRIED.match(said.sentence)) is None
        or (match["lead"], match["unit"]) not in told
    ]  # fmt: skip


def _one_of(devices: str, sentence: Sentence, figure: Figure) -> str:
    """``Weights 62 g and 88 g``: as many figures as leads, one of each; else the one that is named before it."""
    told = told_last(sentence.text, figure.end)
    if told and told != devices and told in told_in_prose(sentence.text):
        return told
    every, alike = devices.split("+"), list(sentence.of_dim(figure.dim))
    return every[alike.index(figure)] if 1 < len(every) == len(alike) else devices


def _is_range_of_leads(sentence: Sentence) -> bool:
    """``0.5 m (40 Gb/s), 2 m (480 Mb/s)``: several leads, of which none is named."""
    lengths = [each for each in sentence.of_dim(Dim.LENGTH) if not sentence.is_converted(each)]
    told = [each for each in lengths if _TOLD_OF.match(sentence.behind(each))]
    return len(told) > 1


def _length_of_row(state: State, sentence: Sentence) -> None:
    """``2 m | 480 Mb/s``: of a table with a lead for each row, or of a line for several."""
    row = [each for each in figures(sentence.clause.over) if each.dim is Dim.LENGTH]
    if len(row) == 1 and not state.device and IS_LEAD.search(sentence.clause.over):
        say(state, sentence, f"body length {row[0].text}")
    is_named = LENGTHS_KEY.fullmatch(sentence.clause.over.strip()) or len(row) == 1
    if not state.device or not row or not is_named:
        return
    every = state.device.split("+")
    for device, figure in zip(every, row, strict=False):
        if not state.has_said(f"{device}:body length"):
            state.device = device
            say(state, sentence, f"body length {figure.text}")
    state.device = "+".join(every)


def _length_of_column(state: State, sentence: Sentence) -> None:
    """Of a table with a lead for each column, under its length."""
    match = _LENGTH_AS_ID.fullmatch(state.device)
    if sentence.clause.model and match is not None and not state.has_said(f"{state.device}:body length"):
        heads = (each for each in _LENGTHS.findall(state.text) if devices_of(each) == state.device)
        for figure in figures(next(heads, ""))[:1]:
            say(state, sentence, f"body length {figure.text}")


def _length(state: State, sentence: Sentence, figure: Figure) -> None:
    if CHOICE.search(sentence.text) or figure.value < _SHORTEST_M:
        return
    if SPREAD_BEFORE.search(sentence.before(figure)) or _SEVERAL.search(sentence.before(figure)):
        return
    is_reach = figure.hedge == "up to" and any(sentence.of_dim(Dim.RATE, Dim.MODE))
    if not is_reach and not _NOT_LENGTH.search(sentence.part_of(figure)) and not sentence.is_said_in_metric(figure):
        spread = SPREAD.search(sentence.behind(figure, 30))
        say(state, sentence, f"body length {figure.text}{f' give or take {spread[1]}' if spread else ''}")


def _drop(state: State, sentence: Sentence, figure: Figure) -> None:
    every = [each for each in figures(sentence.text) if each.dim is Dim.AMPERES]  # in whatever part they stand
    at = next((each for each in every if each.start >= figure.end), every[0] if every else None)
    if _BETWEEN.search(sentence.before(figure)) or (at is None and _PROMISED.search(sentence.own) is None):
        return  # what was measured
    if at is None and _LOSES.search(state.text[state.previous : state.at]):
        earlier = [each for each in figures(state.text[state.previous : state.at]) if each.dim is Dim.AMPERES]
        for each in earlier[:1]:
            say(state, sentence, f"body drops at most {figure.value * 1000:g} mV at {each.text}")
        return
    if figure.value < _MAX_DROP_V and at is not None and _LOSES.search(sentence.text):
        say(state, sentence, f"body drops at most {figure.value * 1000:g} mV at {at.text}")


def _carries(state: State, sentence: Sentence, figure: Figure) -> None:
    if SPREAD_BEFORE.search(sentence.before(figure)):
        return
    say(state, sentence, f"body carries {figure.hedged}{under_what(sentence, figure)}")


def _rate(state: State, sentence: Sentence, figure: Figure) -> None:
    """Of an extension the rate of its socket."""
    if state.product.is_extension and (
        sentence.sockets_of("A") or re.search(r"USB-?A\b|\bA (?:plug|socket|to)\b|to A\b", state.text)
    ):
        say(state, sentence, f"A1 data {figure.hedged}{under_what(sentence, figure)}")
    else:
        _carries(state, sentence, figure)


def _amperes(state: State, sentence: Sentence, figure: Figure) -> None:
    marked = _MARKED.search(re.split(r"[;.] ", sentence.before(figure))[-1])
    is_other = (
        marked
        or _SUPPLY_KEY.fullmatch(sentence.clause.over)
        or _IN_SUPPLY.search(sentence.before(figure, 40))
        or _LOSES.search(sentence.text)
        or _OF_SUPPLY.match(sentence.behind(figure))
        or _NEED_BEFORE.search(sentence.before(figure))
    )
    if is_other or _MARKED.search(sentence.part_of(figure)):
        return
    near = next(
        (
            volts
            for volts in sentence.of_dim(Dim.VOLTS)
            if min(abs(volts.start - figure.end), abs(figure.start - volts.end)) < 5
        ),
        None,
    )
    if state.product.is_extension and (near is None or near.value <= USB_V):
        state.numbers.declare("A", 1)
        say(state, sentence, f"A1 feeds {figure.hedged}{under_what(sentence, figure)}")
        return
    volts = next((each for each in sentence.of_dim(Dim.VOLTS) if 0 <= figure.start - each.end < 4), None)
    if volts is not None:
        watts = volts.value * figure.value
        if not any(abs(each.value - watts) < 1 for each in sentence.of_dim(Dim.WATTS)):
            say(state, sentence, f"body carries {watts:g} W")
    else:
        _carries(state, sentence, figure)


def _picture(state: State, sentence: Sentence, figure: Figure) -> None:
    near = sentence.part_of(figure) + sentence.behind(figure, 20)
    compressed = " with compression" if _COMPRESSED.search(near) else ""
    say(state, sentence, f"body carries picture {figure.hedged}{compressed}{under_what(sentence, figure)}")


def _mass(state: State, sentence: Sentence, figure: Figure) -> None:
    if "gross" not in sentence.part_of(figure).lower():
        say(state, sentence, f"body weighs {figure.hedged}")


_READERS: dict[Dim, Callable[[State, Sentence, Figure], None]] = {
    Dim.LENGTH: _length, Dim.VOLTS: _drop, Dim.WATTS: _carries, Dim.RATE: _rate, Dim.AMPERES: _amperes,
    Dim.MODE: _picture, Dim.MASS: _mass,
}  # fmt: skip


def _mark(state: State, sentence: Sentence) -> None:
    beside = [
        figure
        for figure in sentence.figures
        if _MARKED.search(sentence.part_of(figure)) or _MARKED.search(re.split(r"[;.] ", sentence.before(figure))[-1])
    ]
    volts = next((f.text for f in beside if f.dim is Dim.VOLTS and f.value >= _LEAST_MARK_V), "")
    amperes = next((f.text for f in beside if f.dim is Dim.AMPERES and f.value >= _LEAST_MARK_A), "")
    say(state, sentence, " ".join(filter(None, ("body is marked", volts, amperes))))
