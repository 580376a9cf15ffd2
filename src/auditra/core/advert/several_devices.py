"""Several devices in one text: the parts of a kit, the models of a family, and where each is spoken of."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import TYPE_CHECKING

from auditra.core.advert.phrases import any_of

if TYPE_CHECKING:
    from auditra.core.advert.product import Product

_PARTS = (
    r"(?:desk|wall|near|far|between|sender|receiver|left|right|travel)(?:[ -](?:box|end|unit|side|part))?"
    "|(?:box|part|unit|hub|dock) (?:for|on|at) the (?:desk|wall|table|screen|computer|bag|road|pocket"
    "|television|TV|sofa|home|office)"
    "|(?:big|small|large|little)[ -](?:box|unit|part|one)"
    "|(?:lead|cable|cord|hub|adapter) [1-4](?!\\d)|hub|charger|lead|cord|cable|adapter|dock|HDMI one"
    "|DisplayPort one|VGA one|reader|stand|pouch|bag|sleeve"
    "|case|sender|receiver"
    "|supply unit|supply|transmitter"
)


_NAMED_PART = re.compile(
    rf"(?im)(?:^[ \t]*[-*#]*\s*|(?<=[.;:!])\s+)(?:the |one |1 ?x? )?({_PARTS})\b"
    r"(?=\s*[:(]|\s+-\s|\s*-?\s*$|,? (?:gives|carries|turns|has|is|joins|stays|travels|goes|\d)|, \d)"
)


_NUMBERED_PART = re.compile(
    r"(?im)^[ \t]*\d[.)] (hub|reader|dock|charger|stand|cable|lead|adapter)\b[^:\n]{0,30}:"
    r"|[:;,] \(\d\) (?:an? )?(hub|reader|dock|charger|stand|cable|lead|adapter)\b"
)
"""``1) Reader: ...``: the things of a kit."""


_KEYED_PART = re.compile(
    r"(?im)^[ \t]*[-*#]*\s*(?:1 ?x? )?(hub|reader|dock|charger|stand|sender|receiver|transmitter)\s*:"
)
"""``READER: SD, microSD``: lines that begin with boxes are of several."""


_ONE_WITH_ANOTHER = re.compile(
    r"(?i)[^\n]{0,60}\b(?:stand|arm|case"
    r"|holder)\b[^\n]{0,20}\bwith\b[^\n]{0,30}\b(?:hub|dock|reader)\b"
)
"""``Laptop stand with USB-C hub``: one thing, whatever keys its lines have."""


def parts_of(text: str) -> dict[str, str]:
    """The parts of a kit by the words that they are called, with an id each; empty for a single thing."""
    found: dict[str, str] = {}
    for match in _NAMED_PART.finditer(text):
        words = match[1].lower()
        name = words if words[-1].isdigit() else words.split()[-1 if " the " in words else 0]
        found.setdefault(words, re.sub(r"[^a-z0-9]", "", name))
    numbered = {name.lower(): name.lower() for each in _NUMBERED_PART.finditer(text) if (name := each[1] or each[2])}
    if len(numbered) > 1:
        return numbered
    if _ONE_WITH_ANOTHER.match(text.strip()):
        return {}
    kinds = set(found.values())
    looks = (
        re.search(
            r"(?i)\b(?:kit|set|bundle|package|two in|twin|pair|between box|boxes|ends?|both by|bag|parts?)\b"
            r"|(?m:^)\W*between\b",
            text,
        )
        is not None
    )
    are_ones = len([words for words in found if words.endswith(" one")]) > 1
    keyed = {match[1].lower() for match in _KEYED_PART.finditer(text)}
    return found if len(kinds) > 1 and (looks or are_ones or len(keyed) > 1) else {}


_MODEL_KEY = re.compile(r"(?m)^[ \t]*[-*]*\s*((?:[A-Z][\w-]* ){0,2}[A-Z][\w-]*)\s*:(?=[^\n]*\d[^\n]*[,.][^\n]*\d)")


_ANY_KEY = re.compile(
    r"(?m)^[ \t]*[-*]*\s*([A-Z][\w-]* (?:[A-Z][\w-]* )?[A-Z\d][\w-]*)\s*(?:\([^)\n]{1,20}\)\s*)?:(?=[^\n]*\d)"
)


_LINE_KEY = re.compile(r"(?m)^[ \t]*[-*]*\s*([A-Z][\w -]{1,24}):")


_DATA_SHEET = 2
"""So many keys of any device make the others keys, too, and no models."""


_NO_MODEL = any_of(
    "^[QA]$", "^(?:with|without|on|from|for|in|at|under|over|while|when|if)\\b",
    "interface", "speeds?", "slots?", "capacity", "access", "OS", r"compatib\w+", "usb", "hdmi", "displayport",
    "power", "input", "output", "ports?", "sockets?", "cards?", "network", "lan", "video",
    "data", r"charg\w*", "weight", "size", "case", "cord", "cable", "lead", _PARTS, "supply", "screens?", "laptop",
    "host", "speed", "front", "rear", "back", "included", "contents?", "wired", "price", "name", "model", "audio",
    "headphones?", "microphones?", "sound", "optical", "sd", "slot", "item", "length", "rate", "direction", "current",
    "distance", "range", "switching", "hosts", "tv", "left", "right", "linux", "windows", "macos", "android",
    "downstream", "upstream", "features?", "specifications?", "monitors?", "displays?", "accessories", "peripherals?",
    "keyboards?", "devices?", "computers?", "storage", "memory", "reader", "connections?", "connectors?", "wireless",
    "out", "in", r"(?-i:[ACHDNS]\d)$", "other", "both", "all", "total", "case", "material", "housing", "body",
    "sides?", "ends?", "faces?", "rows?", "fast", "quick", "more", "extras?", "plus", "design", "slim", "warranty",
    "notes?",
)  # fmt: skip
"""Heads of lines that name no model."""


MODEL_IN_SENTENCE = re.compile(r"\b[Tt]he ([A-Z][A-Za-z]{0,8}-?\d{1,4}[A-Z]?)(?= \()")
"""``the S4 (four sockets) and the S7 (seven)``."""


_INLINE_MODEL = re.compile(r"(?:(?m:^)|(?<=[.!] ))([A-Z]{3,12})(?: \([^()\n]{1,20}\))?: (?=[^\n]{0,60}\d)")
"""``TRAVEL: 3-in-1, ... HOME: 6-in-1, ...`` in one paragraph."""


_TITLED_MODELS = re.compile(r"^\W*([A-Z][a-z]+) ([A-Z]\w+) and \1 ([A-Z]\w+)\b(?=[^\n]*\. The \2\b)", re.DOTALL)
"""``Silverhow Mini and Silverhow Max share a lead. The Mini has ...``."""
_PROSE_MODEL = re.compile(
    r"\b[Tt]he ([A-Z][a-z]\w+ [A-Z\d][\w-]*)(?= (?:has|adds|gives|offers|comes|hands|carries|is|does|runs|brings"
    r"|takes|lacks)\b|:)"
)


def models_of(text: str) -> dict[str, str]:
    """Several devices of one family, each on a line of its own behind its name, or in sentences of its own."""
    is_family = (
        re.search(r"(?i)\b(?:two|three|both|family|models?|versions?|small or|a and b|which (?=\w+\?))\b", text)
        is not None
    )
    named = [match[1] for match in _MODEL_KEY.finditer(text)]
    names = [each for each in named if not _NO_MODEL.search(each)]
    if sum(_NO_MODEL.search(each) is not None for each in _LINE_KEY.findall(text)) >= _DATA_SHEET:
        names = [each for each in names if re.search(r"\d", each)]  # among the keys of a data sheet
    keys = [match[1] for match in _ANY_KEY.finditer(text) if not _NO_MODEL.search(match[1])]
    if is_family and len(counted := list(dict.fromkeys(MODEL_IN_SENTENCE.findall(text)))) > 1:
        return {name.lower(): _id_of(name.lower()) for name in counted}
    inline = [each for each in dict.fromkeys(_INLINE_MODEL.findall(text)) if not _NO_MODEL.search(each)]
    if is_family and len(inline) > 1 and not names:
        return {name.lower(): _id_of(name.lower()) for name in inline}
    if titled := _TITLED_MODELS.search(text):
        return {name.lower(): _id_of(name.lower()) for name in (titled[2], titled[3])}
    told = list(dict.fromkeys(_PROSE_MODEL.findall(text)))
    told = [name for name in told if sum(other.split()[0] == name.split()[0] for other in told) > 1]
    alike = [key for key in keys if sum(other.split()[0] == key.split()[0] for other in keys) > 1]
    # names that begin alike are of one family, whatever stands behind them
    names = alike or (told or names if is_family else [])
    found = {name.lower(): _id_of(name.lower()) for name in names if name.lower() != "both"}
    return found if len(set(found.values())) > 1 else {}


def _id_of(name: str) -> str:
    """The last word of a name; the whole name where that begins with a digit, as no id does."""
    last = re.sub(r"[^a-z0-9]", "", name.split()[-1])
    return last if last[:1].isalpha() else re.sub(r"[^a-z0-9]", "", name)


def part_at(text: str, parts: dict[str, str]) -> str:
    """Which part of a kit a stretch begins with; empty for none."""
    if not parts:
        return ""
    names = "|".join(re.escape(each) for each in sorted(parts, key=len, reverse=True))
    match = re.match(rf"(?i)[\s\-*#.;:]*(?:\(?\d[.)] )?(?:the |one |an? |1 ?x? )?({names})\b", text)
    return match[1].lower() if match else ""


_LEADS = frozenset({"lead", "cord", "cable"})


def of_part(product: Product, words: str) -> Product:
    """The product as which a part of it is read; a model of a family is read as the family."""
    if not re.fullmatch(_PARTS, words):
        return product
    return replace(product, is_lead=words.rstrip(" 1234") in _LEADS, is_charger=words == "charger")
