"""Power: what sockets give and share, what the inlet takes and passes on; the readers of each figure in order."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import replace

from auditra.core.advert.belonging import OF_A_NUMBER, ids_of, subjects
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what, with_all_in_use
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import GIVES, promise, say
from auditra.core.advert.references import goes_on
from auditra.core.advert.rules.amperes import SHARE_VERB, SHARED, amperes
from auditra.core.advert.rules.combinations import combined
from auditra.core.advert.rules.host_charge import host_by_key, host_by_words
from auditra.core.advert.rules.in_the_box import is_heading, is_of_enclosed_lead
from auditra.core.advert.rules.inlet import (
    in_through,
    inlet_by_words,
    inlet_surely,
    passed,
    power_delivery,
    takes,
)
from auditra.core.advert.rules.own_use import own_use
from auditra.core.advert.rules.parts import counted_part
from auditra.core.advert.rules.several import (
    beside_another,
    is_sum,
    is_with_other,
    keyed_sum,
    listed_sums,
    named_at_once,
    one_and_other,
    one_each,
    pair_at_once,
    two_at_once,
    while_others,
)
from auditra.core.advert.rules.steps import steps, total_of_steps
from auditra.core.advert.rules.supplies import comes_along, is_of_supply
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import COUNT_WORDS, count_of
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_WITHOUT_RANGE = begins_with(r"(?:without|with no|outside|below) (?:the )?(?:EPR|PPS|AVS|extended)")
"""Of gear that cannot take the figure before it."""
_FED_OVER_NETWORK = re.compile(
    rf"(?i)\b(\d{{1,2}}|{COUNT_WORDS})(?: ports?| sockets?)?(?: of (?:them|which|these))? (?:feed|power|supply"
    rf"|carry power|give power"
    r"|with PoE|PoE)\b|\bof which (\d{1,2}) (?:feed|power|supply)"
)
"""``5 (4 of them feed cameras)``: how many sockets of a switch feed what hangs on them."""
_RUN_OVER_NETWORK = re.compile(
    r"(?i)\b(\d{1,2}) ?(?:-|to) ?(\d{1,2}) (?:with|have|feed|carry|do) PoE\b|\bPoE on (\d{1,2}) ?(?:-|to) ?(\d{1,2})\b"
)
"""``of these 1-4 with PoE``."""
_OF_CHARGERS = ends_with(r"\b(?:charger|supply|adapter|brick)'s")
"""``85 W of your charger's 100 W``."""
_TAKES_CHARGER = ends_with(r"\b(?:takes|accepts)(?: an?| any| the| your)?(?: \w+)?")
_CHARGER_BEHIND = begins_with("(?:USB-C |PD )?(?:charger|supply|power supply|adapter|brick)")
"""``Takes a 100 W charger``."""
_PAD = any_of("wireless(?:ly)? charg\\w*", "charging pad", "inductive")
_ON_PAD = ends_with(r"\b(?:phones?|earbuds|buds|watch|watches)(?: up to)?:?")
"""What lies on a pad."""
_BOX_BEFORE = re.compile(r"(?i)[^,;.]{0,40}\b(?:dock|docking station|hub)\b")
_MORE_THAN_PHONES_W = 60.0
"""What a dock gives to a phone at one of its sockets is less."""
_SPEAKERS = ends_with(r"\bspeakers?:?(?: \d ?x)?")
_PER_PORT = begins_with(r"\(?(?:per|each|for each|on each|at each)\b")
_REFERS = any_of(
    "each", "(?:for|to) every(?: (?:device|one|socket))?", "per", "gives?", "output", "both", "them", "all", "alone"
)
_CHARGE_OPENS = ends_with(r"\b(?:the|its) charge \((?:up to )?")
"""``that computer has the screen and the charge (100 W over its USB-C)``."""
_IN_KEY = re.compile(r"(?i)\W*(?:charging|charger|charge|power|PD|DC)[ _-]in(?:put|let)?\W*")
_CHARGES_WITH = re.compile(r"(?i)\bcharges? with\b|\bcharging[^.;,]{0,12}$|\bcharging up from \d+ ?W to $")
_CHARGES_THEM = ends_with(r"\bcharges? (?:it|them|either(?: of them)?|both(?: of them)?|any of them) with(?: up to)?")
_CHARGING_IS = ends_with(
    r"(?:^|[,;] )charging at(?: up to)?",
    r"\bcharging (?:goes on|continues)(?: with| at)?(?: up to)?",
    r"\bcharges while (?:in use|you \w+|it (?:runs|works))(?: \(| with)?(?: ?up to)?",
    r"\bcharging (?:is|runs at|comes to|stays at)(?: up to)?",
)
_IT_CHARGES = re.compile(r"(?i)^\W*(?:and )?(?:it )?charges with (?:up to )?$")
"""``HDMI 4K30, charges with 60 W``: the host."""
_CHARGING_BEHIND = re.compile(
    r" keeps? (?:it|your \w+|the \w+) charged| (?:of )?charging(?=\s*(?:[*†‡,;.|\[()]|$))", re.IGNORECASE
)
_OF_ANOTHER_KEY = any_of("sockets?", "ports?", "to", "bus", "link", "PD")
"""Keys of sockets that are not those of before."""
_OF_BOTH = begins_with("for both", "both together", "for the two", "together", "between (?:both|them)")
_SHARED_BY = re.compile(rf"(?i),? (?:is )?shared (?:by|between|among) (?:the )?({COUNT_WORDS}|\d)\b")
"""``A: 12 W shared by two``."""
_FOR_SO_MANY = re.compile(rf"(?i)\s*for (?:the|all)(?: \w+)? ({COUNT_WORDS}|\d)\b")
_OF_ANY = re.compile(r"(?i)\bany (?:two|three|other)\b[^,.;]*$")
_ALL_OF_THEM = re.compile(
    r"(?i)\W*(?:all(?: (?:two|three|four|five|\d))?(?: in use| together| at once)?|everything(?: in use)?)\s*:"
)
_LEADS_ON = re.compile(r"(?i)\W*(?:up to|max\.?|at most|of)?\W*")
"""``C (20 W), together 30 W``: the word is of the next figure."""
_BUDGET = re.compile(r"(?i)\bbudget(?: of|:)? (?:up to )?$")
_BUDGET_KEY = any_of("budget")
_OF_DELIVERY = re.compile(r"\bPD(?: \d\.\d)? (?:up to )?$", re.IGNORECASE)

