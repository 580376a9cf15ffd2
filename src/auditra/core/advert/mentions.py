"""What stands in a text: sockets, figures and words that mean something, found by tables of patterns."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from enum import Enum

_PLAIN = str.maketrans(
    {
        "×": "x",
        "–": "-",
        "—": "-",
        "−": "-",
        "\u00a0": " ",
        "\u202f": " ",
        "•": "*",
        "·": "|",
        "″": '"',
        "′": "'",
        "’": "'",
    }
    | {chr(0xFF01 + n): chr(0x21 + n) for n in range(94)}
)
"""Each sign for one other, so that a place in the plain text is the same place in the seller's."""


def plain(text: str) -> str:
    """The text with one sign for each of many, no longer and no shorter."""
    return text.translate(_PLAIN)


class What(Enum):
    """What a mention is of."""

    SOCKET = "socket"
    COUNT = "count"
    RATE = "rate"
    BYTE_RATE = "byte rate"
    MODE = "mode"
    WATTS = "watts"
    AMPERES = "amperes"
    LENGTH = "length"
    MASS = "mass"
    SIZE = "size"
    CELSIUS = "temperature"
    BYTES = "bytes"
    BUS = "card bus"
    OHM = "ohm"
    SECONDS = "time"
    PRICE = "price"
    VOLTS_AMPERES = "volts and amperes"
    DEPTH = "depth"
    CHROMA = "chroma"
    WORD = "word"


@dataclass(frozen=True)
class Mention:
    """One thing that stands in a text, at a place. `value` is as it is written in a claim."""

    what: What
    start: int
    end: int
    value: str
    hedged: bool = False
    groups: tuple[str, ...] = field(default=(), compare=False)


_NUMBER_WORDS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "eleven": 11, "twelve": 12, "single": 1, "dual": 2, "twin": 2, "triple": 3, "deux": 2, "trois": 3, "quatre": 4,
    "dos": 2, "tres": 3, "cuatro": 4, "cinco": 5, "seis": 6, "zwei": 2, "drei": 3, "vier": 4, "fünf": 5, "sechs": 6,
    "sieben": 7, "acht": 8, "cinq": 5, "sept": 7, "huit": 8, "due": 2, "tre": 3, "quattro": 4, "cinque": 5, "sei": 6,
    "twee": 2, "drie": 3, "vijf": 5, "zes": 6,
}  # fmt: skip
NUMBERS = rf"\d{{1,2}}|{'|'.join(_NUMBER_WORDS)}"
_PIXELS = {"8k": "7680x4320", "4k": "3840x2160", "uhd": "3840x2160", "1440p": "2560x1440", "1080p": "1920x1080",
           "full hd": "1920x1080", "720p": "1280x720"}  # fmt: skip
