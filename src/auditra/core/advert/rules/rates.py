"""Rates of links: of USB sockets, of the link to the host, of networks; and sockets that have no data."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

from auditra.core.advert.conditions import HOSTS
from auditra.core.advert.figures import Figure
from auditra.core.advert.phrases import NOTHING, any_of, begins_with, ends_with
from auditra.core.advert.promises import CARDS, DATA, LINKS, NO_DATA, promise, say, say_of
from auditra.core.advert.reading import State, goes_on, ids_of, subjects, under_what
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import NUMBERS, REST, Socket, count_of
from auditra.core.advert.units import Dim

_WORDS = "|".join(sorted(NUMBERS, key=len, reverse=True))
_OF_A_HOST = ends_with(r"\b(?:on hosts? of|in an?|host socket|in a socket of)")
_NETWORK_RATE = re.compile(r"gigabit\b|G(?:b?E)\b|BASE-?T|GigE", re.IGNORECASE)
_NETWORK_RATE_BEHIND = re.compile(r"[ -]?\(?(?:\d+(?:\.\d+)?G ?)?(?:BASE-?T|b?E\b)", re.IGNORECASE)
_NETWORK = any_of("network", "ethernet", "LAN")
_UPLINK = any_of(
    "upstream", "host port", "connects? (?:via|by|over)", "tunnels?", "links? at", "links? (?:to|up)", "link to",
    "host (?:link|connection|rate)", r"host(?= \d)", "(?:plug|uplink|upstream|connection) (?:links?|runs?)", "plug", "hangs? on",
    f"to (?:the |your )?{HOSTS}", f"between (?:your|the|a) {HOSTS}", "joins", "near end", "host:",
)  # fmt: skip
_KEY_OF_UPLINK = any_of(
    f"(?:interface|link|connection) to (?:the |your )?{HOSTS}",
    "interface",
    "plug",
    "upstream",
    "host port",
    "link to",
    "to computer",
    "connection",
    f"between (?:your|the|a) {HOSTS}",
)
_LEAD_GAP = re.compile(r"[ -](?:lead|cable|cord|tail|plug|wire)[^,;:.]{0,14}\(?", re.IGNORECASE)
_UPSTREAM_BEHIND = begins_with(r"\(?(?:upstream|to (?:the |your )?host|uplink)")
HOST_PLUG = re.compile(
    r"USB-C[ ,(]{1,3}(?:to )?(?:the |your )?(?:host|computer|laptop)(?: port| plug| side)?\s*[(:,)][^();]{0,30}$",
    re.IGNORECASE,
)
_MARKED = any_of("(?:marked|labelled) with")
_ALL_SOCKETS = re.compile(
    r"\b(?:all|each of|every one of)(?: the| its| of the)?(?: (?:two|three|four|five|six|seven|eight|ten|\d{1,2}))?"
    r" (?:USB )?(?:sockets|ports)\b|^\W*(?:all|each|every one)(?: of them)? (?:do|does|runs?|have|has|carry|carries|works?|reach)\b",
    re.IGNORECASE,
)
_EVERY_USB = re.compile(r"\b(?:every|all|each|any)(?: of)?(?: the| its)? USB (?:sockets?|ports?)\b", re.IGNORECASE)
_EXCEPT = any_of("except", "but for", "apart from", "save")
_OF_PLUG = any_of("to (?:the|your) computer", "plug", "host", "connects?", "connected")
_ATTACHES = ends_with(r"\b(?:connects?|connected|attaches|hangs) (?:via|by|over|on|to|with)(?: a| an| the)?")
_LINKS = any_of("links? at", "it links", "the link")
_REFERS = any_of(
    "each", "all", "they", "them", "both", "rate", "speed", "data", "the (?:two|three|four|rest|others?|left|right)",
    r"(?:one|two|three|\d) (?:at|on|run)", "it (?:is|runs|falls|drops|does)",
)  # fmt: skip
"""What makes a figure one of sockets that were named before."""
_PART = re.compile(
    rf"(?:^|[,;:(]|\band|\bof which|\bwhich|\bhas|\bsockets|\bports|\bruns|\bthe)\s*(?:a |the |all )?(\d{{1,2}}|{_WORDS})\b"
    r"(?! ?(?:x (?:USB|HDMI|RJ)|socket of))[^,;:.()]{0,60}$",
    re.IGNORECASE,
)
_LABELLED = re.compile(
    r"(?:^|[,;:(]|\band|\bthe|\bfor)\s*(?:the )?(left|right|upper|lower|front|rear|other|white|grey|black|blue|red"
    r"|first|second)(?: (?:one|socket|ring|port))?\b[^,;:.()]{0,24}$",
    re.IGNORECASE,
)
_LABEL_KEY = re.compile(r"(?:the )?(left|right|upper|lower|first|second|front|rear)(?: one| socket)?", re.IGNORECASE)
_LABEL_JUST_BEFORE = re.compile(r"(?i)\b(left|right|upper|lower|first|second|front|rear) (?:socket|port|one):? $")
_WAY_BEHIND = re.compile(r"\s*\(?(up|down)\b(?! to)", re.IGNORECASE)
_LABEL_BEHIND = re.compile(
    r"\s*(?:for|at|on) the (left|right|upper|lower|front|rear|first|second|white|grey|black) (?:one|socket)\b",
    re.IGNORECASE,
)
_OF_LABEL = re.compile(r"\s*(?:sockets |ports |of them )?(?:at|on|in) the ", re.IGNORECASE)
_OTHERS = re.compile(rf"\bthe (?:other|remaining) ({_WORDS}|\d{{1,2}})\b[^,;.]{{0,30}}$", re.IGNORECASE)
_REST = re.compile(r"\b(?:the rest|the others|the remaining)\b[^,;.]{0,30}$", re.IGNORECASE)
_TIMES = re.compile(r"(?<![\d.])(\d{1,2})\s?x\s*$")
_TIMES_BEHIND = re.compile(r"\s*x\s?(\d{1,2})\b")
_SOCKETS_BEHIND = re.compile(r"\s*(?:each\s*)?\(\s*(\d{1,2}) (?:sockets|ports)\s*\)", re.IGNORECASE)
_NO_PART = ("a", "an", "second", "first", "third", "both")
_FROM_TO = re.compile(r"\b([AC]\d?) to ([AC]\d?)\b")
_UPLINK_OF_SWITCH = re.compile(
    rf"(?:\b(\d|{_WORDS}) (?:x )?(?:more |further )?)?\buplinks?(?: (?:sockets?|ports?))?[^,;.]{{0,20}}$", re.IGNORECASE
)
_NAMED_OF_SWITCH = re.compile(r"\b(?:sockets?|ports?) (\d)(?: (?:to|-) (\d)|(?: and |, )(\d))?[^;.]*$", re.IGNORECASE)
_X_SOCKETS = re.compile(r"(\d{1,2})\s?x\s?(?:RJ-?45|ports?)?[^,;]{0,16}$")
_NUMBERS_BEFORE = re.compile(rf"\b(\d{{1,2}}|{'|'.join(NUMBERS)})\b(?! ?(?:Gb|Mb|kB|W|V|A|mm|\.))", re.IGNORECASE)
_NO_DATA = any_of(
    "no data", "without data", "sans donn.es", "data: none", "neither data", "power only", "charging only",
    "charge[- ]only", "only (?:for|to) charg(?:e|ing)", "(?:just )?for (?:charging|power) only", "only charges", "have none",
)  # fmt: skip
_DELIVERY = any_of("PD", "power delivery", "feed it")
_CHARGED_AT = re.compile(r"(?i)\bcharging only\)?:? \d+ ?W")
_INLET = any_of(
    "inlet", "input", "entr.e", r"PD[- ]?in", r"W in", "takes a charger", r"in(?= ?\d+ ?W)", "(?:charger|power|DC) in"
)
_NO_PICTURE = any_of("nor picture", "no picture")
_GENERATIONS = (
    (any_of(r"USB ?4(?: 2\.0)? Gen ?4(?: ?x ?2)?"), "80 Gb/s"),
    (any_of(r"(?:USB ?4 )?Gen ?3 ?x ?2"), "40 Gb/s"),
    (any_of(r"USB ?4 Gen ?2 ?x ?2", r"Gen ?3 ?x ?1"), "20 Gb/s"),
    (any_of(r"(?:USB )?3\.2 Gen ?2 ?x ?2", "Gen 2x2"), "20 Gb/s"),
    (any_of(r"(?:USB )?3\.[12] Gen ?2(?: ?x ?1)?(?! ?x ?2)", "Gen 2(?:x1)?"), "10 Gb/s"),
    (any_of(r"USB ?3\.0", r"(?:USB )?3\.[12] Gen ?1(?: ?x ?1)?", "Gen 1(?:x1)?", "SuperSpeed(?! ?plus)"), "5 Gb/s"),
    (any_of(r"Hi-?Speed USB", r"USB 2\.0 Hi-?Speed", r"(?:USB 2\.0 )?high[- ]speed USB 2\.0"), "480 Mb/s"),
)
"""Names that one rate goes by. Source: USB 3.2, 1.1; USB4, 1.1; USB 2.0, 4.2.1: high speed is 480 Mb/s. USB 2.0 alone may be full speed: not read."""
_UPSTREAM_FIRST = re.compile(r"\W*(?:upstream|uplink|host|to (?:the |your )?host)\b", re.IGNORECASE)
_BEHIND_COMMA = re.compile(r"(?: (?:connectors?|sockets?|ports?|receptacles?))?, ([^,;]{0,24})", re.IGNORECASE)
_CLASS_ONLY = re.compile(r"[ -]*(?:USB[- ]?)?(?:\d\.\d )?(?:Type[- ]?)?[AC]", re.IGNORECASE)
_SHARES = ends_with(r"\bshar(?:e|es|ed|ing) (?:the |a |one )?(?:same )?(?:link of |total of )?")
_DITTO = any_of("ditto", "likewise", "the same", "as fast")
_PLUG_IS = re.compile(r"\bplug (?:is|has|runs) ((?:USB )?3\.[^,;]{0,12})", re.IGNORECASE)
_POWER_OR_RATE = (Dim.RATE, Dim.WATTS, Dim.AMPERES, Dim.BYTE_RATE)
_PORTS = re.compile(
    rf"\b(?:ports?|sockets?)\s*:\s*(\d{{1,2}})\b|\b(\d{{1,2}}|{_WORDS})[- ](?:ports?|sockets?)\b", re.IGNORECASE
)
_FASTEST_CARD = 2e9
"""In the bits that were written for bytes. Source: SD Physical Layer 9.10 ends at 1969 MB/s for one lane."""
_FITS = {"A": _POWER_OR_RATE, "C": _POWER_OR_RATE, "H": (Dim.MODE,), "D": (Dim.MODE,), "V": (Dim.MODE,)}
_OF_ALL = re.compile(r"\bof (?:the|its|these) (?:\w+ )?$", re.IGNORECASE)


def declare(state: State, sentence: Sentence) -> None:
    """``Of the five USB-A sockets``, ``USB-A ports: 4``: how many there are, before any is promised something."""
    if state.product.is_network_switch and (all_of := _PORTS.search(sentence.text)):
        state.numbers.declare("N", count_of(all_of[1] or all_of[2]))
    for socket in sentence.sockets_of("ACHDV"):
        if not socket.count or socket.count < 1 or socket.ids:
            continue
        if socket.of_all:
            state.numbers.declare(socket.letter, socket.of_all)
            continue
        of_all = _OF_ALL.search(sentence.text[max(0, socket.start - 34) : socket.start])
        if of_all or not any(figure.dim in _FITS[socket.letter] for figure in sentence.figures):
            state.numbers.declare(socket.letter, socket.count)


def rates(state: State, sentence: Sentence) -> None:
    """Each rate in bits: the first reader that knows whose it is takes it."""
    if state.product.is_lead:
        return
    for figure in sentence.of_dim(Dim.RATE):
        if not _SHARES.search(sentence.before(figure)) and not any(read(state, sentence, figure) for read in _READERS):
            continue


def _is_of_a_host(_: State, sentence: Sentence, figure: Figure) -> bool:
    """``On hosts of 10 Gb/s``: what the host has to do."""
    in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions if each.words)
    return in_condition or _OF_A_HOST.search(sentence.before(figure, 24)) is not None


def _of_plug_before(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``a USB-C lead of 60 cm (10 Gb/s)``: the plug is the nearest that is named."""
    last = max((s for s in sentence.sockets if s.end <= figure.start), key=lambda s: s.end, default=None)
    if last is None or not last.is_plug or not _LEAD_GAP.fullmatch(sentence.text[last.end : figure.start]):
        return False
    _uplink(state, sentence, figure)
    return True


