"""Rates of networks: of switches, adapters and single sockets."""

from __future__ import annotations

import re

from auditra.core.advert.belonging import ids_of, subjects
from auditra.core.advert.condition_forms import HOSTS
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import LINKS, promise
from auditra.core.advert.rules.parts import NO_PART, PART, counted_part
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import COUNT_WORDS, NUMBERS, count_of, numbers_in
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

NETWORK = any_of("network", "ethernet", "LAN")
UPLINK = any_of(
    "upstream", "host port", "connects? (?:via|by|over)", "tunnels?", "links? at", "links? (?:to|up)", "link to",
    "host (?:link|connection|rate)", r"host(?= \d)", "(?:plug|uplink|upstream|connection) (?:links?|runs?)",
    "(?<!you )plug",
    "hangs? on",
    f"to (?:the |your )?{HOSTS}", f"between (?:your|the|a) {HOSTS}", "joins (?:it )?(?:at|to)", "near end", "host:",
)  # fmt: skip
_OF_A_HOST = ends_with(
    r"\b(?:on hosts? of|in an?|host socket|in a socket of"
    r"|(?:computer|laptop|notebook|tablet|host)s? with (?:an? )?USB[^,;.]{0,24} of(?: at least)?)"
)
_NETWORK_RATE = re.compile(r"gigabit\b|G(?:b?E)\b|BASE-?T|GigE", re.IGNORECASE)
_NETWORK_RATE_BEHIND = re.compile(r"[ -]?\(?(?:\d+(?:\.\d+)?G ?)?(?:BASE-?T|b?E\b)", re.IGNORECASE)
_OF_EACH = any_of("all (?:two|three|four|five|six|eight|\\d)", "each(?: of them)?", "every one", "both")
_ONE_IS = re.compile(r"(?i)\W*(?:the )?(?:one|first|1)\b[^.;]*,? (?:and )?(?:the )?(?:one|other|second|2)\b")
"""``One is 10 Gb/s, one is 2.5 Gb/s``."""
_OF_THE_PLUG = begins_with("of the (?:plug|host|USB)")
_HOSTS_BEHIND = begins_with("hosts", "computers", "laptops")
"""``(40 Gb/s hosts only)``."""
_LABEL_KEY = re.compile(r"(?:the )?(left|right|upper|lower|first|second|front|rear)(?: one| socket)?", re.IGNORECASE)
_LABEL_JUST_BEFORE = re.compile(r"(?i)\b(left|right|upper|lower|first|second|front|rear) (?:socket|port|one):? $")
_UPLINK_OF_SWITCH = re.compile(
    rf"(?:\b(\d|{COUNT_WORDS}) (?:x )?(?:more |further )?)?\buplinks?(?: (?:sockets?|ports?))?[^,;.]{{0,20}}$",
    re.IGNORECASE,
)
_NAMED_OF_SWITCH = re.compile(
    r"\b(?:sockets?|ports?) (\d{1,2})(?!\d|\.\d| ?[GM])(?: ?(?:to|-) ?(\d{1,2})|(?: and |, )(\d{1,2}))?[^;.]*$",
    re.IGNORECASE,
)
ON_NUMBERS = re.compile(
    r"(?i)(?: each)? (?:on|at|for) (?:the )?(?:ports? |sockets? )?(\d(?:(?:, | and | & | to |-)\d)*)(?!\d"
    r"|[.,]\d|\s?(?!only|too|each)[A-Za-z%])"
)
"""``2.5 Gb/s on 1 to 4, 10 Gb/s on 5 and 6``."""
_PORTS_IN_TITLE, _COUNTED_SOCKETS = re.compile(r"(?i)\b(\d{1,2})-port\b"), re.compile(r"(?i)\d ?x ?RJ")
_OF_THE_WHOLE = re.compile(r"(?i)\b(?:capacity|backplane|throughput)\b[^,.;]*$|\b(?:inside|switching):? $")
FASTEST_BPS = 10e9
"""Of a network socket on a desk; what is faster is of another link. Source: IEEE 802.3, 55 (10GBASE-T)."""
_UPLINK_BEHIND = begins_with(r"(?:SFP\+?|RJ-?45|copper|fibre)?\s*uplinks?")
_INSIDE = begins_with("inside", "within", "switching", "(?:of )?(?:capacity|backplane|throughput|fabric)")
_SLOWER_BEFORE = re.compile(r"(?:\d+ ?/ ?)+$")
"""``10/100/1000 Mb/s``."""
_X_SOCKETS = re.compile(r"(\d{1,2})\s?x\s?(?:RJ-?45|ports?)?[^,;]{0,16}$")
_NUMBERS_BEFORE = re.compile(rf"\b(\d{{1,2}}|{'|'.join(NUMBERS)})\b(?! ?(?:Gb|Mb|kB|W|V|A|mm|\.))", re.IGNORECASE)


