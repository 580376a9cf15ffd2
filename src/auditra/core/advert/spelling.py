"""A seller's text as it was meant: markup removed, slips of scanning and typing corrected, number words as digits.

Each character keeps its place in the original, so that a proposal can quote the seller's own words.
"""

from __future__ import annotations

import html
import json
import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from auditra.core.advert.draft import Draft
from auditra.core.advert.own_names import with_own_names
from auditra.core.advert.several_devices import MODEL_IN_SENTENCE
from auditra.core.advert.shorthand import write_out
from auditra.core.advert.slips import with_known_words, without_scanned_slips, without_typed_slips

_SIGNS = str.maketrans({
    "×": "x", "✕": "x", "–": "-", "—": "-", "−": "-", "\u00a0": " ", "\u202f": " ", "\u2009": " ", "″": '"', "′": "'",
    "’": "'", "“": '"', "”": '"', "„": '"', "µ": "u", "μ": "u", "✦": "•", "⚡": "•", "•": "•", "▪": "•",
    "✓": "•", "✔": "•", "»": "•", "►": "•", "▶": "•", "➤": "•", "◆": "•", "■": "•", "✅": "•", "●": "•", "★": "•",
    "☑": "•", "·": "•", "‣": "•", "⎓": "=",
} | {chr(0xFF01 + n): chr(0x21 + n) for n in range(94)})  # fmt: skip
_BREAK_TAG = re.compile(r"<\s*/?\s*(?:li|br|p|h\d|ul|ol|tr|div|table)\b[^>]{0,200}>", re.IGNORECASE)
_TAG = re.compile(r"</?[a-zA-Z][^<>]{0,200}>")
_ENTITY = re.compile(r"&(?:[a-zA-Z]{2,8}|#\d{1,5});")

_CONTINUED = re.compile(r"(?m)^[ \t]{3,}(?=[A-Z][\w+ -]{0,12}:[ \t])")
"""A line under the second column of the one before it."""
_BOLD = re.compile(r"\*\*([^\s*](?:[^*\n]{0,60}[^\s*])?)\*\*")
_WIDE_GAP, _BLANK_LINES = re.compile(r"[^\S\n\t]{4,}"), re.compile(r"\n\s+\n")
_RAISED = re.compile("(?<![a-z]m)(?<=\\S)[\u00b9\u00b2\u00b3]|(?m:^)[\u00b9\u00b2\u00b3]")
"""Marks of footnotes."""
_OHM_SIGN = re.compile("[\u03a9\u2126]")


