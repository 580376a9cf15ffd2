"""Which numbers the sockets of a text get: those that the seller gave them, else by order of mention."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from auditra.core.advert.sockets import MARKS, REST, SIGNS, Socket

MAX_SOCKETS = 32
PLACES = ("front", "rear", "back", "left", "right", "top", "side", "upper", "lower", "bottom")
"""Labels that say where a socket is."""
OTHER_CARDS = ("cf", "cfexpress", "cfast", "xqd")
"""Labels of slots for cards of another make than SD, which have numbers among those."""


@dataclass
class Numbers:
    """Which numbers the sockets of each class have, in order of mention."""

    found: dict[str, list[str]] = field(default_factory=dict)
    labels: dict[tuple[str, str], list[str]] = field(default_factory=dict)
    next_for: dict[tuple[str, str], int] = field(default_factory=dict)
    """By class and kind of promise: behind the last socket that has one."""

    told: dict[str, int] = field(default_factory=dict)
    """How many of a class there are, if the text gives their number in one place, early or late."""

    def ids(self, letter: str) -> list[str]:
        return self.found.setdefault(letter, [])

    def declare(self, letter: str, count: int) -> None:
        known = self.ids(letter)
        known.extend(f"{letter}{n}" for n in range(len(known) + 1, min(count, MAX_SOCKETS) + 1))

    def of(self, socket: Socket, kind: str, *, again: bool = False) -> list[str]:
        """The sockets of a mention for a promise of a kind: named, labelled, or the next that have none of it."""
        letter, key = socket.letter, (socket.letter, socket.label)
        if socket.whole and socket.count is None and not self.ids(letter):
            self.declare(letter, self.told.get(letter, 0))
        if socket.ids:
            self.declare(letter, max(socket.ids))
            return [f"{letter}{n}" for n in socket.ids]
        if socket.label and key in self.labels:
            return self.labels[key]
        taken = [port for kind in OTHER_CARDS for port in self.labels.get(("S", kind), [])]
        if letter == "S" and taken and socket.label not in OTHER_CARDS:
            return self._beside(taken, socket)
        is_other_card = letter == "S" and socket.label in OTHER_CARDS
        if is_other_card:
            chosen = self._take("S", len(self.ids("S")), socket.count or 1)
        else:
            chosen = self._chosen(socket, kind, again=again)
            signs = (*SIGNS, *MARKS)
            is_apart = socket.label in PLACES or socket.label == "other" or socket.label.removeprefix("no ") in signs
            chosen = self._elsewhere(socket, chosen) if is_apart else chosen
        if socket.label:
            self.labels[key] = chosen
        return chosen

    def _elsewhere(self, socket: Socket, chosen: list[str]) -> list[str]:
        """What is at the front is not at the back, and what is by the star is not the other."""
        signs = (*SIGNS, *MARKS, *(f"no {sign}" for sign in (*SIGNS, *MARKS)))
        apart = PLACES if socket.label in PLACES else (*PLACES, *signs) if socket.label == "other" else signs
        others = (self.labels.get((socket.letter, place), []) for place in apart if place != socket.label)
        taken = {port for other in others for port in other}
        if not taken & set(chosen):
            return chosen
        free, wanted = [port for port in self.ids(socket.letter) if port not in taken], len(chosen)
        if len(free) < wanted:
            free += self._take(socket.letter, len(self.ids(socket.letter)), wanted - len(free))
        return free[:wanted]

    def _beside(self, taken: list[str], socket: Socket) -> list[str]:
        """Slots for plain cards, beside one for cards of another kind."""
        others = [port for port in self.ids("S") if port not in taken]
        wanted = socket.count or 1
        if len(others) < wanted:
            others += self._take("S", len(self.ids("S")), wanted - len(others))
        return others if socket.count is None else others[:wanted]

    def _chosen(self, socket: Socket, kind: str, *, again: bool) -> list[str]:
        letter, known = socket.letter, self.ids(socket.letter)
        at = self.next_for.get((letter, kind), 0)
        if socket.count is None and not socket.label and at == 0 and len(known) > 1:
            self.next_for[letter, kind] = len(known)
            return list(known)
        if socket.count is None and (socket.whole or (again and known)):
            return list(known) or self._take(letter, 0, 1)
        is_rest = socket.count == REST or (socket.count is not None and 0 < at < len(known) == socket.count)
        left = max(1, len(known) - at)
        count = left if is_rest else socket.count or (left if socket.whole else 1)
        at = 0 if again or (socket.whole and at >= len(known) > 0) else at
        if socket.is_part and known and at + count > len(known):
            return list(known) if socket.count is None else []  # there are no more of those that it is a part of
        self.next_for[letter, kind] = at + count
        return self._take(letter, at, count)

    def pass_over(self, ids: list[str], kind: str) -> None:
        """These have a promise of a kind: the next is of those behind them."""
        letter = ids[-1][0]
        at = self.ids(letter).index(ids[-1]) + 1 if ids[-1] in self.ids(letter) else 0
        self.next_for[letter, kind] = max(at, self.next_for.get((letter, kind), 0))

    def _take(self, letter: str, at: int, count: int) -> list[str]:
        self.declare(letter, at + count)
        return self.ids(letter)[at : at + count]

    def all_of(self, letters: str) -> Iterator[str]:
        """All of some classes, in the order in which the classes were first named."""
        for letter in self.found:
            if letter in letters:
                yield from self.found[letter]
