"""Sockets by names that a seller made up and then explains: ``P1 and P2 are USB-C, P3 is USB-A``."""

from __future__ import annotations

import re

_NAME = r"[B-Z]\d"
_EXPLAINED = re.compile(
    rf"(?<![\w-])({_NAME}(?:(?:, and |, | and | & | ?/ ?|-){_NAME}){{0,8}}) (?:is|are|=)(?: all| both| an?| the)? "
    r"(?:USB[- ]?(?:Type[- ]?)?|[Tt]ype[- ]?)([AC])\b"
)
_ONE_NAME = re.compile(_NAME)
_ENDS = 2
"""Of a range."""
_MOST = 9
"""Sockets of a class: a name keeps its length."""


def explained(text: str) -> dict[str, str]:
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
