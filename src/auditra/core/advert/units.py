"""Numbers with units in any spelling: what each form is of, its value, and how a claim writes it."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum


class Dim(StrEnum):
    """What a figure is of."""

    RATE = "bit rate"
    BYTE_RATE = "byte rate"
    WATTS = "watts"
    VOLTS = "volts"
    AMPERES = "amperes"
    CATEGORY = "category of a network lead"
    OHM = "ohm"
    LENGTH = "length"
    MASS = "mass"
    CELSIUS = "temperature"
    SECONDS = "time"
    BYTES = "bytes"
    PICTURE = "picture"
    """Pixels without a rate."""
    HERTZ = "hertz"
    MODE = "mode"
    BOX = "size"
    BUS = "card bus"
    IN_ONE = "sockets in one"
    DAY = "day"
    MONEY = "money"
    DEPTH = "depth"
    CHROMA = "chroma"


Made = tuple[float, str]
"""The value in SI units, bits and bytes as they are, and the words of a claim."""


@dataclass(frozen=True)
class Form:
    """A spelling of a figure."""

    dim: Dim
    pattern: re.Pattern[str]
    make: Callable[[re.Match[str]], Made]


NUMBER = r"(?<![\w.,])(?<!\d/)(\d{1,3}(?: \d{3})+|\d{1,3}(?:,\d{3})+|\d+(?:[.,]\d+)?)"
_TO = r"(?:\s*(?:-|to|\.\.)\s*(\d+(?:[.,]\d+)?))?"
_END = r"(?![A-Za-z])"
_SIDE = r"(\d+(?:[.,]\d+)?)"
_SIDE_UNIT = r"(?:\s*(?:mm|cm|in|\"))?"
_PER_SECOND = (
    r"(?:[bB]it/s(?:ec)?|BIT/S|b/s|bits/s|bits?/sec|bps|BPS|bits? per second|bits?|igabits? per second"
    r"|egabits? per second"
    r"|igabits?|egabits?)"
)
_BYTES_PER_SECOND = r"(?:B/s|B/S|Bps|B/sec|ytes? per second|igabytes? per second|egabytes? per second)"
_CURRENCY = r"(?:EUR|USD|GBP|CHF|€|\$|£)"
_AMOUNT = r"\d{1,5}(?:[.,]\d\d)?"
_ONE_TO_TWELVE = (
    "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve",
)  # fmt: skip
_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_REST_OF_MONTH = r"(?:uary|ruary|ch|il|e|y|ust|t?(?:ember)?|ober)\.?"
_KILO = 1000
_SCALE = {"g": 1e9, "m": 1e6, "k": 1e3, "t": 1e12}
_PREFIXES = {"m": 1e-3, "milli": 1e-3, "k": 1e3, "": 1.0}
_MASSES = {"g": 1e-3, "kg": 1.0, "oz": 0.02834952, "lb": 0.4535924}
_MASS_NAMES = {
    "gram": "g", "grams": "g", "gramme": "g", "grammes": "g", "oz.": "oz", "ounces": "oz", "lbs": "lb",
}  # fmt: skip
_LENGTHS = {"mm": 1e-3, "cm": 1e-2, "m": 1.0, "in": 0.0254, "ft": 0.3048}
_LENGTH_NAMES = {
    "metre": "m", "metres": "m", "meter": "m", "meters": "m", "inch": "in", "inches": "in", '"': "in", "in.": "in",
    "feet": "ft", "centimetres": "cm", "centimeters": "cm", "millimetres": "mm",
}  # fmt: skip
NAMED_PICTURES = {
    "2k": (2560, 1440),
    "4k uhd": (3840, 2160), "4k": (3840, 2160), "uhd": (3840, 2160), "8k": (7680, 4320), "5k": (5120, 2880),
    "2160p": (3840, 2160), "1440p": (2560, 1440), "1080p": (1920, 1080), "720p": (1280, 720),
    "full hd": (1920, 1080), "wqhd": (2560, 1440), "qhd": (2560, 1440), "4320p": (7680, 4320), "fhd": (1920, 1080),
}  # fmt: skip


def number_of(written: str) -> float:
    """``0,25`` is a quarter, ``1,024`` and ``9 000`` have a thousand."""
    if re.fullmatch(r"\d{1,3}(?:[ ,]\d{3})+", written) and not written.startswith("0"):
        return float(re.sub(r"[ ,]", "", written))
    return float(written.replace(",", "."))


def _most(match: re.Match[str]) -> float:
    """The number, or the higher one of a range."""
    return number_of(match[2] or match[1])


def _rate(match: re.Match[str]) -> Made:
    value, prefix = _most(match), match[3][0]
    return value * _SCALE[prefix.lower()], f"{value:.6g} {prefix.upper()}b/s"


def _byte_rate(match: re.Match[str]) -> Made:
    value, prefix = _most(match), match[3][0]
    return value * _SCALE[prefix.lower()], f"{value:.6g} {prefix.upper().replace('K', 'k')}B/s"


def _short_rate(match: re.Match[str]) -> Made:
    value, prefix = number_of(match[1]), match[2].upper()
    return value * _SCALE[prefix.lower()], f"{value:.6g} {prefix}b/s"


def _of_base_t(megabits: int) -> Made:
    """Source: IEEE 802.3, 1.4: the number in the name is the rate in Mb/s."""
    return megabits * 1e6, f"{megabits / 1000:g} Gb/s" if megabits >= _KILO else f"{megabits} Mb/s"


def _of_old_networks(match: re.Match[str]) -> Made:
    return (1e9, "1 Gb/s") if "1000" in match[0] else (1e8, "100 Mb/s")


def _bytes(match: re.Match[str]) -> Made:
    value, unit = _most(match), match[3]
    name = f"{unit[0].upper()}iB" if "i" in unit else f"{unit[0].upper().replace('K', 'k')}B"
    return value * _SCALE[unit[0].lower()], f"{value:.6g} {name}"


def _plain_bytes(match: re.Match[str]) -> Made:
    value = number_of(match[1])
    return value, f"{value:.6g} B"


def _unit(name: str) -> Callable[[re.Match[str]], Made]:
    def make(match: re.Match[str]) -> Made:
        value = _most(match) * _PREFIXES[(match[3] or "").lower()]
        return value, f"{value:.6g} {name}"

    return make


def _celsius(match: re.Match[str]) -> Made:
    value = _most(match)
    return value, f"{value:.6g} C"


def _of(units: dict[str, float], names: dict[str, str]) -> Callable[[re.Match[str]], Made]:
    def make(match: re.Match[str]) -> Made:
        value, unit = _most(match), names.get(match[3].lower(), match[3].lower())
        return value * units[unit], f"{value:.6g} {unit}"

    return make


def _box(match: re.Match[str]) -> Made:
    unit = _LENGTH_NAMES.get(match[4].lower(), match[4].lower())
    sides = [number_of(match[n]) for n in (1, 2, 3)]
    return sides[0] * _LENGTHS[unit], f"{' x '.join(f'{side:.6g}' for side in sides)} {unit}"


def _seconds(match: re.Match[str]) -> Made:
    unit = match[3].lower()
    factor = 1e-3 if unit.startswith("ms") else 60.0 if unit.startswith("min") else 3600.0 if unit[0] == "h" else 1.0
    value = _most(match) * factor
    return value, f"{value:.6g} s"


def _picture(match: re.Match[str]) -> Made:
    width, height = (int(match[n].replace(",", "")) for n in (1, 2))
    return float(width * height), f"{width}x{height}"


def _named_picture(match: re.Match[str]) -> Made:
    width, height = NAMED_PICTURES[match[1].lower()]
    return float(width * height), f"{width}x{height}"


def _hertz(match: re.Match[str]) -> Made:
    return _most(match), f"{_most(match):.6g}"


def _as_written(match: re.Match[str]) -> Made:
    return 0.0, match[1]


def _day(match: re.Match[str]) -> Made:
    """``1 March 2026`` as ISO 8601 writes it."""
    month = _MONTHS.index(match[2].lower()) + 1
    return 0.0, f"{match[3]}-{month:02d}-{int(match[1]):02d}"


def _bus(match: re.Match[str]) -> Made:
    return 0.0, re.sub(r"UHS-?", "UHS-", match[1])


def _depth(match: re.Match[str]) -> Made:
    return float(match[1]), f"{match[1]} bit"


def _category(match: re.Match[str]) -> Made:
    return 0.0, match[0]


def _in_one(match: re.Match[str]) -> Made:
    word = match[1].lower()
    count = int(word) if word.isdigit() else _ONE_TO_TWELVE.index(word) + 1
    return float(count), str(count)


def _money(match: re.Match[str]) -> Made:
    amount, currency = re.search(r"\d[\d.,]*", match[0]), re.search(_CURRENCY, match[0])
    assert amount is not None
    assert currency is not None
    name = {"€": "EUR", "$": "USD", "£": "GBP"}.get(currency[0], currency[0])
    return number_of(amount[0]), f"{amount[0].replace(',', '.')} {name}"


def _form(dim: Dim, pattern: str, make: Callable[[re.Match[str]], Made], *, any_case: bool = False) -> Form:
    return Form(dim, re.compile(pattern, re.IGNORECASE if any_case else 0), make)


def _measured(dim: Dim, unit: str, make: Callable[[re.Match[str]], Made], *, any_case: bool = False) -> Form:
    """A number or a range, and a unit."""
    return _form(dim, rf"{NUMBER}{_TO}\s?{unit}{_END}", make, any_case=any_case)


_RATES_OF_LINKS = r"1|2[.,]5|5|10|20|25|40|50|80|100|120"
"""In Gb/s, where the G stands alone: 108 G are grams."""
_PICTURE_NAMES = "|".join(sorted(NAMED_PICTURES, key=len, reverse=True))
_COUNT = rf"(\d{{1,2}}|{'|'.join(_ONE_TO_TWELVE[1:])})"
FORMS = (
    _form(Dim.IN_ONE, rf"(?<![\d.]){_COUNT}[ -]?(?:in|en)[ -]?(?:1|one)(?!\d| out)", _in_one, any_case=True),
    _form(Dim.DAY, r"(?<!\d)(20\d\d-\d\d-\d\d)(?!\d)", _as_written),
    _form(Dim.DAY, rf"(?<!\d)(\d{{1,2}})\.? ({'|'.join(_MONTHS)}){_REST_OF_MONTH} (20\d\d)(?!\d)", _day, any_case=True),
    _form(Dim.MONEY, rf"(?<![\w.])({_AMOUNT}\s?{_CURRENCY}(?![A-Za-z]))|{_CURRENCY}\s?({_AMOUNT})", _money),
    _form(
        Dim.BOX,
        rf"(?<![\w.]){_SIDE}{_SIDE_UNIT}\s*x\s*{_SIDE}{_SIDE_UNIT}\s*x\s*{_SIDE}\s*(mm|cm|in\.?|inch(?:es)?|\"){_END}",
        _box,
        any_case=True,
    ),
    _form(Dim.PICTURE, r"(?<![\w.])(\d,\d{3}|\d{3,5}) ?(?:x|by|\*) ?(\d,\d{3}|\d{3,4})(?!\d|\s?[x*]|\s*mm)p?",
    _picture, any_case=True),
    _form(Dim.PICTURE, rf"(?<![A-Za-z\d])({_PICTURE_NAMES})(?![A-Za-z])", _named_picture, any_case=True),
    _measured(Dim.HERTZ, "(?:Hz|hertz|fps|(?:frames|pictures|times) (?:a|per) second)", _hertz, any_case=True),
    _measured(Dim.RATE, rf"([GMgm]){_PER_SECOND}", _rate),
    _measured(Dim.BYTE_RATE, rf"([GMgmk]){_BYTES_PER_SECOND}", _byte_rate),
    _form(Dim.RATE, rf"(?<![\w.,])(?<!\d/)({_RATES_OF_LINKS})\s?(G)(?:bE|BASE-?T|igE)?(?=[\s,;.)/?!:|\]]|$)",
    _short_rate),
    _form(
        Dim.RATE, r"(?<![\w.,])(?:10/100(?:/1000)?(?:/2500)?|1000/100(?:/10)?)(?: ?M(?:bit/s|b/s|bps)?)?(?!\w)",
        _of_old_networks
    ),
    _form(Dim.RATE, r"(?<![\w.,])(10|100|1000)(M)(?=[\s,;.)]|$|bE|BASE)", _short_rate),
    _form(Dim.RATE, r"(?:(?<=[AC]\d )|(?<=[AC]\d: ))(480|12)(M)(?=[\s,;.)]|$)", _short_rate),
    _form(Dim.RATE, r"\b(100|1000|2500|5000|10000)BASE-?T\b", lambda match: _of_base_t(int(match[1])), any_case=True),
    _form(Dim.RATE, r"(?<![\w.,])(1|2[.,]5|5|10) ?(G)bit\b(?!/| ?per| ?s\b)", _short_rate, any_case=True),
    _form(Dim.RATE, r"\b(1|2\.5|5|10) (G)igabit\b(?! ports?)", _short_rate, any_case=True),
    _form(Dim.RATE, r"(?:(?<=RJ45 )|(?<=RJ-45 )|(?<=[Kk]\d\d )|(?<![\d.] ))(?<![\d.])\bGigabit(?! per)\b",
    lambda _: (1e9, "1 Gb/s"), any_case=True),
    _form(Dim.BYTES, rf"{NUMBER}{_TO}\s?([TGMk]i?B|KB|[tgk]b)(?![A-Za-z]|/s)", _bytes),
    _form(Dim.BYTES, r"(?<![\w.])(9|9\.6|10|12|16)[Kk]\b(?![ -]?(?:UHD|x|@|res))",
    lambda match: (float(match[1]) * 1e3, f"{match[1]} kB")),
    _form(Dim.BYTES, rf"{NUMBER}{_TO}\s?([TtGgMm])(?:era|iga|ega)bytes?\b(?! per| a second)", _bytes),
    _form(Dim.BYTES, rf"{NUMBER}\s?bytes\b", _plain_bytes),
    _measured(Dim.WATTS, "-?(m|k|milli)?(?:W|[Ww]atts?|WATTS?|w)", _unit("W")),
    _form(Dim.CATEGORY, r"\b[Cc][Aa][Tt]\.? ?\d[A-Za-z]?\b", _category),
    _measured(Dim.AMPERES, r"(m|milli)?(?:A(?!-type| ports?\b| sockets?\b)|[Aa]mps?|[Aa]mperes?)", _unit("A")),
    _measured(Dim.VOLTS, "(m)?(?:V|[Vv]olts?)", _unit("V")),
    _measured(Dim.OHM, "(m)?ohms?", _unit("ohm"), any_case=True),
    _measured(Dim.CELSIUS, r"(?:°\s?C|degrees?(?: C(?:elsius)?)?|℃|C)", _celsius),
    _measured(
        Dim.MASS, r"(kg|grammes?|grams?|g|oz\.?|ounces|lbs?)", _of(_MASSES, _MASS_NAMES), any_case=True
    ),
    _measured(
        Dim.LENGTH,
        r"-?(mm|cm|m|metres?|meters?|centimetres|centimeters|millimetres|inch(?:es)?"
        r"|in(?!\s?\d|\s(?:one|a|the|1)\b)|ft|feet|\")",
        _of(_LENGTHS, _LENGTH_NAMES), any_case=True,
    ),
    _measured(Dim.SECONDS, "(seconds?|secs?|s|ms|min(?:utes?)?|hours?|h)", _seconds),
    _form(Dim.BUS, r"\b(UHS-?(?:III|II|I))\b", _bus),
    _form(Dim.DEPTH, r"\b(8|10|12)[ -]?bits?\b(?!/)", _depth, any_case=True),
    _form(Dim.CHROMA, r"(?<!\d)(4:[24]:[0-4])(?!\d)", _as_written),
)  # fmt: skip
"""Where two fit at a place, the one that is named first counts."""
RANGED = frozenset({
    Dim.RATE, Dim.BYTE_RATE, Dim.WATTS, Dim.AMPERES, Dim.VOLTS, Dim.LENGTH, Dim.MASS, Dim.HERTZ, Dim.CELSIUS,
})  # fmt: skip
