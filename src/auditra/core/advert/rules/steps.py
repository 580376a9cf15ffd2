"""Tables of power: steps of volts and amperes, and what sockets give together."""

from __future__ import annotations

import re
from dataclasses import replace

from auditra.core.advert.belonging import ids_of
from auditra.core.advert.phrases import begins_with
from auditra.core.advert.promises import CHARGES, GIVES, say, say_of
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_DECIMAL = r"(?<![\d.,])(\d{1,3}(?:[.,]\d{1,3})?)"
STEP = re.compile(rf"{_DECIMAL} ?V ?[=/x@-]? ?{_DECIMAL} ?A")
_STEP_OF = re.compile(rf"{_DECIMAL} ?V ?[/x] ?{_DECIMAL} ?A \((USB-([AC]))\)")
_COMBINED = re.compile(
    r"(?P<names>[A-Z]\w{0,6}(?:\s?\+\s?[A-Z]\w{0,6})+)\s*:?\s*"
    r"(?P<watts>\d+(?:[.,]\d+)? ?W(?:\s?\+\s?\d+(?:[.,]\d+)? ?W)+)"
)
MOST_INLET_V = 60.0
"""Above it is the mains. Source: IEC 62368-1, 5.2.2: up to 60 V of DC is ES1."""
INPUT = re.compile(r"\W*(?:(?:power|DC)[ -])?in(?:put)?\b", re.IGNORECASE)
IN_SUM = begins_with(
    "(?:max\\.? )?(?:altogether|in total|in all)",
    "in sum",
    "(?:in )?total",
    "together",
    "shared",
    "for all",
    "combined",
    "altogether",
    "overall",
)
"""Behind a figure that all of them have together."""
USB_V = 5.0
_STEPS_FIRST = re.compile(r"\s*\d+(?:\.\d+)? ?V ?[=/x@-]? ?\d")
_TOTAL = re.compile(r"(?i)\(total[^()]*\)")
_OUTPUT = re.compile(r"(?i)\boutput\b")
_OUT_BEHIND = re.compile(r"(?i)\s*(?:out(?:put)?)?:?\s*\d+(?:\.\d+)? ?V ?[=/x@-]? ?\d")
"""``USB-C1 OUTPUT 5V3A 9V3A``."""
_PROGRAMMABLE = re.compile(r"\bPPS\b")
_ALL_BEFORE = re.compile(r"\b(?:all (?:two|three|four)|total|together)\b[^;.]{0,18}$", re.IGNORECASE)


def steps(state: State, sentence: Sentence) -> bool:
    """``C1 + C2: 30 W + 15 W``, ``5V=2.5A 20V=3.35A (67W)``; whether the clause was one of those."""
    done = _combined(state, sentence)
    head = sentence.over or sentence.text[:16]
    if INPUT.match(head) or re.search(r"(?i)\binput\b", head):
        pairs = [] if done or any(sentence.of_dim(Dim.WATTS)) else _pairs(sentence.text)
        pairs = [pair for pair in pairs if pair[0] <= MOST_INLET_V]
        if pairs:
            say(state, sentence, f"P1 takes {max(volts * amperes for volts, amperes in pairs):g} W")
            return True
    for match in _STEP_OF.finditer(sentence.text):
        state.numbers.declare(match[4], 1)
        say(state, sentence, f"{match[4]}1 gives {_number(match[1]) * _number(match[2]):g} W")
        done = True
    return done or _steps_of_socket(state, sentence)


def _combined(state: State, sentence: Sentence) -> bool:
    done = False
    for match in _COMBINED.finditer(sentence.text):
        names = [name.strip() for name in match["names"].split("+")]
        watts = re.findall(r"\d+(?:[.,]\d+)?", match["watts"])
        if len(names) != len(watts):
            continue
        ids = [
            name if re.search(r"\d", name) else f"{name}{names[: n + 1].count(name)}" for n, name in enumerate(names)
        ]
        said = [f"{port} gives {most} W" for port, most in zip(ids, watts, strict=True)]
        say(state, sentence, " while ".join(said))
        done = True
    return done


def _steps_of_socket(state: State, sentence: Sentence) -> bool:
    steps = _pairs(_TOTAL.sub("", sentence.own))
    found = [socket for socket in sentence.sockets_of("AC") if socket.end <= sentence.shift]
    first = sentence.sockets_of("AC")[:1]
    if (
        not found
        and first
        and not sentence.text[: first[0].start].strip()
        and _OUT_BEHIND.match(sentence.text, first[0].end)
    ):
        found = first
    if (
        not found
        and state.product.is_charger
        and _OUTPUT.search(sentence.over)
        and not any(state.numbers.found.values())
    ):
        found = [Socket(0, 0, "C", 1)]
    alone = [each for each in state.subject if each.letter in "AC" and not each.is_plug]
    if (
        not found
        and not sentence.sockets
        and state.product.is_charger
        and len(alone) == 1
        and _STEPS_FIRST.match(sentence.own)
    ):
        found = [replace(alone[0], start=0, end=0, is_part=True)]  # one USB-C. 5 V/3 A, 9 V/3 A
    if not steps or not found:
        return False
    if _PROGRAMMABLE.search(sentence.over):
        say_of(state, sentence, ids_of(state, found, "by PD PPS", again=True), CHARGES, "by PD PPS")
        return True
    ids = ids_of(state, found, "gives")
    told = next((each for each in sentence.of_dim(Dim.WATTS) if not _ALL_BEFORE.search(sentence.before(each))), None)
    most = told.hedged if told else f"{max(volts * amperes for volts, amperes in steps):g} W"
    total = next((each for each in sentence.of_dim(Dim.AMPERES) if IN_SUM.match(sentence.behind(each))), None)
    if total is None or len(steps) > 1 or len(ids) < 2:
        say_of(state, sentence, ids, GIVES, most)
    if total is not None and len(ids) > 1 and not total.each and all(volts == USB_V for volts, _ in steps):
        say(state, sentence, f"{'+'.join(ids)} share {USB_V * total.value:g} W")
    if re.search(r"\bPPS\b", sentence.text):
        say_of(state, sentence, ids, CHARGES, "by PD PPS")
    return True


def total_of_steps(state: State, sentence: Sentence) -> None:
    own = dict.fromkeys(socket.letter for socket in sentence.sockets_of("AC") if not socket.ids)
    for figure in sentence.of_dim(Dim.WATTS):
        ids = list(state.numbers.all_of(*own)) if len(own) == 1 else []
        ids = ids if len(ids) > 1 else list(state.numbers.all_of("CA"))
        if _ALL_BEFORE.search(sentence.before(figure)) and len(ids) > 1:
            say(state, sentence, f"{'+'.join(ids)} share {figure.text}")


def _pairs(text: str) -> list[tuple[float, float]]:
    return [(_number(volts), _number(amperes)) for volts, amperes in STEP.findall(text)]


def _number(written: str) -> float:
    return float(written.replace(",", "."))
