"""Rates of links: of USB sockets and of the link to the host."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise

from auditra.core.advert.belonging import ids_of, subjects
from auditra.core.advert.figures import Figure, figures
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import CARDS, DATA, LINKS, promise, say_of
from auditra.core.advert.references import goes_on
from auditra.core.advert.rules.host_link import (
    KEY_OF_LEAD,
    TOGETHER,
    attached_by,
    of_its_lead,
    of_one_link,
    of_plug_before,
    of_uplink,
    sockets_of_rate,
    uplink,
)
from auditra.core.advert.rules.in_the_box import is_heading, is_of_enclosed_lead
from auditra.core.advert.rules.networks import (
    FASTEST_BPS,
    NETWORK,
    falls_back,
    has_said_rate,
    is_of_a_host,
    of_named_network,
    of_network_adapter,
    of_network_switch,
    said_of_network,
    under_network,
)
from auditra.core.advert.rules.parts import counted_part
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import COUNT_WORDS, count_of
from auditra.core.advert.sockets import Socket, named_anywhere
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_ALL_SOCKETS = re.compile(
    r"\b(?:all|each of|every one of)(?: the| its| of the)?(?: (?:two|three|four|five|six|seven|eight|ten|\d{1,2}))?"
    r" (?:USB )?(?:sockets|ports)\b|^\W*(?:all|each|every one)(?: of them)? (?:do|does|runs?|have|has|carry|carries"
    r"|works?|reach)\b|^\W*all(?: of them| two| three| four| five| six| seven| eight| ten| \d{1,2})?\s*[:=]",
    re.IGNORECASE,
)
_EVERY_ONE = re.compile(r"(?i)\W*(?:all|each|every one)(?: of (?:them|these))?(?: (?:at|is|are|runs? at))? (?=\d)")
_RATE_KEY = re.compile(r"\W*\d[\d.]* ?[GM]b(?:/s|ps|it/s)\s*:", re.IGNORECASE)
_ONLY_CLASSES = re.compile(r"(?i)(?:[\s,.;&+]|and|\d|x|USB-?[AC]|USB|type|[AC]|front|rear|left|right|sockets?|ports?)+")
_ON_ALL = re.compile(
    rf"(?i)\s*(?:(?:on|at|for|over) )?(?:all|each|every one)(?: of)?(?: them| these)?(?: (?:\d"
    rf"|{COUNT_WORDS}))?(?=\s*(?:[.,;]|$))"
)
_EVERY_USB = re.compile(r"\b(?:every|all|each|any)(?: of)?(?: the| its)? USB (?:sockets?|ports?)\b", re.IGNORECASE)
_EXCEPT = any_of("except", "but for", "apart from", "save")
_LINKS = any_of("links? at", "it links", "the link")
_WAY_BEHIND = re.compile(r"\s*\(?(up|down)\b(?! to)", re.IGNORECASE)
_WAY_BEFORE = re.compile(r"(?i)\b(up|down)(?:wards?|stream)?\b(?! to \d)")
_TIMES_BEHIND = re.compile(r"\s*x\s?(\d{1,2})\b")
_FROM_TO = re.compile(r"\b([AC]\d?) to ([AC]\d?)\b")
_SHARES = ends_with(r"\ba total of", r"\bshar(?:e|es|ed|ing) (?:the |a |one )?(?:same )?(?:link of |total of )?")
_SHARED_BEHIND = re.compile(r"(?i)\s*,? ?(?:which|that) (?:they|all|both|the \w+) shares?\b|,?\s*\(?shared\b")
_LINK_BEFORE = any_of("upstream", "uplink", "host")
"""``Upstream 10 Gb/s, shared by all``."""
_MEASURED_BEHIND = begins_with(r"\(?(?:measured|in our (?:test|lab))")
_TOTAL_BEHIND = begins_with(r"\(?(?:in )?total", "combined", "aggregate", "altogether")
_HUB_PORTS = re.compile(
    rf"(?i)\bUSB\b[^\n]{{0,16}}\bhub\b[^.\n]{{0,12}}?\b(\d|{COUNT_WORDS})[- ]ports?\b"
    rf"|\b(\d|{COUNT_WORDS})[- ]port USB\b[^\n]{{0,12}}\bhub\b"
)
_USB_ALONE = re.compile(r"(?:^|[\s:])USB $")
_BEGINNING = 100
"""Characters in which a hub says what it is."""
_ONE_AND_NEXT = re.compile(r"\s*(?:,|and|, and|\+|&)\s*", re.IGNORECASE)
_SOCKETS_SHARE = re.compile(r"(?i)\b(?:sockets|ports|USB-[AC]) share (?:the |a )?(?:link of )?(?:up to )?$")
_LEADS = any_of("cables?", "leads?", "cords?")
_BAYS_BEFORE = ends_with(r"\b(?:bays|drives|disks),?(?: at| with)?")
_OF_STORES = any_of("drives?", "disks?", "bays?")
_OF_DISKS = ends_with(r"\bSATA(?: ?(?:III|3(?:\.\d)?|II|2))?,? ?\(?")
"""The rate of the bus inside."""
_DOWN_TO = ends_with(r"\bdown to", r"\d ?W at")
_LINKS_BPS = (480e6, 5e9, 10e9, 20e9, 40e9)
"""Source: USB 2.0, 4.2.1; USB 3.2, 1.1; USB4, 1.1."""
_ONLY_NETWORK_BPS, _SLOWER_NETWORKS_BPS = 2.5e9, (100e6, 1e9)
"""Source: IEEE 802.3, 126 (2.5GBASE-T)."""
_FASTEST_CARD = 2e9
"""In the bits that were written for bytes. Source: SD Physical Layer 9.10 ends at 1969 MB/s for one lane."""


def rates(state: State, sentence: Sentence) -> None:
    """Each rate in bits: the first reader that knows whose it is takes it."""
    if state.product.is_lead:
        return
    if is_heading(sentence.clause.over) and _LEADS.search(sentence.own):
        return
    if _is_listed_on(state, sentence):
        return
    done = _one_each(state, sentence)
    for figure in (each for each in sentence.of_dim(Dim.RATE) if each not in done):
        if any(each.start <= figure.start < each.end for each in sentence.conditions if each.words):
            continue
        if (
            _TOTAL_BEHIND.match(sentence.behind(figure))
            or _MEASURED_BEHIND.match(sentence.behind(figure))
            or TOGETHER.search(sentence.part_of(figure))
        ):
            continue
        if _is_of_a_store(state, sentence, figure) or _is_of_the_lead(sentence):
            continue
        of_link = _LINK_BEFORE.search(sentence.before(figure)) is not None
        if (_SHARED_BEHIND.match(sentence.behind(figure)) and not of_link) or _SOCKETS_SHARE.search(
            sentence.before(figure)
        ):
            _shared(state, sentence, figure)
        elif not _SHARES.search(sentence.before(figure)) and not _DOWN_TO.search(sentence.before(figure)):
            any(read(state, sentence, figure) for read in _READERS)


def _only_of_networks(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``A 2.5 Gb/s socket of a USB-A one``: no link of USB has this rate."""
    if figure.value in _SLOWER_NETWORKS_BPS and state.has_said("N1 links") and not sentence.sockets_of("AN"):
        return True  # what it falls back to
    is_slower = figure.value in _SLOWER_NETWORKS_BPS and bool(sentence.sockets_of("AC"))
    of_adapter = is_slower and (state.product.is_network_adapter or NETWORK.search(sentence.text) is not None)
    networks = sentence.sockets_of("N")
    named = any(each.ids or each.count for each in networks) or (bool(networks) and not of_adapter)
    if not (figure.value == _ONLY_NETWORK_BPS or of_adapter) or named or sentence.conditions:
        return False
    if not has_said_rate(state, figure):
        promise(state, sentence, ids_of(state, [Socket(0, 0, "N", 1)], "links"), LINKS, figure)
    return True


