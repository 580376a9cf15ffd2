"""What the host gets: through the device's own lead, by a key, by words, or by what was said before."""

from __future__ import annotations

import re

from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import is_of_host_column, under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import say
from auditra.core.advert.references import goes_on
from auditra.core.advert.rules.host_link import HOST_PLUG
from auditra.core.advert.rules.own_use import goes_in_before_host, is_split_with_host
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import HOST
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_HOST = (
    r"(?:hosts?|ordinateur|portatil|rechner|laptops?|notebooks?|computers?|phones?|consoles?|tablets?|handhelds?|PCs?"
    r"|macbooks?|(?<!every )(?<!each )(?<!any )device)"
)
_THE = r"(?:the |your |my |its |a |an |das |de |la |il )?"
_CHARGES = re.compile(
    r"(?:\b(?:charg\w*|l(?:ae|ä)dt|lade\w*|oplad\w*|ricarica|recharge|carga|power\w*|keeps?|feeds?|gives?"
    r"|deliver\w*|supplies|brings?"
    r"|sends?|passes|passed|on|goes?|go|out|W|watts?|back|tops?|running)\b[^.;,]{0,26}\b"
    rf"(?:to |for |f.r |van |into |of |up )?{_THE}{_HOST}\b"
    rf"|\b{_HOST}\b[^.;,]{{0,44}}\b(?:gets?|may have|can have|drinks?|sips?|is (?:charged|fed|powered"
    rf"|supplied)|charg\w*|receives?"
    rf"|mit|ladung|jusqu|with|power|reach|arrive)\b"
    rf"|\breach(?:es)? {_THE}{_HOST}|\b(?:to|for)[ _-]{_THE}{_HOST}\b|\bpower to {_HOST}|\bon to {_THE}{_HOST}"
    r"|\b(?:host|laptop|computer|notebook)\s*(?:charging)?\s*:|\bout of the plug|\bhost ?charging|(?:^"
    r"|[:,;])\s*(?:host|laptop|notebook|computer) \d)",
    re.IGNORECASE,
)
_KEY_OF_HOST = re.compile(
    rf"^\s*(?:(?:power )?(?:to|for|of) )?(?:the |your )?{_HOST}\b(?! (?:stand|dock|hub|holder|cradle|arm"
    rf"|charger)\b)|\bladeleistung\b|\bpuissance de charge\b"
    rf"|\b(?:power to|to)[ _](?:the |your )?{_HOST}\b"
    r"|\bcharging:?\s*$",
    re.IGNORECASE,
)
_INPUTS = re.compile(r"(?i)\W*(?:in|inputs?)\W*")
"""Of a desk switch: where its hosts are plugged in."""
_OF_PHONE = re.compile(r"(?i)\W*phones?\b")
"""``Phone charging: 15 W (USB-C)``."""
_OF_POWER = any_of("power", r"charg\w*", "watts?")
_PD_OUT = re.compile(r"(?i)\W*(?:PD|power)[ _-]out(?:put)?\W*")
_PD_OUT_BEFORE = ends_with(r"\bPD[ -]out(?:put)?:?(?: up to)?", r"\bcharges? through(?: at| with)?(?: up to)?")
_TO_HOST = re.compile(rf"(?:(?:power )?(?:to|for)|charging) (?:the |your )?{_HOST}", re.IGNORECASE)
_KEY_OF_PLUG = re.compile(r"(?i)\W*(?:\d{1,2} ?x )?(?:host|upstream)\b")
_TO_THE_HOST = any_of(f"(?:to|for) (?:the |your )?{_HOST}")
_SMALL_HOST = any_of("phones?", "tablets?")
_FROM_SOCKET = re.compile(
    r"[^.;]{0,30}\b(?:from|at|on|in) (?:the |a |its |any )?(?:[^.;,]{0,20}(?:USB|sockets?|ports?)|[AC]\d\b)",
    re.IGNORECASE,
)
"""A phone at a socket is charged by it; a phone alone is the host."""
_SOME_SOCKET = any_of("(?:charging|front|side|rear|phone) (?:socket|port)s?")
_SOCKET_OR_USB = re.compile(r"socket|usb", re.IGNORECASE)
PASSES = any_of("pass(?:es|ed)?[- ]?(?:through|on)?", "pass-through")
ARRIVES = begins_with(
    "(?:of (?:that|it|this|these|them|which) )?arrives?",
    r"gets? (?:through|there)",
    r"reach(?:es)?",
    "left",
    "for the(?! dock| hub| device| adapter| rest| others?| small| phone| (?:\\w+ )?(?:USB|sockets?|ports?|[AC]\\b))",
)
_LESS_ARRIVES = begins_with(r"\(\d+ ?W (?:arrives?|reach(?:es)?|(?:are|is) left|gets? (?:there|through)|remains?)\b")
"""``Charging at 100 W (90 W arrive)``: the first goes in."""
_DELIVERY_BEHIND = begins_with("PD", "power[ -]delivery")
_THROUGH_TO_HOST = re.compile(rf"(?i)\s*through to {_THE}{_HOST}\b")
"""``a charger socket (USB-C, 30 W through to the tablet)``."""
_GETS = re.compile(r"\W*(?:and )?(?:gets|receives|is charged)\b", re.IGNORECASE)
_HOST_FIRST = re.compile(rf"\W*(?:each|every|the|your|a|both)?\s*{_HOST}\b", re.IGNORECASE)
_PLUG_TO_HOST = re.compile(
    rf"(?i)\W*(?:\d ?x? |one |an? )?(?:USB-?C|USB ?4|Thunderbolt)[^,;:]{{0,12}} to {_THE}{_HOST}\b *[,:(]"
)
"""``USB4 to the host, 40 Gb/s, 98 W``."""
_UPSTREAM_WITH = ends_with(r"\bupstream:? \d+(?:\.\d+)? ?[GM]b(?:/s|ps|it/s)(?: with|,| and)(?: up to)?")
"""``Upstream 40 Gb/s with 96 W``."""
_OF_THE_INLET = any_of("takes?", "inlet", "in(?:put)?")
_SAYS_WHOSE = re.compile(r"^ ?\([^()]{0,16}\)")
_NUMBERED_HOST = re.compile(r"(?i)\b((?:host|laptop|computer|PC) \d)\b")
_HAND_ON = ends_with(r"\b(?:(?:hand|pass|hands|passes) (?:it )?(?:on|over)(?: the rest,?)?|forwards?)(?: up to)?")
_CHARGED_THROUGH = ends_with(rf"\b(?:through|by|over|via) which {_THE}{_HOST} (?:is|can be|may be) charged,? with")
_IS_CHARGED = re.compile(
    rf"(?i)\b(?:{_HOST}(?: \d)?|it|they) (?:is|are|can be|may be|gets?|keeps being"
    rf"|goes on being) charged,? (?:with|at|by) (?:up to )?$"
    rf"|\b{_HOST} (?:is|are) charged, (?:up to )?$"
    r"|\band are (?:both )?charged,? (?:with|at) (?:up to )?$"
)
_IN_HOST_BRACKET = re.compile(rf"(?i)\b{_HOST} \((?:by |over |via )?USB-?C,? charged (?:with|at) (?:up to )?$")
_YES = re.compile(r"\W*(?:[^.;:\d]{0,40}, )?yes\b", re.IGNORECASE)
_ONLY_FIGURE = re.compile(r"(?i)\s*(?:max\.?|up to|at most|with)?\s*")
_IN_BEHIND = begins_with("(?:PD |power )?(?:go(?:es)? )?in", "(?:PD |power )?input")
_OUT_IN_BRACKETS = re.compile(r"(?i)\bin\b[^();]{0,24}\(\d+ ?W out\)$")
"""``PD in 100 W (85 W out)``."""
_HOST_GETS = re.compile(rf"(?i)\b(?:the|your) {_HOST} (?:gets?|receives?|has|is charged with)(?: up to)? $")
_INPUT_BEFORE = ends_with(r"\b(?:input|max in)(?: max\.?| up to| of)?:?")
_COMES_OUT = begins_with("(?:come|go)(?:es|s)? out")
_OUT_OF_TWO = re.compile(r" ?W out\b", re.IGNORECASE)
_IN_OF_TWO = re.compile(r"W (?:PD )?in\b", re.IGNORECASE)


