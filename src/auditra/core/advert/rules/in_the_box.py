"""What lies in the box beside the device: lists under a heading, and sentences that say what comes with it."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.advert.phrases import any_of
from auditra.core.advert.promises import say
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import sockets
from auditra.core.advert.state import State

_HEADING = any_of(
    "in the box",
    "(?<!not )included",
    "includes",
    "package contents",
    r"package(?=\W*$)",
    "packing list",
    "contents",
    "scope of delivery",
    "accessories",
    r"(?<!\w )supplied",
    "what you get(?! (?:on|at|in front|from)\\b)",
    "in the pack(?:age)?",
    "the box (?:also )?(?:holds|contains)",
    "(?:delivered|supplied|comes|ships) with",
    "delivery includes",
)
_ASKS = re.compile(r"(?i)\W*(?:is|are|was|does|do|will|can)\b(?!.*\bbox\b)")
_THING = (
    r"(?:leads?|cables?|cords?|supply|supplies|chargers?|adapt[eo]rs?|bricks?|pouch|bags?|sleeves?|straps?|manuals?|guides?"
    r"|screwdriver|clips?|feet|holders?|rings?|pads?|stylus|remote|batter(?:y|ies)|antennas?|screws|tray|stands?|bracket"
    r"|brackets|mounts?|ties?|tool|cloth|lanyard|case|booklet|leaflet|documentation|stickers?|hooks?|caps?"
    r"|covers?|tips?|(?:mounting|screw) (?:set|kit))"
)
"""What is put into a box beside the device."""
_DEVICE = (
    r"(?:hub|dock|docking station|adapt[eo]r|device|unit|reader|station|switch|charger|box|cable"
    r"|lead|product|set)"
)
_WITH = re.compile(
    r"\b(?:(?:comes?|ships?) (?:complete |along |together |bundled |packed |packaged )?with"
    r"|(?:is |are )?(?:delivered|supplied|sold|bundled|packed|packaged|shipped|accompanied)(?: together)? (?:with|by)"
    r"|(?<!in )the box (?:also )?(?:holds|has|contains)"
    r"|you (?:also )?(?:get|receive)|we (?:also )?(?:pack|enclose|add|include|throw in)"
    r"|includes) (?!it\b|them\b)(.{4,160}?)(?:\.(?!\d)|$|;| for the host| with (?:the|this|every|each|your)\b)",
    re.IGNORECASE,
)
_SURELY = re.compile(r"comes? with|ships? with|comes? complete", re.IGNORECASE)
_WITH_ALONE = re.compile(rf"\s*with (?:an? |the )?((?:[\w.-]+ ){{0,5}}{_THING})\W*", re.IGNORECASE)
_NOTE_MARKS = ("*", "]", ")", "†", "‡")
_SAYS_INCLUDED = re.compile(
    r"(?i)included|enclosed|supplied|in the box|part of the package|comes? (?:with it|along)"
    r"|(?:supplied|provided|packed|bundled) with"
)
_INCLUDED = re.compile(
    rf"(?P<what>(?:(?:[\w./-]+|and|\d+ V,|\d+ V /) ){{0,12}}{_THING}"
    r"(?: (?:of )?[\d.]+ ?[a-zA-Z]{1,2}\b| (?:for|to) [\w-]+){0,2})(?:,? (?:(?:which|that)"
    rf"(?: (?:is|are))?|is|are))?(?: also| already| tucked)?,? "
    r"(?:(?:included|enclosed|supplied(?! (?:with|by|from|over|through|via)\b)|in(?:to)? the box"
    r"|part of the package|comes? (?:with it|along))\b(?! in the length)"
    rf"|(?:supplied|provided|packed|bundled) with (?:the|this|every|each|your) {_DEVICE}\b)",
    re.IGNORECASE,
)
_CLAUSE_BEFORE = re.compile(
    r".*\b(?:with|from|has|have|gives?|needs?|for|on|to|by|through|plug in|DC in)\b(?! (?:it\b"
    r"|(?-i:USB-)?(?-i:[ABC])\b))",
    re.IGNORECASE,
)
_IN_TITLE = re.compile(
    r"(?:, with (?:an? )?(?=\d+ ?[WV])|\bincl(?:\.|uding|udes)? (?!the\b)(?:an? )?)([^,;()]{0,24}\b(?:supply"
    r"|adapter|charger"
    r"|brick|lead|cable|cord)\b(?: \d+ ?W)?)",
    re.IGNORECASE,
)
"""What is said to be in the box where a page says what it sells."""
_TWO_FIGURES = re.compile(r"\d ?W\b.*\d ?W\b")
"""``with a 65 W adapter 50 W``: what is given with it."""
_ENDS_IN_LEAD = re.compile(r"(?i)\b(?:lead|cable|cord)$")
_BRACKETS = re.compile(r"\s*\([^()]*\)")
_INCLUDED_IN_BRACKETS = re.compile(
    rf"(?i)\(([^(),;]{{2,24}}\b{_THING}) (?:is |are )?(?:included|enclosed|supplied|in the box)\)"
)
"""``a USB-B socket (1.5 m lead included)``."""
_IN_BRACKETS = re.compile(r"\s*\(([^()]{1,20})\)")
_FOR_WHAT = re.compile(rf"(?:[\w-]+ )?{_THING} (?:for|to) [\w-]+$", re.IGNORECASE)
_DENIED = re.compile(
    r"(?i)\bnot? (?:\w+ ){0,3}(?:included|enclosed|supplied|in the box|part of)"
    r"|\b(?:not|never) (?:included|enclosed|supplied)"
    r"|\b(?:sold|bought|available) (?:separately|apart)"
)
_COUNTED = re.compile(rf"\s*1 ?[x×] (?:[^,;]{{0,40}}\b(?:{_THING}|{_DEVICE})\b)[^,;]{{0,20}}", re.IGNORECASE)
"""``1x hub, 1x 24 W adapter``: a list that needs no heading."""
_BETWEEN = re.compile(r"(?<!\d V)[,;]\s+(?:and )?| and (?:a |an )?|\s\+\s", re.IGNORECASE)
_BETWEEN_IN_SENTENCE = re.compile(r"(?:,| and) (?=an? |its )", re.IGNORECASE)
_ENDS_IN_THING = re.compile(rf"(?i)\b{_THING}\W*$")
_ONLY_A_SIZE = re.compile(r"\s*\d+(?:[.,]\d+)? ?(?:m|cm|mm|ft|in|W|V|A)(?: each)?\W*")
_ONE_OF = re.compile(
    r"^(?:and )?(?:(?:a|an|the|one|its own|its|1 ?[x×])\s+)*|\s*\(?(?:[x×] ?1|1 ?[x×])\)?$", re.IGNORECASE
)
_REST = re.compile(
    r"(?i)\b(?:and (?:nothing else|more|uses?|has|gives?|is|needs?|draws?|takes?|runs?|weighs?)|as well|too)\b.*"
    r"|^everything [^:]{0,40}:"
)
_CARE = re.compile(r"(?i)\b(?:warranty|guarantee|support|service)\b")
_RATE = re.compile(r"\d ?[GM]b(?:/s|ps|it)")
_NONE = re.compile(r"(?i)\b(?:no|not|without|none)\b")
_LEAST, _MOST = 3, 50


def is_heading(words: str) -> bool:
    """What stands below is a list of what is in the box."""
    return _ASKS.match(words) is None and _HEADING.search(words) is not None and _DENIED.search(words) is None


def is_of_enclosed_lead(sentence: Sentence) -> bool:
    """``A 0.8 m cable (40 Gb/s, 100 W) is in the box``: the figures are of the lead."""
    match = _included(_BRACKETS.sub("", sentence.own)) if "(" in sentence.own else None
    return match is not None and _ENDS_IN_LEAD.search(match["what"]) is not None


def in_the_box(state: State, sentence: Sentence) -> None:
    """Each thing that comes with the device."""
    if _DENIED.search(sentence.text):
        return
    for part in dict.fromkeys(_things(state, sentence)):
        words = _in_short(part)
        own = words if _FOR_WHAT.search(words) is None else ""
        names_sockets = any(not socket.is_plug for socket in sockets(own))
        if _LEAST <= len(words) <= _MOST and not names_sockets:
            say(state, sentence, f"body comes with {words}")


def _things(state: State, sentence: Sentence) -> Iterator[str]:
    if is_heading(sentence.clause.over):
        yield from _parts(sentence.own.strip(" ."), _BETWEEN)
        return
    if _is_counted(sentence.own):
        yield from _parts(sentence.own, _BETWEEN)
        return
    if (inside := _INCLUDED_IN_BRACKETS.search(sentence.text)) is not None:
        yield from _parts(inside[1], _BETWEEN)
    elif (match := _included(_IN_BRACKETS.sub(r" \1", sentence.text))) is not None:
        whose = _FOR_WHAT.search(match["what"])
        if whose is None:
            yield from _parts(_CLAUSE_BEFORE.sub("", match["what"]), _BETWEEN)
        else:
            before = _parts(_CLAUSE_BEFORE.sub("", match["what"][: whose.start()]), _BETWEEN)
            yield from (*filter(_ENDS_IN_THING.search, before), whose[0])
    elif not state.text[: sentence.clause.start].strip():
        yield from (match[1] for match in _IN_TITLE.finditer(sentence.text) if not _TWO_FIGURES.search(match[1]))
    yield from _with(state, sentence)


def _with(state: State, sentence: Sentence) -> Iterator[str]:
    """What stands behind the verb."""
    alone = _WITH_ALONE.fullmatch(sentence.own) if sentence.own.strip() != sentence.clause.heading else None
    is_note = state.text[: sentence.clause.start].rstrip().endswith(_NOTE_MARKS)
    if alone is not None and not sentence.shift and not is_note:
        yield alone[1]
    match = _WITH.search(sentence.text)
    if match is None:
        return
    surely = _SURELY.match(match[0]) is not None
    listed = _REST.sub("", re.sub(r"\([^)]*\)", "", match[1])).strip()
    all_parts = list(_parts(listed, _BETWEEN))
    are_things = all(_ENDS_IN_THING.search(each) for each in all_parts)
    for part in all_parts if are_things else _parts(listed, _BETWEEN_IN_SENTENCE):
        if surely or re.search(rf"(?i)\b{_THING}\b", part):
            yield part


def _included(text: str) -> re.Match[str] | None:
    """The end is looked for first: hostile texts have many beginnings and no end."""
    return _INCLUDED.search(text) if _SAYS_INCLUDED.search(text) else None


def _is_counted(words: str) -> bool:
    parts = re.split(r"[,;]", words.strip(" ."))
    return len(parts) > 1 and all(_COUNTED.fullmatch(part) for part in parts)


def _parts(listed: str, between: re.Pattern[str]) -> Iterator[str]:
    """The things of a list; a size that stands alone is that of the thing before it."""
    held = ""
    for part in between.split(listed):
        if held and _ONLY_A_SIZE.fullmatch(part):
            held = f"{held} {part.strip()}"
            continue
        if held:
            yield held
        held = part
    if held:
        yield held


def _in_short(part: str) -> str:
    """Without article, count of one and marks; nothing for what is no thing: one of several, or what a socket does."""
    plain = _REST.sub("", part).strip()
    words = " ".join(re.sub(r"[^\w .+-]", " ", _ONE_OF.sub("", plain)).split())
    words = re.sub(r"(?i)^(?:so )?(?:only )?(?:one |an? )(?=\w+ \d|\w+$)", "", words)
    words = re.sub(r"^(?:[Yy]ou (?:will )?(?:find|get) )(?:an? |the )?", "", words)
    is_no_thing = " or " in words or _CARE.search(words) or _RATE.search(part) or _NONE.search(words)
    return "" if is_no_thing else words
