"""The device as a whole: drivers, hosts, buttons, and what switches between hosts."""

from __future__ import annotations

import re

from auditra.core.advert.condition_forms import SYSTEM
from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import count_of
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_NO_DRIVER = any_of(
    "no (?:app |extra )?(?:driver|drivers|drv)", "needs? no driver",
    "(?:not|never) (?:need|require) (?:an?|any) (?:extra )?drivers?",
    "drivers?:? none", "drivers? (?:on|for) no (?:system|host|computer)",
    "drivers?: (?:not (?:needed|required|necessary)|no|none)",
    "without (?:a |any )?(?:additional |extra |special )?drivers?", "driver-?free",
    "neither (?:an? )?driver",
    "geen drivers?", "keinen? treiber", "ohne treiber", "senza driver", "sin controlador(?:es)?",
    "nothing (?:needs|has|is) to be installed",
    "driverless", "sans pilote", "plug[- ]?(?:and|&|n)[- ]?play", "nothing to install", "has it already", "no software",
    "pnp", "drivers? (?:is |are )?(?:built in(?:to)?|included in|part of)", "treiber:? keine?", "pilote ?: ?aucun",
)  # fmt: skip
_SYSTEM = re.compile(rf"\b({SYSTEM})", re.IGNORECASE)
_BY_DRIVER = any_of("(?:drawn by|through|with|(?<!not )(?<!never )needs?) (?:our|the|a|its) driver")
"""A driver that some of it needs."""
_NO_DRIVER_ON = re.compile(r"(?i)\bdriver-?(?:free|less) on\b([^.;]{3,60})")
_SYSTEM_NEEDS = re.compile(rf"\b({SYSTEM}) (?:needs?|requires?) (?:an?|our|the|its) (?:own )?driver\b", re.IGNORECASE)
_NEEDED_ON = re.compile(
    rf"(?<!\bno )\bdriver (?:is )?(?:required|needed|necessary) (?:on|for|under) ({SYSTEM})", re.IGNORECASE
)
_DRIVER_OF = re.compile(
    rf"(?:^|[;,.] )({SYSTEM})(?: and newer| or later)?:? (?:a |our |the )?drivers? (?:is |are )?(?:on|from|via|at"
    rf"|needed|required|necessary"
    r"|to be installed|download)\b(?! (?:for|which|that))",
    re.IGNORECASE,
)
"""``Windows: driver on our page``."""
_NEED_OURS = re.compile(
    rf"((?:{SYSTEM})(?:(?:,| and|, and) (?:{SYSTEM}))*) (?:needs?|wants?|requires?|uses?) (?:ours|one|it)\b",
    re.IGNORECASE,
)
"""``No driver for Linux; Windows and macOS need ours``."""
_DRIVER_ON = re.compile(rf"(?i)(?:^|[,;] |\bbut )(?:an? |the |our )?drivers? (?:on|for|under) ({SYSTEM})")
"""``No driver on Linux, driver on Windows``."""
_NO = re.compile(r"\W*(?:(?:no|none|never)\b(?! driver)|not (?=on|for|under|with))", re.IGNORECASE)
_BUILT_IN = re.compile(
    r"(?i)\W*(?:built in(?:to)?|included in|part of|comes with) (?=Windows|macOS|Linux|Android|ChromeOS)"
)
_NEEDS_ONE = re.compile(
    r"[ \d.]*(?:from our (?:page|site)|on our (?:page|site)|does|do|needs? one|requires? one|with one|with (?:a "
    r"|our |the )?driver)\b",
    re.IGNORECASE,
)
_WORKS_BEHIND = re.compile(r"\bno (?:extra )?drivers?\b[^.;]{0,16}\b(?:works?|compatible|supports?)\b", re.IGNORECASE)
_WITH_DRIVER = any_of("on Windows with", "driver for Windows")
_EXCEPT = any_of(
    "unless", "except", f"only (?:(?:on|for|under|with) )?{SYSTEM}", f"{SYSTEM} only", "other systems?: driver"
)
_WORKS_ON = re.compile(
    r"\b(?:works? (?:both )?(?:on|with)|fits|compatible with|suitable for|made for(?= (?:Windows|macOS|Linux"
    r"|Android|ChromeOS|iPadOS)))\b([^.;]{3,60})",
    re.IGNORECASE,
)
_HOST_NAMES = re.compile(
    r"\b(laptops?|tablets?|phones?|notebooks?|computers?|consoles?|smartphones?|PCs?|Windows(?: \d+(?:(?: and "
    r"|/)\d+)?)?|macOS(?: \d+)?|Linux"
    r"|Android|iPadOS"
    r"|Chrome ?OS)\b",
    re.IGNORECASE,
)
_SYSTEMS_KEY = re.compile(
    r"(?i)\W*(?:hosts?(?: systems?)?"
    r"|(?:compatible|supported) (?:with|systems?|OS|operating systems?|hosts?|devices?)|compatibility"
    r"|(?:operating )?systems?|OS|compatible|works with)\W*"
)
_ONLY_FOR = re.compile(rf"(?i)\W*for {SYSTEM}(?:(?:,| and|, and| or|,? or) {SYSTEM})*\W*")
"""``For Windows 11, macOS 14 and Linux.``"""
_DENIED = re.compile(r"(?i)\b(?:not|never|neither|nor|no longer)(?: \w+)?\s+$|\bin$")
_OF_A_SIZE = re.compile(r"\d ?(?:mm|cm|in)\b")
_ANY_HOST = any_of("every", "any", "all", "that")
_HOSTS = re.compile(
    r"(?<![\d.])\b([Tt]wo|[Tt]hree|[Ff]our|\d) (?:[Cc]omputers|[Hh]osts|PCs|[Ll]aptops|[Nn]otebooks)\b"
    r"|\b(?:[Hh]osts|[Cc]omputers|PCs):\s*(\d)"
)
_ONE_AND_ONE = re.compile(
    r"(?i)\ban? (?:PC|computer|laptop|notebook|desktop)(?: \([^()]{2,40}\))? and an? (?:PC|computer|laptop"
    r"|notebook|desktop)\b"
)
_INPUTS = re.compile(r"(?i)\W*(?:in|inputs?|hosts?|computers?|laptops?)\W*")
"""Over the sockets that the hosts of a desk switch are plugged into."""
_OTHER_TIME = any_of("last one", "wait", "hold", "before")