def host_by_key(state: State, sentence: Sentence, figure: Figure, _: str) -> bool:
    part = sentence.part_of(figure)
    if state.product.is_charger and sentence.sockets_of("AC"):
        return False  # whatever hangs on its socket
    if _PLUG_TO_HOST.match(sentence.own) and not sentence.sockets_of("AC") and not _OF_THE_INLET.search(part):
        say(state, sentence, f"UP charges host {figure.hedged}{under_what(sentence, figure)}")
        return True
    if _INPUT_BEFORE.search(sentence.before(figure)):
        return False
    by_key = _KEY_OF_HOST.search(sentence.over.rstrip(": ")) and not _SOCKET_OR_USB.search(sentence.over)
    of_plug = any(each.is_plug and each.end <= sentence.shift for each in sentence.sockets)
    if _IN_BEHIND.match(sentence.behind(figure, 14)) or is_split_with_host(sentence, figure):
        return False
    named = _TO_THE_HOST.search(sentence.over) or _KEY_OF_PLUG.match(sentence.over)
    nearest = sentence.nearest_before(figure)
    gap = _SAYS_WHOSE.sub("", sentence.text[nearest.end : figure.start]) if nearest is not None else ""
    of_host = nearest is not None and nearest.label == HOST and ")" not in gap
    by_key = by_key or (of_plug and named is not None) or of_host
    by_key = by_key or (state.product.is_desk_switch and _INPUTS.fullmatch(sentence.clause.over) is not None)
    by_key = by_key or (is_of_host_column(sentence) and _OF_POWER.search(sentence.clause.over) is not None)
    by_key = by_key or (_PD_OUT.fullmatch(sentence.over) is not None and not state.product.is_charger)
    if by_key and _OF_PHONE.match(sentence.over) and sentence.sockets_of("AC"):
        return False
    if not by_key and not _TO_HOST.fullmatch(sentence.clause.heading):
        return False
    host = _NUMBERED_HOST.search(sentence.part_of(figure))
    under = under_what(sentence, figure) or (f" on {host[1].lower()}" if host else "")
    say(state, sentence, f"UP charges host {figure.hedged}{under}")
    return True