def _of_network_switch(state: State, sentence: Sentence, figure: Figure) -> bool:
    if not state.product.is_network_switch or sentence.sockets_of("AC"):
        return False
    if re.search(r"\d-port\b", sentence.text, re.IGNORECASE) and re.search(r"\d ?x ?RJ", state.text, re.IGNORECASE):
        return True
    before = sentence.before(figure)
    named = _NAMED_OF_SWITCH.search(before)
    uplink = _UPLINK_OF_SWITCH.search(before)
    if uplink:
        count = count_of(uplink[1]) if uplink[1] else 1
        ids = state.numbers.of(Socket(0, 0, "N", count, label="uplink"), "links")
    elif named:
        ids = [f"N{n}" for n in range(int(named[1]), int(named[2] or named[1]) + 1)]
        ids += [f"N{named[3]}"] if named[3] else []
        state.numbers.declare("N", max(int(each[1:]) for each in ids))
    else:
        earlier = [each.end for each in sentence.of_dim(Dim.RATE) if each.end <= figure.start]
        ids = _counted_of_switch(state, sentence.text[max(earlier, default=0) : figure.start])
    promise(state, sentence, ids, LINKS, figure)
    return True


def _counted_of_switch(state: State, before: str) -> list[str]:
    times, part = _X_SOCKETS.search(before), _PART.search(re.split(r"[;]", before)[-1])
    word = times[1] if times else part[1] if part and part[1].lower() not in _NO_PART else ""
    if word:
        return ids_of(state, [Socket(0, 0, "N", count_of(word))], "links")
    numbers = _NUMBERS_BEFORE.findall(before)
    known = len(state.numbers.ids("N")) or (int(numbers[-1]) if numbers and numbers[-1].isdigit() else 1)
    return ids_of(state, [Socket(0, 0, "N", known)], "links", again=True)


