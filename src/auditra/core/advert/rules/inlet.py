"""What goes into the inlet: by its words, by a key, as Power Delivery, or passed on to the host."""

from __future__ import annotations

import re

from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import say
from auditra.core.advert.rules.host_charge import ARRIVES, PASSES, besides_host
from auditra.core.advert.rules.supplies import SUPPLY
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_NO_INLET = r"(?! (?:either|any|each|all|both|sum|total|use|this|that|every)\b)"
_TAKES = any_of(
    "inlets?", "inputs?", "takes?(?! note)", "entr.e", "alimentation(?= ?:)", r"PD[- ]in", r"in[- ]?put", "power in",
    "DC in", r"charg(?:e|ing) in(?=\W*:)", "(?:USB-)?C in(?=:)",
    "charging (?:inlet|socket|input)", "accepts?", "power supply", "supply", "supplies", f"W in{_NO_INLET}",
    "chargers? of",
    r"in(?=\s*\d+\s*W)", "power_in", "plug your",
)  # fmt: skip
_TAKES_SURELY = any_of(
    r"W (?:go|goes|are taken|is taken) in",
    "inlet",
    "input",
    "entr.e",
    "power_in",
    r"PD[- ]?in",
    rf"(?:\d+ ?)?W in{_NO_INLET}",
)
_INPUT_BEHIND = re.compile(r"(?i)\s*(?:\([^()]*\) )?inputs?\b")
_INLET_BEFORE = ends_with(
    r"\bpower in,?(?: \d+ ?V,)?(?: up to)?",
    r"\b(?:give|feed) it(?: with)?(?: up to)?(?: \d+ (?:W )?to)?",
    r"(?<!W )\bPD[- ]in\b(?: \([^)]{1,8}\))?[,:]? ?\(?",
    r"\bPD charging:?(?: \()?",
    r"\binput\s*\((?:up to )?",
    r"\bUSB-C in(?: for| with)?(?: up to)?",
    r"\b(?:supply|charger|adapter|brick) in,?(?: up to| of| at most)?",
    r"\bcharger (?:may|can) (?:have|give|be)(?: up to)?",
    r"\bcharger \((?:max\.? |up to )?",
    r"\bchargers?(?: of)?,? (?:up to|max\.?)",
    r"\bUSB-C inlet \((?:up to )?",
    r"\bfor (?:the|a|your) (?:power )?(?:supply|charger),? (?:which|that) (?:may|can) (?:have|give|be)(?: up to)?",
    r"\bPD \(in(?:put)?\)(?: up to)?(?: ?@)?",
    r"(?<!W )(?<!W)(?<!watts )\binput(?: only)?[,:]?(?: up to| max\.?)?",
    r"\bcharging (?:through|via|over|by) (?:its|the|a) [^.;,]{0,24}(?:with|at)(?: up to)?",
    r"\bfor (?:the|a|your) (?:power )?(?:supply|charger)(?: only)?[,:]?(?: \(?)?(?:\d+ ?(?:W )?to )?",
)
_CHARGING_SOCKET = ends_with(r"\bcharging (?:inlet|socket|input|port)(?: \(?USB-C\)?)?[,:]?(?: \(?up to| \()?")
_GIVEN_ON = any_of("on to", "reach", "out to", "gives? (?:the|your)")
_POWER_DELIVERY_BEHIND = re.compile(r"\s*(?:PD\b|power delivery)|\bcarga PD|power delivery", re.IGNORECASE)
_POWER_DELIVERY_BEFORE = re.compile(
    r"(?:\bPD ?\(?(?:\d(?:\.\d)? ?)?(?:de |up to |bis |fino a |max\.? )?|\bcharging only\)?[:,]? (?:up to )?"
    r"|power delivery[^.;,]{0,16}"
    r"|pass-through[^.;,]{0,10}|USB-C (?:charge|recharge|laden|carga|ricarica) |\balimentation (?:de )?)$",
    re.IGNORECASE,
)
_OF_INPUT = any_of("input", "supply", "charger", "adapter")
_OF_CHARGER = re.compile(r"(?i)(?<!\bas a )(?<!\bas )(?<!\bis a )(?<!day a )(?<!night a )(?<!also a )\bcharger\b")
"""A key over what goes in, where it is no charger itself."""
_GIVES = any_of("gives", "out", "outputs?")
_IN_BEFORE = ends_with(r"\bin")
_OUT_BEHIND = begins_with("out")
_HOST_PORT = any_of("host port", "upstream", "up(?=:)")
_PD_KEY = re.compile(r"(?i)\W*(?:PD|power delivery|USB-C PD)\W*")
_BARE_PD = ends_with(r"\bPD:?")
_SOCKETS_SUPPLY = re.compile(r"(?i)\b(?:ports?|sockets?|USB-[AC])\b[\w ,-]* suppl(?:y|ies) $")
_OUTPUT_KEY = re.compile(r"(?i)\W*out(?:puts?)?\W*")
_THROUGH_SOCKET = begins_with("(?:in )?through (?:the|its|a) (?:USB-)?C(?: (?:socket|port))?")
_PASSED_BEHIND = re.compile(r"(?i)\)?,? (?:is |are )?(?:passed|handed) (?:through|on)\b|\)?,? through(?=\s*[,;).(]|$)")
_HANDS = ends_with(r"\b(?:hands|passes)(?: up to)?")
_IN_FIRST = re.compile(r"(?i)\W*(?:USB-)?C (?:in|inlet|input)\b(?![^;.]*\bout\b)(?! the)")
"""``USB-C in, charger, 100 W max``."""
_NEEDED_BEHIND = begins_with(r"\(?(?:is |are )?(?:needed|required|necessary|minimum|at least)")
_ON_BEHIND = re.compile(r"(?i) on\b(?! (?:the|its|each|all|any|both|windows|linux|macos))")
"""``Takes 100 W and hands 90 W on``."""


