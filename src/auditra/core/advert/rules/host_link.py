"""The link to the host: through a plug, a key, or words that say where a rate ends."""

from __future__ import annotations

import re

from auditra.core.advert.belonging import subjects
from auditra.core.advert.condition_forms import HOSTS
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import is_of_host_column, under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import say
from auditra.core.advert.references import goes_on
from auditra.core.advert.rules.in_the_box import is_of_enclosed_lead
from auditra.core.advert.rules.networks import UPLINK
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import HOST, Socket
from auditra.core.advert.state import State

_KEY_OF_UPLINK = any_of(
    f"(?:interface|link|connection) to (?:the |your )?{HOSTS}",
    "interface",
    "bus(?=:)",
    "zum (?:rechner|computer|laptop|notebook)",
    "(?:host )?link(?=:)",
    "host (?:connection|rate)",
    "(?<!one )(?<!single )plug",
    r"^\W*plugs(?=:)",
    "upstream",
    "host port",
    "up(?=:)",
    r"(?<!\w )host(?=:)",
    "link to",
    "to computer",
    "connection",
    f"between (?:your|the|a) {HOSTS}",
)
_LEAD_GAP = re.compile(
    r"[ -](?:lead|cable|cord|tail|plug|wire)[^,;:.]{0,14}\(?| to (?:the |your )?(?:host|computer|laptop):? \(?",
    re.IGNORECASE,
)
_UPSTREAM_BEHIND = begins_with(r"\(?(?:upstream|to (?:the |your )?host|uplink)")
_ITS_LEAD = ends_with(r"\b(?:one|its|the|a|fixed|own|attached) (?:fixed |short |long )?(?:lead|cable|cord|tail)")
KEY_OF_LEAD = re.compile(r"(?i)\W*(?:the )?(?:lead|cable|cord|tail)\W*")
_LINK_OF = ends_with(r"(?<!on )(?<!share )\b(?:a|its|the) link of(?: up to)?")
_LEAD_FIRST = re.compile(rf"(?i)\W*(?:lead|cable|cord) to (?:the|your) {HOSTS}\b")
_LINK_FIRST = re.compile(r"(?i)\W*(?:host )?link(?:ed)? (?:by |over |via )?USB\b")
_BETWEEN_BEHIND = begins_with(f"between (?:your|the|a) {HOSTS} and")
_UPSTREAM_BEFORE = ends_with(r"\b(?:upstream|uplink)[,:]?")
_UP_BEHIND = re.compile(r" up(?=\s*[,;.)]|$)")
HOST_PLUG = re.compile(
    r"USB-C[ ,(]{1,3}(?:to |for )?(?:the |your )?(?:host|computer|laptop)(?: port| plug| side)?\s*[(:,)][^();]{0,30}$"
    r"|\bhost:? (?:USB-?)?[AC]\b[^,;()]{0,24}$",
    re.IGNORECASE,
)
_MARKED = any_of("(?:marked|labelled) with")
_FOR_GEAR = re.compile(
    r"(?i)[\s-]*(?:sockets?|ports?)? ?for (?:the|an?|your) (?:\w+ )?(?:drives?|sticks?|disks?|phones?|keyboards?)\b"
)
"""``The USB-C socket for the drive``, of a reader that copies."""
_NAME_OF_ADAPTER = re.compile(r"(?i)\s*(?:USB-?[AC]|USB)(?: to)? (?:ethernet|network|LAN|RJ-?45)\b")
"""``2.5G USB-C Ethernet adapter``: the rate of the network."""
_DATA = any_of("data", "USB", "link", "rate", "speed")
_OF_PLUG = any_of("to (?:the|your) computer", "plug", "host", "connects?", "connected", "uplink", "upstream")
_ATTACHES = ends_with(
    r"\b(?:connects?|connected|attaches|hangs) (?:via|by|over|on|to|with)(?: a| an| the)?",
    r"\bplugs? into (?:the|your) (?:computer|laptop|notebook|host) (?:by|via|with|through|over)",
)
_USB_A = re.compile(r"\bUSB-A\b|\bA (?:sockets?|ports?)\b")
_HOST_LEAD = ends_with(r"\b(?:host|connection|connecting|upstream) (?:cable|lead|cord)")
TOGETHER = any_of("together (?:they )?(?:pass|carry|send|share|reach|have|get|use|are limited to|run at)")
_REFERS = any_of(
    "each", "all", "they", "them", "both", "rate", "speed", "data", "the (?:two|three|four|rest|others?|left|right)",
    r"(?:one|two|three|\d) (?:at|on|run)", "it (?:is|runs|falls|drops|does)",
)  # fmt: skip
"""What makes a figure one of sockets that were named before."""
_MOST_OF_LIST = 60
_BARE_ITEMS = re.compile(r"(?i)\d[\d.]* ?[GM]b(?:/s|ps|it/s)(?:, (?:\d[\w. ]{0,9}|[a-z]+)){1,4}")


