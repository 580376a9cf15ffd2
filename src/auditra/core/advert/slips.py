"""Slips of scanners and of fingers: letters for digits, digits for letters, units and words that were meant."""

from __future__ import annotations

import re
from difflib import get_close_matches
from functools import lru_cache

from auditra.core.advert.draft import Draft

_UNIT = (
    r"(?:[GMk]b(?:it)?/?p?s|[GMTk]i?B(?:/s)?|[GM]bit|Hz|[mk]?W\b|mA|A\b|V\b|cm|crn|mm|rnm|rn\b|m\b|kg|g\b|in\b|oz"
    r"|°?C\b)"
)
_SLIP = re.compile(rf"(?<![A-Za-z\d.,])([0-9OolISB](?:[0-9OolIB]|[.,](?=[0-9OolI]))*)(?=\s?(?:{_UNIT}|x\s?[0-9Ool]))")
_MIXED = re.compile(r"(?:(?<![A-Za-z\d.,])|(?<=\dx))(?=[0-9OolI]*\d)(?=[0-9OolI]*[OolI])[0-9OolI]{2,}(?![A-Za-z\d])")
_POINT_O = re.compile(r"(?<=\d\.)[Oo](?![A-Za-z\d])")
_FIVE = re.compile(
    r"(?<![A-Za-z\d])S(?=\s?[GM]b(?:ps|/s))|(?:(?<=\s\d)|(?<=\s\d\d))S(?=\s?(?:W|Hz|cm|[GM]b(?:ps|/s))\b)"
)
_ONE_TIME = re.compile(r"(?m)(?:(?<=^)|(?<=[\s(,]))[lI](?= ?x [A-Z\d])|(?<=Gen)[ ]?[lI](?![A-Za-z])")
_SLIP_OF_LIST = re.compile(r"(?<=[A-Za-z] )([lI])(?=\s?[,:]\s?\d)")
_IN_ONE = re.compile(r"(?<![A-Za-z])(\d{1,2})([ -])(?:in|IN)([ -])([lI1])(?![A-Za-z\d])")
_DIGITS = str.maketrans("OolISB", "001158")
_WRONG_UNIT = re.compile(r"(?<=\d)(\s?)(crn|rnm|rn)(?![A-Za-z])")
_UNITS_READ = {"crn": "cm", "rnm": "mm", "rn": "m"}
_SCANNED_WORDS = {
    "u5b": "USB", "us8": "USB", "ustb": "USB", "hdm1": "HDMI", "hdml": "HDMI", "usb~c": "USB-C",
    "dlsplayport": "DisplayPort", "we1ght": "Weight",
    "huh": "hub", "1en9th": "length", "c0rd": "cord", "p0wer": "power", "c4ble": "cable",
    "lnput": "input", "1nput": "input", "lnterface": "interface", "lnternal": "internal", "lncluded": "included",
    "p0": "PD", "t0": "to", "0f": "of", "vide0": "video", "rj4s": "RJ45", "p0rts": "ports", "p0rt": "port",
}  # fmt: skip
_SCANNED_LETTERS = (str.maketrans("015849q", "olsbagg"), str.maketrans("0153", "oise"))
_WITH_DIGITS = re.compile(r"(?<![\w.-])[A-Za-z](?=[A-Za-z]*(?:\d|q(?!u)))[A-Za-z\d]{3,13}(?![\w])")
"""``Cab1e``, ``Weiqht``: a word in which a scanner saw digits, or a ``q`` for a ``g``."""
_GRAMS = re.compile(r"(?<=\d)(\s?)q\b")
_SCANNED = re.compile(rf"(?<![A-Za-z\d])({'|'.join(_SCANNED_WORDS)})(?![A-Za-z\d])", re.IGNORECASE)
_KNOWN = (
    "adapter", "aluminium", "aluminum", "body", "cable", "captive", "card", "cards", "gigabit", "charger", "charging",
    "display", "hdmi",
    "displayport", "driver", "drivers", "ethernet", "headphone", "housing", "included", "input", "laptop", "length",
    "maximum", "metal", "microphone", "monitor", "needed", "network", "output", "picture", "ports", "power",
    "resolution", "slots", "socket", "sockets", "speed", "station", "supply", "together", "weight", "without",
)  # fmt: skip
_MORE_WORDS = frozenset(
    ("cord", "lead", "size", "dock", "host", "long", "tail", "screen", "plug", "each", "with", "reader", "switch")
)
_PLAIN_WORDS = frozenset((
    "adapted", "adapters", "bodied", "bodies", "body's", "boy", "cabled", "cables", "captives", "cared", "carts",
    "caves", "changer", "changing", "charge", "charged", "chargers", "charges", "charging", "cord", "displays",
    "diver", "drive", "driven", "drives", "houses", "include", "includes", "inputs", "laptops", "lengths", "metals",
    "monitors", "need", "needle", "nobody", "outputs", "parts", "pictures", "pocket", "ponds", "posts", "powered",
    "powers", "river", "rocket", "speeds", "sport", "sports", "spread", "stations", "supple", "supplies", "table",
    "tables", "weigh", "weighs", "hosting", "derive", "derived", "derives", "seed", "seeds", "weights", "worker",
))  # fmt: skip
"""Words that look like slips of known ones."""
_UNITS_MEANT = {
    "gpbs": "Gbps", "gbs": "Gbps", "gbsp": "Gbps", "gbp": "Gbps", "gps": "Gbps", "mpbs": "Mbps", "mbsp": "Mbps",
    "wat": "W", "wats": "W", "gr": "g", "grm": "g", "gramm": "g", "gramms": "g", "mtr": "m",
}  # fmt: skip
_UNIT_TYPO = re.compile(r"(?i)(?<=\d)(\s?)(gpbs|gbsp|gbs|gbp|gps|mpbs|mbsp|wats?|gramms?|grm?|mtr)\b(?!/)")
_WEIGHT = re.compile(r"(?i)\bwai?t(?= \d+ ?k?g\b)")
_RATE_SLIP = re.compile(r"(?<=\d)(\s?[GM][bB])[lI1|](?=s\b)")
_SMALL_NETWORK = re.compile(
    r"(?i)(?<=\blan )(\d(?:[.,]\d)?) ?gb?(?![\w/])"
    r"|(?<=\bethernet )(\d(?:[.,]\d)?) ?gb?(?![\w/])"
)
_DATE = re.compile(r"(?i)\bdate(?= (?:transfer|rate|sync|speed)\b)")
_WORD = re.compile(r"[A-Za-z]{4,14}")


