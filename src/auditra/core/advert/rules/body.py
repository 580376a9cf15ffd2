"""The body: its size, weight, warmth and material, how many sockets; its lengths are read by `body_lengths`."""

from __future__ import annotations

import re
from collections.abc import Callable

from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.of_another import of_another
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import say
from auditra.core.advert.rules.body_lengths import body_length
from auditra.core.advert.rules.in_the_box import is_heading
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import NUMBERS, count_of
from auditra.core.advert.state import BOTH, State
from auditra.core.advert.units import Dim

_OF_BESIDE = re.compile(r"(?i)\s*\(?(?:for |is )?(?:the |its )?(?:(?:power )?supply|charger|packag)")
"""``300 g (supply)``: what lies beside the device."""
_OF_SUPPLY = re.compile(r"(?i)\W*(?:and )?(?:the |its )?(?:power )?(?:supply|brick|adapter|charger)(?: weighs)?:? \d")
"""``Weight: dock 310 g, supply 450 g``."""
_BEARS = re.compile(r"(?i)\b(?:holds?|bears?|supports?|carries|load)\b[^,.;]*$")
_BELOW = any_of(
    "below",
    "under",
    "never above",
    "(?:nowhere|no part|nothing|at no time|not)\\b[^,;.]{0,24} above",
    "at most",
    "cooler than",
    "(?:never|not) over",
    "(?:never|no|not) higher than",
    "never (?:goes|gets|rises|climbs) (?:beyond|above|over|past)",
    "(?:never|not|no) (?:hotter|warmer) than",
    "(?:never|not) (?:gets?|becomes?) (?:hotter|warmer) than",
    "up to",
    "max",
    "no more than",
    "not above",
)
_NOT_BELOW = re.compile(
    r"(?<!never )(?<!not )(?<!no )(?<!never gets )(?<!never is )(?<!never grows )\bwarmer than|from -|-\s*$"
    r"|storage|\b(?:room|ambient)\b[^,;]{0,20}$"
    r"|\b(?:silent|quiet|still|off|stands|starts?|spins?)\b[^,;]{0,16}$",
    re.IGNORECASE,
)
_AMBIENT = re.compile(r"(?i)\s*\(?(?:ambient|room)\b")
_AT_ROOM = re.compile(r"(?i)\s*\(?(?:at|in|with)(?: an?)?(?: (?:ambient|room|air)(?: temperature)?)?(?: of| at)? ")
_COUNT_WORDS = "|".join(
    sorted(
        (word for word in NUMBERS if word not in ("a", "an", "both", "first", "second", "third")), key=len, reverse=True
    )
)
_COUNTED = re.compile(
    rf"\b(\d{{1,2}}|{_COUNT_WORDS}) (?:sockets|ports|connections|interfaces)\b(?! (?:of|at|run|for(?! your)|\(?\d))",
    re.IGNORECASE,
)
_PORT_HUB = re.compile(
    rf"\b(\d{{1,2}}|{_COUNT_WORDS})[- ]port (?:[\w.-]+ ){{0,5}}(?:hub|dock|switch(?! ?\+))"
    r"|\b(?:number of )?ports?: (\d{1,2})(?=\s*(?:[.,;]|$))",
    re.IGNORECASE,
)
_COUNT_KEY = re.compile(
    r"in one|(?:total )?(?:ports|sockets)(?: in (?:total|all))?|number of (?:ports|sockets)", re.IGNORECASE
)
_SO_MANY_IN_USE = re.compile(
    r"(?i)\W*(?:any )?\d (?:ports|sockets|outputs)(?: (?:in use|used|together|at once))?: ?(?:USB-)?[AC]\d? ?\d"
)
"""Before what they give together."""
_HAS = any_of("has", "in one", "in one slim", "with", "row of")
_LEAST_PORTS = 3
_NAMES_BEHIND = re.compile(r":\s*(?:USB-)?[AC]\d?\s*\+")
"""``3 ports: C1 + C2 + A``: how many are in use."""
_MATERIAL = any_of(
    "(recycled ABS|solid oak|sheet steel|stainless steel|anodi[sz]ed alumini?um|alumini?um|zinc|steel|metal|ABS|oak"
    "|bamboo|polycarbonate|plastic|magnesium|silicone|nylon|felt|copper|brass|walnut|glass|leather|titanium"
    "|carbon fibre|wood|beech|cork|alu(?![A-Za-z])|aluminium(?=geh(?:ä|ae)use)|(?-i:Al)(?= (?:case|housing"
    "|body|shell|alloy))"
    "|(?<=[Cc]ase )(?-i:Al)(?=[.,;]|$)|(?-i:(?<=CASE )AL\\b))"
    "(?! (?:cases|bodies|hubs|docks|things|parts))(?!-to|[ -]?gr[ea]y|[ -](?:look|style|colou?r|effect"
    "|finish))"
)
_LEAD_BEFORE = re.compile(r"(?i)\b(?:cable|lead|cord|tail)\b:? (?:(?:is|of|in|made of|braided|woven) )*$")
_NO_BODY = any_of(
    "sleeve",
    "(?:felt|silicone|nylon|leather) (?:inside|lining|pads?)",
    "lined",
    "lining",
    "glass fibre",
    "(?:over|through|by|via) glass",
    "bag",
    "pouch",
    "braid cable",
)
_SLEEVE_KEY = re.compile(r"(?i)\W*(?:outer )?(?:sleeve|sheath|mantle|cover|coat)\W*")
_JACKET = any_of("jacket", "body", "housing", "alumin(?:i)?um", "braid", "silicone", "nylon")