def of_plug_before(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``a USB-C lead of 60 cm (10 Gb/s)``: the plug is the nearest that is named."""
    last = sentence.nearest_before(figure)
    gap = sentence.text[last.end : figure.start] if last is not None else ""
    of_host = last is not None and last.label == HOST and re.search(r"[,;.)]", gap) is None
    if last is None or not last.is_plug or not (of_host or _LEAD_GAP.fullmatch(gap)):
        return False
    uplink(state, sentence, figure)
    return True


def of_its_lead(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Nine sockets, one lead (60 cm, 20 Gb/s)``: of the lead that the device hangs on."""
    opened = sentence.opened_before(figure)
    if KEY_OF_LEAD.fullmatch(sentence.clause.over) and all(each.letter in "AC" for each in sentence.sockets):
        uplink(state, sentence, figure)  # the lead: USB-C, 1 m, 20 Gb/s
        return True
    if opened < 0 or _ITS_LEAD.search(sentence.text[:opened]) is None or is_of_enclosed_lead(sentence):
        return False
    if any(opened < each.start < figure.start for each in sentence.sockets):
        return False
    uplink(state, sentence, figure)
    return True


def of_one_link(state: State, sentence: Sentence, figure: Figure) -> bool:
    """A reader, a drive's case, a network adapter: its USB plug is the link to the host."""
    found, carried = subjects(state, sentence, figure, "AC")
    if not state.product.is_one_link or not found or carried or found[0].ids or found[0].count not in (None, 1):
        return False
    is_socket = re.match(r"[\s-]*sockets?", sentence.text[found[0].end :], re.IGNORECASE) is not None
    if _FOR_GEAR.match(sentence.text, found[0].end):
        return False
    own_only = (
        found[0].letter == "C" and (state.product.is_reader or state.product.is_drive) and not _USB_A.search(state.text)
    )
    if is_socket and not own_only:
        return False
    if state.product.is_network_adapter and _NAME_OF_ADAPTER.match(sentence.behind(figure)):
        return False
    uplink(state, sentence, figure)
    return True


def attached_by(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``Connects via USB-C at 5 Gb/s``."""
    found, carried = subjects(state, sentence, figure, "AC")
    if not found or carried or not _ATTACHES.search(sentence.text[: found[0].start]):
        return False
    uplink(state, sentence, figure)
    return True


def of_uplink(state: State, sentence: Sentence, figure: Figure) -> bool:
    """The link to the host, by its key or the words around."""
    own = sentence.sockets_of("ACN")
    if own and TOGETHER.search(sentence.before(figure)):
        return True  # what several sockets share of the link to the host
    found, carried = sockets_of_rate(state, sentence, figure)
    near = sentence.part_of(figure) if own else sentence.before(figure, 60) + sentence.behind(figure, 40)
    plugs = [socket for socket in sentence.sockets if socket.is_plug and socket.end <= figure.start]
    by_key = _KEY_OF_UPLINK.search(sentence.over) or (
        not own and figure.start >= sentence.shift and is_of_host_column(sentence) and _DATA.search(sentence.over)
    )
    by_words = (not own or carried) and UPLINK.search(near) and not _MARKED.search(near)
    opened = sentence.opened_before(figure)
    by_key = by_key or (_HOST_LEAD.search(sentence.text[:opened]) if opened > 0 else None)
    by_plug = plugs and not own and (_OF_PLUG.search(sentence.text) or plugs[-1].label == HOST)
    before = own and not found and UPLINK.search(sentence.before(figure, 36))
    of_plug = HOST_PLUG.search(sentence.before(figure)) is not None
    no_socket_before = not any(each.end <= figure.start for each in own)
    of_plug = of_plug or (no_socket_before and _UP_BEHIND.match(sentence.behind(figure)) is not None)
    of_plug = of_plug or _LEAD_FIRST.match(sentence.own) is not None or _LINK_FIRST.match(sentence.own) is not None
    of_plug = of_plug or _LINK_OF.search(sentence.before(figure)) is not None
    of_plug = of_plug or _UPSTREAM_BEFORE.search(sentence.before(figure)) is not None
    upstream = (
        of_plug or _UPSTREAM_BEHIND.match(sentence.behind(figure)) or _BETWEEN_BEHIND.match(sentence.behind(figure))
    )
    if not (by_key or by_words or by_plug or before or upstream):
        return False
    uplink(state, sentence, figure)
    return True


def uplink(state: State, sentence: Sentence, figure: Figure) -> None:
    say(state, sentence, f"UP data {figure.hedged}{under_what(sentence, figure)}")


def sockets_of_rate(state: State, sentence: Sentence, figure: Figure) -> tuple[list[Socket], bool]:
    """The sockets of a rate; those of an earlier sentence only where it refers to them."""
    found, carried = subjects(state, sentence, figure, "ACN")
    is_all = sentence.own.strip(" .") == sentence.text[figure.start : figure.end]
    if carried and goes_on(state, sentence) and sentence.conditions:
        return found, carried
    if carried and not (is_all or _REFERS.search(sentence.text) or sentence.clause.over or _is_bare_list(sentence)):
        return [], False
    return found, carried


def _is_bare_list(sentence: Sentence) -> bool:
    """``USB-C to USB-A. 10 Gb/s, 3 A, aluminium``: items without a verb go on with what was named."""
    own = sentence.own.strip(" .")
    return "," in own and len(own) < _MOST_OF_LIST and _BARE_ITEMS.fullmatch(own) is not None
