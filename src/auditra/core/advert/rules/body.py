"""The body: its size, weight, warmth and material, the length of its lead, how far it reaches, how many sockets."""

from __future__ import annotations

import re
from collections.abc import Callable

from auditra.core.advert.belonging import under_what
from auditra.core.advert.figures import Figure
from auditra.core.advert.of_another import of_another
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import say
from auditra.core.advert.rules.in_the_box import is_heading
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import NUMBERS, count_of
from auditra.core.advert.state import BOTH, State
from auditra.core.advert.units import Dim

_TAIL = any_of(
    "cords?",
    "cables?",
    "leads?",
    "tails?",
    "captive",
    "wire",
    "pigtail",
    "leash",
    "cordon",
    "c.ble",
    r"kabel\w*",
    "cavo",
)
_TAIL_BEFORE = re.compile(
    r"(?i)\b(?:host's|host|its|the|fixed|attached|short|long) (?:lead|cord|cable|tail) \($"
    r"|\b(?:lead|cord|cable|tail)(?: marked)?,? (?:USB-?)?[ABC\"]\b[^,;.(]{0,16}[,(] ?$|\b(?:lead|cord"
    r"|cable) marked [^,;.(]{3,16} \($"
)
_MEASURED_ALONE = re.compile(r"(?i)(?: long)? with(?:out)? (?:(?:the|its) (?:tail|lead|cord|cable)|it)\b")
_SUPPLY_FIRST = re.compile(
    r"(?i)\W*(?:power )?(?:supply|adapter|brick)\b(?!(?: of| for)? (?:the |your )?(?:host"
    r"|laptop))[^.;]{0,40}\d ?[VWA]\b"
)
"""``Supply 12 V 3 A, lead 1.5 m``."""
_CLAMPS = re.compile(r"(?i)\b(?:clamps?|edges?|table ?tops?)\b[^,;.]*$")
"""How thick a desk may be."""
_OF_DRIVES = re.compile(r"(?i)\b(?:drives?|disks?|SSDs?|HDDs?|bays?)\b")
_DRIVE_SIZES_M = (0.04572, 0.0635, 0.0889, 0.13335)
"""1.8, 2.5, 3.5 and 5.25 inches: sizes that drives are called by. Source: SFF-8201, SFF-8301, SFF-8501."""
_OF_BESIDE = re.compile(r"(?i)\s*\(?(?:for |is )?(?:the |its )?(?:(?:power )?supply|charger|packag)")
"""``300 g (supply)``: what lies beside the device."""
_OF_SUPPLY = re.compile(r"(?i)\W*(?:and )?(?:the |its )?(?:power )?(?:supply|brick|adapter|charger)(?: weighs)?:? \d")
"""``Weight: dock 310 g, supply 450 g``."""
_BEARS = re.compile(r"(?i)\b(?:holds?|bears?|supports?|carries|load)\b[^,.;]*$")
_REACH = any_of(
    "reach(?:es)?",
    "distance",
    r"up to \d+ m",
    "may stand",
    r"(?:stands?|sits?|be|bridges?|spans?|covers?|carries it) (?:up to )?\d+ m(?:et(?:re|er)s)?",
    r"\d+ m(?:et(?:re|er)s)? (?:away|apart)",
    r"\d+ m(?:et(?:re|er)s)? in (?:one|the same|a|the) room",
    "line of sight",
    "in the open",
    "range",
)
_SURELY_REACH = any_of("works? (?:up to|over)", "distance", "reach(?:es)?")
_OTHER_LENGTH = any_of(
    "drops?", "falls? from", r"desk(?! (?:dock|hub|box|switch|unit)\b)", "screen", "above (?:the )?sea", "mains",
    "power lead", "bag", "jack", "mm socket", "HDMI lead", "network", r"cat ?\d", "in the box", "joins", "supply",
    "remote", "button", "in the (?:bag|pack)",
)  # fmt: skip
_CATEGORY = re.compile(r"\b(cat\.? ?\d\w?)", re.IGNORECASE)
_SHORT_LEAD_M, _LEAD_BESIDE = 10.0, re.compile(r"(?i)\b(?:cable|lead|cord)\b")
_MEASURED = any_of("measured", "tested")
_IN_BAG_BEHIND = re.compile(r"(?i)\)?,? (?:is |lies )?in the (?:bag|pack)\b")
_IN_BAG = any_of("in the (?:bag|box|pack)", "included", "enclosed", "supplied", "comes with")
"""``Cat 6 cable (1 m) in the bag``: what lies beside the device."""
_CATEGORY_FOR = re.compile(r"\b(cat\.? ?\d\w?)(?: for|:| up to)? (?:up to )?$", re.IGNORECASE)
_SLOT, _JACKS = any_of("slot"), re.compile(r"sockets?|jack", re.IGNORECASE)
SPREAD = re.compile(r",? \(?(?:give or take|\+/-|±) (\d+(?:[.,]\d+)? ?(?:mm|cm|in))", re.IGNORECASE)
SPREAD_BEFORE = re.compile(r"(?:give or take|\+/-|±)\s*$", re.IGNORECASE)
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
_LEAST_REACH_M = 1.0
_SAME_SIZE_M = 1e-4
_BESIDE = 40
"""Characters of its part on either side in which a length is said to be of something else."""
_WIDEST_SLOT_M, _LONGEST_ADAPTER_M, _LONGEST_BODY_M = 0.06, 0.5, 3.0
_LEAST_TAIL_M, _MOST_TAIL_M = 0.05, 1.0
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