def _under_network(state: State, sentence: Sentence, figure: Figure) -> bool:
    """Under a heading that names the network."""
    if not _NETWORK.search(sentence.clause.heading) or sentence.sockets_of("AC"):
        return False
    found = sentence.sockets_of("N")[:1] or [Socket(0, 0, "N", 1)]
    promise(state, sentence, ids_of(state, found, "links", again=bool(state.numbers.ids("N"))), LINKS, figure)
    return True


def _of_named_network(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Gigabit``, ``2.5GbE``: rates that only networks are called by."""
    own, behind = sentence.text[figure.start : figure.end], sentence.behind(figure, 24)
    usb, carried = subjects(state, sentence, figure, "AC")
    if (
        usb
        and not carried
        and own[0].isdigit()
        and own.lower().endswith(("gigabit", "b/s"))
        and not sentence.sockets_of("N")
    ):
        return False
    networks = [each.start for each in sentence.sockets_of("N") if each.end <= figure.start]
    if usb and not carried and own[0].isdigit() and networks and networks[-1] < usb[-1].start < figure.start:
        return False
    is_named = _NETWORK_RATE.search(own) or _NETWORK_RATE_BEHIND.match(behind)
    if not is_named or "per second" in behind:
        return False
    if not (state.has_said(f"N1 links {figure.text}") or state.has_said(f"N1+N2 link {figure.text}")):
        found = sentence.sockets_of("N")[:1] or [Socket(0, 0, "N", 1)]
        promise(state, sentence, ids_of(state, found, "links"), LINKS, figure)
    return True


def _of_one_link(state: State, sentence: Sentence, figure: Figure) -> bool:
    """A reader, a drive's case, a network adapter: its USB plug is the link to the host."""
    found, carried = subjects(state, sentence, figure, "AC")
    if not state.product.is_one_link or not found or carried or found[0].ids or found[0].count not in (None, 1):
        return False
    if re.match(r"[\s-]*sockets?", sentence.text[found[0].end :], re.IGNORECASE):
        return False
    _uplink(state, sentence, figure)
    return True


def _of_network_adapter(state: State, sentence: Sentence, figure: Figure) -> bool:
    if not state.product.is_network_adapter or sentence.sockets_of("AC"):
        return False
    label = _LABEL_KEY.fullmatch(sentence.clause.over.strip()) or _LABEL_JUST_BEFORE.search(sentence.before(figure))
    if label is not None and _UPLINK.search(label[0]) is None:
        promise(state, sentence, state.numbers.of(Socket(0, 0, "N", 1, label=label[1].lower()), "links"), LINKS, figure)
        return True
    own = [each for each in sentence.of_dim(Dim.RATE) if not _is_of_a_host(state, sentence, each)]
    under = under_what(sentence, figure)
    is_fastest = figure.value == max(each.value for each in own)
    if under or (is_fastest and not state.has_said("N1 links")):
        promise(state, sentence, ["N1"], LINKS, figure)
    return True


def _falls_back(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``1 Gb/s, 100 Mb/s``: the slower rates of one network socket."""
    networks = sentence.sockets_of("ACN")
    if not networks or any(socket.letter != "N" for socket in networks):
        return False
    fastest = max(each.value for each in sentence.figures if each.dim is Dim.RATE)
    return figure.value < fastest and not counted_part(state, sentence, figure, networks)


def _attached_by(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Connects via USB-C at 5 Gb/s``."""
    found, carried = subjects(state, sentence, figure, "AC")
    if not found or carried or not _ATTACHES.search(sentence.text[: found[0].start]):
        return False
    _uplink(state, sentence, figure)
    return True


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
    of_usb = _EVERY_USB.search(sentence.text) is not None and any(port.startswith("C") for port in ids)
    of_all = not sentence.sockets_of("ACN") and _ALL_SOCKETS.search(sentence.before(figure)) is not None
    if not ids or not (of_usb or of_all):
        return False
    if not _EXCEPT.search(sentence.text):
        promise(state, sentence, ids, DATA, figure)
    return True


def _of_uplink(state: State, sentence: Sentence, figure: Figure) -> bool:
    """The link to the host, by its key or the words around."""
    own = sentence.sockets_of("ACN")
    found, carried = _found(state, sentence, figure)
    near = sentence.part_of(figure) if own else sentence.before(figure, 60) + sentence.behind(figure, 40)
    plugs = [socket for socket in sentence.sockets if socket.is_plug and socket.end <= figure.start]
    by_key = _KEY_OF_UPLINK.search(sentence.over)
    by_words = (not own or carried) and _UPLINK.search(near) and not _MARKED.search(near)
    by_plug = plugs and not own and _OF_PLUG.search(sentence.text)
    before = own and not found and _UPLINK.search(sentence.before(figure, 36))
    of_plug = HOST_PLUG.search(sentence.before(figure)) is not None
    upstream = of_plug or _UPSTREAM_BEHIND.match(sentence.behind(figure))
    if not (by_key or by_words or by_plug or before or upstream):
        return False
    _uplink(state, sentence, figure)
    return True


def _uplink(state: State, sentence: Sentence, figure: Figure) -> None:
    say(state, sentence, f"UP data {figure.hedged}{under_what(sentence, figure)}")


def _found(state: State, sentence: Sentence, figure: Figure) -> tuple[list[Socket], bool]:
    """The sockets of a rate; those of an earlier sentence only where it refers to them."""
    found, carried = subjects(state, sentence, figure, "ACN")
    is_all = sentence.own.strip(" .") == sentence.text[figure.start : figure.end]
    if carried and goes_on(state, sentence) and sentence.conditions:
        return found, carried
    if carried and not (is_all or _REFERS.search(sentence.text) or sentence.clause.over):
        return [], False
    return found, carried


def _without_socket(state: State, sentence: Sentence, figure: Figure) -> bool:
    if _found(state, sentence, figure)[0]:
        return False
    if _NETWORK.search(sentence.without_conditions):
        promise(state, sentence, ids_of(state, [Socket(0, 0, "N", 1)], "links"), LINKS, figure)
    elif state.product.is_drive or _LINKS.search(sentence.text):
        _uplink(state, sentence, figure)
    return True


def _from_one_to_other(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Data: C1 to A, 480 Mb/s``: the socket that is not the host's."""
    pair = _FROM_TO.search(sentence.before(figure))
    if pair is None:
        return False
    target = next((name for name in (pair[2], pair[1]) if name.startswith("A")), pair[2])
    promise(state, sentence, [target if target[-1].isdigit() else f"{target}1"], DATA, figure)
    return True


def _of_sockets(state: State, sentence: Sentence, figure: Figure) -> bool:
    found, _ = _found(state, sentence, figure)
    again = bool(under_what(sentence, figure))
    partial = counted_part(state, sentence, figure, found)
    for letter in dict.fromkeys(socket.letter for socket in partial or found):
        chosen = [socket for socket in partial or found if socket.letter == letter]
        ids = ids_of(state, chosen, "links" if letter == "N" else "data", again=again)
        times = _TIMES_BEHIND.match(sentence.behind(figure))
        if times and len(ids) == 1 and int(times[1]) > 1:
            ids += ids_of(state, [replace(chosen[0], count=int(times[1]) - 1, ids=())], "data")
        way = _WAY_BEHIND.match(sentence.behind(figure))
        tail = f" {way[1].lower()}" if way and letter != "N" else ""
        promise(state, sentence, ids, LINKS if letter == "N" else DATA, figure, tail=tail)
    return True


_READERS: tuple[Callable[[State, Sentence, Figure], bool], ...] = (
    _is_of_a_host, _of_plug_before, _of_network_switch, _under_network, _of_named_network, _of_one_link, _of_network_adapter,
    _falls_back, _attached_by, _of_cards, _of_all_sockets, _of_uplink, _without_socket, _from_one_to_other, _of_sockets,
)  # fmt: skip


def counted_part(state: State, sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    """``one at 10 Gb/s, 2 at 480 Mb/s``: how many of the sockets that were named before; empty for all of them."""
    part = _counted(sentence, figure, found)
    if part and found[-1].count:
        state.numbers.declare(found[-1].letter, found[-1].count)
    return part


def _counted(sentence: Sentence, figure: Figure, found: list[Socket]) -> list[Socket]:
    if not found or found[-1].ids or found[0].start > figure.start:
        return []
    exact = _TIMES.search(sentence.before(figure)) if found[-1].end < figure.start else None
    exact = exact or _SOCKETS_BEHIND.match(sentence.behind(figure))
    if exact:
        return [replace(found[-1], count=int(exact[1]), whole=False, label="", is_part=True)]
    if label := _LABEL_BEHIND.match(sentence.behind(figure)):
        return [replace(found[-1], count=1, whole=False, label=label[1].lower(), is_part=True)]
    earlier = [f for f in sentence.figures if found[-1].end <= f.start < figure.start and f.dim is figure.dim]
    return _part(sentence.text[(earlier[-1].end if earlier else found[-1].end) : figure.start].rstrip(" ("), found)


def _part(text: str, found: list[Socket]) -> list[Socket]:
    if _REST.search(text):
        return [replace(found[-1], count=REST, whole=False, label="", is_part=True)]
    if others := _OTHERS.search(text):
        return [replace(found[-1], count=count_of(others[1]), whole=False, label="", is_part=True)]
    match, labelled = _PART.search(text), _LABELLED.search(text)
    if labelled is not None and match is not None and _OF_LABEL.fullmatch(text[match.end(1) : labelled.start(1)]):
        return [replace(found[-1], count=count_of(match[1]), whole=False, label=labelled[1].lower(), is_part=True)]
    if labelled is not None and (match is None or match.start() < labelled.start()):
        return [replace(found[-1], count=1, whole=False, label=labelled[1].lower(), is_part=True)]
    if match is None or match[1].lower() in _NO_PART:
        return []
    if re.search(r"\ball\s+\S+$", text[: match.end(1)], re.IGNORECASE) and len(found) > 1:
        return []
    more = re.match(r"\W*(?:it )?has\b", text[match.start() :], re.IGNORECASE) is not None
    return [replace(found[-1], count=count_of(match[1]), whole=False, label="", is_part=not more)]


def generations(state: State, sentence: Sentence) -> None:
    """A generation's name without a figure beside it."""
    if state.product.is_lead:
        return
    rated = [socket for each in sentence.of_dim(Dim.RATE) for socket in subjects(state, sentence, each, "ACN")[0]]
    plug = _PLUG_IS.search(sentence.text)
    named = plug and next((rate for pattern, rate in _GENERATIONS if pattern.match(plug[1])), None)
    if not named and not sentence.sockets_of("ACN") and not rated and _UPSTREAM_FIRST.match(sentence.text):
        named = next((rate for pattern, rate in _GENERATIONS if pattern.search(sentence.text)), None)
    if named:
        say(state, sentence, f"UP data {named}")
    for socket in sentence.sockets_of("AC"):
        if socket in rated:
            continue
        following = min(
            (each.start for each in sentence.sockets if each.start >= socket.end), default=len(sentence.text)
        )
        begin = sentence.shift if socket.end <= sentence.shift else socket.start
        near = re.split(r"[,;:+)]|\band\b", sentence.text[begin : min(following, max(begin, socket.end) + 24)])[0]
        rate = next((rate for pattern, rate in _GENERATIONS if pattern.search(near)), None)
        rate = rate or _generation_beside(sentence, socket)
        if rate is not None:
            say_of(state, sentence, ids_of(state, [socket], "data"), DATA, rate)


def same_again(state: State, sentence: Sentence) -> None:
    """``One USB-C socket, ditto``: the rate of the sockets before it."""
    found = sentence.sockets_of("AC")
    if not found or any(sentence.of_dim(Dim.RATE)) or not _DITTO.search(sentence.text):
        return
    last = next((said.sentence for said in reversed(state.said) if " data " in said.sentence), "")
    if last:
        ids = ids_of(state, found, "data")
        say_of(state, sentence, ids, DATA, last.partition(" data ")[2].removesuffix(" each"))


def _generation_beside(sentence: Sentence, socket: Socket) -> str | None:
    """``One USB 3.2 Gen 1 Type-A connector``, ``Type-C connector, USB 3.2 Gen 2x2``."""
    words = re.split(r"[,;:+()]|\band\b", sentence.text[sentence.shift : socket.end])[-1]
    behind = _BEHIND_COMMA.match(sentence.text, socket.end)
    for pattern, rate in _GENERATIONS:
        named = pattern.search(words)
        if named is not None and _CLASS_ONLY.fullmatch(words[named.end() :]):
            return rate
        if behind is not None and pattern.match(behind[1]):
            return rate
    return None


def no_data(state: State, sentence: Sentence) -> None:
    """Sockets for power alone: the inlet where it is spoken of, else those that are named."""
    if state.product.is_lead:
        return
    none = NOTHING.fullmatch(sentence.own) is not None and re.search(r"(?i)\bdata\b", sentence.clause.column)
    if not none and not _NO_DATA.search(sentence.text):
        return
    of_charging = not state.product.is_charger and _CHARGED_AT.search(sentence.text) is not None
    of_delivery = not sentence.sockets_of("AC") and any(sentence.of_dim(Dim.WATTS)) and _DELIVERY.search(sentence.text)
    said_inlet = of_charging or of_delivery or any(said.sentence.startswith("P1 takes") for said in state.said[-2:])
    of_inlet = sentence.clause.over.lower() == "in" if none else _INLET.search(sentence.text) or said_inlet
    if of_inlet:
        say(state, sentence, "P1 no data")
        if _NO_PICTURE.search(sentence.text):
            say(state, sentence, "P1 no display")
        return
    found = sentence.sockets_of("AC")
    for letter in dict.fromkeys(socket.letter for socket in found):
        ids = ids_of(state, [socket for socket in found if socket.letter == letter], "data")
        say_of(state, sentence, ids, NO_DATA)
