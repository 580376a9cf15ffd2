"""Figures of something else than what is sold: another product, an example, what gear must have, what is denied."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.advert.phrases import any_of

_SEGMENT = re.compile(
    r"[;.]\s|[()]|:\s|\s-\s|,\s(?=(?:and none|against|our|the last|Mark|other|not|instead|expect|in a|and the)\b)",
    re.IGNORECASE,
)
_OF_ANOTHER = any_of(
    r"(?:other|others'|competing|most|many|cheap|older|rival|customers?'?) "
    r"(?:cradles?|hubs?|docks?|nubs?|adapters?|cables?|leads?|chargers?|readers?|makers?|boxes|things|devices)",
    "(?:before|formerly|until now|so far)$",
    "(?:first|previous|last|old|earlier|former) edition$",
    r"our (?:last|previous|old|earlier|former|first) (?:one|model|version|\w+ had)",
    r"the (?:last|previous|old|earlier|former|first) (?:model|version|\w+ (?:had|stopped|ended|gave|ran|could"
    r"|did|was))",
    "the (?:previous|old|earlier|former) one", "Mark 1", "predecessor", "(?:sister|brother|sibling)s?",
    "(?:retail|gift|sales|shipping) (?:box|carton|pack)", "last year", "(?:version|edition|generation) 1(?=$|[,)])",
    "version is another", r"that is \d",
    "on average", "expect about", "in (?:our|its) (?:own )?(?:measuring|measurements?|trials)",
    "with (?:older|slower) (?:gear|devices|equipment|networks?|switches|hosts?|computers?)",
    r"wait(?! \d)", r"hold (?:it|the)",
    r"(?<!be )(?<!have )(?<!has )(?<!have it )(?<!we )(?<!you )had (?!to\b|from\b)", "ran (?:at|on|with|its|all)",
    "(?<!we )gave", r"(?:it|that|they|which) (?:was|were) (?:only |just )?\d+",
    "used to (?:be|have|give|run)", "(?:was|were) limited to",
    "host's own",
    "(?:lamps?|LEDs?|lights?) (?:is(?! (?:for|the)\\b)|are(?! for\\b)|turns?|glows?|shines?|blinks?|stays?|shows?)",
    "(?:choose|take|see|try|get|buy) our",
    "I (?:own|have|use|run|need|want|bought|am looking|measured?|found|got|saw|see)",
    r"(?:USB|HDMI|DisplayPort) ?(?:[1234](?:\.\d)?|standard)(?: \w+)? (?:knows?|allows?|brought|brings?"
    r"|defines?|permits?|specifies|means"
    r"|stops|ends|goes up to|is (?=\d))",
    r"SuperSpeed (?:brought|brings|knows|means|allows)",
    r"(?:devices?|drives?|loads?|gear|things|monitors?|gadgets?) (?:that|which) (?:draws?|needs?|takes?|wants?|uses?) "
    r"(?:over|more than|above|up to|at least)",
    r"(?<!while )(?<!when )(?<!if )(?:an? |any )(?:\w+ )?(?:monitor|screen|display|notebook|laptop|tablet|phone"
    r"|drive)\b[^,.;]{0,40} "
    r"(?:needs|draws|wants|uses|requires)(?: about| some| up to)? \d+",
)  # fmt: skip
"""What is beside a figure of another product, an example, a conversion or a need."""
_FALLS_BACK = re.compile(r"(?i)\W*(?:also )?backwards?[ -]compatible\b")
_OTHERS_THEN_OURS = re.compile(r"(?i)\bothers\b[^,;.]*(?=, (?:ours|this one|mine|we)\b)")
_NEEDS = any_of(
    r"(?:needs?|needed|require[sd]?) (?:a |an |\d)[^,.;]{0,60}(?:socket|port|host)",
    r"(?:full|top|highest) (?:speed|rate) (?:takes|needs|wants|requires|calls for|asks for)",
    "backwards?[ -]compatible",
    "(?:falls?|drops?|steps?) back",
    "also (?:talks|speaks|understands)",
)
"""What a figure behind it is of: what gear or a host must have, or a slower rate that works, too."""
_DENIED_PART = any_of(
    r"does not\b[^,.;]*\b(?:show|carry|charge)",
    "not (?:suited |suitable |meant |made |intended |designed |fit )?for",
    r"(?:is|are) (?:not possible|impossible|not (?:allowed|supported|foreseen))",
    r"\d+ ?[GM]b(?:/s|ps|it/s) (?:is |are )?(?:needed|required|recommended)",
)
"""What denies the figures of its part between commas."""
_SOLD_APART = any_of(
    "(?:is|are|can be) (?:sold|bought|had) (?:apart|separately|as an extra)",
    "(?:is|are) optional",
    "available (?:apart|separately)",
    "also (?:available|sold|to be had) (?:in|as|with)",
)
_ENCLOSED = re.compile(
    r"\bincl(?:\.|uding|udes)? (?:an? )?[^,;()]{0,24}\b(?:cable|lead|cord|supply|adapter|charger)\b[^,;()]{0,12}",
    re.IGNORECASE,
)
_OLD_STANDARD = re.compile(r"(?i)\b(?:compatible with|faster than|as fast as|down to) USB ?[\d.]+(?: ?\([^)]*\))?")
_CHARGER_NEEDED = re.compile(
    r"(?i)\b(?:charger|supply|adapter|brick)\b[^.;()]{0,40}\((?:at least |min\.? )?\d+ ?W(?: or more| and more"
    r"| or stronger| at least"
    r"| min\.?)?\)"
)
"""``Plug in the charger of your console (45 W or more)``: what it must have."""
_MORE_OR_LEAST = re.compile(r"(?i)at least|min|more|stronger")
_COMPARED = re.compile(
    r"\b(?:compared (?:with|to)|unlike|like (?:its|our|the) (?:predecessor|(?:previous|last|old|earlier"
    r"|former) \w+)|in contrast (?:to|with)|where(?:as)? (?:the|other|our)\b|while (?:other|most"
    r"|cheap)\b)"
    r"[^.;]{0,160}?,(?=\s(?:the|it|its|this|ours?|we|that)\b)",
    re.IGNORECASE,
)
"""A comparison before what is said of the product itself."""


def of_another(text: str) -> Iterator[tuple[int, int]]:
    """The segments in which figures are of something else than what is sold."""
    for compared in list(_COMPARED.finditer(text)):
        yield compared.span()
        text = text[: compared.start()] + " " * len(compared[0]) + text[compared.end() :]
    if _FALLS_BACK.match(text):
        yield 0, len(text)
    yield from (match.span() for match in _OTHERS_THEN_OURS.finditer(text))
    needed = (match for match in _CHARGER_NEEDED.finditer(text) if _MORE_OR_LEAST.search(match[0]))
    yield from ((match.start() + match[0].index("("), match.end()) for match in needed)
    yield from (match.span() for match in _ENCLOSED.finditer(text))
    yield from (match.span() for match in _OLD_STANDARD.finditer(text))
    if _SOLD_APART.search(text) and ";" not in text:
        yield 0, len(text)
    yield from _denied_parts(text)
    start, follows = 0, False
    for mark in (*_SEGMENT.finditer(text), None):
        end = mark.start() if mark else len(text)
        is_other = follows or _OF_ANOTHER.search(text, start, end) is not None
        if is_other:
            yield start, end
        elif (needs := _NEEDS.search(text, start, end)) is not None:
            yield needs.start(), end
        follows = is_other and mark is not None and mark[0].startswith((":", "("))  # what it says of the other
        start = mark.end() if mark else start


def _denied_parts(text: str) -> Iterator[tuple[int, int]]:
    for denied in _DENIED_PART.finditer(text):
        start = max((text.rfind(mark, 0, denied.start()) for mark in ",;(|"), default=-1) + 1
        ends = [at for mark in ",;)|" if (at := text.find(mark, denied.end())) >= 0]
        yield start, min(ends, default=len(text))