_N = r"(?<![\d.,])\d{1,6}(?:[.,]\d{1,3})?"
"""A number as people write it; short, so that no endless row of digits is looked through again and again."""
_NOT_A_SOCKET = (
    r"(?!\s*(?:hub|adapter|cable|dock|plug|lead|to\b|auf\b|into|>|->|/|-c|headphone|otg|enclosure|stecker|male"
    r"|port into|ethernet|host|only|charging cable))"
)
_OF_THE_HOST = (
    r"\b(?:upstream|uplink|tunnels?)\b(?:\s*(?:port|link|plug))?(?:\s*[:(]?\s*usb[- ]?(?:type[- ]?)?[abc]\b)?"
    r"|\b(?:connects?(?: to (?:the|a|your) \w+)? (?:via|by|through|over|with)|adapter for"
    r"|via) usb[- ]?(?:type[- ]?)?[ac]\b"
    r"|\busb[- ]?(?:type[- ]?)?[ac] plug\b|\bhost (?:link|port"
    r"|connection)\b(?:\s*:?\s*usb[- ]?(?:type[- ]?)?[abc]\b)?"
)
"""The plug or socket towards the host."""
_LENGTHS = {
    "millimetres": "mm", "millimeters": "mm", "mm": "mm", "centimetres": "cm", "centimeters": "cm", "cm": "cm",
    "metres": "m", "meters": "m", "metre": "m", "meter": "m", "mètres": "m", "metri": "m", "metros": "m", "m": "m",
    "feet": "ft", "foot": "ft", "ft": "ft", "inches": "in", "inch": "in", "in": "in",
}  # fmt: skip
_MASSES = {"kg": "kg", "grams": "g", "gram": "g", "gramm": "g", "g": "g", "oz": "oz", "ounces": "oz"}
_PATTERNS: tuple[tuple[What, str, str], ...] = (
    (What.SOCKET, "usb-a", r"(?:usb|type)[- ]?(?:type[- ]?)?a\b" + _NOT_A_SOCKET),
    (What.SOCKET, "usb-c", r"(?:usb|type)[- ]?(?:type[- ]?)?c(?=\d?\b)" + _NOT_A_SOCKET),
    (What.SOCKET, "up", _OF_THE_HOST),
    (
        What.SOCKET,
        "usb-c",
        r"\b(?-i:C)(?=[1-9]\b)|\b(?:port|socket|output) (?-i:C)\b|\b(?-i:C) (?:ports?"
        r"|sockets?)\b",
    ),
    (
        What.SOCKET,
        "usb-a",
        r"\b(?-i:A)(?=[1-9]\b)|\b(?:port|socket|output) (?-i:A)\b|\b(?-i:A) (?:ports?"
        r"|sockets?)\b",
    ),
    (What.SOCKET, "hdmi", r"hdmi(?!\s*(?:cable|lead))(?:\s*\d\.\d)?"),
    (What.SOCKET, "displayport", r"displayport|(?:\b|(?<=\dx))dp\b"),
    (What.SOCKET, "vga", r"(?:\b|(?<=\dx))vga\b"),
    (What.SOCKET, "microsd", r"micro[- ]?sd\b|(?:\b|(?<=\dx))tf\b"),
    (What.SOCKET, "sd", r"(?<!micro)(?<!micro[- ])(?:\b|(?<=\dx))sd\b"),
    (
        What.SOCKET,
        "rj45",
        r"(?:\b|(?<=\dx))rj-?45\b|\bethernet\b|(?:\b|(?<=\dx))lan\b|\bnetwork\b|\bgbe\b|\blink (?:speed"
        r"|rate)\b|\bnetzwerk|\bréseau\b|\brete\b",
    ),
    (
        What.SOCKET,
        "3.5 mm",
        r"(?:3[.,]5 ?mm(?: audio| jack)?|audio jack|\baudio\b|head(?:phones?|set)(?: jack)?\b"
        r"|kopfhörer)(?: 3[.,]5 ?mm)?",
    ),
    (What.MODE, "", rf"(\d{{3,4}})\s*x\s*(\d{{3,4}})\s*(?:p)?\s*(?:@|/|at|bei|à|a|\()?\s*({_N})\s*(?:hz)?"),
    (
        What.MODE,
        "",
        rf"\b(8k|4k|uhd|1440p|1080p|720p|full hd)\s*(?:@|/|at|bei|à|a|\(|uhd)?\s*({_N})\s*(?:hz\b|hertz\b"
        rf"|(?=[\s,.;)/]|$))",
    ),
    (What.MODE, "", rf"(\d{{3,4}})\s*x\s*(\d{{3,4}})\s*(?:p|pixels?)?\s*,\s*({_N})\s*hz\b"),
    (What.MODE, "", rf"\b(4k|8k)\b(?:[^,.;\n|]{{1,14}}?|\s*,\s*)({_N})\s*(?:hz|hertz)\b"),
    (What.VOLTS_AMPERES, "", rf"(?:{_N}\s*-\s*)?({_N})\s*v\s*(?:/|x|,)?\s*({_N})\s*a\b"),
    (What.BYTE_RATE, "", rf"({_N})\s*m(?-i:B)/s"),
    (
        What.RATE,
        "G",
        rf"(?<!rj)(?<!rj-)({_N})\s*(?:g(?:bps|igabits? per second|bit/s|(?-i:b)/s|bits/s|bit|igabit)|gbe|(?-i:G))\b",
    ),
    (What.RATE, "G", rf"({_N})\s*gbase-?t\b"),
    (What.RATE, "M", rf"({_N})\s*m(?:bps|egabits? per second|bit/s|(?-i:b)/s|bits/s|bit)\b"),
    (What.RATE, "10/100/1000", r"10/100/1000"),
    (What.RATE, "gigabit", r"(?:(?<=rj45 )|(?<=rj-45 )|(?<!\d )(?<!\d))gigabit\b"),
    (What.RATE, "high speed", r"usb 2\.0 high speed"),
    (What.WATTS, "", rf"({_N})\s*(?:w|watts?)\b"),
    (What.AMPERES, "", rf"(?<!cat )({_N})\s*(m?)a\b"),
    (What.SIZE, "", rf"({_N})\s*x\s*({_N})\s*x\s*({_N})\s*(mm|cm)\b"),
    (What.LENGTH, "", rf"({_N})\s*({'|'.join(_LENGTHS)})\b(?!\s*x)"),
    (What.MASS, "", rf"({_N})\s*({'|'.join(_MASSES)})\b"),
    (What.CELSIUS, "", rf"({_N})\s*°\s*c\b"),
    (What.BYTES, "", rf"({_N})\s*(tb|gb|kb|bytes)\b"),
    (What.OHM, "", rf"({_N})\s*(?:ohm|ω)"),
    (What.SECONDS, "", rf"({_N})\s*(?:s|seconds?|sec)\b"),
    (What.PRICE, "", rf"({_N})\s*(eur|usd)\s*\(?(\d{{4}}-\d{{2}}-\d{{2}})"),
    (What.BUS, "", r"uhs[- ]?(iii|ii|i|1|2|3)\b"),
    (What.DEPTH, "", r"(8|10|12)[- ]bit\b"),
    (What.CHROMA, "", r"(4:4:4|4:2:2|4:2:0)"),
    (What.RATE, "generation", r"usb\s?3\.[012]\s?gen\s?[12](?:\s?x\s?[12])?"),
)
_WORDS: tuple[tuple[str, str], ...] = (
    ("no data", r"no data\b|power[- ]only|charg(?:ing|e)[- ]only|does not transfer data"
        r"|data is not transferred|keine daten"),
    ("no video", r"no video|no display"),
    ("without driver", r"driver[- ]?free|no (?:extra |additional )?drivers?|ohne treiber|treiberlos"
        r"|sans pilote|senza driver|sin controlador(?:es)?"
     r"|plug (?:and|&) play|without (?:any )?drivers?|driverless"),
    ("aluminium", r"alumini?um"),
    ("marked", r"e-?mark(?:er|ed)"),
    ("lock slot", r"lock slot|slot for a (?:cable |security )?lock|security slot"),
    ("lead", r"\blead\b|\bcable\b|kabel|câble|\bcavo\b|\bcord\b"),
    ("each", r"\beach\b|\bper (?:port|socket)\b|\bje\b|\bevery\b|chacun|ciascun|cada un"),
    ("total", r"\btotal\b|in total|\bcombined\b|\btogether\b|\baltogether\b|\bshared\b|\binsgesamt\b|\bgesamt"),
    ("input", r"\binput\b|(?<=\d w )in\b|(?<=\dw )in\b|\bpd\b|power delivery|pass[- ]through|\bdc in\b"
        r"|carga|\bricarica\b|charging only\b|\bpower[- ]in\b|\binlet\b|\beingang\b"),
    ("host", r"\bhost(?:charging)?\b|laptops?\b|notebook|ordinateur|computer|\bportátil\b|\bportatile\b"),
    ("charges", r"\bcharges\b|\brecharges?\b|\blädt\b|\blaedt\b"),
    ("passes", r"\bpasses\b|\bpasses? on\b|\bpasses? through\b"),
    ("gives", r"\boutput\b|\bcharging\b|\bgive|\bdelivers?\b|\bsupplies\b|\bprovides?\b|\bout\b"),
    ("feeds", r"\bfeeds?\b|and give\b|(?:gives|supplies|delivers|provides) (?:up to )?(?=\d[\d.,]* ?m?a\b)"),
        ("one at a time", r"only one (?:\w+ ){0,3}at (?:a time|once)|one (?:\w+ ){0,2}at a time"
            r"|not (?:both )?at (?:once|the same time)"
     r"|not (?:both|simultaneously)\b|either (?:one )?or (?:the )?other|nur eine?r? (?:\w+ )?gleichzeitig"
     r"|un(?:e)? seule? (?:\w+ )?à la fois|cannot be used (?:together|at the same time)"),
        ("cards", r"\bcards? up to\b"),
    ("frames", r"jumbo frames?"),
    ("microphone", r"microphone|audio in/out|\bin and out\b|mic\b|mikrofon"),
    ("pps", r"\bpps\b"),
    ("pd", r"\bpd(?: 3\.0)?\b"),
    ("hdr", r"\bhdr(?:10)?\b"),
    ("vrr", r"\bvrr\b"),
    ("dsc", r"with dsc"),
    ("drops", r"drops (?:less than|at most)"),
    ("below", r"\bbelow\b"),
    ("uses", r"for itself|of its own"),
    ("slot", r"slot\s+(?=\d)"),
    ("switch", r"(?:switch(?:es|ing)?|toggles?|changes over) (?:(?:over )?(?:with)?in|time)"),
    ("two hosts", r"(?:for|between|shared? (?:by|with|between)|sharing:|connects?) (?:two|2) (?:computers"
        r"|pcs|hosts|laptops)"),
    ("over-current", r"over-?current"),
    ("over-voltage", r"over-?voltage"),
    ("short circuit", r"short circuits?"),
    ("full length", r"over the full length"),
    ("with display", r"with (?:a )?display|with video"),
    ("without display", r"without (?:a )?display"),
    ("single", r"\bsingle\b"),
    ("dual", r"\bdual\b"),
)  # fmt: skip
_FIGURES = tuple((what, value, re.compile(pattern, re.IGNORECASE)) for what, value, pattern in _PATTERNS)
_MEANINGS = tuple((value, re.compile(pattern, re.IGNORECASE)) for value, pattern in _WORDS)
_HEDGE = re.compile(
    r"(?:up to(?: an?)?|max(?:\.|imum|imal)?(?:\s(?:resolution|speed|rate|power|output))?(?:\sof)?"
    r"|jusqu'à|bis zu|hasta|fino a|\btot|as much as)[\s:]*$",
    re.IGNORECASE,
)
_HEDGE_BEHIND = re.compile(r"\s*max\b", re.IGNORECASE)