def is_of_a_host(_: State, sentence: Sentence, figure: Figure) -> bool:
    """``On hosts of 10 Gb/s``: what the host has to do."""
    in_condition = any(each.start <= figure.start < each.end for each in sentence.conditions if each.words)
    if _HOSTS_BEHIND.match(sentence.behind(figure)):
        return True
    return in_condition or _OF_A_HOST.search(sentence.before(figure, 60)) is not None


def of_network_switch(state: State, sentence: Sentence, figure: Figure) -> bool:
    if not state.product.is_network_switch or sentence.sockets_of("AC"):
        return False
    if _OF_THE_WHOLE.search(sentence.before(figure)) or _INSIDE.match(sentence.behind(figure)):
        return True
    run = _run_of(sentence, figure)
    if figure.value < max(each.value for each in run):
        return True  # of the rates that one socket can have, the fastest is promised
    before = sentence.before(figure)
    is_uplink = _UPLINK_BEHIND.match(sentence.behind(figure)) is not None
    counted_later = _PORTS_IN_TITLE.search(sentence.text) if _COUNTED_SOCKETS.search(state.text) else None
    first = _COUNTED_SOCKETS.search(sentence.text)
    if counted_later and not is_uplink and (first is None or figure.start < first.start()):
        return True
    if behind := ON_NUMBERS.match(sentence.behind(figure)):
        numbers = numbers_in(behind[1])
        state.numbers.declare("N", max(numbers))
        promise(state, sentence, [f"N{number}" for number in numbers], LINKS, figure)
        return True
    named = _NAMED_OF_SWITCH.search(before)
    uplink = _UPLINK_OF_SWITCH.search(before) or _UPLINK_BEHIND.match(sentence.behind(figure))
    if uplink:
        count = count_of(uplink[1]) if uplink.re.groups and uplink[1] else 1
        ids = _uplinks(state, count, int(counted_later[1]) if counted_later else 0)
    elif named:
        ids = [f"N{n}" for n in range(int(named[1]), int(named[2] or named[1]) + 1)]
        ids += [f"N{named[3]}"] if named[3] else []
        state.numbers.declare("N", max(int(each[1:]) for each in ids))
    else:
        earlier = [each.end for each in sentence.of_dim(Dim.RATE) if each.end <= run[0].start]
        ids = _counted_of_switch(state, sentence.text[max(earlier, default=0) : run[0].start])
    promise(state, sentence, ids, LINKS, figure)
    return True


def _uplinks(state: State, count: int, others: int) -> list[str]:
    """The sockets of an uplink, behind those that the title counts."""
    if not others or len(state.numbers.ids("N")) > others or ("N", "uplink") in state.numbers.labels:
        return state.numbers.of(Socket(0, 0, "N", count, label="uplink"), "links")
    state.numbers.declare("N", others + count)
    ids = state.numbers.ids("N")[others:]
    state.numbers.labels["N", "uplink"] = ids
    return ids


def _run_of(sentence: Sentence, figure: Figure) -> list[Figure]:
    """``100M/1G/2.5G``: the rates that are joined to this one by slashes, itself among them."""
    runs: list[list[Figure]] = [[]]
    for each in sentence.of_dim(Dim.RATE):
        if runs[-1] and sentence.text[runs[-1][-1].end : each.start].strip() != "/":
            runs.append([])
        runs[-1].append(each)
    return next((run for run in runs if figure in run), [figure])