def _is_listed_on(state: State, sentence: Sentence) -> bool:
    """``10 Gb/s: USB-A 1, 2; USB-C``: what stands behind a semicolon is still under the rate."""
    before = state.text[state.previous : sentence.clause.start]
    key = _RATE_KEY.match(before) if goes_on(state, sentence) and sentence.clause.over == "" else None
    named = sentence.sockets_of("AC")
    if key is None or not named or any(sentence.figures) or not _ONLY_CLASSES.fullmatch(sentence.own):
        return False
    rate = next((each for each in figures(key[0]) if each.dim is Dim.RATE), None)
    if rate is not None:
        promise(state, sentence, ids_of(state, named, "data"), DATA, replace(rate, start=0, end=0))
    return rate is not None


def _one_each(state: State, sentence: Sentence) -> list[Figure]:
    """``Two A sockets, 5 Gb/s and 480 Mb/s``: as many rates as sockets, one of each; those that were read."""
    read: list[Figure] = []
    named = sentence.sockets_of("ACN")
    for socket in (each for each in named if (each.count or 0) > 1 and not each.ids and not sentence.conditions):
        following = min((each.start for each in sentence.sockets if each.start >= socket.end), default=math.inf)
        own = [each for each in sentence.of_dim(Dim.RATE) if socket.end <= each.start < following]
        gaps = [sentence.text[one.end : two.start] for one, two in pairwise(own)]
        joined = all(map(_ONE_AND_NEXT.fullmatch, gaps)) and (len(own) > 2 or "and" in gaps[-1] if gaps else False)
        if socket.count == len(own) and joined and not any(each.each for each in own):
            kind, verb = ("links", LINKS) if socket.letter == "N" else ("data", DATA)
            for port, figure in zip(ids_of(state, [socket], kind), own, strict=False):
                promise(state, sentence, [port], verb, figure)
            read += own
    return read


