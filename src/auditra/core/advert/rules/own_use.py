"""What the device uses itself, of its supply or of the host's charge."""

from __future__ import annotations

import re

from auditra.core.advert.condition_forms import HOSTS, Means
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_ONLY_HEDGED = re.compile(
    r"(?i)\W*(?:(?:up to|at most|max\.?) )?\d+(?:\.\d+)? ?W(?: (?:at most|max\.?|peak|in use"
    r"|idle|in standby|with (?:all|everything)(?: sockets| ports)? (?:in use|running|busy|at work)"
    r"|with (?:none|nothing)(?: (?:plugged in|connected|in use|attached|at work|used))?"
    r"|(?:at|under|with) full load|at \d+(?:\.\d+)? ?[GM]b/s))?\W*"
)
_AT_RATE = re.compile(r" at (\d+(?:\.\d+)? ?[GM]b/s)")
_IN_USE = re.compile(r"(?i)\W*\d+(?:\.\d+)? ?W (?:in use|idle|in standby)\W*")
_USES = any_of(
    "draws?", "drawn", "uses", "keeping", r"consum\w+", "own use", r"keeps? (?:\w+ )?for itself",
    "(?:the )?(?:hub|dock|device|adapter|box) (?:itself )?(?:keeps|retains)",
    "(?:is|are) (?:used|taken|needed) by the (?:hub|dock|device|adapter|box)",
    "(?:the )?(?:hub|dock|device|adapter|box) itself (?:needs|takes)",
    r"(?:gets?|takes?|needs?|lives? on|runs on) (?:about |up to |less than |under |only |at most "
    r"|no more than )?\d[\d.]* ?(?:W"
    r"|watts?) from (?:the|your) (?:laptop|computer|host|phone|tablet)",
    "of which it keeps", r"(?:takes|keeps|needs) (?:about |up to )?\d[\d.]* ?W of (?:it|that|this|these)",
    "powered by (?:it|the (?:host|computer|laptop))", "reserve[sd]?(?! for)", "stays? in(?:side)?", "power draw",
    "idle(?! (?:one|hosts?|computers?|laptops?|PCs?))", "stand-?by", "for itself", "for its own",
    "remains? in the (?:hub|dock|device|adapter)",
    "for the (?:dock|hub|device|adapter)",
)  # fmt: skip
_SPLIT_WITH_HOST = re.compile(
    r"(?i)\b(?:hub|dock|device|adapter|box|it) (?:takes|needs|wants|has|uses|gets) (?:about |up to )?\d[\d.]* ?W"
    rf"(?: itself)?(?:,|;| and|, and) (?:the |your |a )?{HOSTS} (?:gets?|receives?|takes?|is left with|has|sees)\b"
)
"""``The hub takes 15 W, the laptop gets 85 W``: of one charger."""
_OF_INLET = any_of("inlet", "input", "power in", "PD", r"charg\w+")
_ASKED = re.compile(r"(?i)\bwhat does (?:it|the [\w-]+|your [\w-]+)(?: itself)? (?:draw|use|consume|need)\b")
_BY_ITSELF = begins_with("(?:by |for )?itself", "on its own")
"""``It draws 9 W by itself``: whatever hangs on it."""
_FEEDS_OVER_NETWORK = any_of("PoE", "power over ethernet")
_HANDED_ON = re.compile(r"(?i)\b(?:hands?|passe?s?) (?:on|over)\b|\b(?:hands?|passe?s?) the rest\b")
_FROM_BUS = ends_with(
    r"\bfrom the (?:host|computer|laptop|bus),?(?: up to| about)?",
    r"\bUSB-[AC] for power \((?:up to )?",
    r"\bbus[- ]powered,?(?: with| at)?(?: up to)?",
)
_WE_KEEP, _NEEDS = ends_with(r"\bwe keep"), ends_with(r"\b(?:needs?|takes?)(?: about| up to| at most)?")


def is_split_with_host(sentence: Sentence, figure: Figure) -> bool:
    """What the device keeps of a charger, before the more that the host gets of it."""
    rest = _rest_for_host(sentence, figure)
    return rest is not None and figure.value < rest.value


def goes_in_before_host(sentence: Sentence, figure: Figure) -> bool:
    """``It takes 100 W and the laptop gets 87 W``."""
    rest = _rest_for_host(sentence, figure)
    return rest is not None and figure.value > rest.value


def _rest_for_host(sentence: Sentence, figure: Figure) -> Figure | None:
    split = _SPLIT_WITH_HOST.search(sentence.text)
    if split is None or not split.start() <= figure.start < split.end():
        return None
    return next((each for each in sentence.of_dim(Dim.WATTS) if each.start >= figure.end), None)


def own_use(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    """``Draws 3 W``, ``15 W of it for the hub``, ``4 W idle, 11 W at most``."""
    kept = _WE_KEEP.search(sentence.before(figure)) is not None or _FROM_BUS.search(sentence.before(figure)) is not None
    part = sentence.part_of(figure)
    of_feeding = sentence.opened_before(figure) >= 0 and _FEEDS_OVER_NETWORK.search(sentence.text)
    of_network = state.product.is_network_switch or state.product.is_network_adapter
    bare = of_network and not of_feeding and not sentence.sockets_of("AC") and _ONLY_HEDGED.fullmatch(part) is not None
    earlier = [each for each in sentence.of_dim(Dim.WATTS) if each.end <= figure.start]
    told = sentence.own_words(earlier[0]) + sentence.over if earlier else ""
    goes_on_using = bool(earlier) and _USES.search(told) and not sentence.sockets_of("AC")
    bare = bare or (bool(goes_on_using) and _ONLY_HEDGED.fullmatch(part) is not None)
    in_use = not sentence.sockets_of("AC") and _IN_USE.fullmatch(sentence.own) is not None
    of_inlet = _OF_INLET.search(sentence.over) is not None
    needed = bare or in_use or (of_network and not of_inlet and _NEEDS.search(sentence.before(figure)) is not None)
    needed = needed or is_split_with_host(sentence, figure)
    needed = needed or _ASKED.search(sentence.clause.over) is not None
    uses = _USES.search(sentence.own_words(figure, masked=True)) is not None
    if not kept and not needed and (not uses or re.search(r"(?i)\b(?:share|exceed)", local)):
        return False
    if _HANDED_ON.search(sentence.text[earlier[-1].end if earlier else 0 : figure.start]):
        return False
    at_rate = _AT_RATE.match(sentence.behind(figure))
    under = under_what(sentence, figure)
    if _BY_ITSELF.match(sentence.behind(figure)):
        under = under.replace(f" {Means.ALONE}", "")
    under = under or (f" with {at_rate[1]}" if at_rate else "")
    say(state, sentence, f"body uses {figure.hedged}{under}")
    return True