# Numbers in words
_ONES = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14, "fifteen": 15, "sixteen": 16, "eighteen": 18,
}  # fmt: skip
_TENS = {"twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80, "ninety": 90}
_ONE_WORD, _TEN_WORD = "|".join(_ONES), "|".join(_TENS)
_AND_A_HALF = re.compile(rf"(?i)\b({_ONE_WORD}) and a half (?=gigabits?|met(?:er|re)s?|amps?|amperes?)")
_RATE_AGAIN = re.compile(
    rf"(?i)((?:giga|mega)bits? (?:per|a) second)([^.;\n]{{2,40}}? at )({_TEN_WORD}|{_ONE_WORD})(?=[,;.]| and\b)"
)
"""``Two at ten gigabits per second, three at twenty``."""
_HALF_OF_THEM = re.compile(rf"(?i)\b(a dozen|{_ONE_WORD}|\d{{1,2}}) (sockets|ports)([^.;\n]{{0,20}}?)\bhalf of them\b")
_WRITTEN = re.compile(
    rf"\b((?:(?:{_ONE_WORD})[ -])?hundred(?:[ -](?:and[ -])?(?:(?:{_TEN_WORD})(?:[ -](?:{_ONE_WORD}))?|{_ONE_WORD}))?"
    rf"|(?:{_TEN_WORD})(?:[ -](?:{_ONE_WORD}))?|{_ONE_WORD})"
    r"(?=[ -](?:gigabits?|megabits?|(?:giga|mega|tera)bytes?|watts?|hertz|volts?|amps?|amperes?"
    r"|(?:times|frames|pictures) (?:a|per) second|(?:centi|milli)?met(?:er|re)s?|inch(?:es)?|foot|feet|grams?"
    r"|seconds?|degrees?)\b)",
    re.IGNORECASE,
)
_DASHED_KEY = re.compile(r"(?m)^([A-Za-z][\w()/ -]{1,24}?) - (?=\S)")
_NO_SOCKET = r"(?!(?:USB|HDMI|VGA|DP|SD|RJ|LAN|Type|DisplayPort|Ethernet|[ACHDN])\b)"
_SECTION = re.compile(rf"(?m)^[ \t]*\d{{1,2}}\.? {_NO_SOCKET}[A-Z][a-z]+(?: [a-z]+){{0,2}}[ \t]*$")
_SECTION_NUMBER = re.compile(rf"(?m)^([ \t]*)\d{{1,2}}(?:\.\d{{1,2}}|\.)? (?={_NO_SOCKET}[A-Z][a-z]{{2}})(?!Gbit|Mbit)")
_LEAST_SECTIONS = 2
"""So many lines like ``3 Ports`` are the headings of a manual."""
_LEAST_KEYS = 3
"""So many lines ``Key - value`` are a list, and no dashes of prose."""
_PLAIN_WORD = re.compile(r"[A-Z][a-z]+")
"""No name of a model, where it stands in such brackets."""
_LABEL = re.compile(r"【([^】\n]{1,60})】\s*:?")
_HALVES = re.compile(
    r"(?i)\b(?:(half) an?|(?:an?|one) (?=\w+ and a half)) ?(met(?:er|re)|inch|foot"
    r"|second)(?: and a half)?\b"
)
_DENIED_ITEM = re.compile("[\u2717\u2718\u274c]\\s*(?:no\\b|not\\b)?")
_RJ = re.compile(r"(?i)\bRJ-(?=45\b)")
_GLUED = re.compile(
    r"USB-[AC](?=\d+(?:\.\d)? ?[GM]b)|(?<![A-Za-z])(?:HDMI|PD|DisplayPort|DP(?=\dK)|SD|VGA|LAN|RJ-?45)(?=\d)"
    r"|(?<=\d)[iI][nN]1(?=[A-Za-z])|(?<![a-z])[a-z]{3,}[.!](?=[A-Z][a-z])"
    r"|(?<![A-Za-z])[Aa]lumini?um(?=geh|case|housing|body|shell)|(?<![A-Za-z])(?:metal|plastic)(?=case|housing"
    r"|body|shell)"
    r"|(?<=\d)(?:cm|mm|W(?!att|h\b)|Hz|bps)(?=[a-z]{2})|(?<![A-Za-z])no(?=drivers?\b|app\b)"
    r"|(?<![A-Za-z])to(?=laptop|host\b)"
    r"|USB-[AC](?=[Hh]ub|[Dd]ock|[Cc]able|[Ss]ocket|[Pp]ort)"
)
_HYPHENED = re.compile(
    r"(?<=\d)-(?=(?:centi|milli)?met(?:re|er)s?\b|watts?\b|volts?\b|amps?\b|inch\b|foot\b"
    r"|gigabit\b)",
    re.IGNORECASE,
)
"""``2-metre``."""
_GLUED_LIST = re.compile(
    r"(?<=[A-Za-z]),(?=\d)|(?<=[A-Za-z]{3}),(?=[A-Za-z]{3})|(?<=[a-z)]{2}),(?=\d?[A-Za-z]{2})|\),(?=\S)"
)
_GLUED_COUNT = re.compile(r"(?<=[a-z]{3}),(?=\d{1,2} ?(?:x |usb|hdmi|[A-Za-z]{4}))", re.IGNORECASE)
_ALL_OF_ONE_CLASS = re.compile(
    r"(?i)\ball (?:of them |sockets |ports )?(?:are )?(?:of )?(?:USB-|(?:the )?type )([AC])\b"
)
_NUMBERED = re.compile(r"(?i)\b(?<!USB-[AC] )(?:sockets?|ports?) (?=\d)")
"""Sockets by number alone, where all are said to be of one class."""


@dataclass(frozen=True)
class Plain:
    """The corrected text. `origin` has the place of each character in the original, and of the end."""

    text: str
    origin: tuple[int, ...]
    corrected: tuple[int, ...] = ()
    """Where words or numbers were corrected, as places of the corrected text."""

    def span(self, start: int, end: int) -> tuple[int, int]:
        """The same stretch of the original."""
        return self.origin[start], self.origin[end]


_TWO_NUMBERS = re.compile(r"(?m)^([ \t]*)\d[.)]? ?(?:&|and|\+|,) ?\d[.)] (?=USB|HDMI|DisplayPort|RJ)")
"""``4. & 5. USB-A``: two in a numbered list."""
_ANOTHER_MODEL = re.compile(rf"(?:,? and |, |; )({MODEL_IN_SENTENCE.pattern})")


def plain(text: str) -> Plain:
    """The text as it was meant."""
    if text.lstrip().startswith("{") and (lines := _of_json(text)) is not None:
        return Plain(lines, (*(0 for _ in lines), len(text)))
    draft = Draft(text.translate(_SIGNS))
    draft.replace(_DENIED_ITEM, lambda _: "\nno ")
    draft.replace(_OHM_SIGN, lambda _: "ohm")
    draft.replace(_RAISED, lambda match: f"[{unicodedata.digit(match[0])}]")
    draft.replace(_WIDE_GAP, lambda _: "   ")
    draft.replace(_TWO_NUMBERS, lambda match: f"{match[1]}2 x ")
    draft.replace(_BLANK_LINES, lambda _: "\n\n")
    draft.replace(_RJ, lambda _: "RJ")
    _without_markup(draft)
    without_scanned_slips(draft)
    _with_numbers(draft)
    without_typed_slips(draft)
    if len(_SECTION.findall(draft.text)) >= _LEAST_SECTIONS:
        draft.replace(_SECTION_NUMBER, lambda match: match[1])
    with_own_names(draft)
    if every := _ALL_OF_ONE_CLASS.search(draft.text):
        draft.replace(_NUMBERED, lambda match: f"USB-{every[1]} {match[0]}")
    _spaced(draft)
    with_known_words(draft)
    if len(_DASHED_KEY.findall(draft.text)) >= _LEAST_KEYS:
        draft.replace(_DASHED_KEY, lambda match: f"{match[1]}: ")
    if len(set(MODEL_IN_SENTENCE.findall(draft.text))) > 1:
        draft.replace(_ANOTHER_MODEL, lambda match: f". {match[1]}")
    draft.text = _unwrapped(draft.text).replace("•", "\n")
    places = tuple(at for at, origin in enumerate(draft.origin) if origin in draft.corrected)
    return Plain(draft.text, tuple(draft.origin), places)


def _without_markup(draft: Draft) -> None:
    draft.replace(_BOLD, lambda match: match[1])
    draft.replace(_CONTINUED, lambda _: "")
    if "<" in draft.text or "&" in draft.text:
        draft.replace(_BREAK_TAG, lambda _: "\n")
        draft.replace(_TAG, lambda _: "")
        draft.replace(_ENTITY, lambda match: html.unescape(match[0]).translate(_SIGNS))
    draft.replace(_LABEL, lambda match: f"\n{match[1].lower() if _PLAIN_WORD.fullmatch(match[1]) else match[1]}: ")


def _with_numbers(draft: Draft) -> None:
    """Numbers in words as digits."""
    draft.replace(_HALVES, lambda match: f"{'0.5' if match[1] else '1.5'} {match[2]}")
    draft.replace(_AND_A_HALF, lambda match: f"{_ONES[match[1].lower()]}.5 ")
    draft.replace(_RATE_AGAIN, lambda match: f"{match[1]}{match[2]}{match[3]} {match[1]}")
    draft.replace(_HALF_OF_THEM, _half)
    draft.replace(_WRITTEN, lambda match: str(_number(match[1])))
    draft.replace(_HYPHENED, lambda _: " ")


def _spaced(draft: Draft) -> None:
    """Words that run together come apart; commas without a space are left where a table is written with them."""
    write_out(draft)
    for _ in range(2):  # what runs together twice: 85Wtolaptop
        draft.replace(_GLUED, lambda match: f"{match[0]} ")
    rows = sum(len(_CELL_END.findall(line)) >= 2 for line in draft.text.split("\n"))
    if rows < 2:
        draft.replace(_GLUED_COUNT, lambda _: ", ")
    if rows == 1:
        draft.replace(_GLUED_LIST, lambda match: f"{match[0]} ")


_GOES_ON = re.compile(r"[ \t]*(?:[a-z]|\d+ ?(?:Hz|W|V|A|Gb|Mb|MB|cm|m|g)\b|Hz\b|W\b)")
_NEW_ITEM = re.compile(r"[ \t]*(?:[-*+>#|•]|\d{1,2}[.)] |[A-Z][^:\n]{0,24}:)")
_UNFINISHED = re.compile(
    r"(?:,|\b(?:to|and|of|for|the|with|at|a|an|or|in|(?<!it )on|per|from|by|is|are|each|that|one|two|three|four"
    r"|no))\s*$"
)
_ASSIGNED = re.compile(r"[ \t]*[\w-]{1,30} ?=(?!=)")
_CELL_END = re.compile(r",(?=\S)(?!\d{3}\b)")
_BEGINS_WITH_MARK = re.compile(r"[ \t]*(?:\[\d\]|\(\d\)|\*{1,3}|[†‡])[ \t]")
"""A footnote."""
_BEGINS_WITH_UNIT = re.compile(r"[ \t]*(?:Hz|W|V|Gb/s|Mb/s|MB/s)\b")
_BRACKETED = re.compile(r"[ \t]*\([^()]*\d[^()]*\)[ \t]*")
_ENDS_IN_UNIT = re.compile(r"\d ?(?:W|V|A|g|kg|mm|cm|m|Hz|[GMk]b/s|[GM]B/s)\)?[ \t]*$")
_NAMES_FIGURE = re.compile(r"[ \t]*[A-Z][a-z]+ (?:[a-z]+ )?\d")
"""``Input 100-240 V`` below ``..., all 12 W``: a line of its own."""
_FIRST_WORD = re.compile(
    r"[ \t]*(?:One|Two|Three|Four|Five|Six|The|Its?|With|Without|All|Each|Every|Both|No|At|Works|Comes|Charges|Weighs"
    r"|Made|Needs|Takes|Gives)\b"
)
"""Within a sentence it would be written small."""
_SMALL_KEY = re.compile(r"[ \t]*[a-z][\w-]{1,14}(?: [\w-]{1,12})?: ")
_CLASS_FIRST = re.compile(
    r"[ \t]*(?:USB-[AC]|HDMI|DisplayPort|DP|VGA|LAN|RJ-?45|Ethernet|(?:micro)?SD|Network|Audio)(?:/\w+)?"
    r"(?: x ?\d| \d ?x)?[:,]"
)
"""An item of a list: ``SD/microSD, 104 MB/s``."""
_LEAST_SLASHES = 4
_WRAPS_FROM = 76
"""A line of so many characters may have been broken for its width."""


def _unwrapped(text: str) -> str:
    """Lines that were broken for their width alone run on; the text keeps its length."""
    lines = [_listed_by_slashes(line) for line in text.split("\n")]
    out = [lines[0]]
    for before, line in pairwise(lines):
        out.append((" " if _runs_on(before, line) else "\n") + line)
    return "".join(out)


def _listed_by_slashes(line: str) -> str:
    """``HUB / 3x USB-A / HDMI / 55 g``: a list; the text keeps its length."""
    return line.replace(" / ", ",  ") if line.count(" / ") >= _LEAST_SLASHES else line


def _runs_on(before: str, line: str) -> bool:
    is_row = (
        "   " in line.strip()
        or "|" in line
        or "\t" in line
        or len(_CELL_END.findall(before)) > 1
        or _ASSIGNED.match(line) is not None
    )
    if not before.strip() or not line.strip() or is_row or _BEGINS_WITH_MARK.match(line):
        return False
    if _BEGINS_WITH_UNIT.match(line) or (_BRACKETED.fullmatch(line) and not before.rstrip().endswith((".", ":"))):
        return True
    if _ENDS_IN_UNIT.search(before) and _NAMES_FIGURE.match(line):
        return False
    unfinished = _UNFINISHED.search(before) is not None
    if before.rstrip().endswith("each") and _SMALL_KEY.match(line):
        return False
    if (_FIRST_WORD.match(line) or _CLASS_FIRST.match(line)) and not unfinished:
        return False
    is_open = unfinished or not before.rstrip().endswith((".", "!", "?", ":", ";"))
    is_full = len(before) >= _WRAPS_FROM
    goes_on = _GOES_ON.match(line) is not None and (is_full or unfinished)
    return is_open and (goes_on or (is_full and not _NEW_ITEM.match(line)))


_NAMES, _COUNTS = ("type", "name", "port", "socket", "connector", "kind"), ("count", "number", "quantity", "qty")
"""What a thing of a list is called, and how many there are."""


def _of_json(text: str) -> str | None:
    """An object as lines of key and value; None for what is none."""
    try:
        told = json.loads(text)
    except (ValueError, RecursionError):
        return None
    return "\n".join(_json_lines(told, "")) if isinstance(told, dict) else None


def _json_lines(told: dict[str, object], over: str) -> Iterator[str]:
    count = told.get("count")
    over = f"{count} x {over}" if isinstance(count, int) else over
    for key, value in told.items():
        if isinstance(value, dict):
            yield from _json_lines(value, f"{over} {key}".strip())
        elif isinstance(value, list):
            yield from _json_items(value, key, over)
        elif key != "count":
            yield f"{over} {key}".strip() + f": {value}"


def _json_items(items: list[object], key: str, over: str) -> Iterator[str]:
    """Each thing of a list under its own name, as many as there are of it."""
    for item in items:
        if not isinstance(item, dict):
            yield f"{over} {key}".strip() + f": {item}"
            continue
        names = [str(item[name]) for name in _NAMES if isinstance(item.get(name), str)]
        counts = [item[name] for name in _COUNTS if isinstance(item.get(name), int)]
        rest = {name: value for name, value in item.items() if name not in (*_NAMES, *_COUNTS)}
        yield from _json_lines({**rest, **({"count": counts[0]} if counts else {})}, (names or [key])[0])


def _half(match: re.Match[str]) -> str:
    """``A dozen sockets, half of them``: six."""
    word = match[1].lower()
    count = 12 if word == "a dozen" else int(word) if word.isdigit() else _ONES[word]
    return match[0] if count % 2 else f"{match[1]} {match[2]}{match[3]}{count // 2}"


def _number(words: str) -> int:
    total = 0
    for word in re.split(r"[ -]", words.lower()):
        if word == "hundred":
            total = max(1, total) * 100
        elif word != "and":
            total += _ONES.get(word) or _TENS[word]
    return total