def body(state: State, sentence: Sentence) -> None:
    """Each figure of the body; then how many sockets there are."""
    if is_heading(sentence.clause.over):
        return
    for figure in sentence.figures:
        read = _READERS.get(figure.dim)
        in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions if each.words)
        if read is not None and not figure.negated and not in_condition:
            read(state, sentence, figure)
    if not state.product.is_lead:
        _count(state, sentence)


def _mass(state: State, sentence: Sentence, figure: Figure) -> None:
    if _BEARS.search(sentence.before(figure, 60)) or _OF_BESIDE.match(sentence.behind(figure, 24)):
        return
    if state.product.is_lead or sentence.is_said_in_metric(figure) or "gross" in sentence.part_of(figure).lower():
        return
    if _OF_SUPPLY.match(sentence.part_of(figure)) and not state.product.is_charger:
        return
    masses, devices = list(sentence.of_dim(Dim.MASS)), list(dict.fromkeys(state.product.devices.values()))
    if state.device == BOTH and len(masses) == len(devices):  # both weigh 210 g and 48 g
        every, state.device = state.device, devices[masses.index(figure)]
        say(state, sentence, f"body weighs {figure.hedged}")
        state.device = every
        return
    say(state, sentence, f"body weighs {figure.hedged}")


def _size(state: State, sentence: Sentence, figure: Figure) -> None:
    if not sentence.is_said_in_metric(figure):
        say(state, sentence, f"body size {figure.text}")


def _in_one(state: State, sentence: Sentence, figure: Figure) -> None:
    say(state, sentence, f"body ports {figure.text}")


def _warmth(state: State, sentence: Sentence, figure: Figure) -> None:
    before = re.split(r"[,;]| and ", sentence.before(figure, 40))[-1]
    near = before + sentence.text[figure.start : figure.end + 14]
    if _AMBIENT.match(sentence.behind(figure)) or _is_of_room(sentence, figure):
        return
    if figure.least is None and not _NOT_BELOW.search(before) and _BELOW.search(near):
        say(state, sentence, f"body below {figure.text}{under_what(sentence, figure)}")


def _is_of_room(sentence: Sentence, figure: Figure) -> bool:
    """``Below 75 °C at 25 °C``: the second is of the air around it."""
    earlier = [each for each in sentence.of_dim(figure.dim) if each.end <= figure.start]
    return bool(earlier) and _AT_ROOM.fullmatch(sentence.text[earlier[-1].end : figure.start]) is not None


_READERS: dict[Dim, Callable[[State, Sentence, Figure], None]] = {
    Dim.MASS: _mass, Dim.BOX: _size, Dim.LENGTH: body_length, Dim.CELSIUS: _warmth, Dim.IN_ONE: _in_one,
}  # fmt: skip


def _count(state: State, sentence: Sentence) -> None:
    if state.has_said("body ports"):
        return
    if _COUNT_KEY.fullmatch(sentence.clause.over) and re.fullmatch(r"\s*\d{1,2}\s*\.?\s*", sentence.own):
        say(state, sentence, f"body ports {int(re.sub(r'[^0-9]', '', sentence.own))}")
        return
    if _SO_MANY_IN_USE.match(sentence.text):
        return
    plain = _PORT_HUB.search(sentence.text)
    if plain and not (plain[2] and sentence.sockets):
        say(state, sentence, f"body ports {count_of(plain[1] or plain[2])}")
        return
    match = _COUNTED.search(sentence.text)
    if match is not None and re.search(r"(?i)\b(?:mains|power strip|wall)\b[^,;]*$", sentence.text[: match.start()]):
        return
    if match is not None and any(start <= match.start() < end for start, end in of_another(sentence.text)):
        return
    alone = match is not None and match[0] == sentence.own.strip(" .;")
    if match is not None and _NAMES_BEHIND.match(sentence.text, match.end()):
        return
    if match is None or not (alone or _HAS.search(sentence.text) or sentence.clause.begins_line):
        return
    lists = sentence.text[match.end() :].lstrip().startswith(":") and len(sentence.sockets) > 1
    beside = (
        () if lists else (s for s in sentence.sockets if match.start() - 20 <= s.start and s.end <= match.start() + 30)
    )
    count = count_of(match[1])
    if count >= _LEAST_PORTS and not any(beside):
        say(state, sentence, f"body ports {count}")


def made_of(state: State, sentence: Sentence) -> None:
    """What the body, or the jacket of a lead, is made of."""
    match = _MATERIAL.search(sentence.text)
    is_sleeve = state.product.is_lead and _SLEEVE_KEY.fullmatch(sentence.clause.over) is not None
    if match is None or (_NO_BODY.search(sentence.text) and not is_sleeve):
        return
    if match[0][0].isupper() and re.match(r" [A-Z][a-z]", sentence.text[match.end() :]):
        return  # a name
    of_lead = _LEAD_BEFORE.search(sentence.text[: match.start()]) is not None
    if of_lead or (state.product.is_lead and not is_sleeve and not _JACKET.search(sentence.text)):
        return
    word = (
        re.sub("(?i)abs", "ABS", match[1])
        if "abs" in match[1].lower()
        else "aluminium"
        if match[1].lower() in ("al", "alu")
        else match[1].lower().replace("aluminum", "aluminium")
    )
    say(state, sentence, f"body made of {word}")