def _counted_of_switch(state: State, before: str) -> list[str]:
    before = _SLOWER_BEFORE.sub("", before)
    times, part = _X_SOCKETS.search(before), PART.search(re.split(r"[;]", before)[-1])
    word = times[1] if times else part[1] if part and part[1].lower() not in NO_PART else ""
    if word:
        return ids_of(state, [Socket(0, 0, "N", count_of(word))], "links")
    numbers = _NUMBERS_BEFORE.findall(before)
    known = len(state.numbers.ids("N")) or (int(numbers[-1]) if numbers and numbers[-1].isdigit() else 1)
    return ids_of(state, [Socket(0, 0, "N", known)], "links", again=True)


def under_network(state: State, sentence: Sentence, figure: Figure) -> bool:
    """Under a heading that names the network."""
    if not NETWORK.search(sentence.clause.heading) or sentence.sockets_of("AC"):
        return False
    found = sentence.sockets_of("N")[:1] or [Socket(0, 0, "N", 1)]
    promise(state, sentence, ids_of(state, found, "links", again=bool(state.numbers.ids("N"))), LINKS, figure)
    return True


def of_named_network(state: State, sentence: Sentence, figure: Figure) -> bool:
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
    if not (has_said_rate(state, figure) or state.has_said(f"N1+N2 link {figure.text}")):
        found = sentence.sockets_of("N")[:1] or [Socket(0, 0, "N", 1)]
        promise(state, sentence, ids_of(state, found, "links"), LINKS, figure)
    return True


def said_of_network(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Real 1000 Mbit/s thanks to USB 3.0``: of an adapter, the rate of its network once more."""
    said = not under_what(sentence, figure) and has_said_rate(state, figure)
    return state.product.is_network_adapter and (said or _is_said_of_lead(state, sentence, figure))


def _is_said_of_lead(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``5 Gb/s over Cat 6``, where the rate was promised before: over what lead it reaches how far."""
    return "with Cat " in under_what(sentence, figure) and has_said_rate(state, figure)


def has_said_rate(state: State, figure: Figure) -> bool:
    """Whether the first network socket was promised this rate, in Mb/s or in Gb/s."""
    words = (figure.text, f"{figure.value / 1e9:g} Gb/s", f"{figure.value / 1e6:g} Mb/s")
    return any(state.has_said(f"N1 links {each}") for each in words)


def of_network_adapter(state: State, sentence: Sentence, figure: Figure) -> bool:
    if not state.product.is_network_adapter or sentence.sockets_of("AC"):
        return False
    if any(len(each.ids) == 1 or (each.count or 1) > 1 for each in sentence.sockets_of("N")):
        return False  # each has its own
    column = _LABEL_KEY.fullmatch(sentence.clause.column.strip())
    label = (
        column
        or _LABEL_KEY.fullmatch(sentence.clause.over.strip())
        or _LABEL_JUST_BEFORE.search(sentence.before(figure))
    )
    if label is not None and UPLINK.search(label[0]) is None:
        promise(state, sentence, state.numbers.of(Socket(0, 0, "N", 1, label=label[1].lower()), "links"), LINKS, figure)
        return True
    own = [each for each in sentence.of_dim(Dim.RATE) if not is_of_a_host(state, sentence, each)]
    if _OF_EACH.search(sentence.over + sentence.before(figure, 30)) and len(state.numbers.ids("N")) > 1:
        promise(state, sentence, state.numbers.ids("N"), LINKS, figure)
        return True
    ids = state.numbers.ids("N")
    if len(own) == len(ids) > 1 and _ONE_IS.match(sentence.own):
        promise(state, sentence, [ids[own.index(figure)]], LINKS, figure)
        return True
    under = under_what(sentence, figure)
    if _OF_THE_PLUG.match(sentence.behind(figure)):
        return False
    is_fastest = figure.value == max(each.value for each in own)
    if under or (is_fastest and not state.has_said("N1 links")):
        promise(state, sentence, ["N1"], LINKS, figure)
    return True


def falls_back(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``1 Gb/s, 100 Mb/s``: the slower rates of one network socket."""
    networks = sentence.sockets_of("ACN")
    if not networks or any(socket.letter != "N" for socket in networks):
        return False
    if len({socket.ids for socket in networks}) > 1:
        return False  # N1 and N2, each with its own
    rates = [each.value for each in sentence.figures if each.dim is Dim.RATE]
    fastest = max((rate for rate in rates if rate <= FASTEST_BPS), default=max(rates))
    is_slower = figure.value < fastest and not under_what(sentence, figure)
    return is_slower and not counted_part(state, sentence, figure, networks)