Reader = Callable[[State, Sentence, Figure, str], bool]


_OF_THE_MAINS_W = 1000.0
"""Far above what USB gives. Source: USB PD 3.1, 10.2: 240 W at most."""
_ITEM_BEFORE, _MORE_THAN_A_W = ends_with("and", ",", "with"), 45.0
_STEPS_BEHIND, _COMES_WITH = begins_with("steps", "increments", "resolution"), ends_with(r"\bcomes? with(?: an?)?")
_BEGINNING = 4
_TITLE_BEHIND = begins_with("(?:PD |fast |power )?(?:charging|delivery)(?= ?:)")
_WIRELESS = begins_with("(?:of )?(?:wireless|inductive|contactless|Qi)\\b")
_CARRIED_BY_LEAD = ends_with(
    r"\b(?:cable|lead|cord) (?:carries|takes|handles|transfers|transmits|can (?:carry|take|handle)"
    r"|is (?:good|rated|made|meant|specified) for)(?: only)?(?: up to)?"
)
"""``The supplied cable carries 60 W``: what a lead can bear, and no socket gives."""


def power(state: State, sentence: Sentence) -> None:
    """Tables of steps first; then each figure of watts and of amperes."""
    if state.product.is_lead:
        return
    of_unknown = OF_A_NUMBER.match(sentence.own) and not sentence.sockets_of("ACN")
    if is_heading(sentence.clause.over) or of_unknown:
        return
    if steps(state, sentence):
        total_of_steps(state, sentence)
        return
    if (
        listed_sums(state, sentence)
        or keyed_sum(state, sentence)
        or combined(state, sentence)
        or two_at_once(state, sentence)
    ):
        return
    if beside_another(state, sentence):
        return
    paired = one_each(state, sentence)
    if not paired and is_sum(state, sentence):
        return
    paired += one_and_other(state, sentence) or pair_at_once(state, sentence) or named_at_once(state, sentence)
    _each(state, sentence, [figure for figure in sentence.of_dim(Dim.WATTS) if figure not in paired])
    for figure in sentence.of_dim(Dim.AMPERES):
        amperes(state, sentence, figure)