def without_scanned_slips(draft: Draft) -> None:
    """Digits where a scanner saw letters, and letters where it saw digits."""
    draft.correct(_SCANNED, lambda match: _SCANNED_WORDS[match[0].lower()])
    draft.correct(_WITH_DIGITS, lambda match: _without_digits(match[0]))
    draft.correct(_GRAMS, lambda match: f"{match[1]}g")
    draft.correct(_SLIP, _digits)
    draft.correct(_FIVE, lambda _: "5")
    draft.correct(_ONE_TIME, lambda _: "1")
    draft.correct(_POINT_O, lambda _: "0")
    draft.correct(_MIXED, lambda match: match[0].translate(_DIGITS))
    draft.correct(_SLIP_OF_LIST, lambda _: "1")
    draft.replace(_IN_ONE, lambda match: f"{match[1]}{match[2]}in{match[3]}1")
    draft.correct(_WRONG_UNIT, lambda match: match[1] + _UNITS_READ[match[2]])


def without_typed_slips(draft: Draft) -> None:
    """Units and names of units that were meant."""
    draft.correct(_SMALL_NETWORK, lambda match: f"{match[1] or match[2]} Gb/s")
    draft.correct(_DATE, lambda _: "data")
    draft.correct(_WEIGHT, lambda _: "weight")
    draft.correct(_RATE_SLIP, lambda match: f"{match[1]}/")
    draft.correct(_UNIT_TYPO, lambda match: match[1] + _UNITS_MEANT[match[2].lower()])


def with_known_words(draft: Draft) -> None:
    """Words that are one letter from those that every text uses."""
    draft.correct(_WORD, lambda match: _corrected(match[0]))


def _digits(match: re.Match[str]) -> str:
    """Letters for digits, where a digit or a second such letter shows that it is a number."""
    written = match[1]
    is_number = any(c.isdigit() for c in written) or (len(written) > 1 and set(written) <= set("OolI"))
    return written.translate(_DIGITS) if is_number else written


def _without_digits(word: str) -> str:
    """The known word of which a scanner took letters for digits; the word itself where there is none."""
    for letters in _SCANNED_LETTERS:
        meant = word.lower().translate(letters)
        if meant in _KNOWN or meant in _MORE_WORDS:
            return meant.capitalize() if word[0].isupper() else meant
    return word


@lru_cache(maxsize=4096)
def _corrected(word: str) -> str:
    low = word.lower()
    if low in _KNOWN or low in _PLAIN_WORDS or low.rstrip("s") in _KNOWN or f"{low}s" in _KNOWN:
        return word
    near = [known for known in _KNOWN if known[0] == low[0] and abs(len(known) - len(low)) <= 1]
    close = get_close_matches(low, near, n=1, cutoff=0.82) or [known for known in near if sorted(known) == sorted(low)]
    if not close or re.fullmatch(rf"{close[0]}(?:s|d|ed|ing|er|y|ly|ic)", low):
        return word
    return close[0].capitalize() if word[0].isupper() else close[0]