def in_through(state: State, sentence: Sentence, figure: Figure, _: str) -> bool:
    """``100 W through the C socket``: what goes in."""
    if state.product.is_charger or not _THROUGH_SOCKET.match(sentence.behind(figure)):
        return False
    return takes(state, sentence, figure)


def inlet_surely(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    if _OUT_BEHIND.match(sentence.behind(figure, 6)) and not _IN_BEFORE.search(sentence.before(figure, 12)):
        return False
    named = _INLET_BEFORE.search(sentence.before(figure)) is not None
    named = named or (not state.product.is_charger and _CHARGING_SOCKET.search(sentence.before(figure)) is not None)
    named = named or _INPUT_BEHIND.match(sentence.behind(figure)) is not None
    named = named or sentence.clause.row == "in" or _is_first_in(sentence, figure)
    if not named and (not _TAKES_SURELY.search(local) or _GIVEN_ON.search(local)):
        return False
    return takes(state, sentence, figure)


def _is_first_in(sentence: Sentence, figure: Figure) -> bool:
    """``USB-C in, charger, 100 W max``: the first figure of what begins with the inlet."""
    return _IN_FIRST.match(sentence.own) is not None and figure is next(sentence.of_dim(Dim.WATTS), None)


def takes(state: State, sentence: Sentence, figure: Figure) -> bool:
    under = under_what(sentence, figure)
    if _NEEDED_BEHIND.match(sentence.behind(figure)) and len(list(sentence.of_dim(Dim.WATTS))) > 1:
        return True  # what the charger must have
    if not under and not state.device and state.has_said("P1 takes"):
        return True  # a second figure without a condition: only a reviewer can say what it means
    state.numbers.declare("P", 1)
    say(state, sentence, f"P1 takes {figure.hedged}{under}")
    return True


def power_delivery(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    """``PD 87W``, ``100 W PD``: of a hub the inlet."""
    behind, before = sentence.behind(figure, 16), sentence.before(figure)
    told = _POWER_DELIVERY_BEHIND.match(behind) or _POWER_DELIVERY_BEFORE.search(before) or _BARE_PD.search(before[-5:])
    told = told or _PD_KEY.fullmatch(sentence.clause.over)
    to_phone = besides_host(state, local)
    through = PASSES.search(local) and _OF_INPUT.search(under_what(sentence, figure))
    named = sentence.sockets_of("AC")
    in_key = len(named) == 1 and named[0].end <= sentence.shift
    is_out = _OUTPUT_KEY.fullmatch(sentence.clause.over) is not None and any(each.ids for each in named)
    gives = (
        is_out
        or (figure.each and named)
        or (in_key and (named[0].letter == "A" or named[0].ids or sentence.clause.row.strip("#").isdigit()))
    )  # what is fed has no such
    if not told or to_phone or gives or through or state.product.is_charger or _GIVES.search(local):
        return False
    if _HOST_PORT.search(sentence.before(figure)):
        say(state, sentence, f"UP charges host {figure.hedged}{under_what(sentence, figure)}")
        return True
    return takes(state, sentence, figure)


def passed(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    """Through to the host; where another figure is what arrives there, it is what the inlet takes."""
    behind = _PASSED_BEHIND.match(sentence.behind(figure)) is not None
    behind = (
        behind or (_HANDS.search(sentence.before(figure)) and _ON_BEHIND.match(sentence.behind(figure))) is not None
    )
    if not (behind or PASSES.search(local)) or (figure.each and sentence.sockets_of("AC")):
        return False
    others = (each for each in sentence.of_dim(Dim.WATTS) if each is not figure)
    if any(ARRIVES.match(sentence.behind(each, 14)) for each in others):
        return takes(state, sentence, figure)
    say(state, sentence, f"UP passes {figure.hedged}{under_what(sentence, figure)}")
    return True


def inlet_by_words(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    if _SOCKETS_SUPPLY.search(sentence.before(figure)):
        return False
    of_charger = not state.product.is_charger and _OF_CHARGER.search(sentence.over)
    local = sentence.own_words(figure, masked=True)
    in_condition = any(each.end <= sentence.shift for each in sentence.conditions)
    by_key = bool(sentence.over) and not in_condition and (_TAKES.search(sentence.over) or of_charger)
    if not (_TAKES.search(local) or by_key) or _GIVES.search(local):
        return False
    if SUPPLY.search(local + sentence.over) and not sentence.clause.over:
        return True
    return takes(state, sentence, figure)
