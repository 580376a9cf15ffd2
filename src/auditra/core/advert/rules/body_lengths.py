"""Lengths of a device: of its slot, how far it reaches, of its tail, of the body itself."""

from __future__ import annotations

import re
from collections.abc import Callable

from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
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
_BEYOND = re.compile(r"(?i)\b(?:over|beyond|above|(?<!not )(?<!no )(?:more|longer) than) $")
"""``With leads over 60 m it falls to 1 Gb/s``."""
_ANOTHER_LEAD = re.compile(r"(?i)\b(?:an?|one) (?:longer|shorter|second|spare)(?: one| lead| cable| cord)?,? \(?$")
"""``15 cm (a longer one, 1 m, is in the box)``."""
_IN_BAG_BEHIND = re.compile(r"(?i)\)?,? (?:is |lies )?in the (?:bag|pack)\b")
_IN_BAG = any_of("in the (?:bag|box|pack)", "included", "enclosed", "supplied", "comes with")
"""``Cat 6 cable (1 m) in the bag``: what lies beside the device."""
_CATEGORY_FOR = re.compile(r"\b(cat\.? ?\d\w?)(?: for|:| up to)? (?:up to )?$", re.IGNORECASE)
_THICK, _FITS = re.compile(r"(?i) (?:thick|deep)\b"), any_of("fits?", "takes?", "holds?", "accepts?", "for")
_SLOT, _JACKS = any_of("slot"), re.compile(r"sockets?|jack", re.IGNORECASE)
SPREAD = re.compile(r",? \(?(?:give or take|\+/-|±) (\d+(?:[.,]\d+)? ?(?:mm|cm|in))", re.IGNORECASE)
SPREAD_BEFORE = re.compile(r"(?:give or take|\+/-|±)\s*$", re.IGNORECASE)
_RACK_M = 0.4826
"""19 inches, the width of a rack. Source: IEC 60297-3-100."""
_LEAST_REACH_M = 1.0
_SAME_SIZE_M = 1e-4
_BESIDE = 40
"""Characters of its part on either side in which a length is said to be of something else."""
_WIDEST_SLOT_M, _LONGEST_ADAPTER_M, _LONGEST_BODY_M = 0.06, 0.5, 3.0
_LEAST_TAIL_M, _MOST_TAIL_M = 0.05, 1.0


def body_length(state: State, sentence: Sentence, figure: Figure) -> None:
    """Of the slot, the reach, the tail or the body: the first reader that recognises it."""
    if state.product.is_lead:
        return
    if state.product.is_network_switch and abs(figure.value - _RACK_M) < _SAME_SIZE_M:
        return
    if (
        _BEYOND.search(sentence.before(figure))
        or _ANOTHER_LEAD.search(sentence.before(figure))
        or sentence.is_said_in_metric(figure)
        or _IN_BAG_BEHIND.match(sentence.behind(figure))
    ):
        return
    if any(abs(figure.value - size) < _SAME_SIZE_M for size in _DRIVE_SIZES_M) and _OF_DRIVES.search(sentence.text):
        return
    any(read(state, sentence, figure, sentence.part_of(figure)) for read in _LENGTHS)


def _slot(state: State, sentence: Sentence, figure: Figure, part: str) -> bool:
    fits = _THICK.match(sentence.behind(figure)) is not None and _FITS.search(sentence.text) is not None
    if not (fits or _SLOT.search(part)) or figure.value >= _WIDEST_SLOT_M or _JACKS.search(part):
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
    near = f"{part} {sentence.clause.over}"
    if (
        not re.search(r"(?i)\b(?:long|length|no longer than|not longer than)\b", near)
        or figure.value >= _LONGEST_BODY_M
    ):
        return False
    of_tail = re.search(r"(?i)\b(?:lead|cord|cable|tail|wire), $", sentence.before(figure))
    words = figure.hedged if "longer" in part else figure.text
    say(state, sentence, f"{'UP' if of_tail else 'body'} length {words}")
    return True


_LENGTHS: tuple[Callable[[State, Sentence, Figure, str], bool], ...] = (
    _slot, _by_category, _reach, _without_tail, _mains, _tail, _long_tail, _bare, _long,
)  # fmt: skip