def _each(state: State, sentence: Sentence, watts: Sequence[Figure]) -> None:
    """Each figure by the first reader that knows what it is of."""
    several = len(list(sentence.of_dim(Dim.WATTS))) > 1 and _ALL_OF_THEM.match(sentence.over) is not None
    for figure in watts:
        if several and not figure.each:
            _shared(state, sentence, figure, sentence.part_of(figure))
            continue
        in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions)
        if _is_translated(sentence, figure) or _is_title_of_item(sentence, figure):
            continue
        if _is_of_something_else(state, sentence, figure):
            continue
        if _CARRIED_BY_LEAD.search(sentence.before(figure)) or is_of_enclosed_lead(sentence):
            continue
        if (
            not in_condition
            and _TAKES_CHARGER.search(sentence.before(figure, 30))
            and _CHARGER_BEHIND.match(sentence.behind(figure))
        ):
            takes(state, sentence, figure)
            continue
        if not in_condition and not comes_along(state, sentence, figure) and not is_of_supply(sentence, figure):
            any(read(state, sentence, figure, sentence.own_words(figure)) for read in _READERS)


def _is_of_something_else(state: State, sentence: Sentence, figure: Figure) -> bool:
    """Of the mains, of speakers, of a charger that is spoken of, or of a pad for phones."""
    before = sentence.before(figure, 24)
    if _STEPS_BEHIND.match(sentence.behind(figure)) or _COMES_WITH.search(before):
        return True
    if _WIRELESS.match(sentence.behind(figure)) or figure.value >= _OF_THE_MAINS_W:
        return True
    on_pad = _ON_PAD.search(before) is not None and _PAD.search(state.text) is not None
    return on_pad or _SPEAKERS.search(before) is not None or _OF_CHARGERS.search(before) is not None


def _is_title_of_item(sentence: Sentence, figure: Figure) -> bool:
    """``100 W charging: takes up to 100 W and passes 87 W``: what follows says what it means."""
    is_last = figure is list(sentence.of_dim(Dim.WATTS))[-1]
    return not is_last and figure.start < _BEGINNING and _TITLE_BEHIND.match(sentence.behind(figure)) is not None


def _is_translated(sentence: Sentence, figure: Figure) -> bool:
    """``alimentation 60 W / 60 W charging``: the same in another language."""
    before = [each for each in sentence.of_dim(Dim.WATTS) if each.end <= figure.start]
    return bool(before) and before[-1].value == figure.value and sentence.text[before[-1].end : figure.start] == " / "


