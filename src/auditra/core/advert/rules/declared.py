"""How many sockets of a class there are, before any of them is promised something."""

from __future__ import annotations

import re

from auditra.core.advert.figures import Figure
from auditra.core.advert.numbering import OTHER_CARDS
from auditra.core.advert.rules.generations import names_generation
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.socket_counts import COUNT_WORDS, count_of
from auditra.core.advert.sockets import Socket
from auditra.core.advert.state import State
from auditra.core.advert.units import Dim

_POWER_OR_RATE = (Dim.RATE, Dim.WATTS, Dim.AMPERES, Dim.BYTE_RATE)
_PORTS = re.compile(
    rf"\b(?:ports?|sockets?)\s*:\s*(\d{{1,2}})\b|\b(\d{{1,2}}|{COUNT_WORDS})[- ](?:ports?|sockets?)\b", re.IGNORECASE
)
_WITH_UPLINKS = re.compile(r"(?i)\b(?:ports?|sockets?):? (\d{1,2}) ?(?:\+|and|plus) ?(\d)(?: x)? uplinks?\b")
"""``Ports: 8 + 1 uplink``."""
_FITS = {"A": _POWER_OR_RATE, "C": _POWER_OR_RATE, "H": (Dim.MODE,), "D": (Dim.MODE,), "V": (Dim.MODE,)}
_OF_ALL = re.compile(r"\bof (?:the|its|these) (?:\w+ )?$", re.IGNORECASE)


def declare(state: State, sentence: Sentence) -> None:
    """``Of the five USB-A sockets``, ``USB-A ports: 4``: how many there are, before any is promised something."""
    _declare_networks(state, sentence)
    for socket in sentence.sockets_of("S"):
        if (socket.count or 0) > 1 and socket.label in OTHER_CARDS and ("S", socket.label) not in state.numbers.labels:
            state.numbers.of(socket, "count")
    for socket in sentence.sockets_of("ACHDV"):
        if not socket.count or socket.count < 1 or socket.ids:
            continue
        if socket.of_all:
            state.numbers.declare(socket.letter, socket.of_all)
            continue
        of_all = _OF_ALL.search(sentence.text[max(0, socket.start - 34) : socket.start])
        promised = any(
            figure.dim in _FITS[socket.letter] and not _closed_before(sentence, figure, socket)
            for figure in sentence.figures
        )
        if of_all or not (promised or names_generation(sentence.text)):
            state.numbers.declare(socket.letter, socket.count)


def _declare_networks(state: State, sentence: Sentence) -> None:
    """``Ports: 8 + 1 uplink`` of a switch, ``four network sockets on one plug`` of an adapter."""
    if state.product.is_network_switch and (sums := _WITH_UPLINKS.search(sentence.text)):
        state.numbers.declare("N", int(sums[1]) + int(sums[2]))
    elif state.product.is_network_switch and (all_of := _PORTS.search(sentence.text)):
        state.numbers.declare("N", count_of(all_of[1] or all_of[2]))
    for socket in sentence.sockets_of("N") if state.product.is_network_adapter else ():
        if socket.count and socket.count > 1 and not socket.ids and not any(sentence.of_dim(Dim.RATE)):
            state.numbers.declare("N", socket.count)


def _closed_before(sentence: Sentence, figure: Figure, socket: Socket) -> bool:
    """``4 for mains (2500 W), 2 USB-A``: the figure is of what stands before its bracket."""
    return figure.end <= socket.start and ")" in sentence.text[figure.end : socket.start]
