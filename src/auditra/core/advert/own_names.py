"""Sockets by names or numbers that a seller explains: ``P1 and P2 are USB-C``, ``slots 3 and 4 are for microSD``."""

from __future__ import annotations

import re

from auditra.core.advert.draft import Draft
from auditra.core.advert.socket_counts import numbers_in

_NAME = r"[B-Z]\d"
_EXPLAINED = re.compile(
    rf"(?<![\w-])({_NAME}(?:(?:, and |, | and | & | ?/ ?|-){_NAME}){{0,8}}) (?:is|are|=)(?: all| both| an?| the)? "
    r"(?:USB[- ]?(?:Type[- ]?)?|[Tt]ype[- ]?)([AC])\b"
)
_ONE_NAME = re.compile(_NAME)
_ENDS, _MOST = 2, 9
"""Of a range; and sockets of a class, since a name keeps its length."""
_DIGITS = r"\d(?:(?:, and |, | and | & |-| to )\d)*"
_SLOTS_FOR = re.compile(
    rf"(?i)\b(?:slots? )?({_DIGITS})(?: (?:is|are|takes?|reads?|fits?|accepts?))?(?: for)? "
    r"(SD|microSD|CFexpress|CF|Memory Stick)(?: cards?)?(?=[,.;]| and\b|$)"
)
"""``Slots 1 and 2 are for SD, slots 3 and 4 for microSD``."""
_SLOT = re.compile(rf"(?i)\bslots? ({_DIGITS})(?!\d|[.,]\d)")
_NUMBER_IS = re.compile(
    r"(?:(?:the )?(?:socket|port|output) )?(?:(?:marked|called|numbered|labelled) )?(?<![\w.,])(\d) \((?:USB-"
    r"|type )?([AC])\)"
)
"""``the socket marked 1 (USB-C)``, ``2 (USB-C) or 3 (USB-A)``."""
_BY_NUMBER = re.compile(
    r"(?<![\w.,-])\d(?:(?:, | and |, and | or | & )\d)*"
    r"(?=,? (?:then |alone )?(?:falls?|has|have|gives?|drops?|gets?|stays?|keeps?|runs?|carr(?:y|ies)|delivers?"
    r"|(?:is|are) (?:empty|used|free|in use|taken|idle)|(?:empty|in use|taken)\b))"
)
"""``as long as 2 and 3 are empty``, ``1 falls to 100 W``."""
_KINDS = 2


def with_own_names(draft: Draft) -> None:
    """Each such name, and each number of a socket or slot, as the class and its number among those of its class."""
    if numbers := _numbered(draft.text):
        draft.replace(_NUMBER_IS, lambda match: numbers[int(match[1])])
        draft.replace(
            _BY_NUMBER, lambda match: re.sub(r"\d", lambda digit: numbers.get(int(digit[0]), digit[0]), match[0])
        )
    if names := _explained(draft.text):
        any_name = re.compile(rf"(?<![\w-])(?:{'|'.join(names)})(?!\w)")
        draft.replace(any_name, lambda match: names[match[0]])
    slots = _slots(draft.text)
    if len({kind for kind, _ in slots.values()}) >= _KINDS:
        told = [match.span() for match in _SLOTS_FOR.finditer(draft.text)]
        begin = max(end for _, end in told)
        draft.replace(_SLOT, lambda match: match[0] if match.start() < begin else _slot_names(match[1], slots))


def _numbered(text: str) -> dict[int, str]:
    """The socket of each number, where a text explains its numbers from 1 on, one by one; else empty."""
    told = [(int(match[1]), match[2]) for match in _NUMBER_IS.finditer(text)]
    found: dict[int, str] = {}
    counts = {"A": 0, "C": 0}
    for number, letter in dict(told).items():
        counts[letter] += 1
        found[number] = f"{letter}{counts[letter]}"
    return found if len(found) > 1 and set(found) == set(range(1, len(found) + 1)) else {}


def _explained(text: str) -> dict[str, str]:
    """Each made-up name with the number of the socket, by class in order of mention; empty where none is explained."""
    found: dict[str, str] = {}
    counts = {"A": 0, "C": 0}
    for match in _EXPLAINED.finditer(text):
        names, letter = _ONE_NAME.findall(match[1]), match[2]
        if "-" in match[1] and len(names) == _ENDS and names[0][0] == names[1][0]:
            names = [f"{names[0][0]}{n}" for n in range(int(names[0][1]), int(names[1][1]) + 1)]
        for name in names:
            if name not in found and counts[letter] < _MOST:
                counts[letter] += 1
                found[name] = f"{letter}{counts[letter]}"
    return {name: socket for name, socket in found.items() if name != socket}


def _slots(text: str) -> dict[int, tuple[str, int]]:
    """The kind of card that each numbered slot is for, and its number among those of its kind."""
    found: dict[int, tuple[str, int]] = {}
    counts: dict[str, int] = {}
    for match in _SLOTS_FOR.finditer(text):
        for number in numbers_in(match[1]):
            if number not in found:
                letter = "M" if match[2].lower() == "microsd" else "S"  # cards of other kinds are counted with SD
                counts[letter] = counts.get(letter, 0) + 1
                found[number] = match[2], counts[letter]
    return found


def _slot_names(words: str, slots: dict[int, tuple[str, int]]) -> str:
    """``slots 1 and 2`` as ``SD slots 1 and 2``; as it stands where one of them was not explained."""
    numbers = numbers_in(words)
    if not numbers or any(number not in slots for number in numbers):
        return f"slots {words}"
    by_kind: dict[str, list[int]] = {}
    for number in numbers:
        kind, own = slots[number]
        by_kind.setdefault(kind, []).append(own)
    return ", ".join(f"{kind} slots {' and '.join(map(str, own))}" for kind, own in by_kind.items())