def _shared(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    if _OF_ANY.search(sentence.before(figure)):
        return True  # of some of them, and the text does not say of which
    places = [each.start for each in sentence.of_dim(Dim.WATTS)] + [each.start for each in sentence.sockets_of("AC")]
    following = min((place for place in places if place > figure.start), default=len(sentence.text))
    behind_it = sentence.text[figure.end : min(figure.end + 40, following)].partition(" / ")[0]
    shared = SHARED.search(behind_it)
    is_of_next = shared is not None and _LEADS_ON.fullmatch(behind_it, shared.end()) and behind_it[0] in ",;)"
    in_budget = _BUDGET.search(sentence.before(figure)) or (
        _BUDGET_KEY.search(sentence.over) and len(list(sentence.of_dim(Dim.WATTS))) == 1
    )
    of_all = (shared and not is_of_next) or SHARED.search(local) or in_budget
    if figure.each or not of_all:
        return False
    letters = _letters(state)
    found = sentence.sockets_of(letters)
    if (opened := sentence.opened_before(figure)) >= 0:
        found = [socket for socket in found if socket.end <= opened][-1:]
    if SHARE_VERB.search(sentence.before(figure)):
        found = subjects(state, sentence, figure, letters)[0]
    behind = [socket for socket in found if socket.start > figure.end]
    before = [socket for socket in found if socket.end <= figure.start and (socket.count or 0) > 1]
    if before and behind and _OF_BOTH.match(sentence.behind(figure)):
        found, behind = before[-1:], []
    if behind and re.search(r"(?i)shared by", sentence.text[figure.end : behind[0].start]):
        found = behind
    ids = ids_of(state, found, "shares") if found else list(state.numbers.all_of(letters))
    by_so_many = _SHARED_BY.match(sentence.behind(figure))
    if by_so_many and len({each.letter for each in found}) == 1 and len(ids) < count_of(by_so_many[1]):
        ids = ids_of(state, [replace(found[-1], count=count_of(by_so_many[1]))], "shares", again=True)
    if not found and (goes_on(state, sentence) or re.search(r"(?i)between them", sentence.text)):
        ids = ids_of(state, [socket for socket in state.subject if socket.letter in letters], "shares") or ids
    for_some = _FOR_SO_MANY.match(sentence.behind(figure))
    ids = ids[: count_of(for_some[1])] if for_some else ids
    ids = ids[: _fed_over_network(state)] if _fed_over_network(state) else ids
    if len(ids) > 1:
        say(state, sentence, f"{'+'.join(ids)} share {figure.hedged}{under_what(sentence, figure)}")
    return True


def _fed_over_network(state: State) -> int:
    """How many sockets of a network switch feed what hangs on them; 0 where it is not said."""
    if not state.product.is_network_switch:
        return 0
    if run := _fed_sockets(state.text):
        return len(run)
    told = _FED_OVER_NETWORK.search(state.text)
    return count_of(told[1] or told[2]) if told else 0


def _fed_sockets(text: str) -> range:
    """The numbers of ``PoE on 1-4``."""
    run = _RUN_OVER_NETWORK.search(text)
    return range(int(run[1] or run[3]), int(run[2] or run[4]) + 1) if run else range(0)


def _charges_with(state: State, sentence: Sentence, figure: Figure, _: str) -> bool:
    nearest = sentence.nearest_before(figure)
    of_another = nearest is None or nearest.letter not in "AC"
    before, behind = sentence.before(figure, 30), sentence.behind(figure, 16)
    part, found_here = re.split(r"[,;()|]", sentence.before(figure))[-1], sentence.sockets_of("AC")
    charging = _CHARGING_BEHIND.match(behind) or re.search(r"(?i), charging $", before)
    of_another = of_another or (nearest is not None and nearest.is_plug)
    is_charging = charging is not None and of_another and not state.product.is_charger
    if _IN_KEY.fullmatch(sentence.clause.over):
        return takes(state, sentence, figure)
    in_key = any(
        each.end <= sentence.shift or not sentence.own[: each.start - sentence.shift].strip() for each in found_here
    )
    apart = not in_key and not any(
        each.start >= figure.start - len(part) and each.end <= figure.start for each in found_here
    )
    by_itself = (
        _CHARGE_OPENS.search(sentence.before(figure)) is not None
        or _CHARGING_IS.search(before) is not None
        or _CHARGES_THEM.search(before) is not None
    )
    by_itself = by_itself or (not state.product.is_charger and apart and _IT_CHARGES.search(part) is not None)
    if (
        not is_charging
        and not by_itself
        and (_found(state, sentence, figure) or not _CHARGES_WITH.search(sentence.before(figure, 30)))
    ):
        return False
    say(state, sentence, f"UP charges host {figure.hedged}{under_what(sentence, figure)}")
    return True


def _is_of_the_inlet(state: State, sentence: Sentence, figure: Figure, found: Sequence[Socket]) -> bool:
    """``Hub with 3 USB 3.0 and 100 W charging``: more than a USB-A socket gives, and an item of its own."""
    is_item = _ITEM_BEFORE.search(sentence.before(figure)) is not None and _CHARGING_BEHIND.match(
        sentence.behind(figure)
    )
    only_a = all(each.letter == "A" and each.end <= figure.start for each in found)
    return bool(is_item) and only_a and figure.value >= _MORE_THAN_A_W and not state.product.is_charger


def _socket_gives(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    if _WITHOUT_RANGE.match(sentence.behind(figure)):
        return False
    found = _found(state, sentence, figure)
    if state.product.is_charger and found and _OF_DELIVERY.search(sentence.before(figure, 12)):
        by_delivery = [each for each in sentence.sockets_of("C") if each.end <= figure.start]
        found = by_delivery[-1:] or found  # a USB-A socket has no Power Delivery
    if not found and _PER_PORT.match(sentence.behind(figure)) and (fed := _fed_over_network(state)):
        found = [Socket(0, 0, "N", fed, tuple(range(1, fed + 1)))]
    if state.product.is_network_switch and (run := _fed_sockets(sentence.before(figure))):
        found = [Socket(0, 0, "N", len(run), tuple(run))]
    none_known = not state.numbers.ids("C") and not state.numbers.ids("A")
    if not found and state.product.is_charger and none_known and re.search(r"(?i)\bgives?\b|\boutput\b", local):
        found = [Socket(0, 0, "C", 1)]
    if found and _is_of_the_inlet(state, sentence, figure, found):
        return takes(state, sentence, figure)
    only_a = bool(found) and all(each.letter == "A" for each in found)
    if only_a and figure.value > _MORE_THAN_A_W and not state.product.is_charger:
        return False  # no USB-A socket of a hub or dock gives so much
    if _is_of_title(state, sentence, figure, found):
        return takes(state, sentence, figure)
    chosen = counted_part(state, sentence, figure, found) or found
    again = bool(under_what(sentence, figure)) or with_all_in_use(sentence, figure) or is_with_other(sentence)
    ids = ids_of(state, chosen, "gives", again=again)
    if ids and not while_others(state, sentence, figure, ids):
        promise(state, sentence, ids, GIVES, figure)
    return bool(ids)


_READERS: tuple[Reader, ...] = (
    host_by_key, own_use, _shared, in_through, inlet_surely, host_by_words, power_delivery, passed, _charges_with,
    inlet_by_words, _socket_gives,
)  # fmt: skip


def _is_of_title(state: State, sentence: Sentence, figure: Figure, found: Sequence[Socket]) -> bool:
    """``Docking station USB-C 100 W, 2x DisplayPort``: at the beginning, more than a socket gives to a phone."""
    is_first = not state.text[: sentence.clause.start].strip() and _BOX_BEFORE.match(sentence.text) is not None
    alone = len(found) == 1 and found[0].letter == "C" and found[0].count is None and not found[0].ids
    beside = alone and sentence.text[found[0].end : figure.start].strip() == ""
    return is_first and beside and figure.value >= _MORE_THAN_PHONES_W and not state.product.is_charger


def _letters(state: State) -> str:
    return "ACN" if state.product.is_network_switch else "AC"


def _is_second(sentence: Sentence, figure: Figure) -> bool:
    """``Each gives 15 W with the supply, else 7.5 W``."""
    return any(each.end <= figure.start for each in sentence.of_dim(figure.dim))


def _found(state: State, sentence: Sentence, figure: Figure) -> list[Socket]:
    """The sockets of a figure; those of an earlier sentence only where it refers to them."""
    found, carried = subjects(state, sentence, figure, _letters(state))
    is_all = re.sub(r"\([^)]*\)|[ .]+$", "", sentence.own).strip() == sentence.text[figure.start : figure.end]
    if carried and (is_all or (goes_on(state, sentence) and sentence.conditions)):
        return found
    if carried and sentence.conditions and _REFERS.search(sentence.own) and _is_second(sentence, figure):
        return found
    of_power = sentence.clause.over and not _OF_ANOTHER_KEY.search(sentence.clause.over)
    if carried and not (figure.each or _REFERS.search(sentence.own_words(figure)) or of_power):
        return []
    return found