def host_by_words(state: State, sentence: Sentence, figure: Figure, local: str) -> bool:
    if state.product.is_network_switch:
        return False
    of_socket = any(
        socket.end <= figure.start and not re.search(r"[;|] ", sentence.text[socket.end : figure.start])
        for socket in sentence.sockets_of("AC")
    )
    goes_in = _is_less_handed_on(sentence, figure) or goes_in_before_host(sentence, figure)
    if _LESS_ARRIVES.match(sentence.behind(figure)) or goes_in:
        say(state, sentence, f"P1 takes {figure.hedged}")
        return True
    of_host = _HOST_GETS.search(sentence.before(figure)) is not None
    if state.product.is_charger and sentence.sockets_of("AC") and not sentence.clause.over and not of_host:
        return False  # whatever hangs on its socket
    masked = sentence.own_words(figure, masked=True)
    through = _CHARGED_THROUGH.search(sentence.before(figure)) is not None
    if _THROUGH_TO_HOST.match(sentence.behind(figure)):
        say(state, sentence, f"UP charges host {figure.hedged}{under_what(sentence, figure)}")
        return True
    in_brackets = any(each.start == figure.end + 2 for each in sentence.sockets_of("AC"))
    of_socket = of_socket or in_brackets or _SOME_SOCKET.search(sentence.before(figure)) is not None
    rest = any(
        _IN_BEHIND.match(sentence.behind(each, 14)) for each in sentence.of_dim(Dim.WATTS) if each.end <= figure.start
    )
    if (
        not through
        and not rest
        and _SMALL_HOST.search(masked)
        and (of_socket or besides_host(state, local) or _FROM_SOCKET.match(sentence.behind(figure, 60)))
    ):
        return False
    handed = ARRIVES.match(sentence.behind(figure, 24)) and "left" not in sentence.behind(figure, 8)
    out = _OUT_OF_TWO.search(sentence.text[figure.start : figure.end + 5]) and _IN_OF_TWO.search(sentence.text)
    part = sentence.part_of(figure)
    opened = sentence.opened_before(figure)
    if opened >= 0 and _ONLY_FIGURE.fullmatch(sentence.text[opened + 1 : figure.start]):
        part = sentence.text[max(sentence.text.rfind(mark, 0, opened) for mark in ",;:") + 1 : opened]
    alone = len(re.findall(r"\d ?W\b", part)) < 2
    place = sentence.text.rfind(part, 0, figure.end) if part else 0
    end = sentence.text.find(")", figure.end) if opened >= 0 else figure.end
    has_socket = any(place <= each.start < end for each in sentence.sockets_of("AC"))
    out = out or (_COMES_OUT.match(sentence.behind(figure)) if rest else None)
    named = through or of_host or _CHARGES.search(masked) or (alone and not has_socket and _CHARGES.search(part))
    named = (
        named or _IS_CHARGED.search(sentence.before(figure, 40)) or _IN_HOST_BRACKET.search(sentence.before(figure, 60))
    )
    asked = _YES.match(sentence.own) and _CHARGES.search(f"{sentence.over} {sentence.clause.heading}")
    of_plug = (HOST_PLUG.search(sentence.before(figure)) or _UPSTREAM_WITH.search(sentence.before(figure))) is not None
    handed_on = _HAND_ON.search(sentence.before(figure)) is not None
    gets = not sentence.sockets_of("AC") and _GETS.match(local) and _HOST_FIRST.match(sentence.text)
    to_socket = state.product.is_charger or of_socket
    out = out or (None if to_socket else _OUT_IN_BRACKETS.search(sentence.text[: figure.end + 5]))
    out = out or (None if to_socket else _PD_OUT_BEFORE.search(sentence.before(figure)))
    if not (gets or of_plug or named or handed or handed_on or out or asked or _goes_on(state, sentence, figure)):
        return False
    verb = "UP passes" if PASSES.search(local.split(":")[-1]) else "UP charges host"
    state.to_host_in = sentence.clause.start
    numbered = _NUMBERED_HOST.search(local)
    under = under_what(sentence, figure) or (f" on {numbered[1].lower()}" if numbered else "")
    say(state, sentence, f"{verb} {figure.hedged}{under}")
    return True