def _is_of_a_store(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``SATA 6 Gb/s``; ``Two drives can be built in: 5 Gb/s each``, of what is no case for drives alone."""
    if _OF_DISKS.search(sentence.before(figure, 24)):
        return True
    if figure.each and _BAYS_BEFORE.search(sentence.before(figure)):
        return True
    named = state.product.is_drive or sentence.sockets
    return not named and _OF_STORES.search(sentence.before(figure)) is not None


def _is_of_the_lead(sentence: Sentence) -> bool:
    """``Lead: 0.5 m, 40 Gb/s``, ``a lead (40 Gb/s) is in the box``: what the lead carries, and no socket."""
    of_key = not sentence.sockets and KEY_OF_LEAD.fullmatch(sentence.clause.over) is not None
    return of_key or is_of_enclosed_lead(sentence)


def _shared(state: State, sentence: Sentence, figure: Figure) -> None:
    """One link for several sockets: each has all of it while the others rest."""
    found, _ = subjects(state, sentence, figure, "AC")
    say_of(state, sentence, ids_of(state, found, "data"), DATA, figure.hedged, under=" without others")


def _each_way(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Up to the computer 20 Gb/s, down 10 Gb/s``, where no socket is named beside it: of all there are."""
    ways = [_way_of(sentence, each) for each in sentence.of_dim(Dim.RATE)]
    way = _way_of(sentence, figure)
    if set(ways) != {"up", "down"} or not way or sentence.sockets_of("ACN"):
        return False
    named = [each for each in named_anywhere(state.text) if each.letter in "AC"]
    for socket in named if not list(state.numbers.all_of("AC")) else ():
        state.numbers.declare(socket.letter, socket.count or 1)
    promise(state, sentence, list(state.numbers.all_of("AC")), DATA, figure, tail=f" {way}")
    return True


def _way_of(sentence: Sentence, figure: Figure) -> str:
    """``up`` to the computer or ``down`` from it, by the last word before a figure, or just behind it."""
    behind = _WAY_BEHIND.match(sentence.behind(figure))
    told = _WAY_BEFORE.findall(sentence.before(figure))
    return behind[1].lower() if behind else told[-1].lower() if told else ""


def _of_cards(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``sd slot 100mb/s``: bytes, written small."""
    cards, own = sentence.sockets_of("SM"), sentence.sockets_of("ACN")
    found, _ = subjects(state, sentence, figure, "ACN")
    nearer = cards and found and cards[-1].end <= figure.start and cards[-1].start > found[-1].end
    follows = cards and cards[-1].end <= figure.start and figure.value < _FASTEST_CARD
    if not follows or (own and not nearer):
        return False
    value = figure.hedged.replace("Mb/s", "MB/s").replace("Gb/s", "GB/s")
    run = subjects(state, sentence, figure, "SM")[0]
    promise(state, sentence, ids_of(state, run or cards[-1:], "cards"), CARDS, figure, value=value)
    return True


def _of_all_sockets(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``All sockets carry 10 Gb/s``: those of both classes; none is named where one of them is an exception."""
    ids = list(state.numbers.all_of("AC"))
    if not ids and _EVERY_ONE.match(sentence.own):
        ids = ids_of(state, [each for each in state.subject if each.letter in "AC" and not each.is_plug], "data")
    of_usb = _EVERY_USB.search(sentence.text) is not None and any(port.startswith("C") for port in ids)
    on_all = _ON_ALL.match(sentence.behind(figure)) or _ALL_SOCKETS.search(sentence.before(figure))
    on_all = on_all or _EVERY_ONE.match(sentence.own)
    of_all = not sentence.sockets_of("ACN") and on_all is not None
    if not ids or not (of_usb or of_all):
        return False
    if not _EXCEPT.search(sentence.text):
        promise(state, sentence, ids, DATA, figure)
    return True


def _without_socket(state: State, sentence: Sentence, figure: Figure) -> bool:
    if sockets_of_rate(state, sentence, figure)[0]:
        return False
    if _is_of_network(sentence, figure):
        promise(state, sentence, ids_of(state, [Socket(0, 0, "N", 1)], "links"), LINKS, figure)
    elif ids := _ports_of_hub(state) or _ports_of_label(state, sentence, figure):
        promise(state, sentence, ids, DATA, figure)
    elif (
        state.product.is_drive
        or (state.product.is_reader and figure.value in _LINKS_BPS)
        or _LINKS.search(sentence.text)
    ):
        uplink(state, sentence, figure)
    return True


def _ports_of_hub(state: State) -> list[str]:
    """``USB hub, 4 ports ... 5 Gb/s``, where no class is named: the usual one."""
    match = _HUB_PORTS.search(state.text[:_BEGINNING])
    if match is None or any(each.letter in "ACN" for each in named_anywhere(state.text)):
        return []
    state.numbers.declare("A", count_of(match[1] or match[2]))
    return state.numbers.ids("A")


def _ports_of_label(state: State, sentence: Sentence, figure: Figure) -> list[str]:
    """``USB 5 Gb/s`` on a label: of all sockets, where these are of one class."""
    known = [letter for letter in "AC" if len(state.numbers.found.get(letter, [])) > 1]
    named = {each.letter for each in named_anywhere(state.text) if each.letter in "AC" and not each.is_plug}
    alone = _USB_ALONE.search(sentence.before(figure)) is not None and not state.has_said(
        f"{known[0] if known else ''}1 data"
    )
    return state.numbers.ids(known[0]) if alone and len(known) == 1 and named == set(known) else []


def _is_of_network(sentence: Sentence, figure: Figure) -> bool:
    """A network is spoken of; of a figure in a bracket, in the bracket or just before it."""
    opened = sentence.opened_before(figure)
    if opened < 0 and sum(each.dim is Dim.RATE for each in sentence.figures) > 1:
        return NETWORK.search(f"{sentence.over} {sentence.part_of(figure)}") is not None
    if opened < 0:
        return NETWORK.search(sentence.without_conditions) is not None
    part = re.split(r"[,;:] ", sentence.text[:opened])[-1]
    return NETWORK.search(part) is not None or NETWORK.search(sentence.part_of(figure)) is not None


def _from_one_to_other(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Data: C1 to A, 480 Mb/s``: the socket that is not the host's."""
    pair = _FROM_TO.search(sentence.before(figure))
    if pair is None or (pair[1][0] == pair[2][0] and len(pair[1]) == len(pair[2]) > 1):
        return False  # none, or a run of alike sockets
    target = next((name for name in (pair[2], pair[1]) if name.startswith("A")), pair[2])
    promise(state, sentence, [target if target[-1].isdigit() else f"{target}1"], DATA, figure)
    return True


def _of_sockets(state: State, sentence: Sentence, figure: Figure) -> bool:
    found, _ = sockets_of_rate(state, sentence, figure)
    partial = counted_part(state, sentence, figure, found)
    again = bool(under_what(sentence, figure)) and not partial
    letters = dict.fromkeys(socket.letter for socket in partial or found)
    if figure.value > FASTEST_BPS or (len(letters) > 1 and state.has_said("N1 links")):
        letters.pop("N", None)  # it has its own, before the list
    for letter in letters:
        chosen = [socket for socket in partial or found if socket.letter == letter]
        repeated = letter == "N" and chosen[-1].count is None and has_said_rate(state, figure)
        repeated = repeated or state.said_in_title(letter, "data", figure.hedged)
        repeated = repeated or state.is_repeated(sentence, chosen[-1], f"data {figure.text}")
        ids = ids_of(state, chosen, "links" if letter == "N" else "data", again=again or repeated)
        times = _TIMES_BEHIND.match(sentence.behind(figure))
        if times and len(ids) == 1 and int(times[1]) > 1:
            ids += ids_of(state, [replace(chosen[0], count=int(times[1]) - 1, ids=())], "data")
        way = _WAY_BEHIND.match(sentence.behind(figure))
        tail = f" {way[1].lower()}" if way and letter != "N" else ""
        promise(state, sentence, ids, LINKS if letter == "N" else DATA, figure, tail=tail)
    return True


_READERS: tuple[Callable[[State, Sentence, Figure], bool], ...] = (
    is_of_a_host, of_its_lead, _each_way, of_plug_before, of_network_switch, under_network, of_named_network,
    said_of_network, of_one_link, of_network_adapter, falls_back, attached_by, _of_cards, _of_all_sockets, of_uplink,
    _without_socket, _from_one_to_other, _only_of_networks, _of_sockets,
)  # fmt: skip