def number(text: str) -> str:
    """``1,5`` as ``1.5``."""
    return text.replace(",", ".")


def hedge(figure: Mention) -> str:
    """How a claim of a figure begins that stands behind ``up to`` or ``max``."""
    return "up to " if figure.hedged else ""


def count_of(text: str) -> int:
    """``two``, ``2``."""
    return _NUMBER_WORDS.get(text.lower()) or int(text)


def mentions(text: str) -> Iterator[Mention]:
    """What stands in a plain text, by place; of two at one place, the longer."""
    found = [
        _mention(what, value, match, text) for what, value, pattern in _FIGURES for match in pattern.finditer(text)
    ]
    jacks = [each for each in found if each.value == "3.5 mm"]
    of_jack = {place for jack in jacks for place in range(jack.start, jack.end)}
    found = [each for each in found if each.what is not What.LENGTH or each.start not in of_jack]
    for sockets in (True, False):
        yield from _longest([each for each in found if (each.what is What.SOCKET) is sockets])
    for value, pattern in _MEANINGS:
        for match in pattern.finditer(text):
            yield Mention(What.WORD, match.start(), match.end(), value)


def _longest(found: list[Mention]) -> Iterator[Mention]:
    """By place; of several at one place, the longest."""
    found.sort(key=lambda each: (each.start, -(each.end - each.start)))
    end = -1
    for each in found:
        if each.start >= end:
            yield each
            end = each.end