def _length(state: State, sentence: Sentence, figure: Figure) -> None:
    """Of the slot, the reach, the tail or the body: the first reader that recognises it."""
    if state.product.is_lead:
        return
    if sentence.is_said_in_metric(figure) or _IN_BAG_BEHIND.match(sentence.behind(figure)):
        return
    if any(abs(figure.value - size) < _SAME_SIZE_M for size in _DRIVE_SIZES_M) and _OF_DRIVES.search(sentence.text):
        return
    any(read(state, sentence, figure, sentence.part_of(figure)) for read in _LENGTHS)


def _slot(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    if not _SLOT.search(part) or figure.value >= _WIDEST_SLOT_M or _JACKS.search(part):
        return False
    say(state, sentence, f"body slot width {figure.hedged}")
    return True


def _by_category(state: State, sentence: Sentence, figure: Figure, _: str) -> bool:
    near = sentence.before(figure, 34) + sentence.text[figure.start : figure.end] + sentence.behind(figure, 26)
    earlier = [*_CATEGORY.finditer(sentence.before(figure, 34))][-1:]
    match = (
        _CATEGORY_FOR.search(sentence.before(figure, 34))
        or _CATEGORY.search(sentence.behind(figure, 26))
        or (earlier[0] if earlier else _CATEGORY.search(near))
    )
    if match is None or figure.value < _LEAST_REACH_M:
        return False
    if _MEASURED.search(sentence.text):
        return True  # over what lead somebody measured
    if figure.value < _SHORT_LEAD_M and _LEAD_BESIDE.search(near) and _IN_BAG.search(sentence.text):
        return False
    category = re.sub(r"(?i)cat\.? ?", "Cat ", match[1])
    say(state, sentence, f"body reaches {figure.hedged} with {category}")
    return True


def _reach(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    near = sentence.before(figure, 34) + sentence.text[figure.start : figure.end] + sentence.behind(figure, 26)
    is_tail = _TAIL.search(part.replace("network lead", "")) and not _SURELY_REACH.search(part)
    if not _REACH.search(near) or figure.value < 1 or is_tail:
        return False
    if not re.search(r"(?i)through a wall", sentence.behind(figure, 20)):
        say(state, sentence, f"body reaches {figure.hedged}{under_what(sentence, figure)}")
    return True


def _tail(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    earlier = [each.end for each in sentence.of_dim(Dim.LENGTH) if each.end <= figure.start]
    if (
        earlier
        and earlier[-1] > sentence.text.rfind(part)
        and not _TAIL.search(sentence.text[earlier[-1] : figure.end + 12])
    ):
        return False  # behind the length of the tail another one
    told = _TAIL.search(part) or _TAIL.search(sentence.clause.over) or _TAIL_BEFORE.search(sentence.before(figure))
    several = re.search(r"(?i)(?:\d x|\b(?:two|three|four|2|3|4)) $", sentence.before(figure)) is not None
    place = sentence.text.find(part, max(0, figure.start - len(part)))
    near = sentence.text[max(place, figure.start - _BESIDE) : figure.end] + part[figure.end - place :][:_BESIDE]
    if not told or several or _OTHER_LENGTH.search(near) or _CLAMPS.search(sentence.before(figure, 40)):
        return False
    if not SPREAD_BEFORE.search(sentence.before(figure)):
        spread = SPREAD.match(sentence.behind(figure))
        words = figure.hedged if figure.hedge == "about" else figure.text
        say(state, sentence, f"UP length {words}{f' give or take {spread[1]}' if spread else ''}")
    return True


def _without_tail(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    """``It measures 6 cm without the tail``."""
    told = _MEASURED_ALONE.match(sentence.behind(figure))
    if told is None or not re.search(r"(?i)\b(?:measures|long|length|is)\b", sentence.text):
        return False
    say(state, sentence, f"body length {figure.text}")
    return True


def _long_tail(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    """``Length 2 m`` of an adapter: longer than any body is."""
    if not re.search(r"(?i)\blength\b", part + sentence.clause.over) or figure.value < _LONGEST_ADAPTER_M:
        return False
    say(state, sentence, f"UP length {figure.text}")
    return True


def _mains(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    of_supply = _SUPPLY_FIRST.match(sentence.text) and _LEAD_BESIDE.search(part)
    if not of_supply and not re.search(r"(?i)\b(?:mains|supply|power) lead\b", part):
        return False
    say(state, sentence, f"P1 length {figure.text}")
    return True


def _bare(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    """A length in a list by itself is that of the tail."""
    others = [sentence.text[each.start : each.end] for each in sentence.figures if each.start >= sentence.shift]
    alone = re.fullmatch(r"(?:\W|and)*", re.sub("|".join(map(re.escape, others)), "", part))
    is_item = (
        "," in sentence.text
        or len(others) > 1
        or sentence.own.strip(" .") == sentence.text[figure.start : figure.end].strip(" .")
    )
    alone = alone if _CLAMPS.search(sentence.before(figure, 40)) is None else None
    if not alone or not _LEAST_TAIL_M <= figure.value <= _MOST_TAIL_M or not is_item:
        return False
    say(state, sentence, f"UP length {figure.text}")
    return True


def _long(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    if not re.search(r"(?i)\b(?:long|length)\b", part + sentence.clause.over) or figure.value >= _LONGEST_BODY_M:
        return False
    of_tail = re.search(r"(?i)\b(?:lead|cord|cable|tail|wire), $", sentence.before(figure))
    say(state, sentence, f"{'UP' if of_tail else 'body'} length {figure.text}")
    return True


_LENGTHS: tuple[Callable[[State, Sentence, Figure, str], bool], ...] = (
    _slot, _by_category, _reach, _without_tail, _mains, _tail, _long_tail, _bare, _long,
)  # fmt: skip
_READERS: dict[Dim, Callable[[State, Sentence, Figure], None]] = {
    Dim.MASS: _mass, Dim.BOX: _size, Dim.LENGTH: _length, Dim.CELSIUS: _warmth, Dim.IN_ONE: _in_one,
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
    alone = match is not None and match[0] == sentence.own.strip(" .")
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