def _is_less_handed_on(sentence: Sentence, figure: Figure) -> bool:
    """``100 W power delivery, charges your laptop at up to 87 W``: the first goes in."""
    later = next((each for each in sentence.of_dim(Dim.WATTS) if each.start >= figure.end), None)
    return (
        later is not None
        and later.value < figure.value
        and _DELIVERY_BEHIND.match(sentence.behind(figure)) is not None
        and _CHARGES.search(f"{sentence.text[figure.end : later.start]} {sentence.behind(later, 20)}") is not None
    )


def besides_host(state: State, local: str) -> bool:
    """``100 W to the laptop; 20 W to the phone``: the phone hangs on a socket."""
    return state.to_host_in >= 0 and re.search(r"(?i)\bphones?\b", local) is not None


def _goes_on(state: State, sentence: Sentence, figure: Figure) -> bool:
    """``65 W to the laptop without a display, 45 W with one``: the second figure is of the same as the first."""
    earlier = [
        each
        for each in sentence.of_dim(Dim.WATTS)
        if each.end <= figure.start and not any(c.start <= each.start < c.end for c in sentence.conditions)
    ]
    if (
        not earlier
        and state.to_host_in == state.previous
        and goes_on(state, sentence)
        and not sentence.sockets_of("AC")
    ):
        return bool(under_what(sentence, figure))
    if state.to_host_in != sentence.clause.start or not earlier or not under_what(sentence, figure):
        return False
    return not any(earlier[-1].end <= socket.start for socket in sentence.sockets_of("AC"))