def _mention(what: What, value: str, match: re.Match[str], text: str) -> Mention:
    groups = tuple(number(group or "") for group in match.groups())
    hedged = bool(_HEDGE.search(text[max(0, match.start() - 24) : match.start()])) or bool(
        _HEDGE_BEHIND.match(text, match.end())
    )
    return Mention(what, match.start(), match.end(), _value(what, value, groups, match.group()), hedged, groups)


def _value(what: What, value: str, groups: tuple[str, ...], said: str) -> str:
    """As a claim has it."""
    if what is What.SOCKET or (not groups and what is not What.RATE):
        return value
    if what is What.RATE:
        return _rate(value, groups, said)
    written = _WRITTEN.get(what)
    return written(groups) if written else groups[0]


def _mode(groups: tuple[str, ...]) -> str:
    if len(groups) == 3:
        return f"{groups[0]}x{groups[1]}@{float(groups[2]):g}"
    return f"{_PIXELS[groups[0].lower()]}@{float(groups[1]):g}"


_BYTE_UNITS = {"tb": "TB", "gb": "GB", "kb": "kB", "bytes": "B"}
_WRITTEN: dict[What, Callable[[tuple[str, ...]], str]] = {
    What.MODE: _mode,
    What.VOLTS_AMPERES: lambda groups: f"{float(groups[0]) * float(groups[1]):g}",
    What.BUS: lambda groups: "UHS-" + {"1": "I", "2": "II", "3": "III"}.get(groups[0], groups[0].upper()),
    What.AMPERES: lambda groups: f"{float(groups[0]) / (1000 if groups[1] else 1):g}",
    What.SIZE: lambda groups: f"{groups[0]} x {groups[1]} x {groups[2]} {groups[3]}",
    What.LENGTH: lambda groups: f"{groups[0]} {_LENGTHS[groups[1].lower()]}",
    What.MASS: lambda groups: f"{groups[0]} {_MASSES[groups[1].lower()]}",
    What.BYTES: lambda groups: f"{groups[0]} {_BYTE_UNITS[groups[1].lower()]}",
    What.PRICE: lambda groups: f"{groups[0]} {groups[1].upper()} at {groups[2]}",
}
"""How each figure stands in a claim."""


def _rate(value: str, groups: tuple[str, ...], said: str) -> str:
    if value in ("gigabit", "10/100/1000"):
        return "1 Gb/s"
    if value == "high speed":
        return "480 Mb/s"
    return said if value == "generation" else f"{float(groups[0]):g} {value}b/s"