def drivers(state: State, sentence: Sentence) -> None:
    """Without a driver, everywhere or on the systems that are named."""
    _needed(state, sentence)
    asked = re.search(r"(?i)\bdrivers?\b|\binstall\b", sentence.clause.heading + sentence.clause.over) is not None
    denied = asked and (_NO.match(sentence.own) is not None or _BUILT_IN.match(sentence.own) is not None)
    if not denied and not _NO_DRIVER.search(sentence.text):
        return
    every = list(_SYSTEM.finditer(sentence.text))
    needing = [match for match in every if _NEEDS_ONE.match(sentence.text, match.end())]
    for match in needing:
        say(state, sentence, f"body needs driver on {match[1]}")
    with_one = {match[1] for match in _DRIVER_ON.finditer(sentence.text)}
    systems = [match[1] for match in every if match not in needing and match[1] not in with_one]
    if _WITH_DRIVER.search(sentence.text):
        systems = [system for system in systems if not system.lower().startswith("windows")]
    if _WORKS_BEHIND.search(sentence.text):
        systems = []  # no driver anywhere, and then where it works
    if not systems and not _EXCEPT.search(sentence.text) and (denied or not _BY_DRIVER.search(state.text)):
        say(state, sentence, "body without driver")
        if on := _NO_DRIVER_ON.search(sentence.text):
            _works_on(state, sentence, on[1])
    everywhere = any(said.sentence == "body without driver" for said in state.said)
    for system in systems if not everywhere else ():
        say(state, sentence, f"body without driver on {re.sub('(?i) from', '', system)}")


def _needed(state: State, sentence: Sentence) -> None:
    """The systems on which there has to be one."""
    for pattern in (_SYSTEM_NEEDS, _NEEDED_ON, _DRIVER_OF, *([_DRIVER_ON] if _NO_DRIVER.search(sentence.text) else ())):
        for match in pattern.finditer(sentence.text):
            say(state, sentence, f"body needs driver on {match[1]}")
    spoken = re.search(r"(?i)\bdrivers?\b", state.text[: sentence.clause.end]) is not None
    for ours in _NEED_OURS.finditer(sentence.text) if spoken else ():
        for system in _SYSTEM.findall(ours[1]):
            say(state, sentence, f"body needs driver on {system}")


def hosts(state: State, sentence: Sentence) -> None:
    """On which hosts it works."""
    if _ONLY_FOR.fullmatch(sentence.own) and not sentence.clause.over:
        _works_on(state, sentence, sentence.own)
    if _SYSTEMS_KEY.fullmatch(sentence.clause.over):
        _works_on(state, sentence, sentence.own)
    for match in _WORKS_ON.finditer(sentence.text):
        is_denied = _DENIED.search(sentence.text[: match.start()]) is not None
        if not is_denied and not _ANY_HOST.search(match[1]) and not _OF_A_SIZE.search(match[1]):
            _works_on(state, sentence, match[1])


def _works_on(state: State, sentence: Sentence, words: str) -> None:
    names = [name.lower() if name[0].islower() and "OS" not in name else name for name in _HOST_NAMES.findall(words)]
    if names:
        say(state, sentence, f"body works on {', '.join(dict.fromkeys(names))}")


def buttons(state: State, sentence: Sentence) -> None:
    """A key that wakes the host, or turns it off."""
    named = re.search(r"(?i)\b(?:button|key)\b", sentence.text)
    if named is None and re.search(r"(?i)\bpress(?:ed|ing)? it\b", sentence.text):
        named = re.search(r"(?i)\b(?:button|key)\b", state.text[state.previous : state.at])
    wakes = named and re.search(r"(?i)\bwakes?\b", sentence.text)
    if wakes:
        lid = (
            " lid closed"
            if re.search(r"(?i)\blid (?:is )?(?:closed|shut|down)|(?:closed|shut) lid", sentence.text)
            else ""
        )
        say(state, sentence, f"B1 button wakes{lid}")
    if (wakes or state.has_said("B1 button")) and re.search(
        r"(?i)\b(?:turns?|switches|powers?) (?:(?:it|the \w+) )?(?:off|down)\b", sentence.text
    ):
        say(state, sentence, "B1 button turns off")


def desk_switch(state: State, sentence: Sentence) -> None:
    """How many hosts it switches, and how fast."""
    if not state.product.is_desk_switch:
        return
    match = _HOSTS.search(sentence.text)
    inputs = [each for each in sentence.sockets if each.count and _INPUTS.fullmatch(sentence.clause.over)]
    if inputs and not state.has_said("body switches"):
        say(state, sentence, f"body switches {inputs[0].count} hosts")
    if match is None and _ONE_AND_ONE.search(sentence.text) and not state.has_said("body switches"):
        say(state, sentence, "body switches 2 hosts")
    if match and not state.has_said("body switches"):
        say(state, sentence, f"body switches {count_of(match[1] or match[2])} hosts")
    for figure in sentence.of_dim(Dim.SECONDS):
        if not _OTHER_TIME.search(sentence.part_of(figure)):
            words = figure.hedged if figure.hedge == "about" else figure.text
            say(state, sentence, f"body switches in {words}")
